import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { blendSeams } from './blend.ts';
import { makeLevel, shrinkingSteps } from './levels.ts';
import { matchSurroundings } from './membrane.ts';
import { besideLine, patchRadius } from './fill-level.ts';
import { usageOf, type PatchField } from './patch-field.ts';
import { solveShiftMap } from './shift-map.ts';
import { blotches, disc, paint, planks } from './test-pictures.ts';

const levelOf = async (picture: Rgba, hole: Bytes, barred: Bytes | null = null) =>
  (await makeLevel({ picture, hole, barred }))!;

describe('levels of a fill', () => {
  it('targets are exactly the patches that touch the hole, sources those that do not', async () => {
    const random = seededRandom(3);
    const hole = makeBytes(50, 40);
    for (let k = 0; k < 6; k++) hole.data[Math.floor(random() * 2000)] = 1;
    const { level } = await levelOf(planks(50, 40), hole);
    const touches = (i: number): boolean => {
      for (let dy = -patchRadius; dy <= patchRadius; dy++)
        for (let dx = -patchRadius; dx <= patchRadius; dx++) if (!level.known[i + dy * level.width + dx]) return true;
      return false;
    };
    const targets = new Set(level.targets);
    for (let y = patchRadius; y < level.height - patchRadius; y++) {
      for (let x = patchRadius; x < level.width - patchRadius; x++) {
        const i = y * level.width + x;
        expect(targets.has(i)).to.equal(touches(i));
        if (level.isSource[i]) expect(touches(i)).to.equal(false);
      }
    }
  });

  it('barred places are no sources', async () => {
    const barred = makeBytes(60, 40);
    for (let y = 0; y < 40; y++) barred.data.fill(1, y * 60 + 30, y * 60 + 60);
    const { level } = await levelOf(planks(60, 40), disc(60, 40, 14, 20, 4), barred);
    for (const s of level.sources) expect((s % level.width) - patchRadius).to.be.lessThan(30);
  });

  it('shrink until the hole is a few patches deep, and never let the hole bleed into its surroundings', async () => {
    const picture = paint(256, 200, () => [100, 150, 200]);
    const hole = disc(256, 200, 128, 100, 50);
    for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) picture.data.set([255, 0, 0], i * 4);
    const steps = await shrinkingSteps({ picture, hole, barred: null });
    expect(steps.length).to.be.within(3, 5);
    const last = steps.at(-1)!;
    for (let i = 0; i < last.hole.data.length; i++)
      if (!last.hole.data[i]) expect([...last.picture.data.slice(i * 4, i * 4 + 3)]).to.deep.equal([100, 150, 200]);
  });
});

describe('joining copies', () => {
  it('an offset that reproduces the picture is chosen over one that is only more frequent', async () => {
    const picture = paint(90, 70, (x, y) => [(x % 18) * 12, (y % 70) * 3, 60]);
    const { level } = await levelOf(picture, disc(90, 70, 45, 35, 7));
    const exact = { x: 18, y: 0, share: 0.2 };
    const wrong = { x: 11, y: 0, share: 1 };
    const map = await solveShiftMap(level, [wrong, exact], 0, seededRandom(1));
    expect(new Set(map.label)).to.deep.equal(new Set([1]));
  });

  it('light that a copy lacks is given to it: copied from the dark side, the hole ends as bright as what surrounds it', async () => {
    const texture = (x: number, y: number): number =>
      150 + 12 * Math.sin((x * Math.PI) / 5) * Math.sin((y * Math.PI) / 5);
    const lit = (x: number): number => (x < 60 ? 0.75 : 1);
    const picture = paint(140, 80, (x, y) => [texture(x, y) * lit(x), texture(x, y) * lit(x), texture(x, y) * lit(x)]);
    const { level } = await levelOf(picture, disc(140, 80, 100, 40, 14));
    const hole = [...level.targets].filter((t) => !level.known[t]);
    const truth = hole.map((t) => level.pixels[t * 4]!);
    const origin = new Int32Array(level.known.length).fill(-1);
    for (const t of hole) {
      // Seventy pixels are seven periods of the texture.
      origin[t] = t - 70;
      for (let c = 0; c < 3; c++) level.pixels[t * 4 + c] = level.pixels[(t - 70) * 4 + c]!;
    }
    const off = (): number =>
      hole.reduce((sum, t, k) => sum + Math.abs(level.pixels[t * 4]! - truth[k]!), 0) / hole.length;
    expect(off()).to.be.greaterThan(30);
    await blendSeams(level, origin);
    expect(off()).to.be.lessThan(6);
  });

  it('a membrane gives copied pixels the harmonic part of the difference around them, exactly for a plane', async () => {
    const picture = paint(70, 60, (x, y) => [60 + x, 50 + 2 * y, 90]);
    const under = disc(70, 60, 35, 30, 12);
    const copied = new Float32Array(70 * 60 * 3).fill(40);
    await matchSurroundings(picture, copied, under);
    for (let i = 0; i < under.data.length; i++) {
      if (!under.data[i]) continue;
      expect(copied[i * 3]).to.be.closeTo(60 + (i % 70), 1.5);
      expect(copied[i * 3 + 1]).to.be.closeTo(50 + 2 * Math.floor(i / 70), 2.5);
      expect(copied[i * 3 + 2]).to.be.closeTo(90, 2);
    }
  });

  it('use is counted per block: every target once', async () => {
    const { level } = await levelOf(blotches(60, 48), disc(60, 48, 30, 24, 6));
    const field: PatchField = {
      match: new Int32Array(level.known.length),
      cost: new Float32Array(level.known.length),
    };
    for (const t of level.targets) field.match[t] = level.sources[0]!;
    const { share } = usageOf(level, field);
    const used = [...share].filter((s) => s > 0);
    expect(used).to.have.length(1);
    expect(used[0]).to.be.closeTo(level.targets.length / 16, 1e-3);
  });

  it('how far a point lies beside a line has a side', () => {
    const line = { x: 10, y: 10, dx: 0.6, dy: 0.8, length: 20 };
    expect(besideLine(line, 10 + 0.6 * 7, 10 + 0.8 * 7)).to.be.closeTo(0, 1e-9);
    expect(besideLine(line, 10 + 0.8 * 3, 10 - 0.6 * 3)).to.be.closeTo(3, 1e-9);
    expect(besideLine(line, 10 - 0.8 * 3, 10 + 0.6 * 3)).to.be.closeTo(-3, 1e-9);
  });
});
