/** Which channels a screen's light is in: 0 red, 1 green, 2 blue, strongest first. */
export interface ScreenHue {
  high: number;
  middle: number;
  low: number;
  /** Whether it is in one channel, or in two as magenta's is. */
  single: boolean;
}

/** Bytes between the strongest and the weakest channel below which a screen is grey or white. */
const leastHue = 24;

/** The hue a screen throws on what stands before it; null for a grey or white one, which throws none. */
export function hueOf(screen: ArrayLike<number>): ScreenHue | null {
  let high = 0;
  let low = 0;
  for (let c = 1; c < 3; c++) {
    if (screen[c]! > screen[high]!) high = c;
    if (screen[c]! <= screen[low]!) low = c;
  }
  if (screen[high]! - screen[low]! < leastHue) return null;
  const middle = 3 - high - low;
  const single = screen[middle]! - screen[low]! < screen[high]! - screen[middle]!;
  return { high, middle, low, single };
}

/**
 * Takes the screen's hue off a colour: what its strongest channel (or, for screens like magenta, its two strong ones) has
 * above the others.
 * @param colour changed in place  @param amount 0..1
 */
export function takeSpill(colour: Float64Array | number[], hue: ScreenHue | null, amount: number): void {
  if (!hue) return;
  const { high, middle, low, single } = hue;
  const excess = single
    ? colour[high]! - Math.max(colour[middle]!, colour[low]!)
    : Math.min(colour[high]!, colour[middle]!) - colour[low]!;
  if (excess <= 0) return;
  colour[high] = colour[high]! - amount * excess;
  if (!single) colour[middle] = colour[middle]! - amount * excess;
}
