import { lumaOf } from '../pixels/color.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { cellOf, rangeAround, rgbOf, type Blocks } from './blocks.ts';
import type { Cells } from './cells.ts';
import { aboveNoise, betweenThresholds, clamped, mixedShare, type Thresholds } from './mixture.ts';
import { squaredScreenDistance } from './screen.ts';
import type { SubjectColours } from './subject.ts';

/** What was measured in a picture before its alpha is solved. */
export interface Scene {
  blocks: Blocks;
  screen: Cells;
  subject: SubjectColours;
  thresholds: Thresholds;
}

/** Least cover of a block and all around it from which on it begins to be, and is, the inside of the subject. */
const [insideFrom, insideAt] = [0.65, 0.9];

/**
 * How far each block lies inside the subject, 0..1. What is nearly solid with nothing but nearly solid around it is no edge: a
 * patch of the subject that is a little like the screen, or mirrors it, and would show as a stain.
 */
export function insideOf({ blocks }: Scene, cover: Float32Array): Float32Array {
  return Float32Array.from(cover, (_, i) => {
    const [least] = rangeAround(blocks, cover, i % blocks.width, (i / blocks.width) | 0);
    return clamped((least - insideFrom) / (insideAt - insideFrom));
  });
}

const solidified = (share: number, inside: number): number => share + (1 - share) * inside;

/** Alpha 0..255 of a picture whose colour is there for every pixel: each is solved from its own colour. */
export function alphaOfPixels(picture: Rgba, scene: Scene, cover: Float32Array): Bytes {
  const { width, height, data } = picture;
  const alpha = makeBytes(width, height);
  const inside = insideOf(scene, cover);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const block = (y >> 1) * scene.blocks.width + (x >> 1);
      const share = shareAt(scene, cellOf(scene.blocks, block), data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
      alpha.data[i] = Math.round(solidified(share, inside[block]!) * 255);
    }
  }
  return alpha;
}

function shareAt({ screen, subject, thresholds }: Scene, cell: number, r: number, g: number, b: number): number {
  const o = cell * 4;
  const [sr, sg, sb] = rgbOf(screen.values[o]!, screen.values[o + 1]!, screen.values[o + 2]!);
  const own = subject.colours?.values;
  if (own && subject.nearScreen[cell]) {
    const [fr, fg, fb] = rgbOf(own[o]!, own[o + 1]!, own[o + 2]!);
    return mixedShare(r - sr, g - sg, b - sb, fr - sr, fg - sg, fb - sb, thresholds);
  }
  // Far from the screen no colour is mixed with it.
  const distance = Math.sqrt(squaredScreenDistance(r - sr, g - sg, b - sb));
  return aboveNoise(distance, thresholds) * betweenThresholds(distance, thresholds);
}

/** How much of every block is subject, 0..1. */
export function coverOfBlocks(scene: Scene): Float32Array {
  const { luma, blue, red } = scene.blocks;
  return Float32Array.from(luma, (l, i) => shareAt(scene, cellOf(scene.blocks, i), ...rgbOf(l, blue[i]!, red[i]!)));
}

/** Variance of luma that noise and compression bring about, squared bytes; and the share of the subject's own that counts. */
const [lumaNoise, ownTexture] = [16, 0.5];
/** Variance of alpha around its course from block to block, and of the coverage of a block. */
const [courseVariance, coverVariance] = [0.06, 0.003];
/**
 * Share of itself that compression spreads beyond an edge and takes from it: where brightness tells its pixels apart, and where
 * colour alone has to, which is stored more coarsely.
 */
const [plainSpread, blindSpread] = [0.08, 0.3];
/** Difference between the covers around from which on an edge is begun to be seen, and is. A veil changes less. */
const [edgeFrom, edgeAt] = [0.35, 0.65];
const fittings = 3;

/**
 * Alpha 0..255 of a picture that stores colour at half size. Colour tells how much of a block is covered; which of its four
 * pixels are, brightness tells, which is stored in full, as far as screen and subject differ in it, and the blocks around.
 * The three are weighted by their variances, and what a pixel cannot hold (beyond 0 and 1) goes to the others of its block.
 */
