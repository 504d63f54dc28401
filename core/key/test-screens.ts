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

export interface LineWishes {
  screen: Rgb;
  subject: Rgb;
  /** Pixels. */
  thick: number;
  /** Share of the light behind it that a line stops, at its foot and at its tip. */
  opacity: readonly [number, number];
  noise: number;
}

/** Lines of one colour that rise from a bar, every eight pixels one, each at a slant of its own, before an uneven screen. */
export function linesOn({ screen, subject, thick, opacity, noise }: LineWishes): Shot {
  const [width, height, foot, spacing] = [320, 200, 150, 8];
  const random = seededRandom(5);
  const picture = makeRgba(width, height);
  const alpha = makeBytes(width, height);
  const lines: { foot: number; slant: number; across: number }[] = [];
  for (let line = 4; line * spacing < width - 24; line++) {
    const slant = 0.5 * Math.sin(line * 1.7);
    lines.push({ foot: line * spacing, slant, across: Math.hypot(1, slant) });
  }
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const inBar = x >= 20 && x < width - 20 && y < height - 20;
      let a = inBar ? clamp(y - foot + 0.5) : 0;
      const rise = Math.max(0, foot - y);
      for (const line of lines) {
        const off = (x - line.foot - line.slant * rise) / line.across;
        const cover = rise > 0 && rise < 110 ? clamp(off + thick / 2 + 0.5) - clamp(off - thick / 2 + 0.5) : 0;
        a += (1 - a) * cover * (opacity[0] + ((opacity[1] - opacity[0]) * rise) / 110);
      }
      const i = y * width + x;
      const light = 1 - 0.2 * (x / width);
      alpha.data[i] = Math.round(a * 255);
      for (let c = 0; c < 3; c++)
        picture.data[i * 4 + c] = subject[c]! * a + screen[c]! * light * (1 - a) + noise * (random() + random() - 1);
      picture.data[i * 4 + 3] = 255;
    }
  }
  return { picture, alpha };
}

/** The alpha that is known when of every four pixels only their mean is, which is spread evenly from four to four. */
export function knownByFours({ width, height, data }: Bytes): Bytes {
  const fours = new Float32Array((width / 2) * (height / 2));
  for (let i = 0; i < data.length; i++) {
    const at = (Math.floor(i / width) >> 1) * (width / 2) + ((i % width) >> 1);
    fours[at] = fours[at]! + data[i]! / 4;
  }
  const at = (x: number, y: number): number =>
    fours[Math.max(0, Math.min(height / 2 - 1, y)) * (width / 2) + Math.max(0, Math.min(width / 2 - 1, x))]!;
  const out = makeBytes(width, height);
  for (let i = 0; i < data.length; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const [bx, by, ox, oy] = [x >> 1, y >> 1, x & 1 ? 1 : -1, y & 1 ? 1 : -1];
    const beside = 3 * (at(bx + ox, by) + at(bx, by + oy));
    out.data[i] = Math.round((9 * at(bx, by) + beside + at(bx + ox, by + oy)) / 16);
  }
  return out;
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
