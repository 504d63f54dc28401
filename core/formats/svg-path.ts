import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import { ellipse, rectangle } from '../path/forms.ts';
import { corner, flattened, segmentsOf, type Path, type PathPoint, type Point } from '../path/path.ts';
import type { How } from '../path/shapes.ts';

/** Thrown when a file is not an SVG with outlines in it. */
export class UnreadableSvg extends Error {
  constructor(readonly detail: string) {
    super('No outline could be read from this SVG file.');
    this.name = 'UnreadableSvg';
  }
}

/** An outline of an SVG, and whether it is filled or a hole in the one before it. */
export interface SvgOutline {
  path: Path;
  how: Extract<How, 'add' | 'take'>;
}

const decimal = (v: number): string => String(Math.round(v * 1000) / 1000);

/** The `d` attribute of a path (SVG 2, chapter 9): lines where there are no handles, cubic curves elsewhere. */
export function svgData(path: Path): string {
  const first = path.points[0]!;
  const parts = [`M${first.at.map(decimal).join(' ')}`];
  segmentsOf(path).forEach(([, b, c, d], k) => {
    const straight = !path.points[k]!.out && !path.points[(k + 1) % path.points.length]!.in;
    parts.push(straight ? `L${d.map(decimal).join(' ')}` : `C${[...b, ...c, ...d].map(decimal).join(' ')}`);
  });
  if (path.closed) parts.push('Z');
  return parts.join('');
}

/** A whole SVG file the size of the picture: one `path` an outline; `data-how` says how each joins those before it. */
export function writeSvg(outlines: readonly { path: Path; how: How }[], width: number, height: number): string {
  const paths = outlines.map(({ path, how }) => `  <path d="${svgData(path)}" data-how="${how}"/>`);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">`,
    ...paths,
    '</svg>',
    '',
  ].join('\n');
}

/**
 * The outlines of an SVG file in picture pixels: paths, rectangles, circles, ellipses, polygons and polylines, with the
 * transforms of their groups. Where the file has a viewBox of other proportions or size it is stretched to the picture.
 * @throws UnreadableSvg
 */
export function readSvg(text: string, width: number, height: number): SvgOutline[] {
  const root = rootOf(text);
  const outlines: SvgOutline[] = [];
  walk(root.children, [fitTo(root.attributes, width, height)], outlines);
  if (outlines.length === 0) throw new UnreadableSvg('no filled element');
  return outlines;
}

interface Element {
  name: string;
  attributes: Record<string, string>;
  children: Element[];
}

function rootOf(text: string): Element {
  let parsed: unknown;
  try {
    const options = { ignoreAttributes: false, attributeNamePrefix: '', preserveOrder: true, processEntities: false };
    parsed = new XMLParser(options).parse(text, true);
  } catch (error) {
    throw new UnreadableSvg(error instanceof Error ? error.message : String(error));
  }
  const svg = elementsOf(parsed).find((element) => element.name === 'svg');
  if (!svg) throw new UnreadableSvg('no svg element');
  return svg;
}

/** The parser's ordered form, in plain words. */
function elementsOf(value: unknown): Element[] {
  if (!Array.isArray(value)) return [];
  return value.flatMap((entry: Record<string, unknown>) => {
    const name = Object.keys(entry).find((key) => key !== ':@');
    if (!name || name.startsWith('#') || name.startsWith('?')) return [];
    const attributes = (entry[':@'] ?? {}) as Record<string, string>;
    return [{ name, attributes, children: elementsOf(entry[name]) }];
  });
}

function fitTo(attributes: Record<string, string>, width: number, height: number): string {
  const box = (attributes.viewBox ?? '').split(/[\s,]+/).map(Number);
  const own = [Number.parseFloat(attributes.width ?? ''), Number.parseFloat(attributes.height ?? '')];
  const [x, y, w, h] = box.length === 4 && box.every(Number.isFinite) ? box : [0, 0, ...own];
  if (!(w! > 0) || !(h! > 0)) return '';
  return `scale(${width / w!} ${height / h!}) translate(${-x!} ${-y!})`;
}

/** Elements whose content is not drawn where it stands. */
const notDrawn = new Set(['defs', 'symbol', 'clipPath', 'mask', 'pattern', 'marker', 'style', 'metadata']);

function walk(elements: readonly Element[], transforms: readonly string[], out: SvgOutline[]): void {
  for (const { name, attributes, children } of elements) {
    if (notDrawn.has(name)) continue;
    const all = attributes.transform ? [...transforms, attributes.transform] : transforms;
    const data = dataOf(name, attributes);
    if (data) out.push(...outlinesOf(data, all, attributes['data-how'] === 'take'));
    walk(children, all, out);
  }
}

