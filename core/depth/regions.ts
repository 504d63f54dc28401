import { makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { averagedTo, enlargedPlane } from '../pixels/resample.ts';
import { superpixelsOf, type Superpixels } from '../pixels/superpixels.ts';
import { bandsOf } from './depth-map.ts';

/** Longer side at which regions are found; their borders are then followed at full size. */
const regionSize = 480;
const regionCount = 1500;
/** Weight of colour against place: low, so that regions follow edges. */
const compactness = 8;
/** A patch smaller than this share of the picture is part of what is around it. */
const smallestPatch = 0.004;
/** Difference of mean colour (CIELAB) at which the tie between neighbouring regions has fallen to 1 / e. */
const alikeWithin = 9;
/** Difference of colour (bytes, Euclidean) across which a border counts 1 / e of one that is not seen. */
const edgeColours = 24;
/** How much neighbours that look alike weigh against a region's own distance. */
const tie = 0.35;
const rounds = 6;
/** Closenesses so far apart within a region (its middle four fifths) make its own doubtful. */
const evenWithin = 0.15;
const settlings = 12;

/** A picture parted by distance. */
export interface DepthRegions {
  /** Of every pixel, the band it belongs to: 0 is nearest. */
  bands: Bytes;
  /** Mean closeness of each band. */
  closeness: number[];
}

/**
 * Parts a picture by its depth map into bands of whole things: regions that look alike (SLIC, Achanta et al. 2012) take one
 * distance each, neighbours that look alike hold together (iterated conditional modes, Besag 1986), and patches too small to
 * be a thing join what is around them. A map that is soft or a little off its edges still parts the picture at its own.
 * @param map closeness 0..1 with the picture's proportions  @param count bands at most
 */
export function depthRegions(picture: Rgba, map: Plane, count: number): DepthRegions {
  const shrink = Math.min(1, regionSize / Math.max(picture.width, picture.height));
  const [width, height] = [picture.width, picture.height].map((side) => Math.max(2, Math.round(side * shrink))) as [
    number,
    number,
  ];
  const small = averagedTo(picture, width, height);
  const regions = superpixelsOf(small, regionCount, compactness);
  const borders = bordersOf(regions);
  const closeness = settled(regions, borders, enlargedPlane(map, width, height));
  const flat = makePlane(width, height);
  for (let i = 0; i < flat.data.length; i++) flat.data[i] = closeness[regions.labels[i]!]!;
  const bounds = bandsOf(flat, count);
  const of = heldTogether(regions, borders, closeness, bounds);
  const bands = makeBytes(width, height);
  for (let i = 0; i < bands.data.length; i++) bands.data[i] = of[regions.labels[i]!]!;
  const clean = withoutPatches(small, bands, Math.max(4, smallestPatch * width * height));
  return withoutGaps(atFullSize(picture, small, clean), meansOf(clean, flat, bounds.length + 1));
}

/**
 * Closeness of every region: its median, and where the map passes from one distance to another within it, which nothing but
 * a soft edge does, that of the neighbours that look like it.
 */
function settled(regions: Superpixels, borders: readonly Map<number, number>[], map: Plane): Float32Array {
  const { labels, count, lab } = regions;
  const values: number[][] = Array.from({ length: count }, () => []);
  for (let i = 0; i < labels.length; i++) values[labels[i]!]!.push(map.data[i]!);
  const at = (list: number[], share: number): number => list[Math.floor(share * (list.length - 1))] ?? 0;
  for (const list of values) list.sort((a, b) => a - b);
  const own = values.map((list) => at(list, 0.5));
  const sure = values.map((list) => Math.exp(-(((at(list, 0.9) - at(list, 0.1)) / evenWithin) ** 2)));
  let now = own;
  for (let round = 0; round < settlings; round++) {
    now = own.map((value, k) => {
      // A little of its own stays, so that a region without any like it is left as it is.
      let [weight, sum] = [sure[k]! + 1e-3, (sure[k]! + 1e-3) * value];
      for (const [other, length] of borders[k]!) {
        const w = Math.exp(-labDistance(lab, k, other) / alikeWithin ** 2) * sure[other]! * (length / 10);
        weight += w;
        sum += w * now[other]!;
      }
      return sum / weight;
    });
  }
  return Float32Array.from(now);
}

/** The band of every region: of its own distance, unless neighbours that look like it agree on another. */
function heldTogether(
  regions: Superpixels,
  borders: readonly Map<number, number>[],
  closeness: Float32Array,
  bounds: readonly number[],
): Uint8Array {
  const bandOf = (v: number): number => {
    const at = bounds.findIndex((bound) => v >= bound);
    return at < 0 ? bounds.length : at;
  };
  const bands = Uint8Array.from(closeness, bandOf);
  const middles = bounds.map((bound, k) => ((bounds[k - 1] ?? 1) + bound) / 2);
  middles.push((bounds.at(-1) ?? 1) / 2);
  for (let round = 0; round < rounds; round++) {
    let changed = 0;
    for (let k = 0; k < regions.count; k++) {
      if (regions.size[k] === 0) continue;
      const cost = middles.map((middle) => Math.abs(middle - closeness[k]!));
      let all = 0;
      for (const [, length] of borders[k]!) all += length;
      for (const [other, length] of borders[k]!) {
        const alike = Math.exp(-labDistance(regions.lab, k, other) / alikeWithin ** 2);
        for (let b = 0; b < cost.length; b++) if (b !== bands[other]) cost[b]! += (tie * alike * length) / all;
      }
      const best = cost.indexOf(Math.min(...cost));
      if (best !== bands[k]) changed++;
      bands[k] = best;
    }
    if (changed === 0) break;
  }
  return bands;
}

const labDistance = (lab: Float32Array, a: number, b: number): number =>
  (lab[a * 3]! - lab[b * 3]!) ** 2 +
  (lab[a * 3 + 1]! - lab[b * 3 + 1]!) ** 2 +
  (lab[a * 3 + 2]! - lab[b * 3 + 2]!) ** 2;

/** How many pixels long the border between two regions is, for each region. */
function bordersOf({ labels, width, height, count }: Superpixels): Map<number, number>[] {
  const borders = Array.from({ length: count }, () => new Map<number, number>());
  const meet = (a: number, b: number): void => {
    if (a === b) return;
    borders[a]!.set(b, (borders[a]!.get(b) ?? 0) + 1);
    borders[b]!.set(a, (borders[b]!.get(a) ?? 0) + 1);
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) meet(labels[i]!, labels[i + 1]!);
      if (y + 1 < height) meet(labels[i]!, labels[i + width]!);
    }
  }
  return borders;
}

