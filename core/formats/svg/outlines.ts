import svgpath from 'svgpath';
import { flattened, type Path, type Point } from '../../path/path.ts';
import type { How } from '../../path/shapes.ts';
import { dataOf, pathsOf, svgData } from './geometry.ts';
import { svgTree, UnreadableSvg, type SvgElement } from './tree.ts';

/** An outline of an SVG, and whether it is filled or a hole in the one before it. */
export interface SvgOutline {
  path: Path;
  how: Extract<How, 'add' | 'take'>;
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
  const root = svgTree(text);
  const outlines: SvgOutline[] = [];
  walk(root.children, [fitTo(root.attributes, width, height)], outlines);
  if (outlines.length === 0) throw new UnreadableSvg('no filled element');
  return outlines;
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

function walk(elements: readonly SvgElement[], transforms: readonly string[], out: SvgOutline[]): void {
  for (const { name, attributes, children } of elements) {
    if (notDrawn.has(name)) continue;
    const all = attributes.transform ? [...transforms, attributes.transform] : transforms;
    const data = dataOf(name, attributes);
    if (data) out.push(...outlinesOf(data, all, attributes['data-how'] === 'take'));
    walk(children, all, out);
  }
}

function outlinesOf(data: string, transforms: readonly string[], take: boolean): SvgOutline[] {
  let drawn = svgpath(data);
  if ((drawn as unknown as { err: string }).err) throw new UnreadableSvg((drawn as unknown as { err: string }).err);
  for (const transform of [...transforms].reverse()) if (transform) drawn = drawn.transform(transform);
  // An outline is filled: an open one is closed.
  const paths = pathsOf(drawn)
    .filter(({ points }) => points.length > 2 || points.some((point) => point.out))
    .map((path) => ({ ...path, closed: true }));
  return paths.map((path, k) => ({ path, how: take || isHole(path, paths.slice(0, k)) ? 'take' : 'add' }));
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
