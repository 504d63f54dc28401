import { expect } from 'chai';
import { randomOf } from '../motion/wander.ts';
import { Cancelled } from '../pixels/progress.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { carryFigure, carriedSize, type FilmFrames, type KeyMask } from './carry-figure.ts';
import { groundPlate, plateSeen } from './ground-plate.ts';
import { cameraMotion, inverseMotion, joinedMotion, still } from './camera-motion.ts';
import { flowField, sizesOf } from './flow-field.ts';
import { softAlpha } from './soft-alpha.ts';
import { troubleFrames } from './trouble.ts';

const [width, height, count] = [240, 160, 24];

interface World {
  /** Middle and half sides of the figure, an ellipse with a mottled skin. */
  figure(frame: number): { x: number; y: number; rx: number; ry: number };
  /** Where the lens is, pixels. */
  lens?(frame: number): [number, number];
  /** Whether the colours of the figure are little different from those of its ground. */
  alike?: boolean;
}

function pixel(world: World, frame: number, x: number, y: number): [number, number, number, boolean] {
  const { x: fx, y: fy, rx, ry } = world.figure(frame);
  const [lx, ly] = world.lens?.(frame) ?? [0, 0];
  const [gx, gy] = [x + lx, y + ly];
  const wall = 20 * Math.sin(gx * 0.31 + 2 * Math.sin(gy * 0.11)) + 16 * Math.sin(gy * 0.4 + gx * 0.07);
  const noise = 4 * randomOf(frame + 1, 3, y * width + x);
  const inside = ((x - fx) / rx) ** 2 + ((y - fy) / ry) ** 2 <= 1;
  if (!inside) return [96 + wall + noise, 108 + wall + noise, 112 + wall * 0.8 + noise, false];
  const skin = 14 * Math.sin((x - fx) * 0.5) * Math.sin((y - fy) * 0.6);
  return world.alike
    ? [132 + skin + noise, 112 + skin + noise, 100 + skin + noise, true]
    : [186 + skin + noise, 96 + skin + noise, 62 + skin + noise, true];
}

function filmed(world: World): { frames: FilmFrames; truth: Bytes[]; pictures: Rgba[] } {
  const truth: Bytes[] = [];
  const pictures = Array.from({ length: count }, (_, frame) => {
    const picture = makeRgba(width, height);
    const mask = makeBytes(width, height);
    for (let i = 0; i < width * height; i++) {
      const [r, g, b, inside] = pixel(world, frame, i % width, Math.floor(i / width));
      picture.data.set([r, g, b, 255], i * 4);
      mask.data[i] = inside ? 1 : 0;
    }
    truth.push(mask);
    return picture;
  });
  const frames: FilmFrames = {
    count,
    frame: (index) => Promise.resolve({ small: pictures[index]!, whole: () => pictures[index]! }),
  };
  return { frames, truth, pictures };
}

function likeness(alpha: Bytes, truth: Bytes): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < truth.data.length; i++) {
    const [a, b] = [alpha.data[i]! >= 128, truth.data[i] === 1];
    if (a && b) both++;
    if (a || b) either++;
  }
  return both / either;
}

async function cutThrough(frames: FilmFrames, keys: KeyMask[], range: [number, number] = [0, count]) {
  const alphas = new Map<number, Bytes>();
  const changed = new Map<number, number>();
  await carryFigure(frames, keys, range, {
    take: (index, picture, soft, by) => {
      alphas.set(index, softAlpha(picture, soft));
      changed.set(index, by);
    },
  });
  return { alphas, changed };
}

const walking: World = {
  figure: (f) => ({ x: 50 + 5 * f, y: 84 + 6 * Math.sin(f / 3), rx: 30, ry: 22 + 6 * Math.sin(f / 4) }),
};

