import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makePlane, type Plane } from '../pixels/raster.ts';
import { boundsOfBlocks, raysBlock } from './relief-bounds.ts';
import { raysOf, raysOverMap, traceRelief, type ReliefView } from './relief.ts';

const [width, height] = [97, 61];
const size = { width, height };
const whole = { x: 0, y: 0, ...size };

/** Hills, a plateau with steep sides and a thin post. */
function landscape(columns: number, rows: number): Plane {
  const map = makePlane(columns, rows);
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      const [u, v] = [x / columns, y / rows];
      const hills = 0.25 + 0.15 * Math.sin(u * 17) * Math.cos(v * 11);
      const plateau = Math.hypot(u - 0.4, v - 0.5) < 0.2;
      const post = Math.abs(u - 0.8) < 0.012 && v > 0.2;
      map.data[y * columns + x] = plateau ? 0.85 : post ? 1 : hills;
    }
  }
  return map;
}

const toPicture = [1, 0.04, -0.03, 1, width / 2, height / 2] as const;
const views: ReliefView[] = [
  { x: 14, y: -5, z: 0 },
  { x: -22, y: 9, z: 0.4, zoom: 1.2, roll: 15 },
  { x: 3, y: 2, z: -0.9 },
].map((camera) => ({ camera, near: 1.4, far: 6, toPicture, scale: 1, x: width / 2, y: height / 2 }));

/** Closeness at a place of the map as bilinear mixing says, written anew. */
function mixedAt({ width: columns, height: rows, data }: Plane, u: number, v: number): number {
  const [x, y] = [Math.max(0, Math.min(columns - 1, u - 0.5)), Math.max(0, Math.min(rows - 1, v - 0.5))];
  const [left, top] = [Math.floor(x), Math.floor(y)];
  const at = (dx: number, dy: number): number =>
    data[Math.min(rows - 1, top + dy) * columns + Math.min(columns - 1, left + dx)]!;
  const [fx, fy] = [x - left, y - top];
  return (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fy) + (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy;
}

describe('where rays can meet a relief', () => {
  for (const [columns, rows] of [
    [97, 61],
    [40, 25],
    [194, 122],
  ] as const) {
    const map = landscape(columns, rows);
    const shrink = [columns / width, rows / height] as const;

    it(`is where a slow march of every ray meets it, with a map of ${columns} x ${rows}`, () => {
      for (const view of views) {
        const over = raysOverMap(raysOf(view, whole), toPicture, shrink);
        const bounds = boundsOfBlocks(map, over, size);
        const blocks = Math.ceil(width / raysBlock);
        for (let y = 0; y < height; y += 3) {
          for (let x = 0; x < width; x += 2) {
            const [u0, v0, u1, v1] = over.start.map((v, k) => v + over.along[k]! * x + over.down[k]! * y) as [
              number,
              number,
              number,
              number,
            ];
            let met = 1;
            for (; met > 0; met -= 1 / 256) if (met <= mixedAt(map, u0 + (u1 - u0) * met, v0 + (v1 - v0) * met)) break;
            const at = (Math.floor(y / raysBlock) * blocks + Math.floor(x / raysBlock)) * 3;
            expect(met, `${x}, ${y}`).to.be.within(bounds[at]! - 1 / 255, bounds[at + 1]! + 1e-6);
          }
        }
      }
    });
  }

  it('is a small part of the depth in most places', () => {
    const over = raysOverMap(raysOf(views[0]!, whole), toPicture, [2, 2]);
    const bounds = boundsOfBlocks(landscape(194, 122), over, size);
    const ranges = Array.from({ length: bounds.length / 3 }, (_, k) => bounds[k * 3 + 1]! - bounds[k * 3]!);
    expect(ranges.filter((range) => range < 0.4).length / ranges.length).to.be.above(0.4);
  });

  it('leaves blocks out that are not wanted, and the others as they are', () => {
    const map = landscape(97, 61);
    const random = seededRandom(4);
    const only = Uint8Array.from({ length: Math.ceil(width / raysBlock) * Math.ceil(height / raysBlock) }, () =>
      random() < 0.5 ? 1 : 0,
    );
    const places = (wanted?: Uint8Array): Map<number, string> => {
      const found = new Map<number, string>();
      traceRelief(map, size, views[1]!, whole, (u, v, at) => found.set(at, `${u} ${v}`), wanted);
      return found;
    };
    const [all, some] = [places(), places(only)];
    expect(all.size).to.equal(width * height);
    for (let at = 0; at < width * height; at++) {
      const block =
        Math.floor(at / width / raysBlock) * Math.ceil(width / raysBlock) + Math.floor((at % width) / raysBlock);
      expect(some.get(at)).to.equal(only[block] ? all.get(at) : undefined);
    }
  });
});
