import { expect } from 'chai';
import { learnedLook } from '../../cli/learned.ts';
import { renderScene } from '../../demo/truth.ts';
import { blind, type Look } from '../learned/subject-networks.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeRgba, type Plane } from '../pixels/raster.ts';
import { enlargedPlane } from '../pixels/resample.ts';
import { groundAt, guessedDepth } from './guess.ts';

/** Spearman's rank correlation over a seeded sample of pixels. */
function rankCorrelation(a: Plane, b: Plane): number {
  const random = seededRandom(3);
  const picked = Array.from({ length: 1500 }, () => Math.floor(random() * a.data.length));
  const ranks = ({ data }: Plane): Float64Array => {
    const order = picked.map((i, k) => [data[i]!, k] as const).sort((x, y) => x[0] - y[0]);
    const rank = new Float64Array(picked.length);
    // Equal values share the mean of their places.
    for (let from = 0; from < order.length;) {
      let end = from;
      while (end < order.length && order[end]![0] === order[from]![0]) end++;
      for (let k = from; k < end; k++) rank[order[k]![1]] = (from + end - 1) / 2;
      from = end;
    }
    return rank;
  };
  const [x, y] = [ranks(a), ranks(b)];
  const middle = (picked.length - 1) / 2;
  let [xy, xx, yy] = [0, 0, 0];
  for (let k = 0; k < picked.length; k++) {
    xy += (x[k]! - middle) * (y[k]! - middle);
    xx += (x[k]! - middle) ** 2;
    yy += (y[k]! - middle) ** 2;
  }
  return xy / Math.sqrt(xx * yy);
}

