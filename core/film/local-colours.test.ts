import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makePlane, makeRgba, type Plane, type Rgba } from '../pixels/raster.ts';
import { LocalColours } from './local-colours.ts';

/* Beside a count by hand: tiles of 36 pixels, twelve levels a colour, neighbouring colours count by (1 2 1) / 4. */

const [width, height] = [130, 80];

function scene(): { picture: Rgba; alpha: Plane } {
  const random = seededRandom(3);
  const picture = makeRgba(width, height);
  const alpha = makePlane(width, height);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const inside = Math.hypot(x - 50, y - 40) < 24;
    alpha.data[i] = inside ? 1 : Math.hypot(x - 50, y - 40) < 26 ? 0.5 : 0;
    const base = inside ? [200, 90, 60] : [70 + x / 2, 110, 130];
    picture.data.set([...base.map((v) => v + 30 * random()), 255], i * 4);
  }
  return { picture, alpha };
}

const levelsAt = ({ data }: Rgba, i: number): number[] =>
  [0, 1, 2].map((c) => Math.floor((data[i * 4 + c]! * 12) / 256));
/** What a level counts for another: its own weight, and that of what lies beyond the first and last level. */
function weight(own: number, other: number): number {
  if (own === other) return own === 0 || own === 11 ? 0.75 : 0.5;
  return Math.abs(own - other) === 1 ? 0.25 : 0;
}

/** Smoothed counts of a colour around a pixel, and of all colours. */
function counted(picture: Rgba, alpha: Plane, figure: boolean, at: number): { own: number; all: number } {
  const levels = levelsAt(picture, at);
  const [row, column] = [Math.floor(Math.floor(at / width) / 36), Math.floor((at % width) / 36)];
  let [own, all] = [0, 0];
  for (let i = 0; i < width * height; i++) {
    const far = Math.max(
      Math.abs(Math.floor(Math.floor(i / width) / 36) - row),
      Math.abs(Math.floor((i % width) / 36) - column),
    );
    if (far > 1 || (figure ? alpha.data[i]! <= 0.9 : alpha.data[i]! >= 0.1)) continue;
    all++;
    own += levelsAt(picture, i).reduce((product, level, c) => product * weight(levels[c]!, level), 1);
  }
  return { own, all };
}

describe('colours around a place', () => {
  const { picture, alpha } = scene();
  const learnt = new LocalColours(width, height);
  learnt.learn(picture, alpha);

  it('are as likely as a count by hand says, of the figure beside its ground, and no surer than 5', () => {
    const random = seededRandom(5);
    for (let k = 0; k < 60; k++) {
      const i = Math.floor(random() * width * height);
      const [p, q] = [true, false].map((figure) => {
        const { own, all } = counted(picture, alpha, figure, i);
        return own / Math.max(20, all) + 2e-5;
      });
      const wanted = Math.max(-5, Math.min(5, Math.log(p! / q!)));
      expect(learnt.ratio(picture, i), `at ${i % width}, ${Math.floor(i / width)}`).to.be.closeTo(wanted, 2e-3);
    }
  });

  it('say nothing where nothing was counted', () => {
    expect(new LocalColours(width, height).ratio(picture, 40 * width + 50)).to.equal(0);
  });

  it('what is half of either is counted for none', () => {
    const half = { ...alpha, data: alpha.data.map(() => 0.5) };
    const none = new LocalColours(width, height);
    none.learn(picture, half);
    expect(none.ratio(picture, 40 * width + 50)).to.equal(0);
  });
});
