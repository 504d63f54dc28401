import { applyPalette, GIFEncoder, quantize } from 'gifenc';
import type { ExportWriter } from './writer.ts';

/** A GIF that loops, with one palette. */
export const writeGif: ExportWriter = async ({ context, order, total, paint, report }) => {
  const gif = GIFEncoder();
  const pixels = (): Uint8ClampedArray => context.getImageData(0, 0, order.width, order.height).data;
  // One palette for the whole clip, from frames spread over it: a palette for each frame would flicker.
  const sampled: number[] = [];
  for (let k = 0; k < Math.min(5, total); k++) {
    if (!(await paint(Math.round((k * (total - 1)) / 4)))) return null;
    const data = pixels();
    for (let i = 0; i < data.length; i += 4 * 7) sampled.push(data[i]!, data[i + 1]!, data[i + 2]!, 255);
  }
  const palette = quantize(Uint8Array.from(sampled), 256);
  for (let index = 0; index < total; index++) {
    if (!(await paint(index))) return null;
    const indexed = applyPalette(new Uint8Array(pixels().buffer), palette);
    // Delays are whole hundredths of a second; rounding the moments and not the delays keeps the length right.
    const moment = (n: number): number => Math.round((n * 100) / order.rate) * 10;
    gif.writeFrame(indexed, order.width, order.height, {
      palette: index === 0 ? palette : undefined,
      delay: moment(index + 1) - moment(index),
      repeat: 0,
    });
    report(index + 1);
    await new Promise((resolve) => setTimeout(resolve));
  }
  gif.finish();
  return new Blob([gif.bytes() as Uint8Array<ArrayBuffer>], { type: 'image/gif' });
};
