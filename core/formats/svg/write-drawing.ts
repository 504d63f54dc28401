import { composed, identity, type Affine } from './affine.ts';
import type { DrawingNode, Paint, Rgba, Stroke } from './drawing.ts';
import { svgData } from './geometry.ts';

const decimal = (v: number): string => String(Math.round(v * 10_000) / 10_000);

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');

const hex = ([r, g, b]: Rgba): string =>
  `#${[r, g, b].map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;

const matrixOf = (matrix: Affine): string =>
  matrix.every((v, k) => v === identity[k]) ? '' : ` transform="matrix(${matrix.map(decimal).join(' ')})"`;

/** A drawing as an SVG file of its own: what was read is written, and nothing else. */
export function writeDrawing(root: DrawingNode, width: number, height: number): string {
  const defs: string[] = [];
  const plain = root.kind === 'group' && root.opacity >= 1 && !root.clip;
  const body = (plain ? root.children : [root]).flatMap((node) => linesOf(node, defs, '  '));
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${decimal(width)}" height="${decimal(height)}" viewBox="0 0 ${decimal(width)} ${decimal(height)}">`,
    ...(defs.length > 0 ? ['  <defs>', ...defs.map((line) => `    ${line}`), '  </defs>'] : []),
    ...body,
    '</svg>',
    '',
  ].join('\n');
}

function linesOf(node: DrawingNode, defs: string[], indent: string): string[] {
  const { name, opacity, clip } = node;
  const common = (name ? ` data-name="${escaped(name)}"` : '') + (opacity < 1 ? ` opacity="${decimal(opacity)}"` : '');
  const clipped = clip ? ` clip-path="url(#${clipId(clip, defs)})"` : '';
  if (node.kind === 'group') {
    const children = node.children.flatMap((child) => linesOf(child, defs, `${indent}  `));
    return [`${indent}<g${common}${clipped}>`, ...children, `${indent}</g>`];
  }
  const { paths, rule, matrix, fill, stroke } = node;
  const data = paths.map(svgData).join('');
  const evenodd = rule === 'evenodd' ? ' fill-rule="evenodd"' : '';
  const paints = `${paintText('fill', fill, defs)}${stroke ? strokeText(stroke, defs) : ''}`;
  const path = `<path d="${data}"${matrixOf(matrix)}${evenodd}${paints}`;
  // A clip lies in the pixels of the drawing: it stands around what is moved.
  if (clipped) return [`${indent}<g${common}${clipped}>`, `${indent}  ${path}/>`, `${indent}</g>`];
  return [`${indent}${path}${common}/>`];
}

function clipId(clip: NonNullable<DrawingNode['clip']>, defs: string[]): string {
  const id = `c${defs.length}`;
  const rule = clip.rule === 'evenodd' ? ' clip-rule="evenodd"' : '';
  defs.push(`<clipPath id="${id}"><path d="${clip.paths.map(svgData).join('')}"${rule}/></clipPath>`);
  return id;
}

function paintText(property: 'fill' | 'stroke', paint: Paint | null, defs: string[]): string {
  if (!paint) return property === 'fill' ? ' fill="none"' : '';
  if (paint.kind !== 'colour') return ` ${property}="url(#${gradientId(paint, defs)})"`;
  const { colour } = paint;
  return ` ${property}="${hex(colour)}"${colour[3] < 1 ? ` ${property}-opacity="${decimal(colour[3])}"` : ''}`;
}

function gradientId(paint: Exclude<Paint, { kind: 'colour' }>, defs: string[]): string {
  const id = `p${defs.length}`;
  const place = (key: string, [x, y]: [number, number]): string =>
    key.length === 0 ? '' : ` ${key.replace('*', 'x')}="${decimal(x)}" ${key.replace('*', 'y')}="${decimal(y)}"`;
  const where =
    paint.kind === 'linear'
      ? `${place('*1', paint.from)}${place('*2', paint.to)}`
      : `${place('c*', paint.centre)}${place('f*', paint.focus)} r="${decimal(paint.radius)}"`;
  const tag = paint.kind === 'linear' ? 'linearGradient' : 'radialGradient';
  const transform = matrixOf(composed(identity, paint.matrix)).replace('transform', 'gradientTransform');
  const stops = paint.stops.map(
    ({ at, colour }) =>
      `<stop offset="${decimal(at)}" stop-color="${hex(colour)}"${colour[3] < 1 ? ` stop-opacity="${decimal(colour[3])}"` : ''}/>`,
  );
  defs.push(`<${tag} id="${id}" gradientUnits="userSpaceOnUse"${where}${transform}>${stops.join('')}</${tag}>`);
  return id;
}

function strokeText({ width, paint, cap, join, miter, dash, offset }: Stroke, defs: string[]): string {
  return [
    paintText('stroke', paint, defs),
    ` stroke-width="${decimal(width)}"`,
    cap === 'butt' ? '' : ` stroke-linecap="${cap}"`,
    join === 'miter' ? '' : ` stroke-linejoin="${join}"`,
    miter === 4 ? '' : ` stroke-miterlimit="${decimal(miter)}"`,
    dash.length > 0 ? ` stroke-dasharray="${dash.map(decimal).join(' ')}"` : '',
    offset === 0 ? '' : ` stroke-dashoffset="${decimal(offset)}"`,
  ].join('');
}
