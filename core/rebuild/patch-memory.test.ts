import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { copyBest } from './copy-best.ts';
import { rebuild } from './fill.ts';
import { levelBytes, makeLevel, type PyramidLevel } from './levels.ts';
import { dominantOffsets } from './offsets.ts';
import { patchRadius, type FillLevel } from './fill-level.ts';
import { enlargeField, patchDistance, randomField, sweepField, usageOf, type PatchField } from './patch-field.ts';
import { comparingPlainly, PatchMemory, roomFor } from './patch-memory.ts';
import { blotches, disc, planks } from './test-pictures.ts';
import { vote } from './vote.ts';

/** A level whose lists lie in the memory of a kernel, and the same without one. */
async function bothLevels(size: [number, number], radius: number): Promise<[PyramidLevel, PyramidLevel, PatchMemory]> {
  const [width, height] = size;
  const step = {
    picture: blotches(width, height),
    hole: disc(width, height, width * 0.55, height / 2, radius),
    barred: null,
  };
  const length = width * 0.8;
  const lines = [
    { x: width * 0.1, y: height * 0.4, dx: 0.96, dy: 0.28, length },
    { x: width * 0.5, y: 5, dx: 0, dy: 1, length },
  ];
  const memory = new PatchMemory();
  memory.reserve([levelBytes(step.picture)]);
  const placed = (await makeLevel(step, lines, undefined, memory))!;
  const plain = (await makeLevel(step, lines))!;
  expect(placed.level.room!.kernel).to.not.equal(null);
  expect(plain.level.room!.kernel).to.equal(null);
  return [placed, plain, memory];
}

const same = (one: ArrayLike<number>, other: ArrayLike<number>): Chai.Assertion =>
  expect(Array.from(one)).to.deep.equal(Array.from(other));

function sameFields(one: PatchField, other: PatchField): void {
  same(one.match, other.match);
  same(one.cost, other.cost);
}

