import { expect } from 'chai';
import { Cancelled } from '../pixels/progress.ts';
import { seededRandom, type RandomStream } from '../pixels/random.ts';
import { patchRadius, type FillLevel } from './fill-level.ts';
import { enlargeField, patchDistance, randomField, sweepField } from './patch-field.ts';
import { copyBest } from './copy-best.ts';
import { vote } from './vote.ts';

/** A level of stripes with a square hole in the middle. */
function level(width: number, height: number, period: number): FillLevel {
  const pixels = new Uint8Array(width * height * 4);
  const known = new Uint8Array(width * height).fill(1);
  const isSource = new Uint8Array(width * height);
  const sources: number[] = [];
  const targets: number[] = [];
  const inHole = (x: number, y: number): boolean => Math.abs(x - width / 2) < 6 && Math.abs(y - height / 2) < 6;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const v = x % period < period / 2 ? 40 : 200;
      pixels.set([v, v, v, 0], i * 4);
      if (inHole(x, y)) {
        known[i] = 0;
        pixels.set([120, 120, 120, 0], i * 4);
      }
      const edge = 2 * patchRadius;
      const near = Math.abs(x - width / 2) < 6 + patchRadius && Math.abs(y - height / 2) < 6 + patchRadius;
      if (near) targets.push(i);
      else if (x >= edge && y >= edge && x < width - edge && y < height - edge) {
        sources.push(i);
        isSource[i] = 1;
      }
    }
  }
  return {
    width,
    height,
    pixels,
    known,
    isSource,
    sources: Int32Array.from(sources),
    targets: Int32Array.from(targets),
  };
}

const sweep = (random: RandomStream) => ({
  reverse: false,
  fresh: true,
  reach: 32,
  sparse: false,
  rowPenalty: 0,
  random,
});

describe('patch fields', () => {
  it('start with sources only', () => {
    const l = level(60, 48, 8);
    const field = randomField(l, seededRandom(1));
    for (const t of l.targets) expect(l.isSource[field.match[t]!]).to.equal(1);
  });

  it('only ever get better while pixels stand still, and costs are true distances', async () => {
    const l = level(60, 48, 8);
    const random = seededRandom(2);
    const field = randomField(l, random);
    let before = Infinity;
    for (let round = 0; round < 4; round++) {
      await sweepField(l, field, { ...sweep(random), reverse: round % 2 === 1 }, undefined);
      let total = 0;
      for (const t of l.targets) {
        expect(field.cost[t]).to.equal(Math.fround(patchDistance(l, t, field.match[t]!, Infinity)));
        expect(l.isSource[field.match[t]!]).to.equal(1);
        total += field.cost[t]!;
      }
      // Coherent matches may be a few per cent worse; the sum still falls.
      expect(total).to.be.at.most(before * 1.02);
      before = total;
    }
  });

  it('double their matches on the finer level, landing on sources', async () => {
    const coarse = level(36, 30, 8);
    const fine = level(66, 54, 16);
    const random = seededRandom(3);
    const field = randomField(coarse, random);
    const larger = enlargeField(coarse, field, fine, random);
    for (const t of fine.targets) expect(fine.isSource[larger.match[t]!]).to.equal(1);
  });

  it('voting and copying bring the stripes into the hole', async () => {
    for (const finish of ['vote', 'copy'] as const) {
      const l = level(60, 48, 8);
      const random = seededRandom(4);
      const field = randomField(l, random);
      const trust = new Float32Array(l.width * l.height).fill(1);
      for (let round = 0; round < 6; round++) {
        await sweepField(l, field, sweep(random), undefined);
        if (finish === 'copy' && round === 5) await copyBest(l, field, trust, undefined);
        else await vote(l, field, trust, true, undefined);
      }
      let wrong = 0;
      let n = 0;
      for (const t of l.targets) {
        if (l.known[t]) continue;
        n++;
        if (Math.abs(l.pixels[t * 4]! - ((t % l.width) % 8 < 4 ? 40 : 200)) > 40) wrong++;
      }
      expect(wrong / n, finish).to.be.lessThan(0.12);
    }
  });

  it('copies only bytes that are in the picture', async () => {
    const l = level(60, 48, 8);
    const field = randomField(l, seededRandom(5));
    await sweepField(l, field, sweep(seededRandom(6)), undefined);
    await copyBest(l, field, new Float32Array(l.width * l.height).fill(1), undefined);
    for (const t of l.targets) if (!l.known[t]) expect([40, 200]).to.include(l.pixels[t * 4]);
  });

  it('stop between blocks when asked', async () => {
    const l = level(60, 48, 8);
    const error = await sweepField(l, randomField(l, seededRandom(7)), sweep(seededRandom(8)), {
      cancelled: async () => true,
    }).catch((e: unknown) => e);
    expect(error).to.be.instanceOf(Cancelled);
  });
});
