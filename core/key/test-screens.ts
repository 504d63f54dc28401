import sharp from 'sharp';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import type { Rgb } from './screen.ts';

/** A shot before a screen with its truth. */
export interface Shot {
  picture: Rgba;
  alpha: Bytes;
}

export interface ShotWishes {
  width?: number;
  height?: number;
  screen: Rgb;
  subject: Rgb;
  noise: number;
  /** Share of its light that the screen lacks on its right side. */
  unevenness?: number;
  /** Pixels over which the disc's edge is blurred. */
  soft?: number;
}

/** A disc of a colour, with thin spokes beyond it, before a screen that is brighter on one side, with noise. */
export function shotOn({ screen, subject, noise, unevenness = 0.3, soft = 6, ...size }: ShotWishes): Shot {
  const { width = 240, height = 180 } = size;
  const random = seededRandom(3);
  const picture = makeRgba(width, height);
  const alpha = makeBytes(width, height);
  const [cx, cy, radius] = [width / 2, height / 2, Math.min(width, height) * 0.28];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const disc = clamp((radius - Math.hypot(x - cx, y - cy)) / soft + 0.5);
      const bar = Math.abs(x - cx) < radius * 1.5 ? clamp(1.5 - Math.abs(y - cy + radius * 0.4)) : 0;
      const a = Math.max(disc, bar);
      const light = 1 - unevenness * (x / width);
      alpha.data[i] = Math.round(a * 255);
      for (let c = 0; c < 3; c++)
        picture.data[i * 4 + c] = subject[c]! * a + screen[c]! * light * (1 - a) + noise * (random() + random() - 1);
      picture.data[i * 4 + 3] = 255;
    }
  }
  return { picture, alpha };
}

const clamp = (v: number): number => Math.max(0, Math.min(1, v));

/** The picture after having been a JPEG file. @param sampling of colour: '4:2:0' is half size, '4:4:4' full */
export async function throughJpeg(picture: Rgba, quality: number, sampling: '4:2:0' | '4:4:4'): Promise<Rgba> {
  const { width, height } = picture;
  const raw = { raw: { width, height, channels: 4 as const } };
  const jpeg = await sharp(picture.data, raw).removeAlpha().jpeg({ quality, chromaSubsampling: sampling }).toBuffer();
  const { data } = await sharp(jpeg).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width, height, data: new Uint8ClampedArray(data) };
}

/** Sum of the differences of two alphas, in whole pixels. */
export const difference = (a: Bytes, b: Bytes): number =>
  a.data.reduce((sum, v, i) => sum + Math.abs(v - b.data[i]!), 0) / 255;

export const binary = (alpha: Bytes): Bytes => ({ ...alpha, data: alpha.data.map((v) => (v > 127 ? 255 : 0)) });
