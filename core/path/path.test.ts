import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { coverageOf } from './coverage.ts';
import { cornered, movedPoints, smoothed, withHandle, withoutPoints } from './edit-path.ts';
import { fitPath } from './fit.ts';
import { ellipse, polygon, rectangle } from './forms.ts';
import { corner, flattened, nearestOn, pointAt, segmentsOf, withPointAt, type Path, type Point } from './path.ts';
import { alphaOfShapes, grownCoverage, isShown, plainShape, type Shape } from './shapes.ts';

const triangle: Path = { closed: true, points: [corner([2.3, 1.1]), corner([17.6, 6.4]), corner([5.2, 15.9])] };
const sum = (values: ArrayLike<number>): number => Array.from(values).reduce((a, b) => a + b, 0);
const all = (path: Path): Set<number> => new Set(path.points.keys());

/** Area of a polygon by its corners. */
const areaOf = (line: readonly Point[]): number =>
  Math.abs(
    line.reduce((total, [x, y], k) => {
      const [u, v] = line[(k + 1) % line.length]!;
      return total + x * v - u * y;
    }, 0) / 2,
  );

describe('exact coverage', () => {
  it('adds up to the area of a polygon, and gives every pixel the share that fine sampling finds', () => {
    const { data } = coverageOf(triangle, 20, 18);
    expect(sum(data)).closeTo(areaOf(triangle.points.map((p) => p.at)), 1e-3);
    const [a, b, c] = triangle.points.map((p) => p.at) as [Point, Point, Point];
    const side = (p: Point, q: Point, x: number, y: number): boolean =>
      (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0]) >= 0;
    const fine = 40;
    for (let y = 0; y < 18; y++) {
      for (let x = 0; x < 20; x++) {
        let hits = 0;
        for (let k = 0; k < fine * fine; k++) {
          const [u, v] = [x + ((k % fine) + 0.5) / fine, y + (((k / fine) | 0) + 0.5) / fine];
          if (side(a, b, u, v) && side(b, c, u, v) && side(c, a, u, v)) hits++;
        }
        expect(data[y * 20 + x], `${x},${y}`).closeTo(hits / (fine * fine), 0.02);
      }
    }
  });

  it('does not depend on the direction, and cuts off what lies outside the picture', () => {
    const turned: Path = { closed: true, points: [...triangle.points].reverse() };
    const [one, other] = [coverageOf(turned, 20, 18), coverageOf(triangle, 20, 18)];
    one.data.forEach((share, i) => expect(share).closeTo(other.data[i]!, 1e-6));
    const beyond = coverageOf(rectangle({ x: -7.5, y: -3, width: 15, height: 40 }), 12, 10);
    for (let y = 0; y < 10; y++)
      expect([...beyond.data.slice(y * 12, y * 12 + 9)]).to.deep.equal([1, 1, 1, 1, 1, 1, 1, 0.5, 0]);
  });

  it('of a circle is pi r squared within the error of its curves', () => {
    const { data } = coverageOf(ellipse({ x: 3, y: 3, width: 50, height: 50 }), 56, 56);
    expect(sum(data)).closeTo(Math.PI * 25 * 25, 1.2);
  });

  it('of a rounded rectangle lacks four corners of (4 - pi) / 4 r squared, of a hexagon is that of its triangles', () => {
    const rounded = coverageOf(rectangle({ x: 5, y: 4, width: 60, height: 40 }, 12), 70, 50);
    expect(sum(rounded.data)).closeTo(2400 - (4 - Math.PI) * 144, 0.5);
    const hexagon = coverageOf(polygon({ x: 4, y: 4, width: 40, height: 40 }, 6), 50, 50);
    expect(sum(hexagon.data)).closeTo(((3 * Math.sqrt(3)) / 2) * 400, 0.1);
  });
});

