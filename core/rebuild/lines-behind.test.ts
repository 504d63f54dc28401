import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { rebuild } from './fill.ts';
import type { GuideLine } from './guides.ts';
import { linesBehind } from './lines-behind.ts';
import { segmentsOf } from './segments.ts';
import { blotches, covered, disc, meanDifference, paint } from './test-pictures.ts';

/** Distance of a point from the line through two others. */
const beside = ([x, y]: readonly [number, number], { from, to }: GuideLine): number =>
  Math.abs((x - from[0]) * (to[1] - from[1]) - (y - from[1]) * (to[0] - from[0])) /
  Math.hypot(to[0] - from[0], to[1] - from[1]);

/** A bright bar over blotches: slope 0.27, eight pixels wide. */
const [width, height] = [320, 200];
const ground = blotches(width, height);
const onBar = (x: number, y: number): boolean => Math.abs(y - 60 - 0.27 * x) < 4;
const bar = paint(width, height, (x, y) => {
  const at = (y * width + x) * 4;
  return onBar(x, y)
    ? [240, 236, 226]
    : ([...ground.data.slice(at, at + 3)].map((v) => v * 0.6) as [number, number, number]);
});

/** Boards that run to (400, 40) from the lower edge of the picture to where they end, at y = 150; above them a wall. */
const [far, end] = [[400, 40] as const, 150];
const boardAt = (x: number, y: number): [number, number, number] => {
  if (y < end) return [168, 176, 190];
  const place = ((x - far[0]) / (y - far[1])) * 6;
  return Math.abs(place - Math.round(place)) < 0.05
    ? [40, 34, 30]
    : [150 + 8 * Math.sin(Math.round(place - 0.5) * 3), 132, 110];
};
// Each pixel is the mean of what lies in it, as in a photograph.
const parts = [0.125, 0.375, 0.625, 0.875];
const boards = paint(800, 500, (x, y) => {
  const seen = parts.flatMap((u) => parts.map((v) => boardAt(x + u, y + v)));
  return [0, 1, 2].map((c) => seen.reduce((sum, one) => sum + one[c]!, 0) / seen.length) as [number, number, number];
});

describe('lines behind a hole', () => {
  it('edges of a picture are found where they are, as long as they are', async () => {
    const shape = paint(200, 120, (x, y) => (x >= 40 && x < 160 && y >= 30 && y < 90 ? [200, 190, 180] : [60, 60, 70]));
    const found = (await segmentsOf(shape, makeBytes(200, 120))).sort((a, b) => b.length - a.length);
    expect(found).to.have.length(4);
    expect(found.map(({ length }) => Math.round(length / 10) * 10)).to.deep.equal([120, 120, 60, 60]);
    // An edge lies between the last dark and the first bright pixel.
    const upper = found.find(({ brighter }) => brighter[1] > 0.99)!;
    expect([upper.from[1], upper.to[1]].map((y) => Math.abs(y - 29.5) < 0.2)).to.deep.equal([true, true]);
  });

  it('that were found before are gone by, and no others looked for', async () => {
    const hole = disc(width, height, 160, 103, 40);
    const picture = covered(bar, hole, [255, 0, 255]);
    const lines = await linesBehind(picture, hole);
    const [found, known, none] = await Promise.all(
      [{}, { lines, linesKnown: true }, { linesKnown: true }].map(async (more) =>
        Buffer.from((await rebuild({ picture, hole, seed: 1, ...more })).data),
      ),
    );
    expect(known!.equals(found!)).to.equal(true);
    expect(none!.equals(found!)).to.equal(false);
  });

  it('the side of a bar goes on to where it comes out, and with it the bar', async () => {
    const hole = disc(width, height, 160, 103, 40);
    const damaged = covered(bar, hole, [255, 0, 255]);
    const lines = await linesBehind(damaged, hole);
    // The middles of both sides in the middle of the hole; a worn side is not found.
    const off = lines.map((line) => Math.min(...[-4, 4].map((side) => beside([160, 103.2 + side], line))));
    expect(lines.length).to.be.within(1, 2);
    for (const d of off) expect(d).to.be.lessThan(1.2);
    const inHole: Bytes = {
      ...hole,
      data: hole.data.map((v, i) => v & Number(onBar(i % width, Math.floor(i / width)))),
    };
    expect(meanDifference(await rebuild({ picture: damaged, hole, seed: 1 }), bar, inHole)).to.be.lessThan(25);
  });

  it('joints that run together go on as far as their neighbours do', async () => {
    const hole = disc(800, 500, 400, 190, 80);
    const lines = await linesBehind(covered(boards, hole, [255, 0, 255]), hole);
    const joints = lines.filter(({ from, to }) => Math.abs(to[1] - from[1]) > 40);
    expect(joints.length).to.be.greaterThan(3);
    for (const joint of joints) {
      expect(beside(far, joint)).to.be.lessThan(8);
      const upper = Math.min(joint.from[1], joint.to[1]);
      expect(Math.abs(upper - end), `ends at ${upper}`).to.be.lessThan(6);
    }
  });

  it('of joints that come out behind the hole for a short way only, the near halves say where they go', async () => {
    const hole = disc(800, 500, 400, 247, 75);
    const lines = await linesBehind(covered(boards, hole, [255, 0, 255]), hole);
    const joints = lines.filter(({ from, to }) => Math.abs(to[1] - from[1]) > 100);
    expect(joints.length).to.be.greaterThan(2);
    for (const joint of joints) {
      expect(beside(far, joint)).to.be.lessThan(8);
      // A whole number of sixths of the way across at one pixel below the place where they meet, but for half a joint.
      const place = ((joint.to[0] - far[0]) / (joint.to[1] - far[1])) * 6;
      expect(Math.abs(place - Math.round(place))).to.be.lessThan(0.09);
    }
  });

  it('boards behind a hole are boards again', async () => {
    const hole = disc(800, 500, 400, 190, 80);
    const made = await rebuild({ picture: covered(boards, hole, [255, 0, 255]), hole, seed: 1 });
    // Dark joints lie where they were: few pixels of the hole are dark in one and bright in the other.
    const isJoint = ({ data }: Rgba, i: number): boolean => data[4 * i]! < 90;
    let [wrong, joints] = [0, 0];
    for (let i = 0; i < hole.data.length; i++) {
      if (!hole.data[i]) continue;
      if (isJoint(boards, i)) joints++;
      if (isJoint(boards, i) !== isJoint(made, i)) wrong++;
    }
    expect(wrong / joints).to.be.lessThan(0.9);
  });

  it('what has no lines gets none, and what was drawn by hand is believed first', async () => {
    const random = seededRandom(4);
    const noise = paint(width, height, () => {
      const v = 90 + 70 * random();
      return [v, v, v * 0.9];
    });
    const hole = disc(width, height, 160, 103, 40);
    expect(await linesBehind(covered(noise, hole, [128, 128, 120]), hole)).to.have.length(0);
    const drawn: GuideLine = { from: [160, 40], to: [160, 170] };
    const lines = await linesBehind(covered(bar, hole, [255, 0, 255]), hole, [drawn]);
    // The bar would cross it.
    expect(lines).to.deep.equal([drawn]);
  });
});
