import { access } from 'node:fs/promises';
import sharp, { type Sharp } from 'sharp';
import type { Bytes, Rgba } from '../core/pixels/raster.ts';
import { NothingToContinue } from '../core/rebuild/fill.ts';

/** What went wrong, in a sentence for the person who typed the command. */
export class UsageError extends Error {
  override name = 'UsageError';
}

async function pipelineOf(path: string): Promise<Sharp> {
  await access(path).catch(() => {
    throw new UsageError(`There is no file "${path}".`);
  });
  return sharp(path, { failOn: 'error', limitInputPixels: 60_000_000 });
}

/** A picture upright, in sRGB, with straight alpha. */
export async function readPicture(path: string): Promise<Rgba> {
  const pipeline = await pipelineOf(path);
  try {
    const { data, info } = await pipeline
      .rotate()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return {
      width: info.width,
      height: info.height,
      data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
    };
  } catch {
    throw new UsageError(`"${path}" is not a whole picture that can be read (JPEG, PNG, WebP, AVIF, GIF or TIFF).`);
  }
}

/** A mask: 1 where the picture is brighter than half. */
export async function readMask(path: string, size: { width: number; height: number }): Promise<Bytes> {
  const picture = await readPicture(path);
  if (picture.width !== size.width || picture.height !== size.height) {
    throw new UsageError(
      `The mask "${path}" is ${picture.width} x ${picture.height}, the picture ${size.width} x ${size.height}; they must be the same.`,
    );
  }
  const data = new Uint8Array(picture.width * picture.height);
  for (let i = 0; i < data.length; i++) data[i] = picture.data[i * 4]! > 127 && picture.data[i * 4 + 3]! > 127 ? 1 : 0;
  return { width: picture.width, height: picture.height, data };
}

export async function writePng(path: string, picture: Rgba | Bytes): Promise<void> {
  const channels = (picture.data.length / (picture.width * picture.height)) as 1 | 4;
  try {
    await sharp(picture.data, { raw: { width: picture.width, height: picture.height, channels } })
      .png({ compressionLevel: 6 })
      .toFile(path);
  } catch {
    throw new UsageError(`"${path}" could not be written; does its folder exist?`);
  }
}

/** A whole number of at least `least` given as an option. */
export function wholeNumber(option: string, text: string, least: number): number {
  const number = Number(text);
  if (!Number.isInteger(number) || number < least)
    throw new UsageError(`--${option} is a whole number of ${least} or more, not "${text}".`);
  return number;
}

/** `plate.png` as `plate-2.png`. */
export const numbered = (path: string, number: number): string => path.replace(/(\.[^./\\]*)?$/, `-${number}$1`);

/** Passes on what a computation has to say to the person who asked for it. */
export async function withTold<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof NothingToContinue) throw new UsageError(error.message);
    throw error;
  }
}
