import { boxBlur, windowMost } from '../pixels/filters.ts';
import { lumaOf } from '../pixels/color.ts';
import { evenNoise } from './even-noise.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  makeBytes,
  makePlane,
  makeRgba,
  type Bytes,
  type Plane,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';

/** Where a shadow takes this much of the light, its tint begins to be taken out of its ground, and wholly is. */
const tintFades = [0.05, 0.25] as const;
/** So much of a tint is left in: a clean plate knows the colours of the ground no better. */
const tolerated = 0.012;
/** The same for each pixel's own colour: further on it is noise, and the ground has the mean colour of what is around. */
const coloursFade = [0.6, 0.85] as const;
/** From here on a ground is no lighter than what is around it. */
const limitFades = [0.45, 0.75] as const;
/** The same for how light and dark it is: what is left there is little but noise. */
export const detailFades = [0.84, 0.92] as const;
/** How far around what the ground may look like is read, in pixels of a shadow's lesser side, and at least. */
const [around, aroundLeast] = [0.1, 3];

/** A shadow as a layer of its own: over the ground without it, it gives the picture. */
export interface ShadowLayer {
  layer: Rgba;
  /** Where in the picture. */
  bounds: Rect;
  /** Share of the shadow, 0..1, under which nothing of the ground is left to be seen; it is continued from around. */
  lost: number;
}

const smoothstep = ([from, to]: readonly [number, number], v: number): number => {
  const t = Math.max(0, Math.min(1, (v - from) / (to - from)));
  return t * t * (3 - 2 * t);
};

/**
 * Parts a picture into its ground and the shadow on it. Where the shadow is light the ground is the picture made lighter, and
 * the shadow black. Where it is deep, what is left of the ground's colours is little and tinted by stray light: made lighter
 * it would glow. So the tint goes by the clean plate around, in the deep part each pixel's colour too, and in the deepest its
 * detail; what the shadow itself shines of stray light stays in its layer.
 * @param clean the picture without shadow and piece  @param alpha of the shadow, 0..255, as by `shadowAlpha`
 * @param under 1 where a piece hid the ground: the ground is left there as it is
 * @returns the ground, as large as the picture, and the shadow; null where alpha is 0 everywhere
 */
export function partedShadow(
  picture: Rgba,
  clean: Rgba,
  alpha: Bytes,
  under: Bytes,
): { ground: Rgba; shadow: ShadowLayer | null } {
  const ground: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  const bounds = boundsOf(alpha);
  if (!bounds) return { ground, shadow: null };
  const needed = makePlane(bounds.width, bounds.height);
  const [taken, hidden] = [alpha, under].map((bytes) => cropBytes(bytes, bounds).data) as [Uint8Array, Uint8Array];
  const open = taken.map((a, k) => (hidden[k] ? 0 : a));
  const lit = evenNoise(litPlanes(cropRgba(picture, bounds), taken), open, hidden);
  const plate = surroundings(cropRgba(clean, bounds), lit, open);
  let [all, lost] = [0, 0];
  eachPixel(bounds, picture.width, (k, i) => {
    const a = open[k]! / 255;
    if (a === 0) return;
    all++;
    if (smoothstep(detailFades, a) > 0.5) lost++;
    const seen = picture.data.subarray(i * 4, i * 4 + 3);
    ground.data.set(groundUnder(seen, open[k]!, plate, k), i * 4);
    needed.data[k] = Math.max(0, leastAlpha(seen, ground.data.subarray(i * 4, i * 4 + 3)) - a);
  });
  const more = levelled(needed, plate.radius);
  const layer = makeRgba(bounds.width, bounds.height);
  // Fully opaque it could not be taken away again.
  for (let k = 0; k < taken.length; k++)
    if (taken[k]) layer.data[k * 4 + 3] = Math.min(254, Math.ceil(taken[k]! + more.data[k]! * 255 - 1e-3));
  eachPixel(bounds, picture.width, (k, i) => {
    if (!open[k]) return;
    const [seen, lit] = [picture.data, ground.data].map((data) => data.subarray(i * 4, i * 4 + 3));
    layer.data.set(colourBetween(seen!, lit!, layer.data[k * 4 + 3]! / 255), k * 4);
  });
  shineOnWhere(hidden, layer, open);
  return { ground, shadow: { layer, bounds, lost: all === 0 ? 0 : lost / all } };
}

