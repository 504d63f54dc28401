import { expect } from 'chai';
import { Cancelled } from '../pixels/progress.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { NothingToContinue, rebuild } from './fill.ts';
import { holeBehind } from './hole.ts';
import { rebuildBehind } from './behind.ts';
import { cutPiece, NothingToLift } from './lift.ts';
import { type FillLevel } from './fill-level.ts';
import { patchDistance } from './patch-field.ts';
import { disc, paint, planks } from './test-pictures.ts';

function energy(picture: Rgba, inside: (x: number, y: number) => boolean): number {
  let sum = 0;
  let n = 0;
  for (let y = 0; y + 1 < picture.height; y++) {
    for (let x = 0; x + 1 < picture.width; x++) {
      if (!inside(x, y)) continue;
      const i = (y * picture.width + x) * 4;
      sum +=
        Math.abs(picture.data[i]! - picture.data[i + 4]!) +
        Math.abs(picture.data[i]! - picture.data[i + picture.width * 4]!);
      n++;
    }
  }
  return sum / n;
}

describe('rebuild', () => {
  it('is as soft as what is around it where all is out of focus: no seam is steeper than anything there', async () => {
    const [width, height] = [240, 180];
    const random = seededRandom(8);
    const lights = Array.from({ length: 26 }, () => ({
      at: [random() * width, random() * height] as const,
      wide: 14 + 16 * random(),
      colour: [random() * 160, random() * 160, random() * 160] as const,
    }));
    const picture = paint(width, height, (x, y) => {
      const sum: [number, number, number] = [14, 24, 22];
      for (const { at, wide, colour } of lights) {
        const share = Math.exp(-((x - at[0]) ** 2 + (y - at[1]) ** 2) / (2 * wide ** 2));
        for (let c = 0; c < 3; c++) sum[c]! += share * colour[c]!;
      }
      return sum.map((v) => Math.min(255, v)) as [number, number, number];
    });
    const hole = disc(width, height, 120, 90, 45);
    const out = await rebuild({ picture, hole, seed: 1 });
    let [around, seam] = [0, 0];
    for (let i = 0; i + width < hole.data.length; i++)
      for (const j of [i + 1, i + width])
        for (let c = 0; c < 3; c++) {
          if (hole.data[i] !== hole.data[j])
            seam = Math.max(seam, Math.abs(out.data[i * 4 + c]! - out.data[j * 4 + c]!));
          else if (!hole.data[i] && j % width !== 0)
            around = Math.max(around, Math.abs(picture.data[i * 4 + c]! - picture.data[j * 4 + c]!));
        }
    expect(seam).to.be.at.most(2 * around);
  });

  it('continues a periodic pattern in step, within a few bytes of the truth', async () => {
    const truth = paint(160, 120, (x, y) =>
      x % 16 < 5 ? [200, 60, 40] : y % 20 < 6 ? [40, 60, 120] : [220, 210, 190],
    );
    const hole = disc(160, 120, 80, 60, 22);
    const damaged: Rgba = { ...truth, data: truth.data.slice() };
    for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) damaged.data.set([255, 0, 255, 255], i * 4);
    const out = await rebuild({ picture: damaged, hole, seed: 3 });
    let wrong = 0;
    for (let i = 0; i < hole.data.length; i++)
      if (hole.data[i] && Math.abs(out.data[i * 4]! - truth.data[i * 4]!) > 24) wrong++;
    expect(wrong / hole.data.reduce((s, v) => s + v, 0)).to.be.lessThan(0.06);
  });

  it('is as sharp inside the hole as around it', async () => {
    const picture = planks(220, 160);
    const hole = disc(220, 160, 110, 80, 34);
    const out = await rebuild({ picture, hole, seed: 1 });
    const inside = energy(out, (x, y) => Math.hypot(x - 110, y - 80) < 28);
    const around = energy(out, (x, y) => Math.hypot(x - 110, y - 80) > 42);
    expect(inside / around).to.be.within(0.8, 1.2);
  });

  it('changes nothing outside the hole and leaves no trace of what was in it', async () => {
    const picture = planks(160, 120);
    const hole = disc(160, 120, 80, 60, 20);
    for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) picture.data.set([0, 255, 0, 255], i * 4);
    const out = await rebuild({ picture, hole, seed: 1 });
    for (let i = 0; i < hole.data.length; i++) {
      if (hole.data[i]) expect(out.data[i * 4 + 1]! - out.data[i * 4]!).to.be.lessThan(30);
      else expect(out.data[i * 4]).to.equal(picture.data[i * 4]);
    }
  });

  it('a seed is a take: the same again gives the same pixels, another one other pixels', async () => {
    const picture = planks(160, 120);
    const hole = disc(160, 120, 80, 60, 24);
    const [a, b, c] = await Promise.all([1, 1, 2].map((seed) => rebuild({ picture, hole, seed })));
    expect(Buffer.from(a!.data).equals(Buffer.from(b!.data))).to.equal(true);
    expect(Buffer.from(a!.data).equals(Buffer.from(c!.data))).to.equal(false);
  });

  it('shows coarse results first, each a whole picture', async () => {
    const picture = planks(400, 300);
    let shown = 0;
    await rebuild({ picture, hole: disc(400, 300, 200, 150, 60), seed: 1 }, undefined, (p) => {
      shown++;
      expect([p.width, p.height]).to.deep.equal([400, 300]);
    });
    expect(shown).to.be.greaterThan(1);
  });

  it('stops when it is cancelled', async () => {
    let asked = 0;
    const work = rebuild(
      { picture: planks(200, 150), hole: disc(200, 150, 100, 75, 40), seed: 1 },
      { cancelled: async () => ++asked > 3 },
    );
    const error = await work.then(
      () => null,
      (e: unknown) => e,
    );
    expect(error).to.be.instanceOf(Cancelled);
    expect(asked).to.equal(4);
  });

  it('says so when nothing is left to continue from', async () => {
    const error = await rebuild({ picture: planks(60, 40), hole: makeBytes(60, 40, 1), seed: 1 }).catch(
      (e: unknown) => e,
    );
    expect(error).to.be.instanceOf(NothingToContinue);
  });

  it('an empty hole gives the picture back', async () => {
    const picture = planks(60, 40);
    const out = await rebuild({ picture, hole: makeBytes(60, 40), seed: 1 });
    expect(Buffer.from(out.data).equals(Buffer.from(picture.data))).to.equal(true);
  });

  it('patch distance is the plain sum of squared differences', () => {
    const random = seededRandom(6);
    const pixels = Uint8Array.from({ length: 30 * 20 * 4 }, () => Math.floor(random() * 256));
    const level = { width: 30, height: 20, pixels } as FillLevel;
    const [a, b] = [5 * 30 + 6, 11 * 30 + 20];
    let sum = 0;
    for (let dy = -3; dy <= 3; dy++) {
      for (let dx = -3; dx <= 3; dx++) {
        for (let c = 0; c < 3; c++)
          sum += (pixels[(a + dy * 30 + dx) * 4 + c]! - pixels[(b + dy * 30 + dx) * 4 + c]!) ** 2;
      }
    }
    expect(patchDistance(level, a, b, Infinity)).to.equal(sum);
  });
});

