/** How a take is made; takes differ in more than chance. */
export interface Manner {
  /** Whether repeating structure is looked for first, or patches vote from the coarsest level. */
  structured: boolean;
  /** Longest side in pixels at which structure is joined. */
  startSize: number;
  /** Number of repeating offsets that are offered. */
  offsets: number;
  /** Random cost given to each offset. */
  jitter: number;
  /**
   * What it costs to take a patch from the other end of the picture's height, in squared bytes over a patch. The world has
   * an up and a down: below the water there is more water, not the sky that happens to have its colour.
   */
  uprightness: number;
}

const manners: readonly Manner[] = [
  { structured: true, startSize: 230, offsets: 60, jitter: 0, uprightness: 45_000 },
  { structured: true, startSize: 120, offsets: 45, jitter: 12, uprightness: 60_000 },
  { structured: false, startSize: 0, offsets: 0, jitter: 0, uprightness: 45_000 },
  { structured: true, startSize: 230, offsets: 24, jitter: 25, uprightness: 30_000 },
];

/** The manner a seed stands for: 1, 5, 9 ... the surest one, the others in turn. */
export const mannerOf = (seed: number): Manner => manners[(seed + manners.length - 1) % manners.length]!;

/** Seeds of the next takes after those there are. */
export function nextSeeds(made: readonly number[], count = 4): number[] {
  const first = Math.max(0, ...made) + 1;
  return Array.from({ length: count }, (_, k) => first + k);
}
