/** Smaller than this on its lesser side nothing is made for drawing. */
const leastSide = 32;

/**
 * How often a picture is halved so that it still has at least one pixel for each that is drawn: little is thrown away then while
 * drawing.
 * @param shrink pixels drawn for each pixel of the picture
 */
export function halvingsFor({ width, height }: { width: number; height: number }, shrink: number): number {
  let step = 0;
  while (shrink <= 0.5 ** (step + 1) && Math.min(width, height) >> (step + 1) > leastSide) step++;
  return step;
}

/** The size of a picture that was halved once more. */
export const halfOf = ({ width, height }: { width: number; height: number }): [number, number] => [
  Math.max(1, width >> 1),
  Math.max(1, height >> 1),
];
