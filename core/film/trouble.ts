/** Frames around one that tell what is usual there. */
const around = 8;

/**
 * Frames to be looked at: those whose mask had to leave what was carried to it by much more than those around did.
 * @param changed share of its area by which each frame left what was carried to it; null where it was not cut
 */
export function troubleFrames(changed: readonly (number | null)[]): number[] {
  return changed.flatMap((value, k) => {
    if (value === null) return [];
    const near = changed.slice(Math.max(0, k - around), k + around + 1).filter((v) => v !== null);
    const usual = near.sort((a, b) => a - b)[near.length >> 1]!;
    return value > 0.06 + 2 * usual ? [k] : [];
  });
}
