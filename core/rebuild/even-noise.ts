import { boxBlur } from '../pixels/filters.ts';
import { makePlane, type Plane } from '../pixels/raster.ts';

/** Detail, fine and coarser, is what differs from the mean this far around; how strong it is, is told from as far again. */
const bands = [2, 6] as const;
/** Grain is told for so many steps of darkness, from at least and from about so many pixels each. */
const [steps, least, judged] = [24, 60, 4000];
/** Up to this share of light taken, a shadow's ground has the grain of the ground around. */
const rim = 0.15;
/** So many times as strong as its mean may grain alone be, in so small a window. */
const chance = 1.7;
/** Grain that is stronger by less than this is left as it is. */
const tolerated = 1.1;
/** A normal distribution's deviation for a median of absolute values of 1. */
const deviationOfMedian = 1.4826;

/**
 * Ground that a shadow was taken from by multiplying has its grain multiplied too. Gives it the grain that the ground has at
 * the shadow's rim, and leaves what is stronger than grain: detail is weakened to the strength it has without what the grain
 * has too much (the local filter of Lee 1980, that ends at the grain wanted instead of none). What grain is, is the median of
 * detail of all that is equally dark, so a texture, which is as strong in the light as in the shadow once lifted, stays.
 * @param lit planes of the lifted ground  @param alpha share of light taken, 0..255; 0 is ground without a shadow
 * @param hidden not 0 where a piece hides the ground: nothing is read there, nothing changed
 */
export function evenNoise(lit: readonly Plane[], alpha: ArrayLike<number>, hidden: ArrayLike<number>): Plane[] {
  const seen = lit[0]!.data.map((_, k) => (hidden[k] ? 0 : 1));
  return lit.map((plane) => evened(plane, alpha, seen));
}

function evened(plane: Plane, alpha: ArrayLike<number>, seen: Float32Array): Plane {
  const out = { ...plane, data: plane.data.slice() };
  let finer = plane;
  for (const radius of bands) {
    const mean = meanWhere(finer, seen, radius);
    const detail = finer.data.map((v, k) => (seen[k] ? v - mean.data[k]! : 0));
    weaken(out, detail, meanWhere({ ...plane, data: detail.map((d) => d * d) }, seen, radius + 1), alpha, seen);
    finer = mean;
  }
  return out;
}

/** Takes from the plane what of this detail is more grain than there is at the rim. */
function weaken(plane: Plane, detail: Float32Array, power: Plane, alpha: ArrayLike<number>, seen: Float32Array): void {
  const grain = grainBySteps(detail, alpha, seen);
  if (!grain) return;
  for (let k = 0; k < detail.length; k++) {
    if (!seen[k] || !alpha[k]) continue;
    const here = grainAt(grain.of, alpha[k]! / 255);
    if (here <= grain.wanted * tolerated) continue;
    const texture = Math.max(0, power.data[k]! - chance * here ** 2);
    const kept = Math.sqrt((texture + grain.wanted ** 2) / (texture + here ** 2));
    plane.data[k] = plane.data[k]! - detail[k]! * (1 - kept);
  }
}

/** Deviation of the grain for each step of darkness, and at the rim; null where the rim cannot be seen. */
function grainBySteps(
  detail: Float32Array,
  alpha: ArrayLike<number>,
  seen: Float32Array,
): { of: number[]; wanted: number } | null {
  const alike = Array.from({ length: steps + 1 }, (): number[] => []);
  const atRim: number[] = [];
  for (let k = 0; k < detail.length; k++) {
    if (!seen[k] || !alpha[k]) continue;
    const share = alpha[k]! / 255;
    alike[Math.round(share * steps)]!.push(Math.abs(detail[k]!));
    if (share < rim) atRim.push(Math.abs(detail[k]!));
  }
  if (atRim.length < least) return null;
  const wanted = deviation(atRim);
  // What is as dark as hardly anything else has at least the grain of what is a little lighter.
  let lighter = wanted;
  const of = alike.map((values) => (lighter = values.length < least ? lighter : deviation(values)));
  return { of, wanted };
}

function deviation(values: number[]): number {
  const stride = Math.ceil(values.length / judged);
  const some = values.filter((_, n) => n % stride === 0).sort((a, b) => a - b);
  return deviationOfMedian * some[some.length >> 1]!;
}

function grainAt(of: readonly number[], share: number): number {
  const at = share * steps;
  const n = Math.min(steps - 1, Math.floor(at));
  return of[n]! + (of[n + 1]! - of[n]!) * (at - n);
}

/** The mean over a window of what is seen. */
function meanWhere(plane: Plane, seen: Float32Array, radius: number): Plane {
  const of = (data: Float32Array): Float32Array => boxBlur({ ...plane, data }, radius).data;
  const [sum, weight] = [of(plane.data.map((v, k) => v * seen[k]!)), of(seen)];
  const out = makePlane(plane.width, plane.height);
  for (let k = 0; k < sum.length; k++) out.data[k] = weight[k]! > 1e-6 ? sum[k]! / weight[k]! : plane.data[k]!;
  return out;
}
