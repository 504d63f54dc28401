import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, type Bytes } from '../pixels/raster.ts';
import { objectsOf } from './objects.ts';

/** Soft discs at given places. */
function discs(width: number, height: number, places: [number, number, number][]): Bytes {
  const alpha = makeBytes(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (const [cx, cy, r] of places) {
        const a = Math.max(0, Math.min(1, (r - Math.hypot(x - cx, y - cy)) / 4 + 0.5));
        alpha.data[y * width + x] = Math.max(alpha.data[y * width + x]!, Math.round(a * 255));
      }
  return alpha;
}

describe('objects of a piece', () => {
  it('eight things become eight, each with its own soft edge, largest first', () => {
    const random = seededRandom(2);
    const places = Array.from({ length: 8 }, (_, k): [number, number, number] => [
      40 + (k % 4) * 70,
      40 + Math.floor(k / 4) * 80,
      12 + random() * 14,
    ]);
    const alpha = discs(300, 170, places);
    const objects = objectsOf(alpha);
    expect(objects).to.have.length(8);
    const sizes = objects.map((o) => o.size);
    expect(sizes).to.deep.equal([...sizes].sort((a, b) => b - a));
    for (const { bounds, size } of objects) {
      const [cx, cy, r] = places.find(
        ([px, py]) => Math.abs(bounds.x + bounds.width / 2 - px) < 2 && Math.abs(bounds.y + bounds.height / 2 - py) < 2,
      )!;
      expect([cx, cy]).to.have.length(2);
      expect(size).to.be.closeTo(Math.PI * r * r, 0.05 * Math.PI * r * r);
    }
  });

  it('put back together they are the whole again, whatever the alpha', () => {
    const random = seededRandom(7);
    const alpha = makeBytes(60, 40);
    for (let i = 0; i < alpha.data.length; i++) alpha.data[i] = random() < 0.45 ? Math.floor(random() * 256) : 0;
    const sum = new Int32Array(alpha.data.length);
    const bodies = new Uint8Array(alpha.data.length);
    for (const { alpha: part, bounds } of objectsOf(alpha, 0))
      for (let y = 0; y < bounds.height; y++)
        for (let x = 0; x < bounds.width; x++) {
          const i = (bounds.y + y) * 60 + bounds.x + x;
          sum[i] = sum[i]! + part.data[y * bounds.width + x]!;
          if (part.data[y * bounds.width + x]! > 0) bodies[i]!++;
        }
    for (let i = 0; i < sum.length; i++) {
      // Each pixel belongs to one thing; faint ones that touch no body belong to none.
      expect(bodies[i]).to.be.at.most(1);
      if (alpha.data[i]! >= 100) expect(sum[i]).to.equal(alpha.data[i]);
    }
  });

  it('specks are left out, and nothing gives nothing', () => {
    const alpha = discs(120, 80, [[50, 40, 24]]);
    alpha.data[5 * 120 + 110] = 255;
    expect(objectsOf(alpha)).to.have.length(1);
    expect(objectsOf(alpha, 0)).to.have.length(2);
    expect(objectsOf(makeBytes(10, 10))).to.deep.equal([]);
  });
});
