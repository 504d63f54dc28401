import { alphaOf, type Bytes, type Rgba } from './raster.ts';

/** What a picture with an alpha of its own shows nothing of. */
export interface Emptiness {
  /** The picture's own alpha, 0..255. */
  own: Bytes;
  /** For each pixel that shows too little to have a colour one of the nearest that do; for others themselves; -1 where none does. */
  from: Int32Array;
}

/** Below this alpha 8 bits tell too little of a colour: it is kept premultiplied on its way through a browser. */
const leastShown = 16;

const known = new WeakMap<Rgba, Emptiness | null>();

/** What of a picture is empty; null where all of it is opaque. Found once for each picture, which must not change afterwards. */
export function emptinessOf(picture: Rgba): Emptiness | null {
  let found = known.get(picture);
  if (found === undefined) known.set(picture, (found = foundIn(picture)));
  return found;
}

function foundIn(picture: Rgba): Emptiness | null {
  const { data } = picture;
  let first = 3;
  while (first < data.length && data[first] === 255) first += 4;
  if (first >= data.length) return null;
  const own = alphaOf(picture);
  return { own, from: nearestShown(own) };
}

/**
 * Of every pixel the nearest that shows a colour, in steps from side to side and up and down: one way through the picture and back
 * (Rosenfeld & Pfaltz 1966, "Sequential Operations in Digital Picture Processing").
 */
function nearestShown({ width, height, data }: Bytes): Int32Array {
  const count = data.length;
  const from = new Int32Array(count).fill(-1);
  const steps = new Int32Array(count).fill(count);
  const nearer = (i: number, j: number): void => {
    if (steps[j]! + 1 >= steps[i]!) return;
    steps[i] = steps[j]! + 1;
    from[i] = from[j]!;
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (data[i]! >= leastShown) {
        from[i] = i;
        steps[i] = 0;
        continue;
      }
      if (y > 0) nearer(i, i - width);
      if (x > 0) nearer(i, i - 1);
    }
  for (let y = height - 1, i = count - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--, i--) {
      if (steps[i] === 0) continue;
      if (y < height - 1) nearer(i, i + width);
      if (x < width - 1) nearer(i, i + 1);
    }
  return from;
}

/**
 * The picture, its colours going on into what is empty beside them under the same alpha; itself where nothing is empty.
 * @param like whose emptiness that is, as of a picture it is compared with
 */
export function withColoursGoingOn(picture: Rgba, like = picture): Rgba {
  const empty = emptinessOf(like);
  if (!empty) return picture;
  const data = picture.data.slice();
  const { from } = empty;
  for (let i = 0; i < from.length; i++) {
    const j = from[i]!;
    if (j < 0 || j === i) continue;
    for (let c = 0; c < 3; c++) data[i * 4 + c] = data[j * 4 + c]!;
  }
  return { ...picture, data };
}

/** A mask or alpha that goes on in the same way; itself where nothing is empty. */
export function goneOn(alpha: Bytes, picture: Rgba): Bytes {
  const empty = emptinessOf(picture);
  if (!empty) return alpha;
  const data = alpha.data.slice();
  for (let i = 0; i < data.length; i++) if (empty.from[i]! >= 0) data[i] = alpha.data[empty.from[i]!]!;
  return { ...alpha, data };
}

/**
 * The picture before a plain ground, black, grey or white, whichever is least like what borders on it: so what stands alone is told from
 * nothing. A soft edge has the colours of what it is the edge of. Itself where nothing is empty.
 */
export function onPlainGround(picture: Rgba): Rgba {
  const empty = emptinessOf(picture);
  if (!empty) return picture;
  const ground = groundUnlike(picture, empty);
  const data = picture.data.slice();
  for (let i = 0; i < empty.from.length; i++) {
    if (empty.from[i] !== i) for (let c = 0; c < 3; c++) data[i * 4 + c] = ground;
    data[i * 4 + 3] = 255;
  }
  return { ...picture, data };
}

/** So many of the pixels at the border of what is there are looked at. */
const lookedAt = 4000;

function groundUnlike({ data }: Rgba, { own, from }: Emptiness): number {
  const border: number[] = [];
  for (let i = 0; i < from.length; i++) if (from[i] === i && isBorder(own, from, i)) border.push(i);
  const some = border.filter((_, k) => k % Math.ceil(border.length / lookedAt) === 0);
  const away = (ground: number): number =>
    some.reduce((sum, i) => sum + Math.hypot(...[0, 1, 2].map((c) => data[i * 4 + c]! - ground)), 0);
  return [128, 0, 255].reduce((best, ground) => (away(ground) > away(best) ? ground : best));
}

/** Whether a pixel beside one goes on from it. */
const isBorder = ({ width }: Bytes, from: Int32Array, i: number): boolean =>
  from[i - width] === i || from[i - 1] === i || from[i + 1] === i || from[i + width] === i;

/**
 * Of what a recipe takes (0..255) as much as there is: what is empty stays empty.
 * @param left where the left upper corner of what is taken lies in the picture
 */
export function asMuchAsThere(taken: Bytes, picture: Rgba, left = 0, top = 0): Bytes {
  const empty = emptinessOf(picture);
  if (!empty) return taken;
  const { own } = empty;
  const data = taken.data.slice();
  for (let y = 0, i = 0; y < taken.height; y++)
    for (let j = (top + y) * own.width + left, end = j + taken.width; j < end; i++, j++)
      data[i] = Math.round((data[i]! * own.data[j]!) / 255);
  return { ...taken, data };
}

/** The inverse: what share of what is there an alpha has, 0..255, going on into what is empty. */
export function shareOfThere(alpha: Bytes, picture: Rgba): Bytes {
  const empty = emptinessOf(picture);
  if (!empty) return alpha;
  const { data } = empty.own;
  const share = alpha.data.map((a, i) => (data[i]! > 0 ? Math.min(255, Math.round((a * 255) / data[i]!)) : a));
  return goneOn({ ...alpha, data: share }, picture);
}

/** 1 where a mask is, or where less than half of the picture is there; the mask itself where nothing is empty. */
export function orEmpty(mask: Bytes, picture: Rgba): Bytes {
  const empty = emptinessOf(picture);
  if (!empty) return mask;
  const { data } = empty.own;
  return { ...mask, data: mask.data.map((v, i) => (data[i]! < 128 ? 1 : v)) };
}

/** 1 where a mask is and at least half of the picture is there; the mask itself where nothing is empty. */
export function notEmpty(mask: Bytes, picture: Rgba): Bytes {
  const empty = emptinessOf(picture);
  if (!empty) return mask;
  const { data } = empty.own;
  return { ...mask, data: mask.data.map((v, i) => (data[i]! < 128 ? 0 : v)) };
}

/** The picture with another's alpha: what that leaves empty is empty here; itself where nothing is. */
export function emptyLike(picture: Rgba, other: Rgba): Rgba {
  const empty = emptinessOf(other);
  if (!empty) return picture;
  const data = picture.data.slice();
  empty.own.data.forEach((a, i) => (data[i * 4 + 3] = a));
  return { ...picture, data };
}

/** The alpha where it is no more than there is, else that. */
export function noMoreThanThere(alpha: Bytes, picture: Rgba): Bytes {
  const empty = emptinessOf(picture);
  if (!empty) return alpha;
  const { data } = empty.own;
  return { ...alpha, data: alpha.data.map((a, i) => Math.min(a, data[i]!)) };
}