describe('patches in the memory of a kernel', () => {
  it('differ by as much as the plain sum says, row for row up to the limit', () => {
    const random = seededRandom(11);
    const [width, height] = [41, 33];
    const memory = new PatchMemory();
    memory.reserve([roomFor(width * height * 4)]);
    const room = memory.room(roomFor(width * height * 4));
    const pixels = room.bytes(width * height * 4);
    for (let i = 0; i < pixels.length; i++) pixels[i] = random() < 0.1 ? 255 : Math.floor(random() * 256);
    const plain = { width, height, pixels } as FillLevel;
    const byKernel = (a: number, b: number, limit: number): number => {
      const corner = pixels.byteOffset - (patchRadius * width + patchRadius) * 4;
      return room.kernel!.patchDistance(corner + a * 4, corner + b * 4, width * 4, limit);
    };
    const centre = (): number =>
      (patchRadius + Math.floor(random() * (height - 2 * patchRadius))) * width +
      patchRadius +
      Math.floor(random() * (width - 2 * patchRadius));
    for (let k = 0; k < 3000; k++) {
      const [a, b] = [centre(), centre()];
      const limit = k % 3 === 0 ? Infinity : random() * 2e6;
      expect(byKernel(a, b, limit)).to.equal(patchDistance(plain, a, b, limit));
    }
    const [a, b] = [patchRadius * width + patchRadius, (height - 1 - patchRadius) * width + width - 1 - patchRadius];
    expect(byKernel(a, b, Infinity)).to.equal(patchDistance(plain, a, b, Infinity));
    // Nothing is farther apart than black and white.
    for (const [from, value] of [
      [a, 0],
      [b, 255],
    ] as const)
      for (let dy = -patchRadius; dy <= patchRadius; dy++)
        pixels.fill(value, (from + dy * width - patchRadius) * 4, (from + dy * width + patchRadius + 1) * 4);
    expect(byKernel(a, b, Infinity)).to.equal(49 * 3 * 255 ** 2);
    memory.release();
  });

  it('are matched, counted, voted on and copied number for number as without it', async () => {
    for (const [size, radius] of [
      [[90, 70], 17],
      [[61, 83], 11],
      [[41, 40], 6],
    ] as const) {
      const [placed, plain, memory] = await bothLevels([...size], radius);
      const both = [placed, plain] as const;
      const randoms = [seededRandom(5), seededRandom(5)] as const;
      const fields = both.map(({ level }, k) => randomField(level, randoms[k]!)) as [PatchField, PatchField];
      sameFields(...fields);
      for (let round = 0; round < 5; round++) {
        for (const k of [0, 1] as const) {
          const { level, trust } = both[k];
          const usage = round === 1 ? null : usageOf(level, fields[k]);
          // In one round only every second target is looked at.
          const looked = round === 3 ? { ...level, targets: level.targets.filter((_, n) => n % 2 === 0) } : level;
          const sweep = {
            reverse: round % 2 === 1,
            fresh: round !== 2,
            reach: 30,
            sparse: round === 4,
            rowPenalty: 300,
          };
          await sweepField(looked, fields[k], { ...sweep, usage, random: randoms[k] }, undefined);
          if (round < 4) await vote(looked, fields[k], trust, round > 0, undefined);
        }
        sameFields(...fields);
        same(placed.level.pixels, plain.level.pixels);
      }
      expect(randoms[0]()).to.equal(randoms[1]());
      const origins = [
        await copyBest(placed.level, fields[0], placed.trust, undefined),
        await copyBest(plain.level, fields[1], plain.trust, undefined),
      ] as const;
      same(...origins);
      same(placed.level.pixels, plain.level.pixels);
      expect(origins[0].some((from) => from >= 0)).to.equal(true);
      memory.release();
    }
  });

  it('repeat themselves at the same offsets, and are enlarged to the same matches', async () => {
    const [placed, plain, memory] = await bothLevels([120, 90], 20);
    const offsets = await Promise.all([placed, plain].map(({ level }) => dominantOffsets(level, 12, seededRandom(3))));
    expect(offsets[0]).to.deep.equal(offsets[1]);
    expect(offsets[0]!.length).to.be.greaterThan(4);
    memory.release();
    const steps = [
      [120, 90, 20],
      [60, 45, 10],
    ].map(([w, h, r]) => ({ picture: planks(w!, h!), hole: disc(w!, h!, w! / 2, h! / 2, r!), barred: null }));
    const enlarged = async (memory?: PatchMemory): Promise<PatchField> => {
      memory?.reserve(steps.map(({ picture }) => levelBytes(picture)));
      const [fine, coarse] = [
        (await makeLevel(steps[0]!, [], undefined, memory))!,
        (await makeLevel(steps[1]!, [], undefined, memory))!,
      ];
      const random = seededRandom(9);
      const field = randomField(coarse.level, random);
      const sweep = { reverse: false, fresh: true, reach: 20, sparse: false, rowPenalty: 0, random };
      await sweepField(coarse.level, field, sweep, undefined);
      return enlargeField(coarse.level, field, fine.level, random);
    };
    sameFields(await enlarged(new PatchMemory()), await enlarged());
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

  it('lie in rooms apart, and those of two rebuilds at once in memories of their own', () => {
    const [one, two] = [new PatchMemory(), new PatchMemory()];
    one.reserve([roomFor(100, 40), roomFor(64)]);
    two.reserve([roomFor(100)]);
    const [room, small, elsewhere] = [one.room(roomFor(100, 40)), one.room(roomFor(64)), two.room(roomFor(100))];
    const [first, floats, second, other] = [room.bytes(100), room.floats(10), small.bytes(64), elsewhere.bytes(100)];
    expect(one.room(1).kernel).to.equal(null);
    expect(elsewhere.kernel).to.not.equal(room.kernel);
    for (const [k, list] of [first, floats, second, other].entries()) list.fill(k + 1);
    for (const [k, list] of [first, floats, second, other].entries())
      expect(new Set(list)).to.deep.equal(new Set([k + 1]));
    // What a room has no more space for lies outside of the memory, and works all the same.
    const beyond = room.ints(1000);
    expect(beyond.buffer).to.not.equal(first.buffer);
    expect([beyond.length, ...new Set(beyond)]).to.deep.equal([1000, 0]);
    one.release();
    expect(one.room(1).kernel).to.equal(null);
    // What is used again is empty.
    const again = new PatchMemory();
    again.reserve([roomFor(100)]);
    const empty = again.room(roomFor(100));
    expect(empty.kernel).to.equal(room.kernel);
    expect(new Set(empty.bytes(100))).to.deep.equal(new Set([0]));
    again.release();
    two.release();
  });
});
