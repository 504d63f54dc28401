import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makePlane, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { estimateAlpha } from './alpha.ts';
import { softEdgeOf } from './soft-edge.ts';

const [width, height] = [360, 240];

interface Scene {
  picture: Rgba;
  alpha: Bytes;
  mask: Bytes;
}

/** A bright disc on dark, its edge blurred over `soft` pixels; a painted one with a shadow beside it when asked for. */
function discWith(soft: number, shadow = false): Scene {
  const random = seededRandom(8);
  const picture = makeRgba(width, height);
  const alpha = makeBytes(width, height);
  const mask = makeBytes(width, height);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const t = Math.max(0, Math.min(1, (70 - Math.hypot(x - 180, y - 110)) / soft + 0.5));
    const a = t * t * (3 - 2 * t);
    const dark = shadow ? 1 - 0.3 * Math.exp(-(((x - 190) / 60) ** 2) - ((y - 170) / 30) ** 2) : 1;
    const ground = shadow ? [182, 172, 148] : [30, 34, 50];
    const front = !shadow ? [250, 210, 130] : y < 70 ? [206, 188, 160] : [150, 34, 24];
    const grain = 3 * (random() + random() - 1);
    picture.data.set([...front.map((v, c) => v * a + ground[c]! * dark * (1 - a) + grain), 255], i * 4);
    alpha.data[i] = Math.round(a * 255);
    mask.data[i] = a >= 0.5 ? 1 : 0;
  }
  return { picture, alpha, mask };
}

const error = (a: Bytes, b: Bytes): number => a.data.reduce((sum, v, i) => sum + Math.abs(v - b.data[i]!), 0) / 255;
const binary = (mask: Bytes): Bytes => ({ ...mask, data: mask.data.map((v) => v * 255) });
const share = ({ picture, alpha, mask }: Scene): number =>
  error(estimateAlpha(picture, mask), alpha) / error(binary(mask), alpha);

describe('soft edges', () => {
  it('are solved in all their width: a glow fades as it does', () => {
    for (const soft of [16, 30]) expect(share(discWith(soft)), `${soft} pixels`).to.be.lessThan(0.3);
  });

  it('leave sharp edges as they are, also where a shadow lies beside them', () => {
    for (const scene of [discWith(1.5), discWith(1.5, true)]) {
      const alpha = estimateAlpha(scene.picture, scene.mask);
      const changes = alpha.data.map((a, i) => {
        const away = Math.abs(Math.hypot((i % width) - 180, Math.floor(i / width) - 110) - 70);
        return away > 8 ? Math.abs(a - scene.mask.data[i]! * 255) : 0;
      });
      expect(Math.max(...changes)).to.be.at.most(6);
    }
  });

  it('reach as far inwards as they show outwards, and only beside where they show', () => {
    const mask = makeBytes(60, 40);
    const [alpha, certainty] = [makePlane(60, 40), makePlane(60, 40, 1)];
    for (let y = 0; y < 40; y++) {
      for (let x = 0; x < 60; x++) {
        const i = y * 60 + x;
        mask.data[i] = x < 30 ? 1 : 0;
        // The upper half of the edge fades over ten pixels, the lower is sharp.
        alpha.data[i] = x < 30 ? 1 : y < 20 ? Math.max(0, 0.5 - (x - 30) / 20) : 0;
      }
    }
    const soft = softEdgeOf(mask, alpha, certainty, 3, 14)!;
    const row = (y: number): number[] => [...soft.data.subarray(y * 60, y * 60 + 60)].flatMap((v, x) => (v ? [x] : []));
    expect(row(8)).to.deep.equal(Array.from({ length: row(8).length }, (_, k) => row(8)[0]! + k));
    expect(row(8)[0]).to.be.closeTo(30 - 9, 1);
    expect(row(8).at(-1)).to.be.closeTo(30 + 8, 1);
    expect(row(30)).to.deep.equal([]);
    expect(softEdgeOf(mask, alpha, makePlane(60, 40), 3, 14)).to.equal(null);
  });
});
