import { expect } from 'chai';
import type { ReliefView } from '../depth/relief.ts';
import { makePlane, makeRgba, type Rgba } from '../pixels/raster.ts';
import { seededRandom } from '../pixels/random.ts';
import { canWarpByKernel, kernelWarps } from './kernel-warps.ts';
import { plainWarps } from './plain-warps.ts';
import type { PlacedPixels, Warps } from './warps.ts';

/** Colours and alpha that differ from pixel to pixel, with parts that are opaque and parts that are clear. */
function speckled(width: number, height: number): PlacedPixels {
  const picture = makeRgba(width, height);
  const random = seededRandom(3);
  for (let i = 0; i < picture.data.length; i++) picture.data[i] = random() * 256;
  for (let i = 3; i < picture.data.length; i += 4) {
    const y = Math.floor(i / 4 / width);
    if (y < height / 3) picture.data[i] = 255;
    else if (y > (2 * height) / 3) picture.data[i] = 0;
  }
  return { ...picture, x: 0, y: 0 };
}

/** The largest difference of colour times cover and of cover between what two ways make, in levels. */
function worst(make: (warps: Warps, out: Rgba) => void, width: number, height: number): number {
  const [a, b] = [makeRgba(width, height), makeRgba(width, height)];
  make(plainWarps, a);
  // What was there before is written over, also where nothing is seen.
  b.data.fill(77);
  make(kernelWarps, b);
  let most = 0;
  for (let i = 0; i < a.data.length; i++) {
    const [p, q] = [a.data[i | 3]! / 255, b.data[i | 3]! / 255];
    const off = (i & 3) === 3 ? a.data[i]! - b.data[i]! : a.data[i]! * p - b.data[i]! * q;
    most = Math.max(most, Math.abs(off));
  }
  expect(
    a.data.some((v) => v > 0),
    'something is seen',
  ).to.equal(true);
  return most;
}

describe('warps in WebAssembly', () => {
  const picture = speckled(61, 47);

  it('run on this machine', () => expect(canWarpByKernel()).to.equal(true));

  it('push pixels about as the plain ones do, over the borders too', () => {
    for (const step of [1, 3, 8]) {
      const room = 9;
      const [width, height] = [picture.width + 2 * room, picture.height + 2 * room];
      const columns = Math.ceil(width / step) + 1;
      const nodes = new Float32Array(columns * (Math.ceil(height / step) + 1) * 3);
      const random = seededRandom(step);
      for (let i = 0; i < nodes.length; i++) nodes[i] = (random() - 0.5) * (i % 3 === 2 ? 0.8 : 16);
      const lattice = { nodes, columns, step, room };
      expect(
        worst((warps, out) => warps.sway(picture, lattice, out), width, height),
        `step ${step}`,
      ).to.be.at.most(1);
    }
  });

  it('see a picture through a projective map as the plain ones do, also where it turns over the horizon', () => {
    const maps = [
      [0.8, 0.1, -3, -0.2, 0.9, 4, 0.002, -0.001, 1],
      [1, 0, 0, 0, 1, 0, 0, 0, 1],
      [1.2, 0, -6, 0.3, 1.1, -8, 0.03, 0.01, -0.6],
    ] as const;
    for (const map of maps) expect(worst((warps, out) => warps.project(picture, map, out), 70, 60)).to.be.at.most(1);
  });

  it('see a picture in relief as the plain ones do, with what was pushed over its borders', () => {
    const map = makePlane(29, 23);
    for (let i = 0; i < map.data.length; i++) map.data[i] = 0.5 + 0.5 * Math.sin(i % 29) * Math.cos(i / 80);
    const camera = { x: 9, y: -4, z: 0.3, zoom: 1.1, roll: 4, planes: { depth: 2, parallax: 1.4, hold: 0.5 } };
    const view: ReliefView = {
      ...{ camera, near: 1.2, far: 4, scale: 1.3, x: 41, y: 35 },
      toPicture: [1.1, 0.05, -0.04, 0.95, 25, 20],
    };
    for (const margin of [0, 6]) {
      const placed = { ...picture, x: -margin, y: -margin };
      let [differ, all] = [0, 0];
      const [a, b] = [makeRgba(80, 70), makeRgba(80, 70)];
      const [frontA, frontB] = [new Uint8Array(80 * 70), new Uint8Array(80 * 70)];
      plainWarps.relieve(placed, map, view, a, { front: frontA });
      kernelWarps.relieve(placed, map, view, b, { front: frontB });
      for (let i = 0; i < frontA.length; i++) {
        all++;
        // A ray that just grazes a step may meet it or not by the last bit of a float.
        if (Math.abs(a.data[i * 4 + 3]! - b.data[i * 4 + 3]!) > 1 || Math.abs(frontA[i]! - frontB[i]!) > 2) differ++;
      }
      expect(differ / all).to.be.below(0.003);
      // Some of it is torn open, and some is not.
      expect(frontA.some((share) => share === 0) && frontA.some((share) => share === 255)).to.equal(true);
      const alone = makeRgba(80, 70);
      kernelWarps.relieve(placed, map, view, alone);
      expect(Buffer.compare(Buffer.from(alone.data), Buffer.from(b.data))).to.equal(0);
      // Blocks that are not wanted are clear, whatever stood there.
      const only = Uint8Array.from({ length: 10 * 9 }, (_, k) => (k % 3) & 1);
      kernelWarps.relieve(placed, map, view, alone.data.fill(77) && alone, { only });
      for (let at = 0; at < 80 * 70; at++) {
        const wanted = only[Math.floor(at / 80 / 8) * 10 + Math.floor((at % 80) / 8)];
        const pixel = wanted ? [...b.data.subarray(at * 4, at * 4 + 4)] : [0, 0, 0, 0];
        expect([...alone.data.subarray(at * 4, at * 4 + 4)]).to.deep.equal(pixel);
      }
      expect(a.data.some((v, i) => i % 4 === 3 && v > 0)).to.equal(true);
    }
  });
});