/**
 * Patches of less than `least` pixels take the band of what they go over into, smallest first: the neighbour with the longest
 * border across which colour hardly changes. A knob belongs to its roof although it stands in the sky.
 */
function withoutPatches(picture: Rgba, bands: Bytes, least: number): Bytes {
  const { width, height } = bands;
  const out = { ...bands, data: bands.data.slice() };
  const seen = new Uint8Array(width * height);
  const patches: number[][] = [];
  for (let start = 0; start < seen.length; start++) {
    if (seen[start]) continue;
    const patch = [start];
    seen[start] = 1;
    for (let n = 0; n < patch.length; n++)
      for (const j of neighbours(patch[n]!, width, height))
        if (!seen[j] && bands.data[j] === bands.data[start]) {
          seen[j] = 1;
          patch.push(j);
        }
    if (patch.length < least) patches.push(patch);
  }
  for (const patch of patches.sort((a, b) => a.length - b.length)) {
    const own = out.data[patch[0]!]!;
    const touched = new Map<number, number>();
    for (const i of patch)
      for (const j of neighbours(i, width, height)) {
        const other = out.data[j]!;
        if (other !== own) touched.set(other, (touched.get(other) ?? 0) + likeness(picture, i, j));
      }
    const most = [...touched].sort((a, b) => b[1] - a[1])[0];
    if (most) for (const i of patch) out.data[i] = most[0];
  }
  return out;
}

/** 1 for pixels of one colour, hardly anything across the edge of a thing. */
function likeness({ data }: Rgba, i: number, j: number): number {
  let square = 0;
  for (let c = 0; c < 3; c++) square += (data[i * 4 + c]! - data[j * 4 + c]!) ** 2;
  return 1e-3 + Math.exp(-square / edgeColours ** 2);
}

function neighbours(i: number, width: number, height: number): number[] {
  const x = i % width;
  const out: number[] = [];
  if (x > 0) out.push(i - 1);
  if (x + 1 < width) out.push(i + 1);
  if (i >= width) out.push(i - width);
  if (i < width * (height - 1)) out.push(i + width);
  return out;
}

/** Bands at full size: along a border every pixel goes with the neighbour of the small picture whose colour it has. */
function atFullSize(picture: Rgba, small: Rgba, bands: Bytes): Bytes {
  const out = makeBytes(picture.width, picture.height);
  const [sx, sy] = [small.width / picture.width, small.height / picture.height];
  for (let y = 0; y < picture.height; y++) {
    const v = Math.min(small.height - 1, Math.floor((y + 0.5) * sy));
    for (let x = 0; x < picture.width; x++) {
      const u = Math.min(small.width - 1, Math.floor((x + 0.5) * sx));
      out.data[y * picture.width + x] = nearestBand(picture, y * picture.width + x, small, bands, u, v);
    }
  }
  return out;
}

function nearestBand(picture: Rgba, at: number, small: Rgba, bands: Bytes, u: number, v: number): number {
  const own = bands.data[v * small.width + u]!;
  const [left, right] = [Math.max(0, u - 1), Math.min(small.width - 1, u + 1)];
  const [top, bottom] = [Math.max(0, v - 1), Math.min(small.height - 1, v + 1)];
  let [least, best] = [Infinity, own];
  for (let b = top; b <= bottom; b++) {
    for (let a = left; a <= right; a++) {
      const j = b * small.width + a;
      let difference = a === u && b === v ? 0 : 60;
      for (let c = 0; c < 3; c++) difference += (picture.data[at * 4 + c]! - small.data[j * 4 + c]!) ** 2;
      if (difference < least) [least, best] = [difference, bands.data[j]!];
    }
  }
  return best;
}

function meansOf(bands: Bytes, closeness: Plane, count: number): number[] {
  const [sums, sizes] = [new Float64Array(count), new Float64Array(count)];
  for (let i = 0; i < bands.data.length; i++) {
    sums[bands.data[i]!]! += closeness.data[i]!;
    sizes[bands.data[i]!]!++;
  }
  return Array.from(sums, (sum, k) => (sizes[k] ? sum / sizes[k]! : NaN));
}

/** Numbers the bands that are left without gaps. */
function withoutGaps(bands: Bytes, closeness: readonly number[]): DepthRegions {
  const present = closeness.flatMap((value, k) => (Number.isNaN(value) ? [] : [k]));
  const next = closeness.map((_, k) => present.indexOf(k));
  return {
    bands: { ...bands, data: bands.data.map((band) => next[band]!) },
    closeness: present.map((k) => closeness[k]!),
  };
}
