import svgpath from 'svgpath';
import { flattened, type Path } from '../../path/path.ts';
import { apply, composed, identity, transformOf, type Affine } from './affine.ts';
import type { Clip, Drawing, DrawingGroup, DrawingNode, Stroke } from './drawing.ts';
import { dataOf, pathsOf } from './geometry.ts';
import { idOf, paintOf, type PaintSource } from './paints.ts';
import { lengthOf, shareOf, startStyle, styleOf, styleSheetOf, type Style } from './style.ts';
import { svgLimits, svgTree, UnreadableSvg, type SvgElement } from './tree.ts';

/** Elements whose content is not drawn where it stands. */
const notDrawn = new Set([
  'defs',
  'symbol',
  'clipPath',
  'linearGradient',
  'radialGradient',
  'style',
  'metadata',
  'title',
  'desc',
]);
/** What a drawing may have that is not shown here, and how it is called. */
const notShown: Record<string, string> = {
  text: 'words (turn them into paths first)',
  image: 'pictures',
  foreignObject: 'foreign content',
  script: 'scripts',
  animate: 'animations',
  animateTransform: 'animations',
  animateMotion: 'animations',
  set: 'animations',
  pattern: 'patterns',
  mask: 'masks',
  filter: 'filters',
  marker: 'arrow heads',
  video: 'clips',
  audio: 'sounds',
  iframe: 'foreign content',
};
/** References within references end here. */
const deepestUse = 12;
const mostPoints = 400_000;

interface Walk extends PaintSource {
  count: { elements: number; points: number };
  /** Elements that are being used, from the outside in. */
  uses: readonly string[];
}

/**
 * A drawing from an SVG file (SVG 2): paths and basic shapes, groups, transforms, fills, strokes, gradients, clips, symbols
 * and style sheets of plain selectors. What cannot be shown is listed; nothing runs and nothing is fetched.
 * @throws UnreadableSvg when it is no SVG, nothing in it can be shown, or it is too large
 */
export function readDrawing(text: string): Drawing {
  const root = svgTree(text);
  const { width, height, matrix } = sizeOf(root);
  const left = new Set<string>();
  const byId = new Map<string, SvgElement>();
  collect(root, byId);
  const sheet = styleSheetOf(root);
  if (sheet.skipped > 0) left.add('some rules of its style sheet');
  const walk: Walk = {
    byId,
    sheet,
    size: viewSizeOf(root, { width, height }),
    leave: (what) => left.add(what),
    count: { elements: svgLimits.elements, points: mostPoints },
    uses: [],
  };
  const group = groupOf(root, styleOf(root, startStyle, sheet), matrix, walk);
  if (group.children.length === 0)
    throw new UnreadableSvg(
      'nothing to show',
      left.size > 0
        ? `This SVG file has nothing that can be shown, only ${[...left].join(', ')}.`
        : 'This SVG file has nothing in it that can be shown.',
    );
  return { width, height, root: { ...group, name: '' }, left: [...left].sort() };
}

function collect(element: SvgElement, byId: Map<string, SvgElement>): void {
  const { id } = element.attributes;
  if (id && !byId.has(id)) byId.set(id, element);
  for (const child of element.children) collect(child, byId);
}

