import { expect } from 'chai';
import { behindSteps } from '../depth/behind.ts';
import { makePlane, type Plane, type Rgba } from '../pixels/raster.ts';
import { rebuild } from '../rebuild/fill.ts';
import type { DrawRelief } from '../scene/draw.ts';
import { relieved } from './warp.ts';

const [width, height] = [180, 120];
const frame = { width, height };
const [near, far] = [1.5, 6];

/** Level stripes, and before them a disc. */
const inDisc = (x: number, y: number): boolean => Math.hypot(x - 90, y - 60) < 26;
const stripe = (y: number): [number, number, number] => (Math.floor(y / 6) % 2 === 0 ? [60, 90, 120] : [170, 180, 150]);
const paintedWith = (colour: (x: number, y: number) => readonly number[]): Rgba => {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([...colour(x, y), 255], (y * width + x) * 4);
  return { width, height, data };
};
const scene = paintedWith((x, y) => (inDisc(x, y) ? [200, 60, 40] : stripe(y)));
const mapOf = (closeness: (x: number, y: number) => number): Plane => {
  const map = makePlane(width, height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) map.data[y * width + x] = closeness(x, y);
  return map;
};
const steps = mapOf((x, y) => (inDisc(x, y) ? 1 : 0));
const made = (map: Plane) => behindSteps(scene, map, (picture, hole) => rebuild({ picture, ...hole, seed: 1 }));

describe('what opens behind a picture seen pixel by pixel', () => {
  const seenFrom = (x: number, behind: Awaited<ReturnType<typeof made>>): Rgba => {
    const camera = { x, y: 0, z: 0 };
    const toImage = [1, 0, 0, 1, width / 2, height / 2] as const;
    const relief: DrawRelief = { file: 'map', behind: null, camera, near, far, toImage };
    const view = { scale: 1, x: 0, y: 0, shrink: 1, frame, surface: frame };
    const under = behind && { picture: { ...behind.picture, x: 0, y: 0 }, map: behind.map, shrink: 1 };
    return relieved({ ...scene, x: 0, y: 0 }, steps, relief, view, under);
  };
  /** The disc and the stripes as two layers through the same lens: each point goes by -x / distance. */
  const truthFrom = (x: number): Rgba =>
    paintedWith((px, py) => (inDisc(px + x / near, py) ? [200, 60, 40] : stripe(py)));
  const errorOf = (a: Rgba, b: Rgba, counted: (x: number, y: number) => boolean): number => {
    let [sum, count] = [0, 0];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        if (!counted(x, y)) continue;
        for (let c = 0; c < 3; c++)
          sum += Math.abs(a.data[(y * width + x) * 4 + c]! - b.data[(y * width + x) * 4 + c]!);
        count += 3;
      }
    return sum / count;
  };

  for (const x of [18, -18])
    it(`is as if the thing before it were a layer of its own, the lens gone by ${x}`, async () => {
      // Between where the disc was at the distance of the stripes and where it is now nothing is known but by rebuilding.
      const opened = (px: number, py: number): boolean => inDisc(px + x / far, py) && !inDisc(px + x / near, py);
      const truth = truthFrom(x);
      const [stretched, filled] = [seenFrom(x, null), seenFrom(x, await made(steps))];
      expect(errorOf(stretched, truth, opened)).to.be.above(40);
      expect(errorOf(filled, truth, opened)).to.be.below(14);
      expect(errorOf(filled, truth, () => true)).to.be.below(3);
    });

  it('is nothing at rest: the picture is what it was, to the byte', async () => {
    expect(Buffer.compare(Buffer.from(seenFrom(0, await made(steps)).data), Buffer.from(scene.data))).to.equal(0);
  });

  it('needs a step: a slope and an even map have nothing behind them', async () => {
    expect(await made(mapOf((x) => x / width))).to.equal(null);
    expect(await made(mapOf(() => 0.4))).to.equal(null);
  });

  it('lies at the foot of a step that is soft, not somewhere on it', async () => {
    const soft = mapOf((x, y) => Math.max(0, Math.min(1, (29 - Math.hypot(x - 90, y - 60)) / 6)));
    const { map } = (await made(soft))!;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) if (inDisc(x, y)) expect(map.data[y * width + x], `${x} ${y}`).to.be.below(0.1);
  });

  it('is continued only behind what stands before, and lies as far as what is beside it', async () => {
    const { picture, map } = (await made(steps))!;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = y * width + x;
        const inside = 26 - Math.hypot(x - 90, y - 60);
        if (inside < -4) expect([...picture.data.subarray(at * 4, at * 4 + 3)]).to.deep.equal(stripe(y));
        // As far in as a move uncovers it is as far away as the stripes.
        if (inside < 0.05 * width) expect(map.data[at], `${x} ${y}`).to.be.below(0.02);
      }
  });

  it('is as empty as the picture: nothing comes to light where that shows nothing', async () => {
    const data = scene.data.slice();
    for (let i = 0; i < width * height; i++) if (i % width > 100) data.set([255, 0, 0, 0], i * 4);
    const half = { ...scene, data };
    const behind = (await behindSteps(half, steps, (picture, hole) => rebuild({ picture, ...hole, seed: 1 })))!;
    for (let i = 0; i < width * height; i++) expect(behind.picture.data[i * 4 + 3]).to.equal(data[i * 4 + 3]);
    // Stripes go on under the disc up to where the picture ends.
    const [r, g] = behind.picture.data.subarray((60 * width + 98) * 4, (60 * width + 98) * 4 + 2);
    expect(r! - g!).to.be.below(0);
  });
});
