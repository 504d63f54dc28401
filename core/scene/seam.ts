/** How a loop goes on from its last frame into its first. */
export interface Seam {
  /** Mean difference between the last frame and the first, 0..1. */
  jump: number;
  /** The same between the first frame and the second: what a step of the motion itself changes. */
  step: number;
  /** Whether it is seen: it changes more than twice what a step does, and more than noise. */
  seen: boolean;
}

/** Differences below this are not seen: one and a half of 255 levels. */
const noise = 1.5 / 255;

/** Mean difference of the colours of two pictures, 0..1; alpha is not looked at. */
export function meanDifference(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 4)
    sum += Math.abs(a[i]! - b[i]!) + Math.abs(a[i + 1]! - b[i + 1]!) + Math.abs(a[i + 2]! - b[i + 2]!);
  return a.length === 0 ? 0 : sum / ((a.length / 4) * 3 * 255);
}

/** Judges a seam by three frames of the same size, as red, green, blue and alpha. */
export function seamOf(first: ArrayLike<number>, second: ArrayLike<number>, last: ArrayLike<number>): Seam {
  const [jump, step] = [meanDifference(last, first), meanDifference(first, second)];
  return { jump, step, seen: jump > Math.max(noise, 2 * step) };
}

/** Where two pictures differ, as a picture: black where they are alike, four times as bright as the difference elsewhere. */
export function differencePicture(a: ArrayLike<number>, b: ArrayLike<number>): Uint8ClampedArray {
  const out = new Uint8ClampedArray(a.length);
  for (let i = 0; i < a.length; i++) out[i] = i % 4 === 3 ? 255 : 4 * Math.abs(a[i]! - b[i]!);
  return out;
}