const boxOf = (text: string | undefined): [number, number, number, number] | null => {
  const box = (text ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  return box.length === 4 && box.every(Number.isFinite) && box[2]! > 0 && box[3]! > 0
    ? (box as [number, number, number, number])
    : null;
};

/** How large the drawing is, and what brings the pixels of its view box there. */
function sizeOf({ attributes }: SvgElement): { width: number; height: number; matrix: Affine } {
  const box = boxOf(attributes.viewBox);
  const side = (key: 'width' | 'height', index: 2 | 3): number | null => {
    const said = /%/.test(attributes[key] ?? '') ? null : lengthOf(attributes[key], 1);
    return said && said > 0 ? said : box && !attributes[key === 'width' ? 'height' : 'width'] ? box[index] : null;
  };
  let [width, height] = [side('width', 2), side('height', 3)];
  // One side that is said gives the other by the proportions.
  if (box)
    [width, height] = [
      width ?? ((height ?? box[3]) * box[2]) / box[3],
      height ?? ((width ?? box[2]) * box[3]) / box[2],
    ];
  width = Math.max(1, Math.min(20_000, width ?? 300));
  height = Math.max(1, Math.min(20_000, height ?? 150));
  return { width, height, matrix: box ? fitted(box, { width, height }, attributes.preserveAspectRatio) : identity };
}

const viewSizeOf = ({ attributes }: SvgElement, size: { width: number; height: number }) => {
  const box = boxOf(attributes.viewBox);
  return box ? { width: box[2], height: box[3] } : size;
};

/** Brings a view box into a size (SVG 2, 8.2). */
function fitted(
  [x, y, w, h]: [number, number, number, number],
  { width, height }: { width: number; height: number },
  how = 'xMidYMid meet',
): Affine {
  let [sx, sy] = [width / w, height / h];
  if (!how.includes('none')) sx = sy = how.includes('slice') ? Math.max(sx, sy) : Math.min(sx, sy);
  const share = (axis: 'x' | 'Y'): number =>
    how.includes(`${axis}Min`) ? 0 : how.includes(`${axis}Max`) ? 1 : how.includes('none') ? 0 : 0.5;
  return [sx, 0, 0, sy, (width - w * sx) * share('x') - x * sx, (height - h * sy) * share('Y') - y * sy];
}

function groupOf(element: SvgElement, style: Style, matrix: Affine, walk: Walk): DrawingGroup {
  const children = element.children.flatMap((child) => nodesOf(child, style, matrix, walk));
  return { kind: 'group', ...commonOf(element, style, matrix, walk), children };
}

/** What groups and figures have alike. */
function commonOf(element: SvgElement, style: Style, matrix: Affine, walk: Walk) {
  for (const [property, what] of [
    ['mask', 'masks'],
    ['filter', 'filters'],
  ] as const)
    if (style[property] !== 'none' && idOf(style[property])) walk.leave(what);
  const name = element.attributes.label ?? element.attributes['data-name'] ?? element.attributes.id ?? '';
  return { name: name.slice(0, 80), opacity: shareOf(style.opacity!), clip: clipOf(style, matrix, walk) };
}

function nodesOf(element: SvgElement, parent: Style, outer: Affine, walk: Walk): DrawingNode[] {
  const { name, attributes } = element;
  if (notDrawn.has(name)) return [];
  if (notShown[name]) {
    walk.leave(notShown[name]);
    return [];
  }
  if (--walk.count.elements < 0)
    throw new UnreadableSvg('too many elements', 'This SVG file becomes too large when its references are followed.');
  const style = styleOf(element, parent, walk.sheet);
  if (style.display === 'none') return [];
  const matrix = composed(outer, transformOf(attributes.transform));
  if (name === 'use') return usedOf(element, style, matrix, walk);
  if (name === 'svg') return nonEmpty(groupOf(element, style, composed(matrix, innerOf(attributes)), walk));
  if (name === 'g' || name === 'a' || name === 'switch') return nonEmpty(groupOf(element, style, matrix, walk));
  const data = dataOf(name, attributes);
  return data && style.visibility === 'visible' ? figureOf(element, data, style, matrix, walk) : [];
}

const nonEmpty = (group: DrawingGroup): DrawingNode[] => (group.children.length > 0 ? [group] : []);

const innerOf = ({ x, y, width, height, viewBox, preserveAspectRatio }: Record<string, string>): Affine => {
  const place: Affine = [1, 0, 0, 1, lengthOf(x, 1) ?? 0, lengthOf(y, 1) ?? 0];
  const [box, w, h] = [boxOf(viewBox), lengthOf(width, 1), lengthOf(height, 1)];
  return box && w && h ? composed(place, fitted(box, { width: w, height: h }, preserveAspectRatio)) : place;
};

/** What a `use` stands for, in its own place; only what is in this file. */
function usedOf(element: SvgElement, style: Style, matrix: Affine, walk: Walk): DrawingNode[] {
  const { attributes } = element;
  const target = idOf(attributes.href);
  const found = target === null ? undefined : walk.byId.get(target);
  if (!found) {
    walk.leave('references to other files');
    return [];
  }
  if (walk.uses.includes(target!) || walk.uses.length >= deepestUse) return [];
  const inner: Walk = { ...walk, uses: [...walk.uses, target!] };
  const place = composed(matrix, [1, 0, 0, 1, lengthOf(attributes.x, 1) ?? 0, lengthOf(attributes.y, 1) ?? 0]);
  const common = commonOf(element, style, place, walk);
  if (found.name !== 'symbol') {
    const children = nodesOf(found, style, place, inner);
    return children.length > 0 ? [{ kind: 'group', ...common, children }] : [];
  }
  const { width, height } = attributes;
  const view = {
    ...found.attributes,
    width: width ?? found.attributes.width ?? '',
    height: height ?? found.attributes.height ?? '',
  };
  const own = groupOf(
    found,
    styleOf(found, style, walk.sheet),
    composed(place, innerOf({ ...view, x: '0', y: '0' })),
    inner,
  );
  return nonEmpty({ ...own, ...common, name: common.name || own.name });
}

function figureOf(element: SvgElement, data: string, style: Style, matrix: Affine, walk: Walk): DrawingNode[] {
  const paths = readPaths(data);
  walk.count.points -= paths.reduce((sum, { points }) => sum + points.length, 0);
  if (walk.count.points < 0)
    throw new UnreadableSvg('too many points', 'This SVG file has too many points: 400,000 at most.');
  const box = boundsOf(paths);
  if (!box) return [];
  const fill = element.name === 'line' ? null : paintOf('fill', style, box, walk);
  const stroke = strokeOf(style, box, walk);
  for (const key of ['marker-start', 'marker-mid', 'marker-end'] as const)
    if (idOf(element.attributes[key])) walk.leave('arrow heads');
  if (!fill && !stroke) return [];
  const rule = style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero';
  return [{ kind: 'figure', ...commonOf(element, style, matrix, walk), paths, rule, matrix, fill, stroke }];
}

/** As far as the data can be read: a renderer draws a path up to its first mistake (SVG 2, 9.5.4). */
const readPaths = (data: string): Path[] => pathsOf(svgpath(data));

function boundsOf(paths: readonly Path[]): { x: number; y: number; width: number; height: number } | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const path of paths)
    for (const [x, y] of flattened(path, 0.1)) {
      [left, right] = [Math.min(left, x), Math.max(right, x)];
      [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
    }
  return left > right ? null : { x: left, y: top, width: right - left, height: bottom - top };
}

