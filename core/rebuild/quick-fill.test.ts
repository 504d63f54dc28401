import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { quickFill } from './quick-fill.ts';

/** Boards of two tones with noise. */
function boards(width: number, height: number): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(2);
  for (let i = 0; i < width * height; i++) {
    const tone = Math.floor(((i % width) * 30) / width) % 2 ? 150 : 96;
    picture.data.set(
      [tone, tone * 0.8, tone * 0.6, 255].map((v, c) => (c < 3 ? v + 14 * (random() - 0.5) : v)),
      i * 4,
    );
  }
  return picture;
}

const lowerHalf = (width: number, height: number): Bytes => {
  const hole = makeBytes(width, height);
  for (let i = 0; i < hole.data.length; i++) hole.data[i] = i > width * height * 0.55 ? 1 : 0;
  return hole;
};

describe('continuing a large hole quickly', () => {
  for (const [width, height] of [
    [420, 280],
    [1500, 900],
  ] as const)
    it(`leaves all pixels outside as they were, and goes on with what surrounds it, at ${width} x ${height}`, async () => {
      const picture = boards(width, height);
      const hole = lowerHalf(width, height);
      const filled = await quickFill(picture, hole);
      let [error, count] = [0, 0];
      for (let i = 0; i < hole.data.length; i++) {
        if (!hole.data[i]) {
          for (let c = 0; c < 4; c++) if (filled.data[i * 4 + c] !== picture.data[i * 4 + c]) expect.fail(`pixel ${i}`);
          continue;
        }
        if (filled.data[i * 4 + 3] !== 255) expect.fail(`pixel ${i} is not solid`);
        // Near the rim boards go on as boards.
        if (i > width * height * 0.58) continue;
        error += Math.abs(filled.data[i * 4]! - picture.data[i * 4]!);
        count++;
      }
      expect(error / count).to.be.below(14);
    });

  it('changes nothing where there is no hole', async () => {
    const picture = boards(60, 40);
    expect((await quickFill(picture, makeBytes(60, 40))).data).to.deep.equal(picture.data);
  });
});
