import { expect } from 'chai';
import { denoised } from './non-local-means.ts';
import { makeRgba, type Rgba } from './raster.ts';
import { noisyPicture } from './test-noise.ts';

const [width, height] = [80, 60];
const all = Array.from({ length: width * height }, (_, i) => i);

/** Standard deviation from what was painted, bytes, over some pixels. */
function deviation(picture: Rgba, colour: (x: number, y: number) => readonly number[], pixels = all): number {
  let sum = 0;
  for (const i of pixels) {
    const clean = colour(i % width, Math.floor(i / width));
    for (let c = 0; c < 3; c++) sum += (picture.data[i * 4 + c]! - clean[c]!) ** 2;
  }
  return Math.sqrt(sum / (pixels.length * 3));
}

describe('non-local means', () => {
  const flat = (): number[] => [120, 130, 90];

  it('takes most of the noise out of an even ground', () => {
    const picture = noisyPicture(width, height, 8, flat);
    expect(deviation(denoised(picture, 8, all), flat)).to.be.lessThan(0.3 * deviation(picture, flat));
  });

  it('leaves an edge as steep as it was, and a wire one pixel wide as bright', () => {
    const scene = (x: number): number[] => (x === 60 ? [230, 220, 60] : x < 30 ? [60, 80, 140] : [150, 90, 70]);
    const cleaned = denoised(noisyPicture(width, height, 8, scene), 8, all);
    for (const x of [29, 30, 59, 60, 61]) {
      const column = all.filter((i) => i % width === x);
      expect(deviation(cleaned, scene, column), `column ${x}`).to.be.lessThan(4);
    }
  });

  it('is the weighted mean of its definition', () => {
    const picture = noisyPicture(15, 15, 6, (x) => (x < 8 ? [90, 90, 90] : [110, 90, 80]));
    const at = (x: number, y: number): number[] => [...picture.data.slice((y * 15 + x) * 4, (y * 15 + x) * 4 + 3)];
    const weights = new Map<string, number>();
    for (let v = 3; v <= 11; v++) {
      for (let u = 3; u <= 11; u++) {
        const squares: number[] = [];
        for (const dy of [-1, 0, 1])
          for (const dx of [-1, 0, 1])
            at(7 + dx, 7 + dy).forEach((a, c) => squares.push((a - at(u + dx, v + dy)[c]!) ** 2));
        const difference = squares.reduce((sum, s) => sum + s, 0) / squares.length;
        weights.set(`${u},${v}`, Math.exp(-Math.max(0, difference - 2 * 36) / (2.5 * 36)));
      }
    }
    weights.delete('7,7');
    weights.set('7,7', Math.max(...weights.values()));
    let [sum, total] = [0, 0];
    for (const [key, w] of weights) {
      const [u, v] = key.split(',').map(Number) as [number, number];
      sum += w * at(u, v)[0]!;
      total += w;
    }
    expect(denoised(picture, 6, [7 * 15 + 7]).data[(7 * 15 + 7) * 4]).to.be.closeTo(sum / total, 0.6);
  });

  it('changes the pixels that are wanted alone, and none of the picture given', () => {
    const picture = noisyPicture(width, height, 8, flat);
    const before = picture.data.slice();
    const cleaned = denoised(picture, 8, [width * 20 + 20]);
    const changed = all.filter((i) => [0, 1, 2, 3].some((c) => cleaned.data[i * 4 + c] !== before[i * 4 + c]));
    expect(changed).to.deep.equal([width * 20 + 20]);
    expect(picture.data).to.deep.equal(before);
  });

  it('works to the very border, and on a picture of one pixel', () => {
    const picture = noisyPicture(width, height, 8, flat);
    const border = all.filter((i) => i % width === 0 || i < width);
    expect(deviation(denoised(picture, 8, border), flat, border)).to.be.lessThan(4);
    const dot = makeRgba(1, 1);
    dot.data.set([7, 8, 9, 255]);
    expect([...denoised(dot, 5, [0]).data]).to.deep.equal([7, 8, 9, 255]);
  });
});
