import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { rebuild } from './fill.ts';
import { patchDistance, patchRadius, type FillLevel } from './patch-field.ts';
import { comparingPlainly, PatchMemory } from './patch-memory.ts';
import { blotches, disc, planks } from './test-pictures.ts';

describe('patches in the memory of a kernel', () => {
  it('differ by as much as the plain sum says, row for row up to the limit', () => {
    const random = seededRandom(11);
    const [width, height] = [41, 33];
    const memory = new PatchMemory();
    memory.reserve([width * height * 4]);
    const placed = memory.take(width * height * 4)!;
    for (let i = 0; i < placed.pixels.length; i++) placed.pixels[i] = random() < 0.1 ? 255 : Math.floor(random() * 256);
    const plain = { width, height, pixels: placed.pixels.slice() } as FillLevel;
    const level: FillLevel = { ...plain, pixels: placed.pixels, placed };
    const centre = (): number =>
      (patchRadius + Math.floor(random() * (height - 2 * patchRadius))) * width +
      patchRadius +
      Math.floor(random() * (width - 2 * patchRadius));
    for (let k = 0; k < 3000; k++) {
      const [a, b] = [centre(), centre()];
      const limit = k % 3 === 0 ? Infinity : random() * 2e6;
      expect(patchDistance(level, a, b, limit)).to.equal(patchDistance(plain, a, b, limit));
    }
    const [a, b] = [patchRadius * width + patchRadius, (height - 1 - patchRadius) * width + width - 1 - patchRadius];
    expect(patchDistance(level, a, b, Infinity)).to.equal(patchDistance(plain, a, b, Infinity));
    // Nothing is farther apart than black and white.
    for (const [from, value] of [
      [a, 0],
      [b, 255],
    ] as const)
      for (let dy = -patchRadius; dy <= patchRadius; dy++)
        placed.pixels.fill(value, (from + dy * width - patchRadius) * 4, (from + dy * width + patchRadius + 1) * 4);
    expect(patchDistance(level, a, b, Infinity)).to.equal(49 * 3 * 255 ** 2);
    memory.release();
  });

  it('are rebuilt to the same bytes as without it, in every manner of a take', async () => {
    const board = planks(150, 110);
    const wander = blotches(150, 110);
    for (const [picture, seed] of [
      [board, 1],
      [board, 2],
      [wander, 3],
      [wander, 4],
    ] as const) {
      const request = { picture, hole: disc(150, 110, 80, 56, 20), seed };
      const byKernel = await rebuild(request);
      const plain = await comparingPlainly(() => rebuild(request));
      expect(Buffer.compare(Buffer.from(byKernel.data), Buffer.from(plain.data)), `seed ${seed}`).to.equal(0);
    }
  });

  it('lie apart, and those of two rebuilds at once in memories of their own', () => {
    const [one, two] = [new PatchMemory(), new PatchMemory()];
    one.reserve([100, 64]);
    two.reserve([100]);
    const [first, second, other] = [one.take(100)!, one.take(64)!, two.take(100)!];
    expect(one.take(1)).to.equal(null);
    expect(other.kernel).to.not.equal(first.kernel);
    first.pixels.fill(1);
    second.pixels.fill(2);
    other.pixels.fill(3);
    expect(new Set(first.pixels)).to.deep.equal(new Set([1]));
    expect(new Set(second.pixels)).to.deep.equal(new Set([2]));
    one.release();
    expect(one.take(1)).to.equal(null);
    // What is used again is empty.
    const again = new PatchMemory();
    again.reserve([100]);
    const empty = again.take(100)!;
    expect(empty.kernel).to.equal(first.kernel);
    expect(new Set(empty.pixels)).to.deep.equal(new Set([0]));
    again.release();
    two.release();
  });
});
