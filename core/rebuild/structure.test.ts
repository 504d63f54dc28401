import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, type Bytes } from '../pixels/raster.ts';
import { rebuild } from './fill.ts';
import { barredBy, noGuides } from './guides.ts';
import { makeLevel } from './levels.ts';
import { dominantOffsets } from './offsets.ts';
import { solveShiftMap } from './shift-map.ts';
import { mannerOf, nextSeeds } from './takes.ts';
import { blotches, covered, disc, meanDifference, paint, planks } from './test-pictures.ts';

describe('structure', () => {
  it('the offsets found are the periods of a pattern', async () => {
    const picture = paint(150, 110, (x, y) => (x % 19 < 6 || y % 23 < 5 ? [60, 60, 70] : [200, 190, 170]));
    const { level } = (await makeLevel({ picture, hole: disc(150, 110, 75, 55, 14), barred: null }))!;
    const offsets = await dominantOffsets(level, 8, seededRandom(2));
    expect(offsets.length).to.be.greaterThan(3);
    for (const { x, y } of offsets) {
      expect(Math.abs(x) % 19, `x ${x}`).to.equal(0);
      expect(Math.abs(y) % 23, `y ${y}`).to.equal(0);
    }
  });

  it('an offset that does not fit the pattern is not used, those that fit lead to known places', async () => {
    const picture = planks(120, 90);
    const { level } = (await makeLevel({ picture, hole: disc(120, 90, 60, 45, 9), barred: null }))!;
    const offsets = [24, -24, 48, -48].map((x) => ({ x, y: 0, share: 1 })).concat([{ x: 17, y: 3, share: 1 }]);
    const map = await solveShiftMap(level, offsets, 0, seededRandom(1));
    // 17 does not fit the planks; the others do.
    expect([...map.label].filter((l) => l === 4)).to.have.length(0);
    expect([...map.valid].every((v) => v === 1)).to.equal(true);
  });

  it('light runs on through the hole where the texture repeats', async () => {
    const light = (x: number): number => 0.55 + 0.45 * (x / 260);
    const picture = paint(260, 180, (x, y) => {
      const tile = (x % 20 < 3 || y % 20 < 3 ? 0.5 : 1) * 220 * light(x);
      return [tile, tile, tile];
    });
    const hole = disc(260, 180, 130, 90, 34);
    const out = await rebuild({ picture: covered(picture, hole, [255, 0, 255]), hole, seed: 1 });
    expect(meanDifference(out, picture, hole)).to.be.lessThan(6);
  });

  it('a guide line carries a slanted bar straight through the hole', async () => {
    const ground = blotches(320, 200);
    const isBar = (x: number, y: number): boolean => Math.abs(y - 60 - 0.27 * x) < 4;
    const picture = paint(320, 200, (x, y) =>
      isBar(x, y)
        ? [240, 236, 226]
        : ([...ground.data.slice((y * 320 + x) * 4, (y * 320 + x) * 4 + 3)].map((v) => v * 0.6) as [
            number,
            number,
            number,
          ]),
    );
    const hole = disc(320, 200, 160, 103, 40);
    const damaged = covered(picture, hole, [255, 0, 255]);
    const bar: Bytes = makeBytes(320, 200);
    for (let i = 0; i < bar.data.length; i++) bar.data[i] = hole.data[i] && isBar(i % 320, Math.floor(i / 320)) ? 1 : 0;
    const lines = [{ from: [90.5, 84.8], to: [230.5, 122.6] } as const];
    const guided = await rebuild({ picture: damaged, hole, seed: 1, lines });
    expect(meanDifference(guided, picture, bar)).to.be.lessThan(25);
  });

  it('nothing comes from where the guides forbid it', async () => {
    // Grey left, red right: with the right forbidden, no red may appear.
    const noise = seededRandom(5);
    const picture = paint(200, 140, (x) => (x < 110 ? [120 + 40 * noise(), 120, 120] : [220 + 30 * noise(), 40, 40]));
    const hole = disc(200, 140, 118, 70, 20);
    const never = [
      {
        radius: 60,
        points: [
          [165, 0],
          [165, 140],
        ] as [number, number][],
      },
    ];
    const barred = barredBy({ ...noGuides, never }, 200, 140);
    const out = await rebuild({ picture, hole, seed: 1, barred });
    // Grey is 120 and red 40; at the rim light is matched a little, deeper in nothing red may be found.
    const deep = disc(200, 140, 112, 70, 16);
    for (let i = 0; i < hole.data.length; i++)
      if (hole.data[i] && deep.data[i]) expect(out.data[i * 4 + 1]).to.be.greaterThan(90);
    const from = barredBy({ ...noGuides, from: never }, 200, 140)!;
    expect(from.data[70 * 200 + 165]).to.equal(0);
    expect(from.data[70 * 200 + 20]).to.equal(1);
    expect(barredBy(noGuides, 200, 140)).to.equal(null);
  });

  it('what will not be seen is filled too, with nothing of the subject left', async () => {
    const picture = planks(400, 280);
    const hole = disc(400, 280, 200, 140, 70);
    const damaged = covered(picture, hole, [0, 255, 0]);
    const seen = disc(400, 280, 140, 140, 30);
    const out = await rebuild({ picture: damaged, hole, seed: 1, seen });
    for (let i = 0; i < hole.data.length; i++)
      if (hole.data[i]) expect(out.data[i * 4 + 1]! - out.data[i * 4]!).to.be.lessThan(30);
  });

  it('takes differ in manner, and seeds go on from those there are', () => {
    expect(new Set([1, 2, 3, 4].map(mannerOf)).size).to.equal(4);
    expect(mannerOf(5)).to.equal(mannerOf(1));
    expect(nextSeeds([])).to.deep.equal([1, 2, 3, 4]);
    expect(nextSeeds([1, 2, 3, 4, 9])).to.deep.equal([10, 11, 12, 13]);
  });
});
