import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { Bytes, Rgba } from '../pixels/raster.ts';
import { halve, halveMask } from '../pixels/resample.ts';
import { likeness, pyramid, type Level, type Similarity } from './detail.ts';
import { gaussNewton, robustScales } from './gauss-newton.ts';
import { placesFound, placesNearby, type Place } from './place-search.ts';

/** Thrown when two pictures have too little in common. */
export class NothingInCommon extends Error {
  constructor() {
    super(
      'The two pictures show too little of the same place to be laid over each other. Use a photo from the same spot.',
    );
    this.name = 'NothingInCommon';
  }
}

/** Longest side up to which noise leaves likeness its meaning, and up to which several places are followed. */
const judgedSize = 400;
const followedSize = 800;
/** Likeness of detail below which two pictures are not of the same place. */
const leastLikeness = 0.3;

/** How many times larger one picture may be than the other, where they are compared. */
const mostUneven = 1.5;

/**
 * Finds where `other` shows the same place as `picture`. The larger of both is halved as long as it is far larger: it has
 * nothing finer to tell. What `ignore` marks with 1 (the subject) does not count.
 * @throws NothingInCommon, Cancelled
 */
export async function alignPictures(
  picture: Rgba,
  other: Rgba,
  ignore: Bytes,
  progress?: Progress,
): Promise<Similarity> {
  let [mine, theirs, hidden, more, fewer] = [picture, other, ignore, 1, 1];
  const size = ({ width, height }: Rgba): number => Math.max(width, height);
  for (; size(theirs) > mostUneven * size(mine); more *= 2) theirs = halve(theirs);
  for (; size(mine) > mostUneven * size(theirs); fewer *= 2) [mine, hidden] = [halve(mine), halveMask(hidden)];
  const { a, b, tx, ty } = await alignAlike(mine, theirs, hidden, progress);
  return { a: (a * more) / fewer, b: (b * more) / fewer, tx: tx * more, ty: ty * more };
}

/**
 * The same for pictures of about one size: a search over places, sizes and turns at a very small size, the
 * best of which are followed to a middle size, as boards and bricks look alike one period on; the one that agrees best
 * there goes on by Gauss-Newton from coarse to fine with robust weights (Lucas & Kanade 1981; Baker & Matthews 2004), on
 * brightness freed of exposure.
 */
async function alignAlike(picture: Rgba, other: Rgba, ignore: Bytes, progress?: Progress): Promise<Similarity> {
  const doing = 'Laying the pictures over each other';
  progress?.report?.(doing, 0);
  const levels = pyramid(picture, other, ignore);
  let k = levels.length - 1;
  let places = await followed(levels[k]!, await placesFound(levels[k]!, progress), 20, progress);
  const finer = (at: Similarity): Similarity => {
    const more = levels[k]!.scale / levels[k + 1]!.scale;
    return { ...at, tx: at.tx * more, ty: at.ty * more };
  };
  for (let first = true; k > 0 && longestSide(levels[k - 1]!) <= followedSize; first = false) {
    if (longestSide(levels[k - 1]!) > judgedSize) refuseUnlike(places);
    const level = levels[--k]!;
    places = places.map((place) => ({ ...place, at: finer(place.at) }));
    // Only now do boards that look alike one period on differ.
    if (first) places.push(...(await placesNearby(level, places, progress)));
    places = await followed(level, places, first ? 12 : 3, progress);
    progress?.report?.(doing, 1 - k / levels.length);
  }
  if (longestSide(levels[k]!) <= judgedSize) refuseUnlike(places);
  let at = await settled(levels[k]!, places[0]!.at, 'found', progress);
  while (k > 0) {
    k--;
    at = await settled(levels[k]!, finer(at), 'found', progress);
    progress?.report?.(doing, 1 - k / levels.length);
  }
  return at;
}

/** @throws NothingInCommon */
function refuseUnlike([best]: Place[]): void {
  if (!best || best.likeness < leastLikeness) throw new NothingInCommon();
}

const longestSide = ({ mine }: Level): number => Math.max(mine.width, mine.height);

/** The `most` best of some places, each once: the worse half goes after every few steps, as most are far from good. */
async function followed(level: Level, places: Place[], most: number, progress?: Progress): Promise<Place[]> {
  let left = places;
  for (let round = 0; round < 4; round++) {
    const moved: Place[] = [];
    for (const place of left) {
      const at = await settled(level, place.at, 'seeking', progress);
      moved.push({ at, likeness: likeness(level, at) });
    }
    moved.sort((p, q) => q.likeness - p.likeness);
    left = [];
    for (const place of moved) {
      if (left.length >= most && left.length * 2 >= moved.length) break;
      if (!left.some((kept) => distance(level, kept.at, place.at) < 0.5)) left.push(place);
    }
  }
  return left.slice(0, most);
}

/** How far apart two places lay the corners of a picture, in pixels. */
function distance({ mine: { width, height } }: Level, p: Similarity, q: Similarity): number {
  const [a, b, tx, ty] = [p.a - q.a, p.b - q.b, p.tx - q.tx, p.ty - q.ty];
  let most = 0;
  for (const [x, y] of [
    [0, 0],
    [width, 0],
    [0, height],
    [width, height],
  ] as const)
    most = Math.max(most, Math.hypot(a * x - b * y + tx, b * x + a * y + ty));
  return most;
}

/** A place after Gauss-Newton steps: a few that show how good it is, or as many as it takes until it moves no more. */
async function settled(
  level: Level,
  from: Similarity,
  which: keyof typeof robustScales,
  progress?: Progress,
): Promise<Similarity> {
  const size = longestSide(level);
  const found = which === 'found';
  const steps = !found ? 2 : size > 1000 ? 3 : size > judgedSize ? 12 : 30;
  const stride = size > 600 ? 3 : size > 200 && !found ? 2 : 1;
  let at = from;
  for (let step = 0; step < steps; step++) {
    await checkpoint(progress);
    const next = gaussNewton(level, at, stride, robustScales[which]);
    const moved = distance(level, next, at);
    at = next;
    if (moved < 0.01) break;
  }
  return at;
}