describe('lift', () => {
  it('makes the hole wider than the last faint trace of the piece', () => {
    const alpha = makeBytes(60, 60);
    alpha.data[30 * 60 + 30] = 4;
    const hole = holeBehind(alpha, 6);
    expect(hole.data[30 * 60 + 36]).to.equal(1);
    expect(hole.data[30 * 60 + 37]).to.equal(0);
  });

  it('gives a trimmed piece and a background with neither this piece nor the ones lifted before', async () => {
    const picture = planks(200, 140);
    const one = disc(200, 140, 60, 70, 16);
    const two = disc(200, 140, 140, 70, 16);
    for (let i = 0; i < one.data.length; i++) if (one.data[i] || two.data[i]) picture.data.set([0, 255, 0, 255], i * 4);
    const alphaOf = (m: Bytes): Bytes => ({ ...m, data: m.data.map((v) => v * 255) });
    const lifted = await cutPiece({ picture, alpha: alphaOf(one) });
    const pieces = [one, two].map((mask) => ({ alpha: alphaOf(mask), x: 0, y: 0 }));
    const { plate } = await rebuildBehind({ picture, pieces, shadows: [], seed: 1 });
    expect(lifted.bounds).to.deep.equal({ x: 45, y: 55, width: 31, height: 31 });
    expect([lifted.cutout.width, lifted.cutout.height]).to.deep.equal([31, 31]);
    for (const x of [60, 140]) expect(plate.data[(70 * 200 + x) * 4 + 1]).to.be.lessThan(200);
  });

  it('refuses to lift nothing', async () => {
    const error = await cutPiece({ picture: planks(40, 40), alpha: makeBytes(40, 40) }).catch((e: unknown) => e);
    expect(error).to.be.instanceOf(NothingToLift);
  });
});