describe('paths', () => {
  it('keep their form when a point is added', () => {
    const path = ellipse({ x: 0, y: 0, width: 40, height: 24 });
    const more = withPointAt(path, 1, 0.37);
    expect(more.points).to.have.length(5);
    expect(more.points[2]!.smooth).to.equal(true);
    for (const t of [0.1, 0.5, 0.9]) {
      const at = pointAt(segmentsOf(path)[1]!, 0.37 * t);
      expect(nearestOn(more, at)!.distance).below(1e-3);
    }
    expect(withPointAt(triangle, 2, 0.5).points[3]!.at).to.deep.equal([3.75, 8.5]);
  });

  it('keep their form when a point is added where only one end has a handle, and stay straight where none has', () => {
    const bent: Path = { closed: false, points: [{ ...corner([0, 0]), out: [0, 30] }, corner([60, 10])] };
    for (const path of [
      bent,
      { closed: false, points: [...bent.points].reverse().map((p) => ({ ...p, in: p.out, out: p.in })) },
    ]) {
      const more = withPointAt(path, 0, 0.4);
      for (let t = 0; t <= 1; t += 0.05)
        expect(nearestOn(more, pointAt(segmentsOf(path)[0]!, t))!.distance).below(1e-3);
      expect(more.points[1]!.smooth).to.equal(true);
    }
    const plain: Path = { closed: false, points: [corner([0, 0]), corner([60, 10])] };
    expect(withPointAt(plain, 0, 0.5).points).to.deep.equal([corner([0, 0]), corner([30, 5]), corner([60, 10])]);
    expect(corner([1, 2])).to.deep.equal({ at: [1, 2], in: null, out: null, smooth: false });
  });

  it('find the nearest place, against a very fine search', () => {
    const path = ellipse({ x: 0, y: 0, width: 80, height: 30 });
    const place: Point = [50, 40];
    let least = Infinity;
    for (const [x, y] of flattened(path, 1e-4)) least = Math.min(least, Math.hypot(x - place[0], y - place[1]));
    expect(nearestOn(path, place)!.distance).closeTo(least, 1e-2);
  });

  it('become a curve through their points with directions between the neighbours', () => {
    const square = rectangle({ x: 0, y: 0, width: 20, height: 20 });
    const curve = smoothed(square, all(square));
    expect(curve.points.map((p) => p.at)).to.deep.equal(square.points.map((p) => p.at));
    expect(curve.points[1]!.out![0]).closeTo(curve.points[1]!.out![1], 1e-9);
    const { data } = coverageOf(
      { ...curve, points: curve.points.map((p) => ({ ...p, at: [p.at[0] + 10, p.at[1] + 10] })) },
      40,
      40,
    );
    expect(sum(data), 'rounder than the square').above(450);
    expect(cornered(curve, all(curve)).points.every((p) => p.in === null && p.out === null)).to.equal(true);
  });

  it('that are open have no handle beyond their ends, and closed ones have two everywhere', () => {
    const points = [corner([0, 0]), corner([30, 0]), corner([30, 60]), corner([90, 60])];
    const ends = (closed: boolean) => {
      const curve = smoothed({ closed, points }, all({ closed, points }));
      return curve.points.map((p) => [p.in !== null, p.out !== null, p.smooth]);
    };
    const both = [true, true, true];
    expect(ends(true)).to.deep.equal([both, both, both, both]);
    expect(ends(false)).to.deep.equal([[false, true, true], both, both, [true, false, true]]);
    // Each handle is a third of the way to the neighbour on its side, along the line from one neighbour to the other.
    const { points: curve } = smoothed({ closed: false, points }, all({ closed: false, points }));
    expect(Math.hypot(...curve[1]!.in!)).closeTo(10, 1e-9);
    expect(Math.hypot(...curve[1]!.out!)).closeTo(20, 1e-9);
    expect(curve[1]!.out![1] / curve[1]!.out![0]).closeTo(2, 1e-9);
    expect(curve[0]!.out).to.deep.equal([10, 0]);
  });

  it('keep both handles of a smooth point on one line unless they are parted', () => {
    const path = ellipse({ x: 0, y: 0, width: 20, height: 20 });
    const length = Math.hypot(...path.points[0]!.in!);
    const turned = withHandle(path, 0, 'out', [3, 4], false).points[0]!;
    expect(turned.in![0]).closeTo((-3 / 5) * length, 1e-9);
    expect(turned.in![1]).closeTo((-4 / 5) * length, 1e-9);
    const other = withHandle(path, 0, 'in', [0, -2], false).points[0]!;
    expect(other.in).to.deep.equal([0, -2]);
    expect(other.out![0]).closeTo(0, 1e-9);
    expect(other.out![1]).closeTo(length, 1e-9);
    const broken = withHandle(path, 0, 'out', [3, 4], true).points[0]!;
    expect([broken.in, broken.smooth]).to.deep.equal([path.points[0]!.in, false]);
  });

  it('move and lose chosen points, and end when fewer than two are left', () => {
    expect(movedPoints(triangle, new Set([1]), 2, -1).points[1]!.at).to.deep.equal([19.6, 5.4]);
    expect(withoutPoints(triangle, new Set([1]))!.points).to.have.length(2);
    expect(withoutPoints(triangle, new Set([0, 1]))).to.equal(null);
  });
});

