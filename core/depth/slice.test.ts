import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makePlane, makeRgba, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { depthRegions } from './regions.ts';
import { slicedByDepth } from './slice.ts';

const [width, height] = [240, 160];

/** Which thing a pixel shows: 0 a tree before the house, 1 the house, 2 the sky. */
function thingAt(x: number, y: number): 0 | 1 | 2 {
  if (Math.hypot(x - 60, y - 100) < 45 || (Math.abs(x - 60) < 8 && y > 100)) return 0;
  return x > 40 && x < 190 && y > 50 && y < 150 ? 1 : 2;
}

const colours = [
  [40, 90, 36],
  [190, 150, 120],
  [150, 190, 235],
] as const;
const distances = [0.9, 0.5, 0.1];

/** A speckled tree before a house with dark windows, and sky. */
function street(): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(1);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const thing = thingAt(x, y);
    const window = thing === 1 && x % 30 < 10 && y % 28 < 12 ? -45 : 0;
    const speckle = (random() - 0.5) * [50, 14, 6][thing]! + window;
    picture.data.set([...colours[thing].map((v) => v + speckle), 255], i * 4);
  }
  return picture;
}

/** Its depth as a guess would have it: speckled, blurred over four pixels of the small map, with holes in the house. */
function roughDepth(): Plane {
  const map = makePlane(120, 80);
  const random = seededRandom(2);
  for (let i = 0; i < map.data.length; i++) {
    const [x, y] = [(i % 120) * 2, Math.floor(i / 120) * 2];
    let sum = 0;
    for (const dx of [-4, 0, 4]) for (const dy of [-4, 0, 4]) sum += distances[thingAt(x + dx, y + dy)]! / 9;
    const hole = thingAt(x, y) === 1 && random() < 0.12 ? -0.4 : 0;
    map.data[i] = Math.max(0, Math.min(1, sum + (random() - 0.5) * 0.2 + hole));
  }
  return map;
}

/** Fills a hole with the mean of the whole picture: plain enough to be told from it. */
async function plainFill(picture: Rgba, hole: Bytes): Promise<Rgba> {
  const data = new Uint8ClampedArray(picture.data);
  for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) data.set([120, 130, 140, 255], i * 4);
  return { ...picture, data };
}

describe('a picture parted by distance', () => {
  it('keeps things whole although the map is speckled, blurred and full of holes', () => {
    const { bands, closeness } = depthRegions(street(), roughDepth(), 3);
    expect(closeness).to.have.length(3);
    closeness.forEach((value, k) => expect(value).to.be.closeTo(distances[k]!, 0.12));
    for (const thing of [0, 1, 2]) {
      let [all, right] = [0, 0];
      for (let i = 0; i < bands.data.length; i++) {
        if (thingAt(i % width, Math.floor(i / width)) !== thing) continue;
        all++;
        if (bands.data[i] === thing) right++;
      }
      expect(right / all, `thing ${thing}`).to.be.above(0.96);
    }
  });

  it('gives fewer bands where there are not so many distances', () => {
    const flat = makePlane(20, 20);
    flat.data.fill(0.4);
    const { bands, closeness } = depthRegions(street(), flat, 4);
    expect(closeness.map((v) => Number(v.toFixed(3)))).to.deep.equal([0.4]);
    expect(new Set(bands.data)).to.deep.equal(new Set([0]));
  });
});

describe('slices', () => {
  it('laid over one another at rest are the picture, to a level or two', async () => {
    const picture = street();
    const { slices, background } = await slicedByDepth(picture, roughDepth(), 3, plainFill);
    expect(slices).to.have.length(2);
    const laid = new Uint8ClampedArray(background.data);
    for (const { colours: own } of [...slices].reverse())
      for (let i = 0; i < laid.length; i += 4) {
        const a = own.data[i + 3]! / 255;
        for (let c = 0; c < 3; c++) laid[i + c] = own.data[i + c]! * a + laid[i + c]! * (1 - a);
      }
    let worst = 0;
    for (let i = 0; i < laid.length; i++) worst = Math.max(worst, Math.abs(laid[i]! - picture.data[i]!));
    expect(worst).to.be.at.most(2);
  });

  it('are whole behind those before them, as far as what is beside them there', async () => {
    const { slices, background } = await slicedByDepth(street(), roughDepth(), 3, plainFill);
    const house = slices[1]!;
    const at = (x: number, y: number): number => y * width + x;
    // Behind the tree where the house goes on, and where only sky is beside it.
    expect(house.alpha.data[at(80, 100)]).to.equal(255);
    expect(house.alpha.data[at(22, 80)]).to.equal(0);
    expect([...background.data.subarray(at(100, 100) * 4, at(100, 100) * 4 + 3)]).to.deep.equal([120, 130, 140]);
    const sky = [...background.data.subarray(at(220, 20) * 4, at(220, 20) * 4 + 3)];
    expect(sky).to.deep.equal([...street().data.subarray(at(220, 20) * 4, at(220, 20) * 4 + 3)]);
  });

  it('are as empty as the picture, however its colours go on below, and none is made of what is empty', async () => {
    const opaque = street();
    const picture: Rgba = { ...opaque, data: opaque.data.slice() };
    /** It ends, over four pixels, in the middle of the house; the file says red there. */
    const own = (x: number): number => Math.round(255 * Math.max(0, Math.min(1, (120 - x) / 4)));
    for (let i = 0; i < width * height; i++) {
      const a = own(i % width);
      picture.data.set(a === 0 ? [255, 0, 0, 0] : [...opaque.data.subarray(i * 4, i * 4 + 3), a], i * 4);
    }
    const { slices, background } = await slicedByDepth(picture, roughDepth(), 3, plainFill);
    const full = await slicedByDepth(opaque, roughDepth(), 3, plainFill);
    expect(slices.length).to.equal(full.slices.length);
    for (let i = 0; i < width * height; i++) {
      expect(background.data[i * 4 + 3], 'background').to.equal(own(i % width));
      for (const { alpha, colours: shown } of slices) {
        expect(alpha.data[i])
          .to.be.at.most(own(i % width))
          .and.to.equal(shown.data[i * 4 + 3]);
        if (alpha.data[i]! > 0) expect(shown.data[i * 4]! - shown.data[i * 4 + 1]!, 'no red').to.be.below(120);
      }
    }
    const at = (x: number, y: number): number => y * width + x;
    for (const [k, { alpha }] of slices.entries())
      for (const [x, y] of [
        [60, 100],
        [100, 80],
        [110, 60],
      ] as const)
        expect(alpha.data[at(x, y)], `${k} at ${x}, ${y}`).to.equal(full.slices[k]!.alpha.data[at(x, y)]);
  });
});
