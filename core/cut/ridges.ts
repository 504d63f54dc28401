import { lumaOf } from '../pixels/color.ts';
import { boxBlur } from '../pixels/filters.ts';
import { makePlane, type Plane, type Rgba } from '../pixels/raster.ts';

/** Thin lines of a picture, lighter, darker or of another colour than what lies on both sides. */
export interface Ridges {
  width: number;
  height: number;
  /** How much a pixel is on a line, 0..1, against its surroundings. */
  strength: Float32Array;
  /** Direction across the line, two numbers a pixel, of length 1. */
  across: Float32Array;
}

/** Standard deviations at which lines are looked for, in pixels: a line of width w answers best at about w / 2. */
const scales = [0.8, 1.4, 2.4, 4.2, 7] as const;

/** By which power of the scale thinner lines count more than wider ones. */
const thinFirst = 0.3;

/** How strongly a line must curve to be one at all, in steps of 8 bits. */
const faintest = 1.5;

/**
 * Ridges by the Hessian's eigenvalues over several scales (Lindeberg 1998, "Edge detection and ridge detection with automatic scale
 * selection").
 * @param radii half widths in pixels of the thinnest and the widest line that is looked for
 */
export function ridgesOf(picture: Rgba, [thinnest, widest]: readonly [number, number]): Ridges {
  const { width, height } = picture;
  const ridges = {
    width,
    height,
    strength: new Float32Array(width * height),
    across: new Float32Array(width * height * 2),
  };
  const channels = channelsOf(picture);
  for (const sigma of scalesOf(thinnest, widest)) {
    const found = makePlane(width, height);
    const across = new Float32Array(width * height * 2);
    // The finest lines are seen by their light: cameras and files keep colour more coarsely.
    for (const channel of sigma < 1 ? channels.slice(0, 1) : channels)
      addRidges(smoothed(channel, sigma), sigma, found, across);
    const clear = againstSurroundings(found, 6 + 4 * sigma);
    // Where a thin line runs before something broad and soft, the thin one is meant.
    keepStronger(
      ridges,
      clear.map((value) => value * (sigma / scales[0]) ** -thinFirst),
      across,
    );
  }
  return ridges;
}

/** Of each scale what stands out among its like: a fine line before broad soft things that are stronger. */
function keepStronger({ strength, across }: Ridges, found: Float32Array, directions: Float32Array): void {
  for (let i = 0; i < strength.length; i++) {
    if (found[i]! <= strength[i]!) continue;
    strength[i] = found[i]!;
    across[2 * i] = directions[2 * i]!;
    across[2 * i + 1] = directions[2 * i + 1]!;
  }
}

/** Those for lines of some widths; the nearest one where there is none. */
function scalesOf(thinnest: number, widest: number): readonly number[] {
  const some = scales.filter((scale) => scale >= thinnest && scale <= widest);
  const nearest = (to: number): number =>
    scales.reduce<number>((a, b) => (Math.abs(b - to) < Math.abs(a - to) ? b : a), scales[0]);
  return some.length > 0 ? some : [nearest((thinnest + widest) / 2)];
}

/** Light, and colour apart from it: a line may differ from its ground by either. */
function channelsOf({ width, height, data }: Rgba): Plane[] {
  const planes = [0, 1, 2].map(() => makePlane(width, height));
  for (let i = 0; i < width * height; i++) {
    const luma = lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
    planes[0]!.data[i] = luma;
    planes[1]!.data[i] = data[i * 4]! - luma;
    planes[2]!.data[i] = data[i * 4 + 2]! - luma;
  }
  return planes;
}

/** Gaussian smoothing, borders repeated; a wide one by three means that together vary as much (Wells 1986). */
function smoothed(plane: Plane, sigma: number): Plane {
  if (sigma < 2) return convolved(plane, sigma);
  const radius = Math.round((Math.sqrt(4 * sigma * sigma + 1) - 1) / 2);
  return boxBlur(boxBlur(boxBlur(plane, radius), radius), radius);
}

function convolved({ width, height, data }: Plane, sigma: number): Plane {
  const reach = Math.ceil(3 * sigma);
  const bell = Float32Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((k - reach) ** 2) / (2 * sigma ** 2)));
  const total = bell.reduce((a, b) => a + b);
  const along = makePlane(width, height);
  const out = makePlane(width, height);
  for (let k = -reach; k <= reach; k++) {
    const weight = bell[k + reach]! / total;
    for (let y = 0; y < height; y++)
      for (let x = 0, i = y * width; x < width; x++, i++)
        along.data[i] = along.data[i]! + weight * data[y * width + Math.max(0, Math.min(width - 1, x + k))]!;
  }
  for (let k = -reach; k <= reach; k++) {
    const weight = bell[k + reach]! / total;
    for (let y = 0; y < height; y++) {
      const from = Math.max(0, Math.min(height - 1, y + k)) * width;
      for (let x = 0, i = y * width; x < width; x++, i++) out.data[i] = out.data[i]! + weight * along.data[from + x]!;
    }
  }
  return out;
}

/**
 * Keeps, at every pixel, the strongest line seen so far: much curved across and little along, and level across in its middle, as
 * the border of something broad is not.
 */
function addRidges({ width, height, data }: Plane, sigma: number, most: Plane, across: Float32Array): void {
  const scale = 2 * sigma * sigma;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
      const xx = data[i - 1]! + data[i + 1]! - 2 * data[i]!;
      const yy = data[i - width]! + data[i + width]! - 2 * data[i]!;
      const xy = (data[i - width - 1]! + data[i + width + 1]! - data[i - width + 1]! - data[i + width - 1]!) / 4;
      const [mean, half] = [(xx + yy) / 2, (xx - yy) / 2];
      const apart = Math.sqrt(half * half + xy * xy);
      // |larger eigenvalue| - |smaller|: a spot curves both ways.
      const curved = Math.min(apart, Math.abs(mean)) * scale;
      if (curved <= most.data[i]!) continue;
      // Of [[half, xy], [xy, -half]] the eigenvector for the eigenvalue farther from 0.
      const sign = mean < 0 ? -1 : 1;
      const angle = 0.5 * Math.atan2(xy * sign, half * sign);
      const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
      const slope = Math.abs((data[i + 1]! - data[i - 1]!) * dx + (data[i + width]! - data[i - width]!) * dy) / 2;
      const strength = curved - slope * sigma;
      if (strength <= most.data[i]!) continue;
      most.data[i] = strength;
      across[i * 2] = dx;
      across[i * 2 + 1] = dy;
    }
}

/** A faint line in a quiet place counts as much as a strong one in a busy place. */
function againstSurroundings(most: Plane, radius: number): Float32Array {
  const mean = boxBlur(most, Math.round(radius));
  return most.data.map((value, i) => value / (value + 1.5 * mean.data[i]! + faintest));
}
