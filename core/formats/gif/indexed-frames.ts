import type { Palette } from './palette.ts';

export interface IndexedFramesOptions {
  width: number;
  height: number;
  palette: Palette;
  /** Index that stands for "as before"; null where it must not be used. */
  keep: number | null;
  /** How far a shown colour may lie from the wanted one to be kept, 0..255 as the greater of a channel. */
  tolerance: number;
  /** How much of the step between two colours is scattered, 0..1. */
  dither: number;
}

/** Turns frames into indices of a palette, one after the other. */
export class IndexedFrames {
  private readonly shown: Int16Array;

  constructor(private readonly options: IndexedFramesOptions) {
    this.shown = new Int16Array(options.width * options.height).fill(-1);
  }

  /** @param pixels RGBA of the next frame, opaque */
  next(pixels: Uint8ClampedArray): Uint8Array {
    const { width, height, palette, keep, tolerance } = this.options;
    const { colours, nearest } = palette;
    const out = new Uint8Array(width * height);
    const off = (index: number, i: number): number => {
      const p = 3 * index;
      return Math.max(
        Math.abs(colours[p]! - pixels[4 * i]!),
        Math.abs(colours[p + 1]! - pixels[4 * i + 1]!),
        Math.abs(colours[p + 2]! - pixels[4 * i + 2]!),
      );
    };
    for (let i = 0; i < out.length; i++) {
      const before = this.shown[i]!;
      const best = nearest(pixels[4 * i]!, pixels[4 * i + 1]!, pixels[4 * i + 2]!);
      const room = off(best, i) + tolerance;
      if (keep !== null && before >= 0 && off(before, i) <= room) {
        out[i] = keep;
        continue;
      }
      const left = i % width > 0 ? this.shown[i - 1]! : -1;
      const index = left >= 0 && off(left, i) <= room ? left : best;
      out[i] = index;
      this.shown[i] = index;
    }
    return out;
  }
}
