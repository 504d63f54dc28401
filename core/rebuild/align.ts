import { boxBlur } from '../pixels/filters.ts';
import { lumaOf } from '../pixels/color.ts';
import { checkpoint, type Progress } from '../pixels/progress.ts';
import { makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { halve, halveMask } from '../pixels/resample.ts';
import { solvePositive } from '../pixels/solve.ts';

/**
 * Where a point of one picture lies in another: (a x - b y + tx, b x + a y + ty). Points are measured in pixels from the
 * upper left corner of a picture, so that the middle of its first pixel is (0.5, 0.5).
 */
export interface Similarity {
  a: number;
  b: number;
  tx: number;
  ty: number;
}

/** Thrown when two pictures have too little in common. */
export class NothingInCommon extends Error {
  constructor() {
    super(
      'The two pictures show too little of the same place to be laid over each other. Use a photo from the same spot.',
    );
    this.name = 'NothingInCommon';
  }
}

/** Shortest longest side at which the search begins, and at which likeness is judged. */
const coarseSize = 72;
const judgedSize = 300;
/** Correlation of detail below which two pictures are not of the same place. */
const leastLikeness = 0.4;

interface Level {
  mine: Plane;
  theirs: Plane;
  ignore: Bytes;
}

/**
 * Finds where `other` shows the same place as `picture`: a search over places, sizes and turns at a very small size, then
 * Gauss-Newton from coarse to fine with robust weights (Lucas & Kanade 1981; Baker & Matthews 2004), on brightness freed
 * of exposure. What `ignore` marks with 1 (the subject) does not count.
 * @throws NothingInCommon, Cancelled
 */
export async function alignPictures(
  picture: Rgba,
  other: Rgba,
  ignore: Bytes,
  progress?: Progress,
): Promise<Similarity> {
  const doing = 'Laying the pictures over each other';
  progress?.report?.(doing, 0);
  const levels = pyramid(picture, other, ignore);
  let at = await coarseSearch(levels.at(-1)!, progress);
  for (let k = levels.length - 1; k >= 0; k--) {
    if (k < levels.length - 1) at = { ...at, tx: at.tx * 2, ty: at.ty * 2 };
    const size = Math.max(levels[k]!.mine.width, levels[k]!.mine.height);
    for (let round = 0; round < (size > 1000 ? 3 : 12); round++) {
      await checkpoint(progress);
      const next = gaussNewton(levels[k]!, at, size > 600 ? 3 : 1);
      const moved =
        Math.abs(next.tx - at.tx) +
        Math.abs(next.ty - at.ty) +
        size * (Math.abs(next.a - at.a) + Math.abs(next.b - at.b));
      at = next;
      if (moved < 0.01) break;
    }
    if (size <= judgedSize && (k === 0 || size * 2 > judgedSize)) {
      const likeness = correlation(comparedIn(levels[k]!, at, 1), levels[k]!.theirs, 0, 0);
      if (likeness < leastLikeness) throw new NothingInCommon();
    }
    progress?.report?.(doing, 1 - k / levels.length);
  }
  return at;
}

function pyramid(picture: Rgba, other: Rgba, ignore: Bytes): Level[] {
  const levels: Level[] = [];
  for (let [p, o, i] = [picture, other, ignore]; ; [p, o, i] = [halve(p), halve(o), halveMask(i)]) {
    levels.push({ mine: detailOf(p), theirs: detailOf(o), ignore: i });
    if (Math.max(p.width, p.height) < 2 * coarseSize || Math.min(o.width, o.height) < 48) return levels;
  }
}

/** Brightness less its local mean, over its local deviation: what exposure and vignetting do not change. */
function detailOf(picture: Rgba): Plane {
  const { width, height, data } = picture;
  const luma = makePlane(width, height);
  for (let i = 0; i < luma.data.length; i++) luma.data[i] = lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
  const radius = Math.max(4, Math.round(Math.max(width, height) / 24));
  const mean = boxBlur(luma, radius).data;
  const square = boxBlur({ width, height, data: luma.data.map((v, i) => (v - mean[i]!) ** 2) }, radius).data;
  return { width, height, data: luma.data.map((v, i) => (v - mean[i]!) / (Math.sqrt(square[i]!) + 6)) };
}

async function coarseSearch(level: Level, progress: Progress | undefined): Promise<Similarity> {
  const { mine, theirs } = level;
  let best: Similarity = { a: 1, b: 0, tx: 0, ty: 0 };
  let bestScore = -Infinity;
  const base = theirs.width / mine.width;
  for (const scale of [0.7, 0.8, 0.9, 1, 1.12, 1.25, 1.4]) {
    await checkpoint(progress);
    for (const degrees of [-12, -8, -4, 0, 4, 8, 12]) {
      const angle = (degrees * Math.PI) / 180;
      const a = base * scale * Math.cos(angle);
      const b = base * scale * Math.sin(angle);
      // Turned and scaled about the middle, then moved.
      const cx = theirs.width / 2 - (a * mine.width - b * mine.height) / 2;
      const cy = theirs.height / 2 - (b * mine.width + a * mine.height) / 2;
      // Every pixel of the small size is tried: boards and bricks look alike one period on.
      const [across, down] = [Math.round(0.25 * theirs.width), Math.round(0.25 * theirs.height)];
      const compared = comparedIn(level, { a, b, tx: cx, ty: cy }, 3);
      for (let dy = -down; dy <= down; dy++) {
        await checkpoint(progress);
        for (let dx = -across; dx <= across; dx++) {
          const score = correlation(compared, theirs, dx, dy);
          if (score <= bestScore) continue;
          bestScore = score;
          best = { a, b, tx: cx + dx, ty: cy + dy };
        }
      }
    }
  }
  return best;
}

/** Pixels of one picture, and where each lies in the other. */
interface Compared {
  value: Float32Array;
  x: Int32Array;
  y: Int32Array;
}

/** Every `stride`-th pixel that counts: a search by whole pixels looks up where they lie once, and not for each of its steps. */
function comparedIn({ mine, ignore }: Level, at: Similarity, stride: number): Compared {
  const most = Math.ceil(mine.width / stride) * Math.ceil(mine.height / stride);
  const [value, xs, ys] = [new Float32Array(most), new Int32Array(most), new Int32Array(most)];
  let count = 0;
  for (let y = 0; y < mine.height; y += stride) {
    for (let x = 0; x < mine.width; x += stride) {
      const i = y * mine.width + x;
      if (ignore.data[i]) continue;
      value[count] = mine.data[i]!;
      xs[count] = Math.round(at.a * (x + 0.5) - at.b * (y + 0.5) + at.tx - 0.5);
      ys[count++] = Math.round(at.b * (x + 0.5) + at.a * (y + 0.5) + at.ty - 0.5);
    }
  }
  return { value: value.subarray(0, count), x: xs.subarray(0, count), y: ys.subarray(0, count) };
}

/** Correlation of the two details where both show something, moved by whole pixels; -1 where they overlap by less than half. */
function correlation({ value, x, y }: Compared, { width, height, data }: Plane, dx: number, dy: number): number {
  let [both, first, second, n] = [0, 0, 0, 0];
  for (let k = 0; k < value.length; k++) {
    const sx = x[k]! + dx;
    const sy = y[k]! + dy;
    if (sx < 0 || sy < 0 || sx >= width || sy >= height) continue;
    const p = value[k]!;
    const q = data[sy * width + sx]!;
    both += p * q;
    first += p * p;
    second += q * q;
    n++;
  }
  return n * 2 < value.length ? -1 : both / Math.sqrt(first * second + 1e-9);
}

/** Residual, in local deviations, at which a pixel counts half. */
const robustScale = 0.6;

/** One step towards the least weighted squared difference; what moved or is new counts little. */
function gaussNewton({ mine, theirs, ignore }: Level, at: Similarity, stride: number): Similarity {
  const { width, height, data } = theirs;
  const cx = mine.width / 2;
  const cy = mine.height / 2;
  const normal = new Float64Array(16);
  const right = new Float64Array(4);
  const row = new Float64Array(4);
  for (let y = 0; y < mine.height; y += stride) {
    for (let x = 0; x < mine.width; x += stride) {
      const i = y * mine.width + x;
      if (ignore.data[i]) continue;
      const sx = at.a * (x + 0.5) - at.b * (y + 0.5) + at.tx - 0.5;
      const sy = at.b * (x + 0.5) + at.a * (y + 0.5) + at.ty - 0.5;
      const ix = Math.floor(sx);
      const iy = Math.floor(sy);
      if (ix < 1 || iy < 1 || ix >= width - 2 || iy >= height - 2) continue;
      const [fx, fy] = [sx - ix, sy - iy];
      const o = iy * width + ix;
      const [p, q, r, s] = [data[o]!, data[o + 1]!, data[o + width]!, data[o + width + 1]!];
      const value = (p * (1 - fx) + q * fx) * (1 - fy) + (r * (1 - fx) + s * fx) * fy;
      const gx = (q - p) * (1 - fy) + (s - r) * fy;
      const gy = (r - p) * (1 - fx) + (s - q) * fx;
      const residual = mine.data[i]! - value;
      const weight = 1 / (1 + (residual / robustScale) ** 2) ** 2;
      const [ux, uy] = [x + 0.5 - cx, y + 0.5 - cy];
      row[0] = gx * ux + gy * uy;
      row[1] = gy * ux - gx * uy;
      row[2] = gx;
      row[3] = gy;
      for (let j = 0; j < 4; j++) {
        right[j]! += weight * row[j]! * residual;
        for (let k = 0; k < 4; k++) normal[j * 4 + k]! += weight * row[j]! * row[k]!;
      }
    }
  }
  const step = solvePositive(normal, right);
  const a = at.a + step[0]!;
  const b = at.b + step[1]!;
  // The middle of the picture moves by the step's shift alone.
  return {
    a,
    b,
    tx: at.tx + step[2]! - step[0]! * cx + step[1]! * cy,
    ty: at.ty + step[3]! - step[1]! * cx - step[0]! * cy,
  };
}