describe('a figure carried through a film', () => {
  it('is the figure in every frame, while it walks and changes its shape', async () => {
    const { frames, truth } = filmed(walking);
    const { alphas } = await cutThrough(frames, [{ frame: 0, mask: truth[0]! }]);
    expect(alphas.size).to.equal(count);
    for (const [index, alpha] of alphas)
      expect(likeness(alpha, truth[index]!), `frame ${index}`).to.be.greaterThan(0.94);
  });

  it('is so while the lens goes along, and from a key in the middle both ways', async () => {
    const world: World = { ...walking, lens: (f) => [4 * f, 3 * Math.sin(f / 5)] };
    const { frames, truth } = filmed(world);
    const { alphas } = await cutThrough(frames, [{ frame: 11, mask: truth[11]! }]);
    for (const [index, alpha] of alphas)
      expect(likeness(alpha, truth[index]!), `frame ${index}`).to.be.greaterThan(0.92);
  });

  it('is told from a ground of nearly its own colours by what the ground is without it', async () => {
    // So small and quick that no place is hidden for half of the time.
    const quick: World = { figure: (f) => ({ x: 30 + 8 * f, y: 80, rx: 20, ry: 18 }), alike: true };
    const { frames, truth } = filmed(quick);
    const { alphas } = await cutThrough(frames, [{ frame: 0, mask: truth[0]! }]);
    const mean = [...alphas].reduce((sum, [index, alpha]) => sum + likeness(alpha, truth[index]!), 0) / count;
    expect(mean).to.be.greaterThan(0.8);
  });

  it('cuts the frames that are wanted only, up to the keys around them, and tells how far it is', async () => {
    const { frames, truth } = filmed(walking);
    const asked = new Set<number>();
    const watched: FilmFrames = {
      count,
      frame: (index) => {
        asked.add(index);
        return frames.frame(index);
      },
    };
    const keys = [4, 10, 18].map((frame) => ({ frame, mask: truth[frame]! }));
    const shares: number[] = [];
    const done: number[] = [];
    await carryFigure(watched, keys, [5, 18], {
      take: (index) => void done.push(index),
      report: (share) => shares.push(share),
    });
    expect(done.sort((a, b) => a - b)).to.deep.equal(Array.from({ length: 13 }, (_, k) => 5 + k));
    expect(shares.at(-1)).to.be.closeTo(1, 1e-9);
    for (let k = 1; k < shares.length; k++) expect(shares[k]!).to.be.at.least(shares[k - 1]!);
  });

  it('goes over from one key to the next where they say different things', async () => {
    const { frames, truth } = filmed(walking);
    // By the second key only the left half of the figure is wanted.
    const half = makeBytes(width, height);
    truth[16]!.data.forEach((v, i) => (half.data[i] = i % width < walking.figure(16).x ? v : 0));
    const keys = [
      { frame: 0, mask: truth[0]! },
      { frame: 16, mask: half },
    ];
    const { alphas } = await cutThrough(frames, keys);
    expect(likeness(alphas.get(3)!, truth[3]!)).to.be.greaterThan(0.9);
    expect(likeness(alphas.get(16)!, half)).to.be.greaterThan(0.9);
  });

  it('stops between frames when it is told to', async () => {
    const { frames, truth } = filmed(walking);
    let taken = 0;
    const stopped = carryFigure(frames, [{ frame: 0, mask: truth[0]! }], [0, count], {
      take: () => void taken++,
      between: () => (taken >= 5 ? Promise.reject(new Cancelled()) : Promise.resolve()),
    });
    let error: unknown;
    await stopped.catch((reason: unknown) => (error = reason));
    expect(error).to.be.instanceOf(Cancelled);
    expect(taken).to.equal(5);
  });

  it('points out frames that left what was carried to them by much more than those around', () => {
    const usual = [0, 0.02, 0.03, 0.02, null, 0.02, 0.2, 0.03, 0.02];
    expect(troubleFrames(usual)).to.deep.equal([6]);
    expect(troubleFrames([0.1, 0.11, 0.12, 0.1, 0.11])).to.deep.equal([]);
  });

  it('is carried at a size with the proportions of the film, never larger than it', () => {
    expect(carriedSize(1920, 1080)).to.deep.equal({ width: 480, height: 270 });
    expect(carriedSize(300, 400)).to.deep.equal({ width: 300, height: 400 });
  });
});

