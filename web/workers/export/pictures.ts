import { Zip, ZipPassThrough } from 'fflate';
import { MovingPng } from '../../../core/formats/apng.ts';
import { numberedPng } from '../../../core/formats/exports.ts';
import type { ExportWork, ExportWriter } from './writer.ts';

/** Every frame of the result as a PNG with what is transparent; stops, and says false, when it is cancelled. */
async function eachPng(
  { canvas, total, paint, report }: ExportWork,
  take: (png: Uint8Array, index: number) => void,
): Promise<boolean> {
  for (let index = 0; index < total; index++) {
    if (!(await paint(index))) return false;
    const png = await canvas.convertToBlob({ type: 'image/png' });
    take(new Uint8Array(await png.arrayBuffer()), index);
    report(index + 1);
  }
  return true;
}

/** A moving PNG that loops, with what is transparent. */
export const writeApng: ExportWriter = async (work) => {
  const moving = new MovingPng(work.total);
  // Frame rates have at most two digits behind the point; the fraction is exact.
  const delay = { numerator: 100, denominator: Math.round(work.order.rate * 100) };
  const done = await eachPng(work, (png) => moving.add(png, delay));
  return done ? new Blob(moving.finish() as Uint8Array<ArrayBuffer>[], { type: 'image/apng' }) : null;
};

/** Numbered PNGs in a ZIP. */
export const writeFrames: ExportWriter = async (work) => {
  const parts: Uint8Array[] = [];
  let failed: Error | null = null;
  const zip = new Zip((error, part) => {
    if (error) failed = error;
    else parts.push(part);
  });
  const done = await eachPng(work, (png, index) => {
    // PNGs are packed already.
    const file = new ZipPassThrough(numberedPng(index, work.total));
    zip.add(file);
    file.push(png, true);
  });
  if (!done) return null;
  zip.end();
  if (failed) throw failed as Error;
  return new Blob(parts as Uint8Array<ArrayBuffer>[], { type: 'application/zip' });
};
