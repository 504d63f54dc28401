import { halfOf } from '../../core/paint/halvings.ts';
import type { Bytes, Rgba } from '../../core/pixels/raster.ts';

/** Thrown when a stored file cannot be had; the sentence says what to do. */
export class MissingFile extends Error {
  constructor(status: number) {
    super(
      status === 404
        ? 'A file of this project is missing in the data folder. The Pictures room shows which, and takes it in again.'
        : 'A file of this project could not be loaded. Try again once Clyvo answers.',
    );
    this.name = 'MissingFile';
  }
}

/** A stored file's bytes. @throws MissingFile */
export async function loadFile(url: string): Promise<Blob> {
  const response = await fetch(url).catch(() => null);
  if (!response?.ok) throw new MissingFile(response?.status ?? 0);
  return response.blob();
}

/** Decoded without colour conversion: files are sRGB already. */
export async function loadBitmap(url: string): Promise<ImageBitmap> {
  const file = await loadFile(url);
  return createImageBitmap(file, { colorSpaceConversion: 'none' }).catch(() => {
    throw new MissingFile(404);
  });
}

export async function loadPixels(url: string): Promise<Rgba> {
  const bitmap = await loadBitmap(url);
  const pixels = pixelsOfBitmap(bitmap);
  bitmap.close();
  return pixels;
}

export function pixelsOfBitmap(bitmap: ImageBitmap): Rgba {
  const { width, height } = bitmap;
  const { data } = drawnOn(bitmap, width, height).getImageData(0, 0, width, height);
  return { width, height, data };
}

/** The same at a size to which it is halved, once or more, or which it has: each pixel is the mean of four, and of four of those. */
export function pixelsAt(bitmap: ImageBitmap, { width, height }: { width: number; height: number }): Rgba {
  let drawn: OffscreenCanvasRenderingContext2D | null = null;
  let [w, h] = [bitmap.width, bitmap.height];
  while (w > width || !drawn) {
    if (w > width) [w, h] = halfOf({ width: w, height: h });
    drawn = drawnOn(drawn?.canvas ?? bitmap, w, h);
  }
  const { data } = drawn.getImageData(0, 0, width, height);
  return { width, height, data };
}

function drawnOn(shown: CanvasImageSource, width: number, height: number): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(shown, 0, 0, width, height);
  return context;
}

/** Address of a stored file; the pages' own module for it is not loaded into workers. */
export const fileUrlOf = (hash: string): string => `/api/files/${hash}`;

export const bitmapOf = (picture: Rgba): Promise<ImageBitmap> => createImageBitmap(imageDataOf(picture));

function imageDataOf(picture: Rgba): ImageData {
  return new ImageData(picture.data as Uint8ClampedArray<ArrayBuffer>, picture.width, picture.height);
}

/** Alpha as a white picture with that alpha, ready to be drawn or to mask with. */
export function alphaBitmap(alpha: Bytes): Promise<ImageBitmap> {
  const data = new Uint8ClampedArray(alpha.data.length * 4).fill(255);
  for (let i = 0; i < alpha.data.length; i++) data[i * 4 + 3] = alpha.data[i]!;
  return createImageBitmap(new ImageData(data, alpha.width, alpha.height));
}

/** The same as a file. */
export async function alphaPng(alpha: Bytes): Promise<Blob> {
  const canvas = new OffscreenCanvas(alpha.width, alpha.height);
  const bitmap = await alphaBitmap(alpha);
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
  bitmap.close();
  return canvas.convertToBlob({ type: 'image/png' });
}

export async function pngOf(picture: Rgba): Promise<Blob> {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  canvas.getContext('2d')!.putImageData(imageDataOf(picture), 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}
