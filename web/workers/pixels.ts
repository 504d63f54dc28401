import type { Bytes, Rgba } from '../../core/pixels/raster.ts';

/** Decoded without colour conversion: files are sRGB already. */
export async function loadBitmap(url: string): Promise<ImageBitmap> {
  const response = await fetch(url);
  if (!response.ok) throw new Error('A picture of this project could not be loaded. Reload the page and try again.');
  return createImageBitmap(await response.blob(), { colorSpaceConversion: 'none' });
}

export async function loadPixels(url: string): Promise<Rgba> {
  const bitmap = await loadBitmap(url);
  const pixels = pixelsOfBitmap(bitmap);
  bitmap.close();
  return pixels;
}

export function pixelsOfBitmap(bitmap: ImageBitmap): Rgba {
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  const { width, height, data } = context.getImageData(0, 0, canvas.width, canvas.height);
  return { width, height, data };
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

export async function pngOf(picture: Rgba): Promise<Blob> {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  canvas.getContext('2d')!.putImageData(imageDataOf(picture), 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}
