import { expect } from 'chai';
import { dilate, squaredDistance } from './distance.ts';
import { boxBlur, boxCounts } from './filters.ts';
import { filterKernel } from './filter-kernel.ts';
import { seededRandom } from './random.ts';
import { makeBytes, makePlane, makeRgba, type Bytes, type Plane, type Rgba } from './raster.ts';
import { averagedTo, halve } from './resample.ts';
import { brightness, slopesOf } from './slopes.ts';

const random = seededRandom(31);
const whole = (least: number, most: number): number => least + Math.floor(random() * (most - least + 1));

function anyPlane(width: number, height: number): Plane {
  const plane = makePlane(width, height);
  plane.data.forEach((_, i) => (plane.data[i] = 300 * random() - 40));
  return plane;
}

function anyMask(width: number, height: number): Bytes {
  const mask = makeBytes(width, height);
  mask.data.forEach((_, i) => (mask.data[i] = random() < 0.4 ? 1 : 0));
  return mask;
}

function anyPicture(width: number, height: number): Rgba {
  const picture = makeRgba(width, height);
  picture.data.forEach((_, i) => (picture.data[i] = 256 * random()));
  return picture;
}

/** The sum of a window, one by one; what lies beyond a border is what lies on it. */
function sumAround({ width, height, data }: Plane | Bytes, x: number, y: number, radius: number): number {
  let sum = 0;
  for (let v = y - radius; v <= y + radius; v++)
    for (let u = x - radius; u <= x + radius; u++)
      sum += data[Math.max(0, Math.min(height - 1, v)) * width + Math.max(0, Math.min(width - 1, u))]!;
  return sum;
}

/** The kernel and the plain way make the same numbers, to the last bit. */
function alike<T extends object>(work: () => T, about: string): T {
  const made = work();
  expect(made, about).to.deep.equal(filterKernel.without(work));
  return made;
}

/** Pictures of all sorts of sizes, the least among them. */
const sizes = Array.from({ length: 24 }, (_, n) =>
  n < 9 ? [1 + (n % 3), 1 + Math.floor(n / 3)] : [whole(1, 60), whole(1, 40)],
);

describe('filters by the kernel and the plain way', () => {
  it('the kernel runs here, so that both are compared', () =>
    expect(filterKernel.within([8], () => true)).to.equal(true));

  it('box means are the same, and the mean of a window with its borders repeated', () => {
    for (const [width, height] of sizes as [number, number][]) {
      const plane = anyPlane(width, height);
      const radius = whole(1, 9);
      const blurred = alike(() => boxBlur(plane, radius), `${width} ${height} ${radius}`);
      const [x, y] = [whole(0, width - 1), whole(0, height - 1)];
      const mean = sumAround(plane, x, y, radius) / (2 * radius + 1) ** 2;
      expect(blurred.data[y * width + x]).to.be.closeTo(mean, 1e-3);
    }
  });

  it('counts in windows are the same, and those found one by one', () => {
    for (const [width, height] of sizes as [number, number][]) {
      const mask = anyMask(width, height);
      const radius = random() < 0.1 ? 127 : whole(1, 12);
      const counts = alike(() => boxCounts(mask, radius), `${width} ${height} ${radius}`);
      const [x, y] = [whole(0, width - 1), whole(0, height - 1)];
      expect(counts[y * width + x]).to.equal(sumAround(mask, x, y, radius));
    }
  });

  it('pictures half as large, and of any other size, are the same', () => {
    for (const [width, height] of sizes as [number, number][]) {
      const picture = anyPicture(width, height);
      alike(() => halve(picture), `${width} ${height}`);
      const to = [whole(1, 50), whole(1, 50)] as const;
      alike(() => averagedTo(picture, ...to), `${width} ${height} to ${to.join(' ')}`);
    }
  });

  it('a picture averaged to one pixel is its mean', () => {
    const picture = anyPicture(37, 23);
    const one = averagedTo(picture, 1, 1);
    for (let c = 0; c < 4; c++) {
      const mean = picture.data.reduce((sum, v, i) => sum + (i % 4 === c ? v : 0), 0) / (37 * 23);
      expect(one.data[c]).to.be.closeTo(mean, 0.51);
    }
  });

  it('distances are the same, and what lies within one of them', () => {
    for (const [width, height] of sizes as [number, number][]) {
      const mask = anyMask(width, height);
      const few = random();
      mask.data.forEach((_, i) => (mask.data[i] = random() < 0.1 * few ? 1 : 0));
      const about = `${width} ${height}`;
      const distances = alike(() => squaredDistance(mask), about);
      const near = alike(() => dilate(mask, 2.5), about);
      expect([...near.data], about).to.deep.equal([...distances].map((d) => (d <= 6.25 ? 1 : 0)));
    }
  });

  it('brightness and its slopes are the same', () => {
    const exposed = Float32Array.from({ length: 256 }, (_, v) => (v / 255) ** 0.6);
    for (const [width, height] of sizes as [number, number][]) {
      const picture = anyPicture(width, height);
      const luma = alike(() => brightness(picture, exposed), `${width} ${height}`);
      alike(() => slopesOf(luma), `${width} ${height}`);
    }
    const ramp = {
      width: 9,
      height: 7,
      data: Float32Array.from({ length: 63 }, (_, i) => 3 * (i % 9) + 4 * Math.floor(i / 9)),
    };
    expect(slopesOf(ramp).data[3 * 9 + 4]).to.equal(5);
    expect(slopesOf(ramp).data[3 * 9 + 8]).to.equal(0);
  });
});
