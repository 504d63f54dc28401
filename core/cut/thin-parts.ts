import { boxCounts } from '../pixels/filters.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { boundaryBands } from './band.ts';
import type { ColourRatio } from './colour-model.ts';
import { DROP, KEEP } from './graph-cut.ts';

/** How far around a pixel is looked for its surroundings. */
const crowdReach = 5;
/** How sure a colour must be of its side to be followed away from the band, in log odds. */
const followOdds = 2.5;

/**
 * The band along the boundary, and what the coarser level could not see: wires, twigs, rails and gaps. They are followed
 * from the band, however far, through pixels whose colour clearly belongs to the other side, as long as they stay thin:
 * where most of the surroundings are of that colour it is a region, which the coarser level has judged already.
 */
export function bandWithThinParts(
  picture: Rgba,
  mask: Bytes,
  seeds: Bytes,
  colours: ColourRatio,
  within: Bytes | null,
): Int32Array {
  const { width, height } = mask;
  const { data } = picture;
  const chosen = new Uint8Array(mask.data.length);
  const active: number[] = [];
  const take = (i: number): void => {
    chosen[i] = 1;
    active.push(i);
  };
  const [band, wider] = boundaryBands(mask, [3, 12], within) as [Int32Array, Int32Array];
  for (const i of band) take(i);
  const ofBand = active.length;
  const front = makeBytes(width, height);
  // The side a pixel surely belongs to by its colour, where there is one.
  const sure = new Int8Array(front.data.length);
  for (let i = 0; i < sure.length; i++) {
    const odds = colours.at(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
    if (odds > 0) front.data[i] = 1;
    if (odds > followOdds) sure[i] = 1;
    else if (odds < -followOdds) sure[i] = -1;
  }
  const crowd = boxCounts(front, crowdReach);
  const window = (2 * crowdReach + 1) ** 2;
  const protectedParts = aroundKept(seeds);
  const follows = (i: number): boolean => {
    if (chosen[i] || (within && !within.data[i])) return false;
    return mask.data[i]
      ? sure[i] === -1 && crowd[i]! > 0.45 * window && !protectedParts?.[i]
      : sure[i] === 1 && crowd[i]! < 0.55 * window;
  };
  for (const i of wider) if (follows(i)) take(i);
  // Followed pixels are met in order; each brings its neighbours, and those their thin surroundings.
  const most = mask.data.length * 0.25;
  for (let k = 0; k < active.length && active.length < most; k++) {
    const i = active[k]!;
    const x = i % width;
    const y = (i / width) | 0;
    for (let ny = Math.max(0, y - 2); ny <= Math.min(height - 1, y + 2); ny++) {
      for (let nx = Math.max(0, x - 2); nx <= Math.min(width - 1, x + 2); nx++) {
        if (follows(ny * width + nx)) take(ny * width + nx);
      }
    }
  }
  if (!active.some((i, k) => k >= ofBand && !mask.data[i])) return Int32Array.from(active);
  const common = commonOutside(picture, mask, chosen);
  return Int32Array.from(active.filter((i, k) => k < ofBand || mask.data[i] || !common(i)));
}

/** Colours are told apart by their upper four bits a channel. */
const colourBins = 16 ** 3;
/** Away from the mask by this many pixels, a place is surely outside. */
const clearOf = 12;
/** A colour that is this common outside beside how common it is inside is nothing to follow. */
const commonShare = 0.07;

/**
 * Whether a pixel's colour is met outside as well, away from the mask and from what was followed. The colour models were learned from the coarsest level,
 * where the dark gaps between boards are averaged away; at this level they are there, and everywhere.
 */
function commonOutside({ data }: Rgba, mask: Bytes, followed: Uint8Array): (i: number) => boolean {
  const near = boxCounts(mask, clearOf);
  const [inside, outside] = [new Float32Array(colourBins), new Float32Array(colourBins)];
  let [ins, outs] = [1, 1];
  const binOf = (i: number): number =>
    ((data[i * 4]! >> 4) << 8) | ((data[i * 4 + 1]! >> 4) << 4) | (data[i * 4 + 2]! >> 4);
  for (let i = 0; i < near.length; i++) {
    if (mask.data[i]) {
      inside[binOf(i)]! += 1;
      ins++;
    } else if (!followed[i] && near[i] === 0) {
      outside[binOf(i)]! += 1;
      outs++;
    }
  }
  return (i) => {
    const bin = binOf(i);
    return outside[bin]! / outs > commonShare * (inside[bin]! / ins);
  };
}

/** Where gaps are not followed: around Keep strokes, which say that a part belongs whatever its colour. */
function aroundKept(seeds: Bytes): Uint16Array | null {
  if (!seeds.data.includes(KEEP)) return null;
  const kept = makeBytes(seeds.width, seeds.height);
  for (let i = 0; i < kept.data.length; i++) kept.data[i] = seeds.data[i] === KEEP ? 1 : 0;
  return boxCounts(kept, 24);
}

/**
 * Fills holes and removes islands smaller than `area` pixels that no stroke asked for, among those that touch the `active`
 * pixels. Each flood fill stops as soon as it is large enough, so the cost follows the band and not the picture.
 */
export function dropSpecks(mask: Bytes, seeds: Bytes, area: number, active: Int32Array): void {
  const { width, height, data } = mask;
  const large = new Uint8Array(data.length);
  const seen = new Int32Array(data.length);
  const members = new Int32Array(area + 9);
  let visit = 0;
  for (const start of active) {
    if (large[start]) continue;
    visit++;
    const value = data[start]!;
    const asked = value ? KEEP : DROP;
    let count = 1;
    let keep = seeds.data[start] === asked;
    members[0] = start;
    seen[start] = visit;
    for (let k = 0; k < count && !keep; k++) {
      const i = members[k]!;
      const x = i % width;
      const y = (i / width) | 0;
      const [top, bottom] = [y > 0 ? y - 1 : y, y + 1 < height ? y + 1 : y];
      const [left, right] = [x > 0 ? x - 1 : x, x + 1 < width ? x + 1 : x];
      for (let ny = top; ny <= bottom; ny++) {
        for (let j = ny * width + left; j <= ny * width + right; j++) {
          if (seen[j] === visit || data[j] !== value) continue;
          seen[j] = visit;
          members[count++] = j;
          if (large[j] || seeds.data[j] === asked) keep = true;
        }
      }
      if (count > area) keep = true;
    }
    for (let k = 0; k < count; k++) {
      if (keep) large[members[k]!] = 1;
      else data[members[k]!] = 1 - value;
    }
  }
}