function strokeOf(style: Style, box: Parameters<typeof paintOf>[2], walk: Walk): Stroke | null {
  const { width: w, height: h } = walk.size;
  const diagonal = Math.hypot(w, h) / Math.SQRT2;
  const width = lengthOf(style['stroke-width'], diagonal) ?? 1;
  const paint = width > 0 ? paintOf('stroke', style, box, walk) : null;
  if (!paint) return null;
  const one = <T extends string>(key: string, options: readonly T[]): T =>
    options.find((option) => option === style[key]) ?? options[0]!;
  const dashes = (style['stroke-dasharray'] ?? 'none').split(/[\s,]+/).map((part) => lengthOf(part, diagonal));
  const dash = dashes.every((part): part is number => part !== null && part >= 0) && dashes.some(Boolean) ? dashes : [];
  return {
    width,
    paint,
    cap: one('stroke-linecap', ['butt', 'round', 'square']),
    join: one('stroke-linejoin', ['miter', 'round', 'bevel']),
    miter: Math.max(1, Number.parseFloat(style['stroke-miterlimit']!) || 4),
    // An odd list is gone through twice (SVG 2, 13.5.6).
    dash: (dash.length % 2 === 1 ? [...dash, ...dash] : dash) as number[],
    offset: lengthOf(style['stroke-dashoffset'], diagonal) ?? 0,
  };
}

/** The outlines of a clip path, in pixels of the drawing. */
function clipOf(style: Style, matrix: Affine, walk: Walk): Clip | null {
  const id = style['clip-path'] === 'none' ? null : idOf(style['clip-path']);
  const found = id === null ? undefined : walk.byId.get(id);
  if (!found || found.name !== 'clipPath') return null;
  if (found.attributes.clipPathUnits === 'objectBoundingBox' || idOf(found.attributes['clip-path'])) {
    walk.leave('some clips');
    return null;
  }
  const own = composed(matrix, transformOf(found.attributes.transform));
  let rule: Clip['rule'] = 'nonzero';
  const paths = found.children.flatMap((child): Path[] => {
    const data = dataOf(child.name, child.attributes);
    if (!data) return [];
    if (styleOf(child, startStyle, walk.sheet)['clip-rule'] === 'evenodd') rule = 'evenodd';
    return readPaths(data).map((path) => moved(path, composed(own, transformOf(child.attributes.transform))));
  });
  return { paths, rule };
}

/** A path with its handles, moved. */
function moved(path: Path, matrix: Affine): Path {
  const [a, b, c, d] = matrix;
  const turn = (offset: [number, number] | null): [number, number] | null =>
    offset && [a * offset[0] + c * offset[1], b * offset[0] + d * offset[1]];
  return {
    ...path,
    points: path.points.map((point) => ({
      ...point,
      at: apply(matrix, point.at),
      in: turn(point.in),
      out: turn(point.out),
    })),
  };
}
