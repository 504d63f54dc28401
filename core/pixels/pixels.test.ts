import { expect } from 'chai';
import { labOf, linearOfByte } from './color.ts';
import { dilate, squaredDistance } from './distance.ts';
import { boxBlur, boxCounts } from './filters.ts';
import { boundsOf, cropRgba, makeBytes, makePlane, makeRgba, pasteBytes } from './raster.ts';
import { seededRandom } from './random.ts';
import { halve } from './resample.ts';

function randomMask(width: number, height: number, share: number, seed: number) {
  const random = seededRandom(seed);
  const mask = makeBytes(width, height);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = random() < share ? 1 : 0;
  return mask;
}

describe('pixels', () => {
  it('measures squared distances as a search over all set pixels does', () => {
    const mask = randomMask(23, 17, 0.04, 5);
    const found = squaredDistance(mask);
    for (let i = 0; i < found.length; i++) {
      let best = Infinity;
      for (let j = 0; j < found.length; j++) {
        if (!mask.data[j]) continue;
        best = Math.min(best, ((i % 23) - (j % 23)) ** 2 + (Math.floor(i / 23) - Math.floor(j / 23)) ** 2);
      }
      expect(found[i]).to.equal(best);
    }
  });

  it('dilates one pixel to a disc', () => {
    const mask = makeBytes(21, 21);
    mask.data[10 * 21 + 10] = 1;
    const grown = dilate(mask, 5);
    for (let i = 0; i < 441; i++) {
      expect(grown.data[i]).to.equal(((i % 21) - 10) ** 2 + (Math.floor(i / 21) - 10) ** 2 <= 25 ? 1 : 0);
    }
  });

  it('says that nothing is near when nothing is set', () => {
    expect([...squaredDistance(makeBytes(4, 3))].every((d) => d === Math.fround(1e12))).to.equal(true);
  });

  it('blurs a box as the mean over the window with repeated edges', () => {
    const plane = makePlane(9, 6);
    const random = seededRandom(3);
    plane.data.forEach((_, i) => (plane.data[i] = random()));
    const found = boxBlur(plane, 2);
    for (let y = 0; y < 6; y++) {
      for (let x = 0; x < 9; x++) {
        let sum = 0;
        for (let dy = -2; dy <= 2; dy++) {
          for (let dx = -2; dx <= 2; dx++) {
            sum += plane.data[Math.max(0, Math.min(5, y + dy)) * 9 + Math.max(0, Math.min(8, x + dx))]!;
          }
        }
        expect(found.data[y * 9 + x]).to.be.closeTo(sum / 25, 1e-5);
      }
    }
  });

  it('counts what is set in a window exactly, edges repeated, also where the window is wider than the picture', () => {
    const bytes = makeBytes(23, 17);
    const random = seededRandom(9);
    bytes.data.forEach((_, i) => (bytes.data[i] = random() > 0.6 ? 1 : 0));
    for (const radius of [0, 1, 4, 30]) {
      const counts = boxCounts(bytes, radius);
      for (let y = 0; y < 17; y += 4)
        for (let x = 0; x < 23; x++) {
          let count = 0;
          for (let v = y - radius; v <= y + radius; v++)
            for (let u = x - radius; u <= x + radius; u++)
              count += bytes.data[Math.max(0, Math.min(16, v)) * 23 + Math.max(0, Math.min(22, u))]!;
          expect(counts[y * 23 + x], `${x}, ${y}, ${radius}`).to.equal(count);
        }
    }
  });

  it('knows how much light each byte is, mid grey being 21.6 %', () => {
    expect(linearOfByte[0]).to.equal(0);
    expect(linearOfByte[128]).to.be.closeTo(0.2159, 1e-4);
    expect(linearOfByte[255]).to.equal(1);
  });

  it('gives the published Lab values of pure colours (Lindbloom, D65)', () => {
    const picture = makeRgba(3, 1);
    picture.data.set([255, 0, 0, 255, 0, 255, 0, 255, 255, 255, 255, 255]);
    const lab = labOf(picture);
    const want = [53.24, 80.09, 67.2, 87.73, -86.18, 83.18, 100, 0, 0];
    want.forEach((v, i) => expect(lab[i]).to.be.closeTo(v, 0.3));
  });

  it('finds bounds, crops and pastes at the same place', () => {
    const mask = makeBytes(10, 8);
    pasteBytes(mask, makeBytes(3, 2, 9), 4, 5);
    expect(boundsOf(mask)).to.deep.equal({ x: 4, y: 5, width: 3, height: 2 });
    expect(boundsOf(makeBytes(3, 3))).to.equal(null);
    const picture = makeRgba(10, 8);
    picture.data[(5 * 10 + 4) * 4] = 77;
    expect(cropRgba(picture, { x: 4, y: 5, width: 3, height: 2 }).data[0]).to.equal(77);
  });

  it('keeps the mean when a picture is halved', () => {
    const picture = makeRgba(8, 8);
    picture.data.forEach((_, i) => (picture.data[i] = i % 4 === 3 ? 255 : (i * 37) % 251));
    const mean = (data: Uint8ClampedArray): number => data.reduce((s, v) => s + v, 0) / data.length;
    expect(mean(halve(picture).data)).to.be.closeTo(mean(picture.data), 0.6);
  });
});
