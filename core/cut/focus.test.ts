import { expect } from 'chai';
import { boxBlur } from '../pixels/filters.ts';
import { seededRandom } from '../pixels/random.ts';
import { makePlane, makeRgba, type Rgba } from '../pixels/raster.ts';
import { superpixelsOf, type Superpixels } from '../pixels/superpixels.ts';
import { averagedTo, enlargedPlane } from '../pixels/resample.ts';
import { photographOf } from '../../bench/truth/photograph.ts';
import { photographs } from '../../bench/truth/photographs.ts';
import { atSizeOfFocus, brightnessOf, focusEvidence } from './focus.ts';

const [width, height] = [600, 400];
type Colour = [number, number, number];
type Inside = (x: number, y: number) => boolean;

const thing: Inside = (x, y) => Math.hypot(x - 330, y - 200) < 90;
const heart: Inside = (x, y) => Math.hypot(x - 330, y - 200) < 45;
const far: Inside = (x, y) => x > 40 && y > 40 && x < 560 && y < 360 && Math.hypot(x - 330, y - 200) > 130;

/** As a lens that is focused on nothing of it shows a picture: three box means are nearly a Gaussian. */
function outOfFocus(picture: Rgba, radius: number): Rgba {
  const out = { ...picture, data: picture.data.slice() };
  for (let c = 0; c < 3; c++) {
    let plane = makePlane(width, height);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] = picture.data[i * 4 + c]!;
    for (let k = 0; k < 3; k++) plane = boxBlur(plane, radius);
    for (let i = 0; i < plane.data.length; i++) out.data[i * 4 + c] = plane.data[i]!;
  }
  return out;
}

function painted(colour: (x: number, y: number) => Colour): Rgba {
  const picture = makeRgba(width, height);
  for (let i = 0; i < width * height; i++) picture.data.set([...colour(i % width, Math.floor(i / width)), 255], i * 4);
  return picture;
}

/** Patches of colour, so large. */
function patches(size: number, seed: number, from: Colour, to: Colour): (x: number, y: number) => Colour {
  const random = seededRandom(seed);
  const tones = Array.from({ length: 4096 }, () => random());
  return (x, y) => {
    const t = tones[(Math.floor(x / size) * 61 + Math.floor(y / size)) % tones.length]!;
    return [0, 1, 2].map((c) => from[c]! + t * (to[c]! - from[c]!)) as Colour;
  };
}

/** The thing with its texture before a ground; its heart has none. */
function before(ground: Rgba, plain: Colour | null = null): Rgba {
  const own = patches(5, 3, [150, 40, 30], [240, 150, 60]);
  return painted((x, y) => {
    const i = (y * width + x) * 4;
    if (!thing(x, y)) return [ground.data[i]!, ground.data[i + 1]!, ground.data[i + 2]!];
    return plain && heart(x, y) ? plain : own(x, y);
  });
}

function meanOf(evidence: Float32Array, { labels, width }: Superpixels, inside: Inside): number {
  let [sum, count] = [0, 0];
  for (let i = 0; i < labels.length; i++) {
    if (!inside(i % width, Math.floor(i / width))) continue;
    sum += evidence[labels[i]!]!;
    count++;
  }
  return sum / count;
}

describe('what focus says of a subject', () => {
  const wall = painted(patches(34, 9, [60, 70, 40], [190, 160, 90]));
  const see = (picture: Rgba): { evidence: Float32Array | null; segments: Superpixels } => {
    const segments = superpixelsOf(picture, 400);
    return { evidence: focusEvidence(brightnessOf(picture), segments), segments };
  };

  it('speaks for the thing in focus and against what lies behind it', () => {
    const { evidence, segments } = see(before(outOfFocus(wall, 9)));
    expect(meanOf(evidence!, segments, thing)).to.be.above(1.5);
    expect(meanOf(evidence!, segments, far)).to.be.below(-1.5);
  });

  it('speaks for a smooth part of that thing too, which has no edge of its own', () => {
    const { evidence, segments } = see(before(outOfFocus(wall, 9), [190, 90, 44]));
    expect(meanOf(evidence!, segments, heart)).to.be.above(1);
  });

  it('says it of a picture taken when little light is left, too', () => {
    const day = before(outOfFocus(wall, 9));
    const dusk = { ...day, data: day.data.map((v, i) => (i % 4 === 3 ? v : 0.3 * 255 * (v / 255) ** 2.2)) };
    const { evidence, segments } = see(dusk);
    expect(meanOf(evidence!, segments, thing)).to.be.above(1.5);
    expect(meanOf(evidence!, segments, far)).to.be.below(-1.5);
  });

  it('says nothing where all is in focus or all out of it', () => {
    expect(see(before(wall)).evidence).to.equal(null);
    expect(see(outOfFocus(before(wall), 9)).evidence).to.equal(null);
  });

  it('says nothing where what is in focus fills the rim: that is the ground', () => {
    const ground = outOfFocus(before(wall), 9);
    const fine = patches(5, 4, [90, 90, 90], [200, 200, 190]);
    const framed = painted((x, y) => {
      const i = (y * width + x) * 4;
      const rim = x < 70 || y < 70 || x > 530 || y > 330;
      return rim ? fine(x, y) : [ground.data[i]!, ground.data[i + 1]!, ground.data[i + 2]!];
    });
    expect(see(framed).evidence).to.equal(null);
  });

  it('finds the same at half the size of the superpixels', () => {
    const picture = before(outOfFocus(wall, 9));
    const half = superpixelsOf(
      {
        width: 300,
        height: 200,
        data: picture.data.filter((_, k) => ((k >> 2) % width) % 2 === 0 && Math.floor((k >> 2) / width) % 2 === 0),
      },
      400,
    );
    const evidence = focusEvidence(brightnessOf(picture), half)!;
    const mid = half.labels[100 * 300 + 165]!;
    const corner = half.labels[40 * 300 + 40]!;
    expect(evidence[mid]).to.be.above(1.5);
    expect(evidence[corner]).to.be.below(-1.5);
  });

  it('is told at one size, and a small picture is made only a little larger for that', () => {
    for (const [across, told] of [
      [1800, 900],
      [1000, 900],
      [800, 900],
      [600, 750],
      [200, 250],
    ] as const) {
      const even = makeRgba(across, across / 2);
      even.data.fill(140);
      const luma = atSizeOfFocus(even);
      expect([luma.width, luma.height]).to.deep.equal([told, told / 2]);
      expect(luma.data.every((v) => Math.abs(v - luma.data[0]!) < 0.01)).to.equal(true);
    }
  });

  it('tells leaves out of focus from moss in a photograph of 600 pixels, at whose own size neither is sharp enough', async () => {
    const scene = photographs.find(({ name }) => name === 'mossy buoy before leaves')!;
    const { picture, alpha } = await photographOf(scene, 600);
    const segments = superpixelsOf(averagedTo(picture, 225, 150), 400);
    const subject = enlargedPlane({ ...alpha, data: Float32Array.from(alpha.data) }, 225, 150);
    const at = (x: number, y: number): number => subject.data[y * 225 + x]!;
    const evidence = focusEvidence(atSizeOfFocus(picture), segments)!;
    expect(meanOf(evidence, segments, (x, y) => at(x, y) > 250)).to.be.above(1);
    expect(meanOf(evidence, segments, (x, y) => at(x, y) < 5)).to.be.below(-1);
    expect(focusEvidence(brightnessOf(picture), segments)).to.equal(null);
  });
});
