import { expect } from 'chai';
import { makeBytes } from '../pixels/raster.ts';
import { seededRandom } from '../pixels/random.ts';
import { drawStroke, strokeReaches } from './strokes.ts';

describe('whether a stroke reaches the picture', () => {
  const size = { width: 40, height: 30 };

  it('is so where its brush marks a pixel, over random strokes in and around it', () => {
    const random = seededRandom(5);
    const counts = { yes: 0, no: 0 };
    for (let k = 0; k < 400; k++) {
      const point = (): [number, number] => [random() * 160 - 60, random() * 150 - 60];
      const points = Array.from({ length: 1 + Math.floor(random() * 3) }, point);
      const radius = 2 + random() * 12;
      const marked = (r: number): boolean => {
        const mask = makeBytes(size.width, size.height);
        drawStroke(mask, { radius: r, points }, 1);
        return mask.data.includes(1);
      };
      // Between these two the middle of a pixel may just be missed.
      if (marked(radius - 1)) expect(strokeReaches({ radius, points }, size)).to.equal(true);
      if (!marked(radius + 1)) expect(strokeReaches({ radius, points }, size)).to.equal(false);
      counts[marked(radius) ? 'yes' : 'no']++;
    }
    expect(Math.min(counts.yes, counts.no)).to.be.greaterThan(80);
  });

  it('marks a pixel wherever it stands, however thin it is, also at the corners between pixels', () => {
    const random = seededRandom(6);
    for (let k = 0; k < 200; k++) {
      const at: [number, number] =
        k % 2 ? [2 + Math.floor(random() * 30), 2 + Math.floor(random() * 20)] : [random() * 40, random() * 30];
      for (const scale of [1, 0.37]) {
        const mask = makeBytes(size.width, size.height);
        drawStroke(mask, { radius: 0.2, points: [at] }, 1, scale);
        expect(mask.data.includes(1), `${at} at ${scale}`).to.equal(true);
      }
    }
  });
});