describe('the way of a lens', () => {
  const flat: World = { figure: () => ({ x: -99, y: 0, rx: 1, ry: 1 }) };

  it('is found from frame to frame, and is none where the picture stays though something moves', () => {
    const moved = filmed({ ...walking, lens: (f) => [3 * f, -2 * f] }).pictures;
    const field = flowField(sizesOf(moved[4]!), sizesOf(moved[3]!), () => true);
    const { a, b, tx, ty } = cameraMotion(field);
    [1, 0, 3, -2].forEach((v, k) => expect([a, b, tx, ty][k]).to.be.closeTo(v, 0.1));
    const stays = filmed(walking).pictures;
    expect(cameraMotion(flowField(sizesOf(stays[4]!), sizesOf(stays[3]!), () => true))).to.equal(still);
  });

  it('is that of the plane which shows more where two hang at different distances, and nothing in between', () => {
    // The upper third goes half as far, as what is far away does.
    const seenAt = (shift: number): Rgba => {
      const picture = makeRgba(width, height);
      for (let i = 0; i < width * height; i++) {
        const [x, y] = [i % width, Math.floor(i / width)];
        const [r, g, b] = pixel({ ...flat, lens: () => [y < height / 3 ? shift / 2 : shift, 0] }, 0, x, y);
        picture.data.set([r, g, b, 255], i * 4);
      }
      return picture;
    };
    const { a, b, tx, ty } = cameraMotion(flowField(sizesOf(seenAt(3)), sizesOf(seenAt(0)), () => true));
    [1, 0, 3, 0].forEach((v, k) => expect([a, b, tx, ty][k]).to.be.closeTo(v, 0.12));
  });

  it('is joined and turned round like any similarity', () => {
    const [one, two] = [
      { a: 1.1, b: 0.2, tx: 4, ty: -3 },
      { a: 0.9, b: -0.1, tx: 1, ty: 8 },
    ];
    const at = ({ a, b, tx, ty }: typeof one, [x, y]: [number, number]): [number, number] => [
      a * x - b * y + tx,
      b * x + a * y + ty,
    ];
    const both = at(joinedMotion(one, two), [7, 5]);
    at(one, at(two, [7, 5])).forEach((v, k) => expect(both[k]).to.be.closeTo(v, 1e-9));
    at(inverseMotion(one), at(one, [7, 5])).forEach((v, k) => expect(v).to.be.closeTo([7, 5][k]!, 1e-9));
  });

  it('lets the ground be seen whole behind what moves before it', () => {
    const world: World = { ...walking, lens: (f) => [2 * f, 0] };
    const { pictures } = filmed(world);
    const kept = pictures
      .filter((_, k) => k % 2 === 0)
      .map((picture, k) => ({ picture, motion: { ...still, tx: 4 * k }, figure: null }));
    const plate = groundPlate(kept)!;
    expect(plate.colours.width).to.equal(width + 4 * (kept.length - 1));
    const clean = filmed({ ...flat, lens: world.lens! }).pictures[10]!;
    const seen = plateSeen(plate, { ...still, tx: 20 }, width, height);
    let [sum, n] = [0, 0];
    for (let i = 0; i < width * height; i++) {
      if (seen.spread.data[i] === Infinity) continue;
      sum += Math.abs(seen.colours.data[i * 4]! - clean.data[i * 4]!);
      n++;
    }
    expect(n / (width * height)).to.be.greaterThan(0.9);
    expect(sum / n).to.be.lessThan(4);
  });
});
