import { boxBlur, windowExtreme } from '../pixels/filters.ts';
import { lumaOf } from '../pixels/color.ts';
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

/** Where a shadow takes this much of the light, its ground's colours begin to be those of what is around, and wholly are. */
const coloursFade = [0.45, 0.75] as const;
/** The same for how light and dark it is: what is left there is little but noise. */
const detailFades = [0.84, 0.92] as const;
/** How far around what the ground may look like is read, in pixels of a shadow's lesser side, and at least. */
const [around, aroundLeast] = [0.08, 3];

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
 * it would glow. So its colours are taken from the clean plate around, and in the deepest part its detail too; what the
 * shadow itself shines of stray light stays in its layer.
 * @param clean the picture without shadow and piece  @param alpha of the shadow, 0..255, as by `shadowAlpha`
 * @returns the ground, as large as the picture, and the shadow; null where alpha is 0 everywhere
 */
export function partedShadow(picture: Rgba, clean: Rgba, alpha: Bytes): { ground: Rgba; shadow: ShadowLayer | null } {
  const ground: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  const bounds = boundsOf(alpha);
  if (!bounds) return { ground, shadow: null };
  const plate = surroundings(cropRgba(clean, bounds));
  const needed = makePlane(bounds.width, bounds.height);
  const taken = cropBytes(alpha, bounds).data;
  let [all, lost] = [0, 0];
  eachPixel(bounds, picture.width, (k, i) => {
    const a = taken[k]! / 255;
    if (a === 0) return;
    all++;
    if (smoothstep(detailFades, a) > 0.5) lost++;
    const seen = picture.data.subarray(i * 4, i * 4 + 3);
    ground.data.set(groundUnder(seen, a, plate, k), i * 4);
    needed.data[k] = Math.max(0, leastAlpha(seen, ground.data.subarray(i * 4, i * 4 + 3)) - a);
  });
  const more = levelled(needed, plate.radius);
  const layer = makeRgba(bounds.width, bounds.height);
  eachPixel(bounds, picture.width, (k, i) => {
    if (taken[k] === 0) return;
    // Fully opaque it could not be taken away again.
    const a = Math.min(254, Math.ceil(taken[k]! + more.data[k]! * 255 - 1e-3));
    const [seen, under] = [picture.data, ground.data].map((data) => data.subarray(i * 4, i * 4 + 3));
    layer.data.set([...colourBetween(seen!, under!, a / 255), a], k * 4);
  });
  return { ground, shadow: { layer, bounds, lost: lost / all } };
}

function eachPixel(bounds: Rect, width: number, visit: (inBounds: number, inPicture: number) => void): void {
  for (let y = 0; y < bounds.height; y++)
    for (let x = 0; x < bounds.width; x++) visit(y * bounds.width + x, (y + bounds.y) * width + x + bounds.x);
}

/** Nowhere less than before, and without grain: the mean of the largest around. */
const levelled = (plane: Plane, radius: number): Plane => boxBlur(windowExtreme(plane, radius, Math.max), radius);

/** What a clean plate looks like around each of its pixels. */
interface Surroundings {
  plate: Rgba;
  /** Mean colour around. */
  mean: Plane[];
  /** The largest value around. */
  most: Plane[];
  /** How far around, in pixels. */
  radius: number;
}

function surroundings(plate: Rgba): Surroundings {
  const radius = Math.max(aroundLeast, Math.round(around * Math.min(plate.width, plate.height)));
  const planes = [0, 1, 2].map((c) => {
    const plane = makePlane(plate.width, plate.height);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] = plate.data[i * 4 + c]!;
    return plane;
  });
  return {
    plate,
    mean: planes.map((plane) => boxBlur(plane, radius)),
    most: planes.map((plane) => windowExtreme(plane, radius, Math.max)),
    radius,
  };
}

/** The ground's colour under a shadow that takes `a` of the light of what is seen. */
function groundUnder(seen: ArrayLike<number>, a: number, { plate, mean, most }: Surroundings, k: number): number[] {
  const lit = [0, 1, 2].map((c) => seen[c]! / (1 - a));
  const around = mean.map(({ data }) => data[k]!);
  const gain = lumaOf(lit[0]!, lit[1]!, lit[2]!) / Math.max(1, lumaOf(around[0]!, around[1]!, around[2]!));
  const [colour, detail] = [smoothstep(coloursFade, a), smoothstep(detailFades, a)];
  return lit.map((v, c) => {
    const tinted = v + (around[c]! * gain - v) * colour;
    const limit = Math.max(seen[c]!, most[c]!.data[k]!);
    const limited = tinted + (Math.min(tinted, limit) - tinted) * colour;
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