export function alphaOfHalvedColour(picture: Rgba, scene: Scene, cover: Float32Array): Bytes {
  const { width, height } = picture;
  const { blocks } = scene;
  const alpha = makeBytes(width, height);
  const course = new Float64Array(4);
  const inside = insideOf(scene, cover);
  for (let by = 0, i = 0; by < blocks.height; by++) {
    for (let bx = 0; bx < blocks.width; bx++, i++) {
      courseAround(cover, blocks.width, blocks.height, bx, by, course);
      const [least, most] = [Math.min(...course), Math.max(...course)];
      if (most <= 0.001) continue;
      if (least < 0.999) shareOut(picture, scene, i, bx, by, cover[i]!, course);
      const spread = spreadAt(scene, i, rangeAround(blocks, cover, bx, by));
      for (let k = 0; k < 4; k++) {
        const [x, y] = [bx * 2 + (k & 1), by * 2 + (k >> 1)];
        const share = least < 0.999 ? clamped((course[k]! - spread) / (1 - 2 * spread)) : 1;
        if (x < width && y < height) alpha.data[y * width + x] = Math.round(solidified(share, inside[i]!) * 255);
      }
    }
  }
  return alpha;
}

/** How much brightness tells of the alpha of a block's pixels: the inverse of its variance. */
function precisionOfLuma({ blocks, screen, subject }: Scene, block: number): number {
  const o = cellOf(blocks, block) * 4;
  const own = subject.colours?.values;
  if (!own) return 0;
  const [step, texture] = [own[o]! - screen.values[o]!, Math.max(0, own[o + 3]! - own[o]! * own[o]!)];
  return (step * step) / (lumaNoise + ownTexture * texture);
}

/** What is taken off both ends of the alpha of a block's pixels. */
function spreadAt(scene: Scene, block: number, [least, most]: readonly [number, number]): number {
  const blindness = 1 / (1 + courseVariance * precisionOfLuma(scene, block));
  const edge = clamped((most - least - edgeFrom) / (edgeAt - edgeFrom));
  return plainSpread + (blindSpread - plainSpread) * blindness * edge;
}

/** The coverage of the four pixels of a block if it changed evenly from block to block. */
function courseAround(
  cover: Float32Array,
  width: number,
  height: number,
  bx: number,
  by: number,
  out: Float64Array,
): void {
  for (let k = 0; k < 4; k++) {
    const x = Math.max(0, Math.min(width - 1, bx + (k & 1 ? 1 : -1)));
    const y = Math.max(0, Math.min(height - 1, by + (k >> 1 ? 1 : -1)));
    const own = 9 * cover[by * width + bx]! + 3 * cover[by * width + x]!;
    out[k] = (own + 3 * cover[y * width + bx]! + cover[y * width + x]!) / 16;
  }
}

/** Changes the course of a block's four pixels into their alpha, in place. */
function shareOut(
  picture: Rgba,
  scene: Scene,
  block: number,
  bx: number,
  by: number,
  cover: number,
  pixels: Float64Array,
): void {
  const { width, height, data } = picture;
  const o = cellOf(scene.blocks, block) * 4;
  const behind = scene.screen.values[o]!;
  const own = scene.subject.colours?.values;
  const step = own ? own[o]! - behind : 0;
  const byLuma = precisionOfLuma(scene, block);
  const byCourse = 1 / courseVariance;
  let mean = 0;
  for (let k = 0; k < 4; k++) {
    const x = Math.min(width - 1, bx * 2 + (k & 1));
    const y = Math.min(height - 1, by * 2 + (k >> 1));
    const p = (y * width + x) * 4;
    const seen = lumaOf(data[p]!, data[p + 1]!, data[p + 2]!) - behind;
    const weighted = (step === 0 ? 0 : byLuma * (seen / step)) + byCourse * pixels[k]!;
    pixels[k] = weighted / (byLuma + byCourse);
    mean += pixels[k]! / 4;
  }
  const spread = 1 / (4 * (byLuma + byCourse));
  const moved = (spread / (spread + coverVariance)) * (cover - mean);
  const wanted = clamped(mean + moved);
  for (let k = 0; k < 4; k++) pixels[k] = pixels[k]! + moved;
  for (let round = 0; round < fittings; round++) {
    for (let k = 0; k < 4; k++) pixels[k] = clamped(pixels[k]!);
    const missing = wanted - (pixels[0]! + pixels[1]! + pixels[2]! + pixels[3]!) / 4;
    for (let k = 0; k < 4; k++) pixels[k] = pixels[k]! + missing;
  }
}
