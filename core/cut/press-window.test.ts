import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { cropRgba, makeBytes, makeRgba, type Rect } from '../pixels/raster.ts';
import { levelsOf } from './cut-picture.ts';
import { DROP, FREE, KEEP } from './graph-cut.ts';
import { cutOffShare, halved, judgedEdge, placeIn, pressSeeds, windowAround, windowOn } from './press-window.ts';

const whole = { width: 1000, height: 700 };

/** A square of ones in a mask of 100 x 100. */
function square({ x, y, width, height }: Rect) {
  const mask = makeBytes(100, 100);
  for (let v = y; v < y + height; v++) for (let u = x; u < x + width; u++) mask.data[v * 100 + u] = 1;
  return mask;
}

describe('a window around a press', () => {
  it('holds what is around the place, within the picture, on the grid of its smallest copy', () => {
    const random = seededRandom(3);
    for (let k = 0; k < 200; k++) {
      const half = 20 + 400 * random();
      const at = [random() * whole.width, random() * whole.height] as const;
      const { x, y, width, height } = windowAround(at, half, whole);
      const grid = 2 ** Math.max(0, Math.ceil(Math.log2((2 * half) / judgedEdge)));
      expect([x % grid, y % grid]).to.deep.equal([0, 0]);
      expect(x >= 0 && y >= 0 && x + width <= whole.width && y + height <= whole.height).to.equal(true);
      expect(at[0] >= x && at[0] < x + width && at[1] >= y && at[1] < y + height).to.equal(true);
      for (const [reach, frame] of [
        [at[0] - x, at[0]],
        [x + width - at[0], whole.width - at[0]],
        [at[1] - y, at[1]],
        [y + height - at[1], whole.height - at[1]],
      ] as const)
        expect(reach).to.be.at.least(Math.min(frame, half - grid) - 1e-9);
    }
  });

  it('is halved to the same pixels, whether it is taken before or after', () => {
    const random = seededRandom(8);
    const picture = makeRgba(701, 523);
    for (let i = 0; i < picture.data.length; i++) picture.data[i] = 255 * random();
    const levels = levelsOf(picture, 100);
    for (const [at, half] of [
      [[500, 400], 260],
      [[90, 30], 190],
      [[600, 500], 330],
    ] as const) {
      const window = windowAround(at, half, picture);
      const own = levelsOf(cropRgba(picture, window), judgedEdge);
      for (const [times, { picture: level }] of own.entries())
        expect(cropRgba(levels[times]!.picture, halved(window, times)).data).to.deep.equal(level.data);
    }
  });

  it('lies with a thing in its middle once that was found', () => {
    const window = { x: 200, y: 100, width: 400, height: 400 };
    const again = windowOn(square({ x: 20, y: 40, width: 20, height: 10 }), window, whole);
    const middle = [again.x + again.width / 2, again.y + again.height / 2];
    expect(middle[0]).to.be.closeTo(200 + 4 * 30, 2);
    expect(middle[1]).to.be.closeTo(100 + 4 * 45, 2);
    expect(again.width).to.be.closeTo(1.6 * 80, 2);
  });

  it('says where a place of the picture lies in its copies', () => {
    expect(placeIn({ x: 200, y: 100, width: 400, height: 300 }, [300, 250], { width: 100, height: 75 })).to.deep.equal([
      25, 37.5,
    ]);
  });

  it('takes the press as the thing and its rim as ground, but not where the picture itself ends', () => {
    const copy = makeRgba(100, 100);
    const area = { x: 0, y: 0, width: 100, height: 100 };
    const seeds = pressSeeds({ x: 0, y: 100, width: 400, height: 400 }, [200, 300], whole, copy, area);
    const at = (x: number, y: number): number => seeds.data[y * 100 + x]!;
    expect(at(50, 50)).to.equal(KEEP);
    expect(at(60, 50)).to.equal(FREE);
    expect([at(50, 0), at(99, 50), at(50, 99)]).to.deep.equal([DROP, DROP, DROP]);
    expect(at(0, 50)).to.equal(FREE);
    // A part of the copy has the seeds of that part.
    const part = { x: 40, y: 45, width: 20, height: 10 };
    const own = pressSeeds({ x: 0, y: 100, width: 400, height: 400 }, [200, 300], whole, copy, part);
    for (let v = 0; v < 10; v++) for (let u = 0; u < 20; u++) expect(own.data[v * 20 + u]).to.equal(at(40 + u, 45 + v));
  });

  it('decides every pixel by where its centre lies, for any window and part', () => {
    const random = seededRandom(17);
    for (let k = 0; k < 60; k++) {
      const at = [random() * whole.width, random() * whole.height] as const;
      const window = windowAround(at, 30 + 300 * random(), whole);
      const copy = makeRgba(40 + Math.floor(100 * random()), 30 + Math.floor(80 * random()));
      const [x, y] = [Math.floor(20 * random()), Math.floor(15 * random())];
      const area = { x, y, width: copy.width - x, height: copy.height - y };
      const seeds = pressSeeds(window, at, whole, copy, area);
      const rim = Math.max(2, 0.02 * copy.width);
      const [px, py] = placeIn(window, at, copy);
      let wrong = 0;
      for (let i = 0; i < seeds.data.length; i++) {
        const [u, v] = [x + (i % area.width) + 0.5, y + Math.floor(i / area.width) + 0.5];
        const outside =
          (window.x > 0 && u < rim) ||
          (window.y > 0 && v < rim) ||
          (window.x + window.width < whole.width && u > copy.width - rim) ||
          (window.y + window.height < whole.height && v > copy.height - rim);
        const pressed = Math.hypot(u - px, v - py) < Math.max(1.5, 0.02 * copy.width);
        if (seeds.data[i] !== (pressed ? KEEP : outside ? DROP : FREE)) wrong++;
      }
      expect(wrong, `window ${k}`).to.equal(0);
    }
  });

  it('knows how much of a thing goes on beyond it', () => {
    const window = { x: 200, y: 100, width: 400, height: 400 };
    expect(cutOffShare(square({ x: 20, y: 20, width: 30, height: 30 }), window, whole)).to.equal(0);
    // One of four sides lies at the rim, which is two pixels wide.
    expect(cutOffShare(square({ x: 2, y: 20, width: 30, height: 30 }), window, whole)).to.equal(0.25);
    // At the picture's frame nothing is cut off.
    expect(cutOffShare(square({ x: 0, y: 20, width: 30, height: 30 }), { ...window, x: 0 }, whole)).to.equal(0);
    expect(cutOffShare(makeBytes(100, 100), window, whole)).to.equal(0);
  });
});
