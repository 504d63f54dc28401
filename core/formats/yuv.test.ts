import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { i420Bytes, plainLimitedI420, toLimitedI420 } from './yuv.ts';

const flat = (r: number, g: number, b: number, width = 4, height = 2): Uint8ClampedArray =>
  new Uint8ClampedArray(Array.from({ length: width * height }, () => [r, g, b, 255]).flat());

const converted = (data: Uint8ClampedArray, width: number, height: number): Uint8Array => {
  const out = new Uint8Array(i420Bytes(width, height));
  toLimitedI420(data, width, height, out);
  return out;
};

/** The way back by the inverse of the matrix, as ITU-R BT.709 and BT.2100 give it. */
const back = (y: number, cb: number, cr: number): number[] => {
  const [l, b, r] = [((y - 16) / 219) * 255, ((cb - 128) / 224) * 255, ((cr - 128) / 224) * 255];
  return [l + 1.5748 * r, l - 0.187324 * b - 0.468124 * r, l + 1.8556 * b];
};

describe('limited 4:2:0 of BT.709', () => {
  it('has the levels the standard names: black, white and the bars of 100 %', () => {
    const levels = (r: number, g: number, b: number): number[] => {
      const out = converted(flat(r, g, b), 4, 2);
      return [out[0]!, out[8]!, out[10]!];
    };
    expect(levels(0, 0, 0)).to.deep.equal([16, 128, 128]);
    expect(levels(255, 255, 255)).to.deep.equal([235, 128, 128]);
    expect(levels(255, 255, 0)).to.deep.equal([219, 16, 138]);
    expect(levels(0, 255, 255)).to.deep.equal([188, 154, 16]);
    expect(levels(0, 255, 0)).to.deep.equal([173, 42, 26]);
    expect(levels(255, 0, 255)).to.deep.equal([78, 214, 230]);
    expect(levels(255, 0, 0)).to.deep.equal([63, 102, 240]);
    expect(levels(0, 0, 255)).to.deep.equal([32, 240, 118]);
  });

  it('comes back within a rounding of each plane, for any colour', () => {
    const random = seededRandom(3);
    for (let k = 0; k < 500; k++) {
      const colour = [0, 1, 2].map(() => Math.floor(random() * 256));
      const out = converted(flat(colour[0]!, colour[1]!, colour[2]!), 4, 2);
      // Half a step of luma is 0.6, of a difference up to 1.1.
      back(out[0]!, out[8]!, out[10]!).forEach((v, n) => expect(v).to.be.closeTo(colour[n]!, 1.8));
    }
  });

  it('luma keeps every pixel, a difference is the mean of its four; planes lie one after the other', () => {
    const [width, height] = [6, 4];
    const random = seededRandom(9);
    const data = new Uint8ClampedArray(Array.from({ length: width * height * 4 }, () => random() * 256));
    const out = converted(data, width, height);
    expect(out).to.have.length(36);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const [r, g, b] = data.subarray((y * width + x) * 4) as unknown as [number, number, number];
        const luma = 16 + (219 / 255) * (0.2126 * r + 0.7152 * g + 0.0722 * b);
        expect(out[y * width + x]).to.be.closeTo(luma, 0.52);
      }
    for (let y = 0; y < 2; y++)
      for (let x = 0; x < 3; x++) {
        const four = [0, 1, 2, 3].map((n) => (2 * y + (n >> 1)) * width + 2 * x + (n & 1));
        const mean = (n: number): number => four.reduce((sum, i) => sum + data[i * 4 + n]!, 0) / 4;
        const luma = 0.2126 * mean(0) + 0.7152 * mean(1) + 0.0722 * mean(2);
        expect(out[24 + y * 3 + x]).to.be.closeTo(128 + (224 / 255) * ((mean(2) - luma) / 1.8556), 0.52);
        expect(out[30 + y * 3 + x]).to.be.closeTo(128 + (224 / 255) * ((mean(0) - luma) / 1.5748), 0.52);
      }
  });

  it('in WebAssembly as in plain TypeScript to a level, at every width', () => {
    const random = seededRandom(4);
    for (const [width, height] of [
      [2, 2],
      [4, 6],
      [6, 2],
      [10, 4],
      [64, 34],
    ] as const) {
      const data = new Uint8ClampedArray(Array.from({ length: width * height * 4 }, () => random() * 256));
      const plain = new Uint8Array(i420Bytes(width, height));
      plainLimitedI420(data, width, height, plain);
      converted(data, width, height).forEach((v, i) => expect(Math.abs(v - plain[i]!)).to.be.at.most(1));
    }
  });

  it('odd sides are refused', () => {
    expect(() => converted(flat(0, 0, 0, 3, 2), 3, 2)).to.throw(RangeError);
  });
});