/** Under a piece the layer has the mean colour it has where it is as dark and can be seen: there the picture shows the piece. */
function shineOnWhere(hidden: Uint8Array, { data }: Rgba, open: Uint8Array): void {
  const sums = Array.from({ length: steps + 1 }, () => [0, 0, 0, 0]);
  const stepOf = (k: number): number[] => sums[Math.round((data[k * 4 + 3]! / 255) * steps)]!;
  for (let k = 0; k < open.length; k++) {
    if (!open[k]) continue;
    const sum = stepOf(k);
    sum[3]!++;
    for (let c = 0; c < 3; c++) sum[c]! += data[k * 4 + c]!;
  }
  for (let k = 0; k < hidden.length; k++) {
    if (!hidden[k] || !data[k * 4 + 3]) continue;
    const [r, g, b, count] = stepOf(k) as [number, number, number, number];
    if (count > 0) data.set([r / count, g / count, b / count], k * 4);
  }
}

function eachPixel(bounds: Rect, width: number, visit: (inBounds: number, inPicture: number) => void): void {
  for (let y = 0; y < bounds.height; y++)
    for (let x = 0; x < bounds.width; x++) visit(y * bounds.width + x, (y + bounds.y) * width + x + bounds.x);
}

/** Nowhere less than before, and without grain: the mean of the largest around. */
const levelled = (plane: Plane, radius: number): Plane => boxBlur(windowMost(plane, radius), radius);

/** The picture made lighter by what the shadow took, a plane a channel; also beyond 255. */
function litPlanes(picture: Rgba, taken: ArrayLike<number>): Plane[] {
  return [0, 1, 2].map((c) => {
    const plane = makePlane(picture.width, picture.height);
    for (let k = 0; k < plane.data.length; k++)
      plane.data[k] = picture.data[k * 4 + c]! / Math.max(1 / 255, 1 - taken[k]! / 255);
    return plane;
  });
}

/** What the ground and a clean plate look like around each pixel. */
interface Surroundings {
  lit: Plane[];
  plate: Rgba;
  /** Mean colours of the plate around. */
  mean: Plane[];
  /** What each channel of the lit picture is to be multiplied with, by the alpha (0..255) of the shadow there. */
  untinting: readonly (readonly number[])[];
  /** The largest value of the plate around. */
  most: Plane[];
  /** How far around, in pixels. */
  radius: number;
}

function surroundings(plate: Rgba, lit: Plane[], taken: ArrayLike<number>): Surroundings {
  const radius = Math.max(aroundLeast, Math.round(around * Math.min(plate.width, plate.height)));
  const planes = [0, 1, 2].map((c) => {
    const plane = makePlane(plate.width, plate.height);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] = plate.data[i * 4 + c]!;
    return plane;
  });
  const mean = planes.map((plane) => boxBlur(plane, radius));
  const most = planes.map((plane) => windowMost(plane, radius));
  return { lit, plate, mean, untinting: untintingBy(lit, planes, taken), most, radius };
}

/** A tint is told for so many steps of darkness, from about so many pixels each. */
const [steps, judged] = [24, 2000];

/**
 * By what a shadow's tint is taken out, for each alpha it may have: stray light tints what is equally dark equally, so the median of all of it is compared
 * with the plate's, and a place where the plate is wrong says nothing.
 */
function untintingBy(lit: readonly Plane[], plate: readonly Plane[], taken: ArrayLike<number>): number[][] {
  const alike = Array.from({ length: steps + 1 }, (): number[] => []);
  for (let k = 0; k < taken.length; k++) if (taken[k]) alike[Math.round((taken[k]! / 255) * steps)]!.push(k);
  const factors = alike.map((_, n) => {
    const near = alike.slice(Math.max(0, n - 2), n + 3).flat();
    const stride = Math.ceil(near.length / judged);
    const some = near.filter((_, m) => m % stride === 0);
    return [0, 1, 2].map((c) => {
      const tint = medianOf(some.map((k) => shareOf(plate, c, k) / shareOf(lit, c, k)));
      return 1 + Math.sign(tint - 1) * Math.max(0, Math.abs(tint - 1) - tolerated);
    });
  });
  return Array.from({ length: 256 }, (_, alpha) => {
    const at = (alpha / 255) * steps;
    const n = Math.min(steps - 1, Math.floor(at));
    const [low, high] = [factors[n]!, factors[n + 1]!];
    return low.map((v, c) => 1 + (v + (high[c]! - v) * (at - n) - 1) * smoothstep(tintFades, alpha / 255));
  });
}