describe('fitting curves to a drawn line', () => {
  it('finds a noisy circle again with few curves, everywhere within the tolerance', () => {
    const random = seededRandom(4);
    const line = Array.from({ length: 240 }, (_, k): Point => {
      const [angle, r] = [(k / 240) * 2 * Math.PI, 60 + random() - 0.5];
      return [100 + r * Math.cos(angle), 100 + r * Math.sin(angle)];
    });
    const path = fitPath(line, 1.2, true);
    expect(path.points.length).within(3, 14);
    for (const [x, y] of flattened(path)) expect(Math.hypot(x - 100, y - 100)).closeTo(60, 1.8);
    for (const at of line) expect(nearestOn(path, at)!.distance).below(1.3);
  });

  it('needs one curve for a quarter of a circle', () => {
    const quarter = Array.from({ length: 60 }, (_, k): Point => {
      const angle = (k / 59) * (Math.PI / 2);
      return [100 * Math.cos(angle), 100 * Math.sin(angle)];
    });
    // One with handles of a third of the chord would be more than 4 away.
    expect(fitPath(quarter, 1.5, false).points).to.have.length(2);
  });

  it('keeps the corners of a square as corners', () => {
    const line: Point[] = [];
    for (let k = 0; k < 50; k++) line.push([k, 0]);
    for (let k = 0; k < 50; k++) line.push([50, k]);
    for (let k = 0; k < 50; k++) line.push([50 - k, 50]);
    for (let k = 0; k < 50; k++) line.push([0, 50 - k]);
    const path = fitPath(line, 0.5, true);
    expect(path.points).to.have.length(4);
    for (const [x, y] of [
      [0, 0],
      [50, 0],
      [50, 50],
      [0, 50],
    ])
      expect(path.points.some((p) => p.at[0] === x && p.at[1] === y && !p.smooth)).to.equal(true);
  });

  it('leaves an open line where it began and where it ended', () => {
    const line = Array.from({ length: 80 }, (_, k): Point => [k * 2, 30 * Math.sin(k / 9)]);
    const path = fitPath(line, 0.8, false);
    expect([path.points[0]!.at, path.points.at(-1)!.at]).to.deep.equal([line[0], line.at(-1)]);
    expect(path.points.length).below(12);
    for (const at of line) expect(nearestOn(path, at)!.distance).below(0.9);
  });
});

