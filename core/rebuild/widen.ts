import type { Progress } from '../pixels/progress.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { rebuild, type Preview } from './fill.ts';

/** Pixels to add on each side. */
export interface Pad {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export const noPad: Pad = { left: 0, top: 0, right: 0, bottom: 0 };

/** What must be added, evenly on two sides, so that width : height becomes `ratio`; nothing is ever cut away. */
export function padToRatio(width: number, height: number, ratio: number): Pad {
  const across = Math.max(0, Math.round(height * ratio) - width);
  const down = Math.max(0, Math.round(width / ratio) - height);
  return {
    left: across >> 1,
    right: across - (across >> 1),
    top: down >> 1,
    bottom: down - (down >> 1),
  };
}

/** The picture on a larger ground, and 1 where there is nothing yet: the new borders, and what was transparent. */
export function onLargerGround(picture: Rgba, pad: Pad): { picture: Rgba; hole: Bytes } {
  const width = picture.width + pad.left + pad.right;
  const height = picture.height + pad.top + pad.bottom;
  const out = makeRgba(width, height);
  const hole = makeBytes(width, height, 1);
  for (let y = 0; y < picture.height; y++) {
    const to = (y + pad.top) * width + pad.left;
    const from = y * picture.width;
    out.data.set(picture.data.subarray(from * 4, (from + picture.width) * 4), to * 4);
    for (let x = 0; x < picture.width; x++) if (picture.data[(from + x) * 4 + 3]! === 255) hole.data[to + x] = 0;
  }
  return { picture: out, hole };
}

/**
 * Continues a picture past its borders, and into its transparent parts.
 * @throws NothingToContinue, Cancelled
 */
export async function widen(
  request: { picture: Rgba; pad: Pad; seed: number },
  progress?: Progress,
  preview?: Preview,
): Promise<Rgba> {
  return rebuild({ ...onLargerGround(request.picture, request.pad), seed: request.seed }, progress, preview);
}

/** Degrees by which a picture must be turned, clockwise, so that the line from a to b lies level or upright, whichever is nearer. */
export function levellingAngle(a: readonly [number, number], b: readonly [number, number]): number {
  const degrees = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
  return Math.round(degrees / 90) * 90 - degrees;
}

/**
 * The picture turned clockwise about its centre, as large as before; transparent where nothing comes to lie. Bicubic
 * (Keys 1981, a = -0.5) on premultiplied values, so that transparent neighbours lend no colour.
 */
export function turned(picture: Rgba, degrees: number): Rgba {
  const { width, height } = picture;
  const out = makeRgba(width, height);
  const angle = (-degrees * Math.PI) / 180;
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  const value = new Float64Array(4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const dx = x + 0.5 - width / 2;
      const dy = y + 0.5 - height / 2;
      const sx = cos * dx - sin * dy + width / 2 - 0.5;
      const sy = sin * dx + cos * dy + height / 2 - 0.5;
      if (sx < 0 || sy < 0 || sx > width - 1 || sy > height - 1) continue;
      cubicSample(picture, sx, sy, value);
      const o = (y * width + x) * 4;
      const alpha = Math.max(1e-6, value[3]!);
      for (let c = 0; c < 3; c++) out.data[o + c] = value[c]! / alpha;
      out.data[o + 3] = value[3]! > 0.995 ? 255 : value[3]! * 255;
    }
  }
  return out;
}

/** Premultiplied colour in bytes and alpha in 0..1 at a point between pixels; edges repeated. */
export function cubicSample(picture: Rgba, x: number, y: number, out: Float64Array): void {
  const { width, height, data } = picture;
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  out.fill(0);
  for (let j = -1; j <= 2; j++) {
    const wy = keys(y - iy - j);
    const row = Math.max(0, Math.min(height - 1, iy + j)) * width;
    for (let i = -1; i <= 2; i++) {
      const w = wy * keys(x - ix - i);
      if (w === 0) continue;
      const p = (row + Math.max(0, Math.min(width - 1, ix + i))) * 4;
      const a = (w * data[p + 3]!) / 255;
      out[0]! += a * data[p]!;
      out[1]! += a * data[p + 1]!;
      out[2]! += a * data[p + 2]!;
      out[3]! += a;
    }
  }
}

function keys(t: number): number {
  const d = Math.abs(t);
  if (d < 1) return 1.5 * d ** 3 - 2.5 * d ** 2 + 1;
  return d < 2 ? -0.5 * d ** 3 + 2.5 * d ** 2 - 4 * d + 2 : 0;
}
