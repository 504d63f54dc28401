import { lumaOf } from '../pixels/color.ts';
import type { Rgba } from '../pixels/raster.ts';

/** Between these the middle of a picture's brightness (0..255) lies as photographs' does. */
const [darkest, lightest] = [62, 200];
/** Where it is brought to from outside. */
const [fromDark, fromLight] = [100, 160];
/** No picture is bent further than this: what is nearly black holds little but noise. */
const [steepest, flattest] = [0.4, 2.5];

/**
 * What each of the 256 steps of a channel becomes (0..1) so that a picture is neither too dark nor too light: a power of it
 * (gamma correction) by which the median brightness comes to lie where photographs have it. Null where it lies there.
 */
export function exposureOf({ data }: Rgba): Float32Array | null {
  const counts = new Uint32Array(256);
  for (let i = 0; i < data.length; i += 4) counts[Math.round(lumaOf(data[i]!, data[i + 1]!, data[i + 2]!))]!++;
  let middle = 0;
  for (let below = counts[0]!; below * 2 < data.length / 4; below += counts[middle]!) middle++;
  if (middle >= darkest && middle <= lightest) return null;
  const wanted = middle < darkest ? fromDark : fromLight;
  const bent = Math.log(wanted / 255) / Math.log(Math.max(1, Math.min(254, middle)) / 255);
  const power = Math.max(steepest, Math.min(flattest, bent));
  return Float32Array.from({ length: 256 }, (_, v) => (v / 255) ** power);
}
