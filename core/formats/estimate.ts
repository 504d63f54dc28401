/** A stretch of a clip that is written to see how large all of it will be. */
export interface Probe {
  first: number;
  count: number;
}

/** How a writer goes about its frames. */
export interface Pace {
  /** Frames after which one is written whole again. */
  keyEvery: number;
  /** Frames after a whole one until those that follow are as large as they stay. */
  settles: number;
}

/** Frames of a stretch that are looked at once its writer has settled, and frames of all stretches together. */
const [each, most] = [8, 70];

/** Where a clip of so many frames is looked at: stretches spread evenly over it; all of it where that is not much more. */
export function probesOf(total: number, { settles }: Pace): Probe[] {
  const count = 1 + settles + each;
  const stretches = Math.max(2, Math.min(4, Math.floor(most / count)));
  if (total <= 1.3 * stretches * count) return [{ first: 0, count: total }];
  return Array.from({ length: stretches }, (_, k) => {
    const middle = ((k + 0.5) / stretches) * total;
    return { first: Math.round(middle - count / 2), count };
  });
}

/**
 * Bytes of all frames, by those of a few.
 * @param stretches bytes of the frames of each stretch that was written, the first of them whole
 */
export function estimatedBytes(
  total: number,
  { keyEvery, settles }: Pace,
  stretches: readonly (readonly number[])[],
): number {
  const [one] = stretches;
  const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
  if (stretches.length === 1 && one!.length === total) return Math.round(sum(one!));
  const mean = (values: readonly number[]): number => sum(values) / values.length;
  const atStart = Array.from({ length: 1 + settles }, (_, n) => mean(stretches.map((sizes) => sizes[n]!)));
  const settled = mean(stretches.map((sizes) => mean(sizes.slice(1 + settles))));
  let bytes = 0;
  for (let key = 0; key < total; key += keyEvery) {
    const frames = Math.min(keyEvery, total - key);
    bytes += sum(atStart.slice(0, frames)) + Math.max(0, frames - atStart.length) * settled;
  }
  return Math.round(bytes);
}
