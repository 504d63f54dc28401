import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makePlane, makeRgba, type Plane, type Rgba } from '../pixels/raster.ts';
import { softAlpha } from './soft-alpha.ts';

const [width, height] = [120, 80];
/** A bright thing whose right edge is at an upright line and so many pixels soft, with a little grain. */
function edged(at: number, soft = 1): Rgba {
  const random = seededRandom(2);
  const picture = makeRgba(width, height);
  for (let i = 0; i < width * height; i++) {
    const share = Math.max(0, Math.min(1, (at - (i % width)) / soft + 0.5));
    const level = 60 + 150 * share + 3 * random();
    picture.data.set([level, level * 0.7, 90, 255], i * 4);
  }
  return picture;
}
const maskTo = (at: number, scale = 1): Plane => {
  const mask = makePlane(width / scale, height / scale);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = ((i % mask.width) + 0.5) * scale < at ? 1 : 0;
  return mask;
};
/** Where the edge lies: as many pixels as a row has in sum. */
const edgeIn = ({ data }: { data: Uint8Array }, y: number): number =>
  data.subarray(y * width, (y + 1) * width).reduce((sum, v) => sum + v / 255, 0);

/** How many pixels of a row are clearly neither inside nor outside. */
const veiled = ({ data }: { data: Uint8Array }, y: number): number =>
  data.subarray(y * width, (y + 1) * width).filter((v) => v > 12 && v < 243).length;

describe('soft alpha of a mask', () => {
  it('has its edge where the picture has one, when that of a mask of a quarter of the size lies beside it', () => {
    for (const at of [57, 58.5, 60, 61.5, 63]) {
      const alpha = softAlpha(edged(at), maskTo(60, 4));
      expect(alpha).to.include({ width, height });
      for (const y of [20, 40, 60]) {
        expect(edgeIn(alpha, y), `edge at ${at}`).to.be.closeTo(at, 0.8);
        expect(veiled(alpha, y), `edge at ${at}`).to.be.at.most(4);
      }
    }
  });

  it('stays soft where the picture is, as from a lens a little out of focus', () => {
    const alpha = softAlpha(edged(60, 6), maskTo(60, 4));
    for (const y of [20, 40, 60]) {
      expect(edgeIn(alpha, y)).to.be.closeTo(60.5, 1);
      expect(veiled(alpha, y)).to.be.within(2, 6);
    }
  });

  it('stays at the edge of the mask where the picture has none', () => {
    const alpha = softAlpha(edged(0), maskTo(60, 4));
    for (const y of [20, 40, 60]) expect(edgeIn(alpha, y)).to.be.closeTo(60, 0.7);
  });

  it('is the mask away from its edge, whatever edges the picture has there', () => {
    const alpha = softAlpha(edged(20), maskTo(90));
    for (let y = 0; y < height; y++)
      for (let x = 0; x < 70; x++) expect(alpha.data[y * width + x], `${x}, ${y}`).to.equal(255);
  });

  it('of everything is everything, of nothing is nothing', () => {
    expect(new Set(softAlpha(edged(60), maskTo(width)).data)).to.deep.equal(new Set([255]));
    expect(new Set(softAlpha(edged(60), maskTo(0)).data)).to.deep.equal(new Set([0]));
  });
});