describe('shapes', () => {
  const shape = (path: Path, change: Partial<Shape> = {}): Shape => ({ ...plainShape, id: 'a', path, ...change });
  const left = rectangle({ x: 4, y: 4, width: 16, height: 24 });
  const right = rectangle({ x: 12, y: 8, width: 20, height: 8 });
  const count = (...shapes: Shape[]): number => sum(alphaOfShapes(shapes, 40, 32).data) / 255;

  it('are added, taken away and kept within as sets are', () => {
    expect(count(shape(left), shape(right))).to.equal(16 * 24 + 20 * 8 - 8 * 8);
    expect(count(shape(left), shape(right, { how: 'take' }))).to.equal(16 * 24 - 8 * 8);
    expect(count(shape(left), shape(right, { how: 'within' }))).to.equal(8 * 8);
    expect(count(shape(left, { how: 'take' })), 'taken from the whole picture').to.equal(40 * 32 - 16 * 24);
    expect(count(shape(left), shape(right, { muted: true }))).to.equal(16 * 24);
    expect(count(shape(left, { opacity: 0.6 }))).closeTo(16 * 24 * 0.6, 0.5);
  });

  it('that neither grow nor fade cover exactly what their path does', () => {
    const { data } = coverageOf(triangle, 24, 20);
    const alpha = alphaOfShapes([{ ...plainShape, id: 'a', path: triangle } as Shape], 24, 20);
    expect([...alpha.data]).to.deep.equal([...data].map((v) => Math.round(v * 255)));
  });

  it('grow and shrink by Euclidean distance', () => {
    const path = ellipse({ x: 20, y: 20, width: 40, height: 40 });
    const circle = coverageOf(path, 80, 80);
    expect(sum(grownCoverage(path, circle, 8).data)).closeTo(Math.PI * 28 * 28, 3);
    expect(sum(grownCoverage(path, circle, -8).data)).closeTo(Math.PI * 12 * 12, 2);
  });

  it('fade over the width of their feather, half way at the path', () => {
    const soft = alphaOfShapes(
      [shape(rectangle({ x: -90, y: -90, width: 150, height: 300 }), { feather: 24 })],
      120,
      20,
    );
    const row = [...soft.data.slice(10 * 120, 11 * 120)];
    expect(row[59]! + row[60]!).within(250, 260);
    expect([row[40], row[80]]).to.deep.equal([255, 0]);
    expect(row[52]!).within(190, 254);
  });
});

describe('places and outlines', () => {
  it('straight sides are flattened to their corners, bent ones to many', () => {
    expect(flattened(triangle)).to.deep.equal([...triangle.points, triangle.points[0]!].map((p) => p.at));
    expect(flattened(ellipse({ x: 0, y: 0, width: 40, height: 30 })).length).to.be.above(20);
  });

  it('a place is shown where the shapes laid over one another cover its pixel', () => {
    const [width, height] = [60, 50];
    const shapes = (
      [
        ['add', ellipse({ x: 5, y: 6, width: 40, height: 36 })],
        ['take', rectangle({ x: 20, y: 1, width: 8, height: 30 })],
        ['add', polygon({ x: 22, y: 20, width: 34, height: 26 }, 5)],
        ['within', rectangle({ x: 8, y: 10, width: 44, height: 33 })],
      ] as const
    ).map(([how, path], k): Shape => ({ ...plainShape, id: String(k), how, path }));
    for (const some of [shapes, shapes.slice(1), shapes.slice(3), [...shapes].reverse()]) {
      const alpha = alphaOfShapes(some, width, height);
      let looked = 0;
      for (let y = 0; y < height; y++) {
        for (let x = 0; x < width; x++) {
          const a = alpha.data[y * width + x]!;
          // Pixels an edge goes through are both.
          if (a > 0 && a < 255) continue;
          looked++;
          expect(isShown(some, x + 0.5, y + 0.5), `${x}, ${y}`).to.equal(a === 255);
        }
      }
      expect(looked).to.be.above(0.85 * width * height);
    }
  });
});
