import { GIFEncoder, quantize } from 'gifenc';
import { IndexedFrames, visible } from '../../../core/formats/gif/indexed-frames.ts';
import { firstGifPlan } from '../../../core/formats/fit-gif.ts';
import { settledPalette, type Palette } from '../../../core/formats/gif/palette.ts';
import { everyFrame } from './frames.ts';
import type { ExportWork, ExportWriter } from './writer.ts';

/** Frames from which the palette is made, and of their pixels one in so many. */
const [sampledFrames, oneIn] = [9, 7];
/** How much less than to stay as it was a colour may be off to be that of the pixel before, which packs well. */
const runShare = 0.5;

/** A GIF that loops, with one palette; each frame says only what changes. */
export const writeGif: ExportWriter = async (work) => {
  const { order, total, each, report } = work;
  const { width, height } = order;
  const { hold = firstGifPlan(order).hold } = work;
  const palette = await paletteFor(work);
  if (!palette) return null;
  const { colours } = palette;
  const keep = colours.length / 3;
  const table = [...Array(keep).keys()].map((p) => [...colours.subarray(3 * p, 3 * p + 3)]);
  const frames = new IndexedFrames({ width, height, palette, keep, hold, run: runShare * hold, dither: true });
  const gif = GIFEncoder();
  const done = await each(everyFrame(total), 'pixels', async (data, index) => {
    const indexed = order.clear ? frames.nextClear(data) : frames.next(data);
    // Delays are whole hundredths of a second; rounding the moments and not the delays keeps the length right.
    const moment = (n: number): number => Math.round((n * 100) / order.rate) * 10;
    gif.writeFrame(indexed, width, height, {
      palette: index === 0 ? [...table, [0, 0, 0]] : undefined,
      delay: moment(index + 1) - moment(index),
      repeat: 0,
      transparent: index > 0 || order.clear,
      transparentIndex: keep,
      // What may become clear again is wiped before the next frame.
      dispose: order.clear ? 2 : 1,
    });
    report(index + 1);
    await new Promise((resolve) => setTimeout(resolve));
  });
  if (!done) return null;
  gif.finish();
  return new Blob([gif.bytes() as Uint8Array<ArrayBuffer>], { type: 'image/gif' });
};

/** One palette for the whole clip, from frames spread over it: a palette for each frame would flicker. Null when cancelled. */
async function paletteFor({ total, each }: ExportWork): Promise<Palette | null> {
  const sampled: number[] = [];
  const count = Math.min(sampledFrames, total);
  const spread = Array.from({ length: count }, (_, k) => Math.round((k * (total - 1)) / Math.max(1, count - 1)));
  const done = await each(spread, 'pixels', (data) => {
    for (let i = 0; i < data.length; i += 4 * oneIn)
      if (data[i + 3]! >= visible) sampled.push(data[i]!, data[i + 1]!, data[i + 2]!, 255);
  });
  if (!done) return null;
  if (sampled.length === 0) sampled.push(0, 0, 0, 255);
  const colours = Uint8Array.from(sampled);
  // One of the 256 is left for what stays as it was.
  return settledPalette(
    quantize(colours, 255),
    colours.filter((_, i) => i % 4 < 3),
  );
}
