import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { cellOf, rangeAround, rgbOf } from './blocks.ts';
import { edgeInputsOf, gatherInputs, inputCount, inputUnit } from './edge-inputs.ts';
import { beyondCourse } from './edge-network.ts';
import { aboveNoise, betweenThresholds, clamped, mixedShare } from './mixture.ts';
import { squaredScreenDistance } from './screen.ts';
import type { Scene } from './scene.ts';

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

/** Least and most of a course from which on there is something, and something else than the subject, to be told apart. */
const [leastThere, leastWhole] = [0.001, 0.999];

/** Alpha as near to an end as this is that end: where nothing is sure, the network hedges, and an edge would be veiled. */
const nearEnd = 0.03;

/** Whether there is something to be told apart among the pixels of a block, from their course. */
export const isEdge = (course: ArrayLike<number>): boolean =>
  [0, 1, 2, 3].some((k) => course[k]! > leastThere) && [0, 1, 2, 3].some((k) => course[k]! < leastWhole);

/**
 * Alpha 0..255 of a picture that stores colour at half size. Colour tells how much of a block is covered, if with errors;
 * which of its four pixels are, brightness tells, which is stored in full, as far as screen and subject differ in it, and
 * the blocks around. What to make of them was learned from many shots with known alpha.
 */
export function alphaOfHalvedColour(picture: Rgba, scene: Scene, cover: Float32Array): Bytes {
  const { width, height } = picture;
  const { blocks } = scene;
  const alpha = makeBytes(width, height);
  const course = new Float64Array(4);
  const inside = insideOf(scene, cover);
  const inputs = edgeInputsOf(picture, scene, cover);
  const seen = new Int16Array(inputCount);
  for (let by = 0, i = 0; by < blocks.height; by++) {
    for (let bx = 0; bx < blocks.width; bx++, i++) {
      courseAround(cover, blocks, bx, by, course);
      if (Math.max(...course) <= leastThere) continue;
      if (!isEdge(course)) course.fill(1);
      else {
        gatherInputs(inputs, bx, by, seen);
        const beyond = beyondCourse(seen);
        for (let k = 0; k < 4; k++)
          course[k] = clamped((course[k]! + beyond[k]! / inputUnit - nearEnd) / (1 - 2 * nearEnd));
      }
      for (let k = 0; k < 4; k++) {
        const [x, y] = [bx * 2 + (k & 1), by * 2 + (k >> 1)];
        const share = solidified(course[k]!, inside[i]!);
        if (x < width && y < height) alpha.data[y * width + x] = Math.round(share * 255);
      }
    }
  }
  return alpha;
}

/** The coverage of the four pixels of a block if it changed evenly from block to block. */
export function courseAround(
  cover: Float32Array,
  { width, height }: { width: number; height: number },
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