/** The path data of a basic shape, or of a path. */
function dataOf(name: string, attributes: Record<string, string>): string | null {
  const number = (key: string, otherwise = 0): number => Number.parseFloat(attributes[key] ?? '') || otherwise;
  if (name === 'path') return attributes.d ?? null;
  if (name === 'rect') {
    const box = { x: number('x'), y: number('y'), width: number('width'), height: number('height') };
    return box.width > 0 && box.height > 0 ? svgData(rectangle(box, number('rx', number('ry')))) : null;
  }
  if (name === 'circle' || name === 'ellipse') {
    const [rx, ry] = name === 'circle' ? [number('r'), number('r')] : [number('rx'), number('ry')];
    const box = { x: number('cx') - rx, y: number('cy') - ry, width: 2 * rx, height: 2 * ry };
    return rx > 0 && ry > 0 ? svgData(ellipse(box)) : null;
  }
  if (name !== 'polygon' && name !== 'polyline') return null;
  const values = (attributes.points ?? '')
    .split(/[\s,]+/)
    .map(Number.parseFloat)
    .filter(Number.isFinite);
  const points = values.flatMap((x, k) => (k % 2 === 0 && k + 1 < values.length ? [[x, values[k + 1]!]] : []));
  return points.length < 3 ? null : `M${points.map((p) => p.join(' ')).join('L')}Z`;
}

function outlinesOf(data: string, transforms: readonly string[], take: boolean): SvgOutline[] {
  let drawn = svgpath(data);
  if ((drawn as unknown as { err: string }).err) throw new UnreadableSvg((drawn as unknown as { err: string }).err);
  for (const transform of [...transforms].reverse()) if (transform) drawn = drawn.transform(transform);
  const paths = pathsOf(drawn.abs().unarc().unshort());
  return paths.map((path, k) => ({ path, how: take || isHole(path, paths.slice(0, k)) ? 'take' : 'add' }));
}

/** Segments as points with handles; arcs and shorthands were resolved before. */
function pathsOf(drawn: ReturnType<typeof svgpath>): Path[] {
  const paths: Path[] = [];
  let points: PathPoint[] = [];
  const finish = (closed: boolean): void => {
    if (points.length > 1) paths.push(tidied({ points, closed }));
    points = [];
  };
  drawn.iterate((segment, _index, x, y) => {
    const [command, ...v] = segment as [string, ...number[]];
    const last = (): PathPoint => {
      if (points.length === 0) points.push(corner([x, y]));
      return points.at(-1)!;
    };
    const lineTo = (at: Point): void => {
      last();
      points.push(corner(at));
    };
    if (command === 'M') {
      finish(false);
      points = [corner([v[0]!, v[1]!])];
    } else if (command === 'Z') finish(true);
    else if (command === 'L') lineTo([v[0]!, v[1]!]);
    else if (command === 'H') lineTo([v[0]!, y]);
    else if (command === 'V') lineTo([x, v[0]!]);
    else {
      const end: Point = [v.at(-2)!, v.at(-1)!];
      // A quadratic curve is a cubic whose handles go two thirds of the way to its one control point.
      const [c1, c2] =
        command === 'Q'
          ? [twoThirds([x, y], [v[0]!, v[1]!]), twoThirds(end, [v[0]!, v[1]!])]
          : [[v[0]!, v[1]!] as Point, [v[2]!, v[3]!] as Point];
      last().out = [c1[0] - x, c1[1] - y];
      points.push({ at: end, in: [c2[0] - end[0], c2[1] - end[1]], out: null, smooth: false });
    }
  });
  finish(false);
  return paths;
}

const twoThirds = (from: Point, to: Point): Point => [
  from[0] + ((to[0] - from[0]) * 2) / 3,
  from[1] + ((to[1] - from[1]) * 2) / 3,
];

/** A last point on the first of a closed path is the same point, and handles on one line make it smooth. */
function tidied({ points, closed }: Path): Path {
  const [first, last] = [points[0]!, points.at(-1)!];
  let kept = points;
  if (closed && points.length > 2 && Math.hypot(first.at[0] - last.at[0], first.at[1] - last.at[1]) < 1e-3) {
    kept = [{ ...first, in: last.in }, ...points.slice(1, -1)];
  }
  return { closed: true, points: kept.map((point) => ({ ...point, smooth: onOneLine(point) })) };
}

function onOneLine({ in: back, out: ahead }: PathPoint): boolean {
  if (!back || !ahead) return false;
  const [a, b] = [Math.hypot(...back), Math.hypot(...ahead)];
  return a > 0 && b > 0 && (back[0] * ahead[0] + back[1] * ahead[1]) / (a * b) < -0.996;
}

/** By the nonzero rule: a part is a hole where the parts before it wind the other way around its first point. */
function isHole(path: Path, before: readonly Path[]): boolean {
  const [x, y] = path.points[0]!.at;
  const around = before.reduce((sum, other) => sum + winding(flattened(other, 0.5), x, y), 0);
  return around !== 0 && around + Math.sign(area(flattened(path, 0.5))) === 0;
}

/** How often a closed line goes around a point, by crossings of the ray to its right (Sunday 2001). */
function winding(line: readonly Point[], x: number, y: number): number {
  let count = 0;
  for (let k = 0; k < line.length; k++) {
    const [a, b] = [line[k]!, line[(k + 1) % line.length]!];
    const side = (b[0] - a[0]) * (y - a[1]) - (x - a[0]) * (b[1] - a[1]);
    if (a[1] <= y && b[1] > y && side > 0) count++;
    if (a[1] > y && b[1] <= y && side < 0) count--;
  }
  return count;
}

function area(line: readonly Point[]): number {
  let sum = 0;
  for (let k = 0; k < line.length; k++) {
    const [a, b] = [line[k]!, line[(k + 1) % line.length]!];
    sum += a[0] * b[1] - b[0] * a[1];
  }
  return sum / 2;
}
