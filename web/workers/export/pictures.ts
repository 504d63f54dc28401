import { Zip, ZipPassThrough } from 'fflate';
import { MovingPng } from '../../../core/formats/apng.ts';
import { numberedPng } from '../../../core/formats/exports.ts';
import { everyFrame } from './frames.ts';
import type { ExportWork, ExportWriter } from './writer.ts';

/** Every frame of the result as a PNG with what is transparent; says false when it was cancelled. */
const eachPng = (
  { total, each, report }: ExportWork,
  take: (png: Uint8Array, index: number) => void,
): Promise<boolean> =>
  each(everyFrame(total), 'png', (data, index) => {
    take(new Uint8Array(data.buffer), index);
    report(index + 1);
  });

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
