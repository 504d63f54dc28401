/** Even steps in which distances to the screen are counted. */
export const noiseSteps = 64;
/** Distance below which a colour is screen whatever its noise; above it a faint edge begins. */
const leastNoise = 1.5;
/** Of all that lies so near the screen this much is noise of it, which reaches a little further. */
const [share, further] = [0.97, 1.35];

/** The furthest that noise may reach before it would hide what the core still counts as screen. */
export const mostNoise = (core: number): number => Math.max(leastNoise, core / 2);

/**
 * How far the noise of the screen reaches.
 * @param counts blocks by their distance to the screen, in even steps from 0 to `most`
 */
export function noiseOf(counts: Uint32Array, most: number): number {
  const all = counts.reduce((sum, n) => sum + n, 0);
  let step = 0;
  for (let below = counts[0]!; step + 1 < noiseSteps && below < share * all; below += counts[step]!) step++;
  return Math.max(leastNoise, Math.min(most, (further * most * (step + 1)) / noiseSteps));
}