const lumaAt = ([r, g, b]: readonly Plane[], k: number): number => lumaOf(r!.data[k]!, g!.data[k]!, b!.data[k]!);
/** How much of a channel there is for the light there is. */
const shareOf = (planes: readonly Plane[], c: number, k: number): number =>
  Math.max(1, planes[c]!.data[k]!) / Math.max(1, lumaAt(planes, k));
const medianOf = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? 1;

/** The ground's colour under a shadow of this alpha, 0..255. */
function groundUnder(seen: ArrayLike<number>, alpha: number, surroundings: Surroundings, k: number): number[] {
  const { lit, plate, mean, most } = surroundings;
  const factors = surroundings.untinting[alpha]!;
  const untinted = lit.map(({ data }, c) => data[k]! * factors[c]!);
  const gain = lumaOf(untinted[0]!, untinted[1]!, untinted[2]!) / Math.max(1, lumaAt(mean, k));
  const [colour, limiting, detail] = [coloursFade, limitFades, detailFades].map((fade) =>
    smoothstep(fade, alpha / 255),
  ) as [number, number, number];
  return untinted.map((v, c) => {
    const plain = v + (mean[c]!.data[k]! * gain - v) * colour;
    const limit = Math.max(seen[c]!, most[c]!.data[k]!);
    const limited = plain + (Math.min(plain, limit) - plain) * limiting;
    return limited + (plate.data[k * 4 + c]! - limited) * detail;
  });
}

/** The least alpha with which a layer over the ground can give what is seen: no channel of a layer is less than black. */
function leastAlpha(seen: ArrayLike<number>, ground: ArrayLike<number>): number {
  let least = 0;
  for (let c = 0; c < 3; c++) if (ground[c]! > 0) least = Math.max(least, 1 - (seen[c]! + 1) / ground[c]!);
  return least;
}

/** The colour that with alpha `a`, 0..1, over the ground gives what is seen: black where that does, to a level. */
function colourBetween(seen: ArrayLike<number>, ground: ArrayLike<number>, a: number): number[] {
  const missing = [0, 1, 2].map((c) => seen[c]! - ground[c]! * (1 - a));
  if (missing.every((v) => Math.abs(v) <= 1)) return [0, 0, 0];
  return missing.map((v) => Math.max(0, Math.min(255, Math.round(v / a))));
}

/** The picture without a shadow that was parted from it: the other way round from laying it over its ground. */
export function withoutShadow(picture: Rgba, layer: Rgba, left: number, top: number): Rgba {
  const out: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  for (let y = Math.max(0, -top); y < Math.min(layer.height, picture.height - top); y++) {
    for (let x = Math.max(0, -left); x < Math.min(layer.width, picture.width - left); x++) {
      const k = (y * layer.width + x) * 4;
      const a = layer.data[k + 3]! / 255;
      if (a === 0 || a === 1) continue;
      const i = ((y + top) * picture.width + x + left) * 4;
      for (let c = 0; c < 3; c++) out.data[i + c] = (picture.data[i + c]! - layer.data[k + c]! * a) / (1 - a);
    }
  }
  return out;
}

/** From this alpha on a shadow leaves so little of its ground that what is left is noise. */
const opaque = Math.round(255 * detailFades[1]);

/** Where a shadow hides its ground wholly: 255 there, else 0; as large as its layer. */
export function hiddenBy(layer: Rgba): Bytes {
  const out = makeBytes(layer.width, layer.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = layer.data[i * 4 + 3]! > opaque ? 255 : 0;
  return out;
}
