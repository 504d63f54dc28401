import type { Palette } from './palette.ts';

/** Alpha from which a pixel is there, in a format where it is or is not. */
export const visible = 128;

export interface IndexedFramesOptions {
  width: number;
  height: number;
  palette: Palette;
  /** Index that stands for "as before". */
  keep: number;
  /** How much farther than the nearest colour what is shown may lie from what is wanted to be kept, in levels of a channel. */
  hold: number;
  /** The same for the colour of the pixel to the left; 0 never takes it. */
  run: number;
  /** Whether colours between two of the palette are mixed of both. */
  dither: boolean;
}

/** Turns frames into indices of a palette, one after the other. */
export class IndexedFrames {
  private readonly shown: Int16Array;

  constructor(private readonly options: IndexedFramesOptions) {
    this.shown = new Int16Array(options.width * options.height).fill(-1);
  }

  /** @param pixels RGBA of the next frame, opaque */
  next(pixels: Uint8ClampedArray): Uint8Array {
    const { width, height, palette, keep, hold, run, dither } = this.options;
    const { colours, nearest } = palette;
    const out = new Uint8Array(width * height);
    const off = (index: number, r: number, g: number, b: number): number => {
      const p = 3 * index;
      return Math.max(Math.abs(colours[p]! - r), Math.abs(colours[p + 1]! - g), Math.abs(colours[p + 2]! - b));
    };
    for (let i = 0; i < out.length; i++) {
      const [r, g, b] = [pixels[4 * i]!, pixels[4 * i + 1]!, pixels[4 * i + 2]!];
      const before = this.shown[i]!;
      const best = nearest(r, g, b);
      const least = off(best, r, g, b);
      if (before >= 0 && off(before, r, g, b) <= least + hold) {
        out[i] = keep;
        continue;
      }
      const left = i % width > 0 ? this.shown[i - 1]! : -1;
      let index = dither ? mixed(palette, best, r, g, b, i % width, (i / width) | 0) : best;
      if (index === best && left >= 0 && off(left, r, g, b) < least + run) index = left;
      out[i] = index;
      this.shown[i] = index;
    }
    return out;
  }

  /** A frame by itself, with what is not visible left out. @param pixels RGBA of the next frame, straight alpha */
  nextClear(pixels: Uint8ClampedArray): Uint8Array {
    this.shown.fill(-1);
    const out = this.next(pixels);
    const { keep } = this.options;
    for (let i = 0; i < out.length; i++) if (pixels[4 * i + 3]! < visible) out[i] = keep;
    return out;
  }
}

/** Of the nearest colour and the one on the other side of what is wanted, one by a pattern that has both in the right share. */
function mixed(
  { colours, nearest }: Palette,
  best: number,
  r: number,
  g: number,
  b: number,
  x: number,
  y: number,
): number {
  const p = 3 * best;
  const clamp = (v: number): number => (v < 0 ? 0 : v > 255 ? 255 : v);
  const other = nearest(clamp(2 * r - colours[p]!), clamp(2 * g - colours[p + 1]!), clamp(2 * b - colours[p + 2]!));
  if (other === best) return best;
  const q = 3 * other;
  const [dr, dg, db] = [
    colours[q]! - colours[p]!,
    colours[q + 1]! - colours[p + 1]!,
    colours[q + 2]! - colours[p + 2]!,
  ];
  const size = dr * dr + dg * dg + db * db;
  const share = ((r - colours[p]!) * dr + (g - colours[p + 1]!) * dg + (b - colours[p + 2]!) * db) / size;
  return threshold(x, y) < share ? other : best;
}

/** A pattern of thresholds, 0..1, that has no visible shape of its own (J. Jimenez 2014, interleaved gradient noise). */
const threshold = (x: number, y: number): number => {
  const t = 52.9829189 * ((0.06711056 * x + 0.00583715 * y) % 1);
  return t - Math.floor(t);
};
