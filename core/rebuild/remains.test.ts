import { expect } from 'chai';
import { Cancelled } from '../pixels/progress.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { rebuildBehind } from './behind.ts';
import { withoutCrumbs } from './hole.ts';
import { remainsBeside } from './remains.ts';

const [width, height] = [240, 180];
type Place = (x: number, y: number) => boolean;
const disc =
  (cx: number, cy: number, r: number): Place =>
  (x, y) =>
    Math.hypot(x - cx, y - cy) < r;
const body = disc(120, 90, 40);
/** A tip beside the body, partly within. */
const tip = disc(161, 90, 5);

/** Boards with grain, and on them what is painted in a colour where a place says so. */
function boards(things: [Place, [number, number, number]][], scale = 1): Rgba {
  const random = seededRandom(5);
  const picture = makeRgba(width * scale, height * scale);
  for (let i = 0; i < picture.width * picture.height; i++) {
    const [x, y] = [(i % picture.width) / scale, Math.floor(i / picture.width) / scale];
    const thing = things.findLast(([at]) => at(x, y));
    const tone = (Math.floor(y / 15) % 3) * 14 + 6 * Math.sin(x * 0.3 + Math.floor(y / 15)) + 8 * random();
    picture.data.set([...(thing?.[1] ?? [128 + tone, 112 + tone, 92 + tone]), 255], i * 4);
  }
  return picture;
}
const maskOf = (place: Place, scale = 1): Bytes => {
  const mask = makeBytes(width * scale, height * scale);
  mask.data.forEach((_, i) => {
    mask.data[i] = place((i % mask.width) / scale, Math.floor(i / mask.width) / scale) ? 1 : 0;
  });
  return mask;
};
/** Share of the pixels at a place that a mask holds, of those outside the body. */
function shareOf(mask: Bytes | null, place: Place, scale = 1): number {
  let [held, all] = [0, 0];
  maskOf(place, scale).data.forEach((v, i) => {
    if (!v || body((i % (width * scale)) / scale, Math.floor(i / (width * scale)) / scale)) return;
    all++;
    held += mask?.data[i] ?? 0;
  });
  return held / all;
}
const red: [number, number, number] = [180, 40, 40];
const pale: [number, number, number] = [244, 240, 236];

describe('remains of a thing beside its hole', () => {
  it('are found whatever their colour, as long as the ground has none like it, at any size of the picture', async () => {
    for (const scale of [1, 5])
      for (const colour of [red, pale]) {
        const picture = boards(
          [
            [body, red],
            [tip, colour],
          ],
          scale,
        );
        const remains = await remainsBeside(picture, maskOf(body, scale));
        expect(shareOf(remains, tip, scale)).to.be.above(0.97);
        const beyond: Place = (x, y) => !disc(161, 90, 9)(x, y);
        expect(shareOf(remains, beyond, scale)).to.be.below(0.003);
      }
  });

  it('are none in a ground with nothing on it, and none of a thing that goes on', async () => {
    expect(shareOf(await remainsBeside(boards([[body, red]]), maskOf(body)), () => true)).to.be.below(0.003);
    const mast: Place = (x, y) => x > 120 && Math.abs(y - 90) < 6;
    const picture = boards([
      [body, red],
      [mast, pale],
    ]);
    expect(shareOf(await remainsBeside(picture, maskOf(body)), mast)).to.be.below(0.05);
  });

  it('are none of what lies apart from the hole, or where nothing may be taken', async () => {
    const apart = disc(166, 90, 4);
    const picture = boards([
      [body, red],
      [apart, pale],
    ]);
    expect(shareOf(await remainsBeside(picture, maskOf(body)), apart)).to.equal(0);
    const attached = boards([
      [body, red],
      [tip, pale],
    ]);
    expect(shareOf(await remainsBeside(attached, maskOf(body), maskOf(tip)), tip)).to.equal(0);
    expect(await remainsBeside(attached, makeBytes(width, height))).to.equal(null);
  });

  it('do not stand in the plate, nor spread into it', async () => {
    const truth = boards([]);
    const picture = boards([
      [body, red],
      [tip, pale],
    ]);
    const alpha = maskOf(body);
    alpha.data.forEach((v, i) => (alpha.data[i] = v * 255));
    const { plate, hole } = await rebuildBehind({ picture, pieces: [{ alpha, x: 0, y: 0 }], shadows: [], seed: 3 });
    expect(shareOf(hole, tip)).to.be.above(0.97);
    for (const [x, y] of [
      [164, 90],
      [155, 90],
      [140, 84],
    ] as const)
      expect(plate.data[(y * width + x) * 4 + 2], `${x}, ${y}`).to.be.closeTo(truth.data[(y * width + x) * 4 + 2]!, 40);
  });

  it('are no longer looked for when that is not wanted any more', async () => {
    const wish = remainsBeside(boards([[body, red]]), maskOf(body), null, { cancelled: () => Promise.resolve(true) });
    expect(await wish.catch((error: unknown) => error)).to.be.instanceOf(Cancelled);
  });

  it('crumbs of a few pixels within a hole are part of it, and what a ring lets be seen is not', () => {
    const ring: Place = (x, y) =>
      disc(120, 90, 50)(x, y) && !disc(120, 90, 20)(x, y) && Math.hypot(x - 120, y - 125) > 2.5;
    const hole = maskOf(ring);
    const filled = withoutCrumbs(hole, 64);
    expect(filled.data[125 * width + 120]).to.equal(1);
    expect(filled.data[90 * width + 120]).to.equal(0);
    expect(filled.data[5 * width + 5]).to.equal(0);
    expect(hole.data[125 * width + 120]).to.equal(0);
  });
});
