import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { drawStrokeWithinEdges } from './stroke-within-edges.ts';
import { drawStroke, type Stroke } from './strokes.ts';

const [width, height] = [160, 100];
type Colour = readonly [number, number, number];

/** A textured picture of two colours: `front` where `inside` says so. */
function pictureOf(inside: (x: number, y: number) => boolean, front: Colour, behind: Colour, noise: number): Rgba {
  const random = seededRandom(11);
  const picture = makeRgba(width, height);
  for (let i = 0; i < width * height; i++) {
    const colour = inside(i % width, Math.floor(i / width)) ? front : behind;
    picture.data.set([...colour.map((v) => v + noise * (random() - 0.5)), 255], i * 4);
  }
  return picture;
}

const count = ({ data }: Bytes, counts: (x: number, y: number) => boolean): number =>
  data.reduce((n, v, i) => n + (v && counts(i % width, Math.floor(i / width)) ? 1 : 0), 0);

describe('strokes that stay within edges', () => {
  const marked = (picture: Rgba, stroke: Stroke): Bytes => {
    const mask = makeBytes(width, height);
    drawStrokeWithinEdges(mask, picture, stroke, 1);
    return mask;
  };
  const along: Stroke = {
    radius: 14,
    points: [
      [20, 50],
      [140, 50],
    ],
  };

  it('a broad brush along a thin mast marks the mast and nothing else', () => {
    const mast = (_: number, y: number): boolean => Math.abs(y - 50) < 3;
    const mask = marked(pictureOf(mast, [60, 52, 48], [150, 178, 190], 10), along);
    const inBrush = (x: number, y: number): boolean => x > 16 && x < 144 && mast(x, y);
    let all = 0;
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) if (inBrush(x, y)) all++;
    expect(count(mask, inBrush) / all).to.be.greaterThan(0.97);
    expect(count(mask, (x, y) => !mast(x, y))).to.equal(0);
  });

  it('beside a border it stops at the border, whichever side its middle is on', () => {
    const left = (x: number): boolean => x < 80;
    const picture = pictureOf(left, [186, 60, 48], [212, 198, 170], 16);
    for (const x of [72, 88]) {
      const mask = marked(picture, {
        radius: 20,
        points: [
          [x, 30],
          [x, 70],
        ],
      });
      const own = (u: number): boolean => left(u) === left(x);
      expect(
        count(mask, (u) => !own(u)),
        `from ${x}`,
      ).to.equal(0);
      expect(count(mask, own), `from ${x}`).to.be.greaterThan(1200);
    }
  });

  it('on one texture, however strong, it marks what a plain stroke does', () => {
    for (const noise of [0, 12, 40]) {
      const mask = marked(
        pictureOf(() => true, [120, 130, 110], [0, 0, 0], noise),
        along,
      );
      const plain = makeBytes(width, height);
      drawStroke(plain, along, 1);
      expect(count(mask, () => true) / count(plain, () => true), `noise ${noise}`).to.be.greaterThan(0.97);
    }
  });

  it('what its middle runs over is always marked, also across an edge, and nothing beyond the brush is', () => {
    const picture = pictureOf((x) => x < 80, [20, 20, 20], [230, 230, 230], 4);
    const mask = marked(picture, along);
    for (let x = 20; x <= 140; x++) expect(mask.data[50 * width + x], `${x}`).to.equal(1);
    const plain = makeBytes(width, height);
    drawStroke(plain, along, 1);
    expect(mask.data.every((v, i) => !v || plain.data[i])).to.equal(true);
  });

  it('is drawn at any scale and partly outside the picture', () => {
    const mast = (_: number, y: number): boolean => Math.abs(y - 50) < 4;
    const mask = makeBytes(width, height);
    const picture = pictureOf(mast, [60, 52, 48], [150, 178, 190], 6);
    drawStrokeWithinEdges(
      mask,
      picture,
      {
        radius: 60,
        points: [
          [-200, 200],
          [300, 200],
        ],
      },
      1,
      0.25,
    );
    expect(count(mask, mast)).to.be.greaterThan(500);
    expect(count(mask, (x, y) => !mast(x, y))).to.equal(0);
    drawStrokeWithinEdges(mask, picture, { radius: 5, points: [[-90, -90]] }, 1);
  });
});
