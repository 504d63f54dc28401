import { indexAt, rangeAround, type Blocks } from './blocks.ts';

/** Standard deviation of what compression and noise do to the colour of a block in an edge, bytes. */
const deviation = 6;
/** Blocks to each side in which alike surroundings are looked for. */
const searchReach = 2;
/** Differences beyond those of noise, in variances, from which on surroundings are another thing. */
const furthest = 16;
/** A block and the four beside it are compared. */
const patch = [
  [0, 0],
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
] as const;
/** Least and most cover of the blocks around that make a block part of an edge. */
const [leastSeen, mostSeen] = [0.05, 0.95];

/**
 * Colours of the blocks along the subject's edge, each the mean of those nearby whose surroundings are alike (non-local means,
 * Buades, Coll & Morel 2005). Compression keeps little of colour where it changes; along an edge the same change is stored
 * many times over, each time with another error.
 * @param cover of every block as it seems, 0..1
 * @returns the blocks with steadier blue and red; luma, which is stored well, stays
 */
export function steadyColours(blocks: Blocks, cover: Float32Array): Blocks {
  const [blue, red] = [blocks.blue.slice(), blocks.red.slice()];
  for (let by = 0, i = 0; by < blocks.height; by++) {
    for (let bx = 0; bx < blocks.width; bx++, i++) {
      const [least, most] = rangeAround(blocks, cover, bx, by);
      if (most <= leastSeen || least >= mostSeen) continue;
      let [sum, best, blues, reds] = [0, 1e-3, 0, 0];
      for (let dy = -searchReach; dy <= searchReach; dy++) {
        for (let dx = -searchReach; dx <= searchReach; dx++) {
          if (dx === 0 && dy === 0) continue;
          const weight = likeness(blocks, bx, by, dx, dy);
          const other = indexAt(blocks, bx + dx, by + dy);
          sum += weight;
          blues += weight * blocks.blue[other]!;
          reds += weight * blocks.red[other]!;
          best = Math.max(best, weight);
        }
      }
      blue[i] = (blues + best * blocks.blue[i]!) / (sum + best);
      red[i] = (reds + best * blocks.red[i]!) / (sum + best);
    }
  }
  return { ...blocks, blue, red };
}

/** How alike the colours in and around two blocks are, 0..1. */
function likeness(blocks: Blocks, bx: number, by: number, dx: number, dy: number): number {
  let sum = 0;
  for (const [px, py] of patch) {
    const i = indexAt(blocks, bx + px, by + py);
    const j = indexAt(blocks, bx + dx + px, by + dy + py);
    const [blue, red] = [blocks.blue[i]! - blocks.blue[j]!, blocks.red[i]! - blocks.red[j]!];
    sum += blue * blue + red * red;
  }
  const excess = sum / (2 * patch.length * deviation * deviation) - 2;
  const near = Math.max(0, Math.min(1, 1 - excess / furthest));
  return near ** 4;
}
