import { expect } from 'chai';
import { boxBlur } from '../pixels/filters.ts';
import { seededRandom } from '../pixels/random.ts';
import { seenOf, Sharpness } from './sharpness.ts';

describe('how sharp a picture is around a place', () => {
  const [width, height] = [203, 170];
  const random = seededRandom(4);
  const pixels = new Uint8Array(width * height * 4);
  const known = new Uint8Array(width * height).fill(1);
  // Soft everywhere but for a step at x = 120, with noise; a hole in the middle holds a sharper one that must not count.
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const inHole = Math.abs(x - 60) < 14 && Math.abs(y - 90) < 14;
      const value = 90 + 20 * Math.sin(x / 30) + (x >= 120 && y > 60 ? 50 : 0) + 4 * random();
      for (let c = 0; c < 3; c++) pixels[i * 4 + c] = inHole ? (x < 60 ? 0 : 255) : value + 5 * c;
      if (inHole) known[i] = 0;
    }
  }

  /** The steepest step whose pixel lies within so many pixels, from whole planes of means. */
  function steepest(cx: number, cy: number, within: number): number {
    let most = 0;
    for (let c = 0; c < 3; c++) {
      const light = Float32Array.from({ length: width * height }, (_, i) => seenOf[pixels[i * 4 + c]!]!);
      const mean = boxBlur({ width, height, data: light }, 1).data;
      const all = boxBlur({ width, height, data: Float32Array.from(known) }, 1).data;
      for (let y = 1; y < height - 2; y++) {
        for (let x = 1; x < width - 2; x++) {
          const i = y * width + x;
          if (Math.max(Math.abs(x - cx), Math.abs(y - cy)) > within || all[i]! < 0.999) continue;
          for (const j of [i + 1, i + width]) if (all[j]! > 0.999) most = Math.max(most, Math.abs(mean[j]! - mean[i]!));
        }
      }
    }
    return most;
  }

  it('is the steepest step between known means within some 40 pixels, whichever place is asked for first', () => {
    const sharpness = new Sharpness({ width, height, pixels, known });
    for (const [x, y] of [
      [60, 90],
      [20, 20],
      [118, 150],
      [165, 100],
      [30, 120],
      [75, 60],
      [199, 30],
    ] as const) {
      const found = sharpness.at(y * width + x);
      expect(found, `${x}, ${y}`).to.be.at.least(steepest(x, y, 40) - 1e-5);
      expect(found, `${x}, ${y}`).to.be.at.most(steepest(x, y, 48) + 1e-5);
    }
  });

  it('is that of the edge near it, and of the soft ground far from it', () => {
    const sharpness = new Sharpness({ width, height, pixels, known });
    const [near, far] = [sharpness.at(110 * width + 110), sharpness.at(90 * width + 60)];
    expect(near).to.be.greaterThan(0.08);
    expect(far).to.be.lessThan(0.03);
  });

  it('is none where nothing around is known', () => {
    const sharpness = new Sharpness({ width, height, pixels, known: new Uint8Array(width * height) });
    expect(sharpness.at(90 * width + 60)).to.equal(0);
  });
});