describe('guessed depth', () => {
  it('orders places as they truly lie, in scenes whose depth is known', async () => {
    const look = await learnedLook();
    for (const [scene, least] of [
      ['breakwater', 0.85],
      ['lantern', 0.8],
      ['heron', 0.6],
    ] as const) {
      const request = { scene, width: 210, height: 140, samples: 1, threads: 2, withSubject: true };
      const { picture, depth } = await renderScene(request);
      const { map } = await guessedDepth(picture, look);
      const closeness = { ...depth, data: depth.data.map((d) => 1 / d) };
      expect(rankCorrelation(enlargedPlane(map, 210, 140), closeness), scene).to.be.above(least);
      for (const v of map.data) expect(v).to.be.within(0, 1);
    }
  });

  it('finds the horizon where light turns into dark right across, and takes one above the middle where nothing does', async () => {
    const sea = makeRgba(300, 200);
    const plain = makeRgba(300, 200);
    for (let i = 0; i < 300 * 200; i++) {
      const light = Math.floor(i / 300) < 110 ? 220 : 90;
      sea.data.set([light, light, light + 10, 255], i * 4);
      plain.data.set([120, 120, 120, 255], i * 4);
    }
    expect((await guessedDepth(sea, blind)).horizon).to.be.closeTo(110 / 200, 0.02);
    expect((await guessedDepth(plain, blind)).horizon).to.be.within(0.3, 0.5);
    // Dark over light goes right across as well; what goes across half of it only is a thing, and no horizon.
    const [upsideDown, wall] = [makeRgba(300, 200), makeRgba(300, 200)];
    for (let i = 0; i < 300 * 200; i++) {
      const below = Math.floor(i / 300) >= 80;
      const [other, thing] = [below ? 220 : 90, below && i % 300 < 140 ? 220 : 90];
      upsideDown.data.set([other, other, other, 255], i * 4);
      wall.data.set([thing, thing, thing, 255], i * 4);
    }
    expect((await guessedDepth(upsideDown, blind)).horizon).to.be.closeTo(80 / 200, 0.02);
    expect((await guessedDepth(wall, blind)).horizon).to.be.equal((await guessedDepth(plain, blind)).horizon);
  });

  it('takes open sky for far down to where it ends, and what stands up into it for one distance from its foot to its tip', async () => {
    const [width, height] = [300, 200];
    const random = seededRandom(4);
    const picture = makeRgba(width, height);
    // Houses of all sorts along the lower border, some lighter and some darker than the sky: no line goes right across.
    const houses = Array.from({ length: 25 }, () => ({ top: 150 + 20 * random(), light: random() < 0.5 ? 30 : 220 }));
    const isMast = (x: number, y: number): boolean => x >= 140 && x < 152 && y > 20;
    for (let i = 0; i < width * height; i++) {
      const [x, y] = [i % width, Math.floor(i / width)];
      const house = houses[Math.floor(x / 12)]!;
      const sky = 90 + 0.4 * y;
      const light = isMast(x, y) ? 190 + 30 * random() : y > house.top ? house.light + 25 * random() : sky;
      picture.data.set([light, light, light + 20, 255], i * 4);
    }
    const { map, horizon } = await guessedDepth(picture, blind);
    expect(horizon).to.be.within(0.75, 0.86);
    const at = (x: number, y: number): number =>
      map.data[Math.round((y * map.height) / height) * map.width + Math.round((x * map.width) / width)]!;
    const mast = [40, 70, 100, 130].map((y) => at(146, y));
    expect(Math.max(...mast) - Math.min(...mast)).to.be.below(0.06);
    // The sky beside it, in front of which it stands, and the houses before both.
    for (const y of [40, 70, 100, 130]) expect(at(146, y) - at(60, y), `over the sky at ${y}`).to.be.above(0.08);
    expect(at(60, 190)).to.be.above(mast[0]! + 0.2);
  });

  it('lets ground come nearer from its horizon to the lower border, without a step', () => {
    for (const horizon of [0.2, 0.42, 0.7]) {
      expect(groundAt(0, horizon)).to.equal(0);
      expect(groundAt(1, horizon)).to.be.closeTo(1, 1e-9);
      expect(groundAt(horizon + 1e-9, horizon)).to.be.closeTo(groundAt(horizon, horizon), 1e-6);
      for (let v = 0.02; v <= 1; v += 0.02) expect(groundAt(v, horizon)).to.be.above(groundAt(v - 0.02, horizon));
    }
  });

  it('keeps what networks see only roughly within the edges that the picture has', async () => {
    const picture = makeRgba(240, 160);
    const random = seededRandom(9);
    for (let i = 0; i < 240 * 160; i++) {
      const post = i % 240 > 90 && i % 240 < 150;
      picture.data.set([...(post ? [180, 60, 40] : [110, 120, 96]).map((c) => c + 4 * random()), 255], i * 4);
    }
    // A map of few pixels: its border is as wide as a tenth of the picture.
    const rough: Look = () => [
      { width: 12, height: 8, data: Float32Array.from({ length: 96 }, (_, i) => (i % 12 > 3 && i % 12 < 8 ? 1 : 0)) },
    ];
    const { map } = await guessedDepth(picture, rough);
    const at = (x: number): number =>
      map.data[Math.round(map.height * 0.3) * map.width + Math.round((x * map.width) / 240)]!;
    const step = at(120) - at(40);
    expect(step).to.be.above(0.3);
    expect(at(95) - at(86)).to.be.above(0.5 * step);
  });

  it('does not take what a picture leaves empty for something dark', async () => {
    const { picture } = await renderScene({
      scene: 'breakwater',
      width: 210,
      height: 140,
      samples: 1,
      threads: 2,
      withSubject: true,
    });
    const whole = (await guessedDepth(picture, blind)).map;
    const data = picture.data.slice();
    const empty = (i: number): boolean => i % 210 > 150;
    for (let i = 0; i < 210 * 140; i++) if (empty(i)) data.set([0, 0, 0, 0], i * 4);
    const { map } = await guessedDepth({ ...picture, data }, blind);
    const [a, b] = [enlargedPlane(whole, 210, 140), enlargedPlane(map, 210, 140)];
    let [sum, count] = [0, 0];
    for (let i = 0; i < a.data.length; i++) {
      if (empty(i) || i % 210 < 110) continue;
      sum += Math.abs(a.data[i]! - b.data[i]!);
      count++;
    }
    expect(sum / count, 'beside it').to.be.below(0.03);
  });
});
