import sharp from 'sharp';
import type { Rgba } from '../core/pixels/raster.ts';

export async function decode(bytes: Buffer): Promise<Rgba> {
  const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
  };
}

export function encode(picture: Rgba): Promise<Buffer> {
  return sharp(picture.data, { raw: { width: picture.width, height: picture.height, channels: 4 } })
    .png({ compressionLevel: 3 })
    .toBuffer();
}
