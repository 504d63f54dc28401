import { expect } from 'chai';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { borderOf, colourGap, overlap } from './agreement.ts';

/** A mask of columns from..to - 1 in 20 x 10 pixels. */
function columns(from: number, to: number): Bytes {
  const mask = makeBytes(20, 10);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = i % 20 >= from && i % 20 < to ? 1 : 0;
  return mask;
}

/** Grey by column. */
function greys(of: (x: number) => number): Rgba {
  const picture = makeRgba(20, 10);
  for (let i = 0; i < 200; i++) picture.data.set([of(i % 20), of(i % 20), of(i % 20), 255], i * 4);
  return picture;
}

describe('how a guess agrees with a picture', () => {
  it('overlap is intersection over union', () => {
    expect(overlap(columns(0, 10), columns(5, 15))).to.be.closeTo(5 / 15, 1e-12);
    expect(overlap(columns(2, 7), columns(2, 7))).to.equal(1);
    expect(overlap(columns(0, 0), columns(0, 0))).to.equal(0);
  });

  it('colours that are not shared are a gap of 1, colours half of which are shared one in between', () => {
    expect(
      colourGap(
        greys((x) => (x < 8 ? 10 : 200)),
        columns(0, 8),
      ),
    ).to.equal(1);
    expect(
      colourGap(
        greys(() => 90),
        columns(0, 8),
      ),
    ).to.be.closeTo(0, 1e-12);
    // Inside two colours by halves, outside one of them: 1 - sqrt(1/2 * 1).
    const halves = greys((x) => (x < 4 ? 10 : 200));
    expect(colourGap(halves, columns(0, 8))).to.be.closeTo(1 - Math.sqrt(0.5), 1e-12);
    // What lies beyond where it counts is not seen.
    expect(
      colourGap(
        greys((x) => (x < 8 || x > 12 ? 10 : 200)),
        columns(0, 8),
        columns(0, 12),
      ),
    ).to.equal(1);
  });

  it('a border is as long as its pairs of pixels, and as strong as the share of them where colours part', () => {
    const picture = greys((x) => (x < 8 ? 10 : 200));
    expect(borderOf(picture, columns(0, 8))).to.deep.equal({ length: 10, strength: 1 });
    // One side lies on the edge, the other on nothing; the frame is no border.
    expect(borderOf(picture, columns(8, 15))).to.deep.equal({ length: 20, strength: 0.5 });
    expect(borderOf(picture, columns(0, 20))).to.deep.equal({ length: 0, strength: 0 });
  });

  it('a border a pixel beside the edge still lies on it, two beside does not', () => {
    const picture = greys((x) => (x < 8 ? 10 : 200));
    expect(borderOf(picture, columns(0, 9)).strength).to.equal(1);
    expect(borderOf(picture, columns(0, 10)).strength).to.equal(0);
  });

  it('a soft edge is one, and colours that hardly part are none', () => {
    const soft = greys((x) => Math.max(0, Math.min(200, 100 + 30 * (x - 7.5))));
    expect(borderOf(soft, columns(0, 8)).strength).to.equal(1);
    expect(
      borderOf(
        greys((x) => (x < 8 ? 100 : 120)),
        columns(0, 8),
      ).strength,
    ).to.equal(0);
  });
});
