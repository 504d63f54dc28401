import svgpath from 'svgpath';
import { ellipse, rectangle } from '../../path/forms.ts';
import { corner, segmentsOf, type Path, type PathPoint, type Point } from '../../path/path.ts';

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

/** The path data of a basic shape, or of a path. */
export function dataOf(name: string, attributes: Record<string, string>): string | null {
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
  if (name === 'line') return `M${number('x1')} ${number('y1')}L${number('x2')} ${number('y2')}`;
  if (name !== 'polygon' && name !== 'polyline') return null;
  const values = (attributes.points ?? '')
    .split(/[\s,]+/)
    .map(Number.parseFloat)
    .filter(Number.isFinite);
  const points = values.flatMap((x, k) => (k % 2 === 0 && k + 1 < values.length ? [[x, values[k + 1]!]] : []));
  return points.length < 2 ? null : `M${points.map((p) => p.join(' ')).join('L')}${name === 'polygon' ? 'Z' : ''}`;
}

/** Path data as paths of cubic curves: arcs, shorthands and relative commands are resolved. */
export function pathsOf(drawn: ReturnType<typeof svgpath>): Path[] {
  const paths: Path[] = [];
  let points: PathPoint[] = [];
  const finish = (closed: boolean): void => {
    if (points.length > 1) paths.push(tidied({ points, closed }));
    points = [];
  };
  drawn
    .abs()
    .unarc()
    .unshort()
    .iterate((segment, _index, x, y) => {
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
  return { closed, points: kept.map((point) => ({ ...point, smooth: onOneLine(point) })) };
}

function onOneLine({ in: back, out: ahead }: PathPoint): boolean {
  if (!back || !ahead) return false;
  const [a, b] = [Math.hypot(...back), Math.hypot(...ahead)];
  return a > 0 && b > 0 && (back[0] * ahead[0] + back[1] * ahead[1]) / (a * b) < -0.996;
}
