import { lumaOf } from '../pixels/color.ts';
import { makeBytes, makeRgba, type Rgba } from '../pixels/raster.ts';
import type { Keyed } from './keyed.ts';

export interface LumaSettings {
  /** Which side is taken away. */
  drop: 'dark' | 'light';
  /** Luma in bytes up to which all of it goes, and from which on all of it stays (the other way round for light). */
  low: number;
  high: number;
}

export const defaultLuma: LumaSettings = { drop: 'dark', low: 24, high: 96 };

/** Luma key with a soft knee between low and high; colours stay as they are. */
export function lumaKey(picture: Rgba, { drop, low, high }: LumaSettings): Keyed {
  const { width, height, data } = picture;
  const alpha = makeBytes(width, height);
  const colours: Rgba = { width, height, data: new Uint8ClampedArray(data) };
  const span = Math.max(1, high - low);
  // Looked up in sixteenths of a byte: finer than alpha can tell, and several times as fast.
  const alphaOfLuma = Uint8Array.from({ length: 255 * 16 + 1 }, (_, step) => {
    const t = Math.max(0, Math.min(1, (step / 16 - low) / span));
    const knee = t * t * (3 - 2 * t);
    return Math.round(255 * (drop === 'dark' ? knee : 1 - knee));
  });
  for (let i = 0, o = 0; i < alpha.data.length; i++, o += 4) {
    const a = alphaOfLuma[(lumaOf(data[o]!, data[o + 1]!, data[o + 2]!) * 16 + 0.5) | 0]!;
    alpha.data[i] = a;
    colours.data[o + 3] = a;
  }
  return { colours, alpha };
}

/**
 * Unveil: light on black as colour and alpha. Alpha is the strongest channel above the black of the ground, and the colour
 * is divided by it, so that laid over black it gives the picture again, and sparks keep their colour on any ground.
 * @param black bytes that count as no light
 */
export function unveil(picture: Rgba, black = 8): Keyed {
  const { width, height, data } = picture;
  const alpha = makeBytes(width, height);
  const colours = makeRgba(width, height);
  const light = Array.from({ length: 256 }, (_, strongest) => Math.max(0, strongest - black));
  const alphaOf = Uint8Array.from(light, (v) => Math.round((v * 255) / (255 - black)));
  const gainOf = Float64Array.from(light, (v) => (v === 0 ? 0 : 255 / v));
  const out = colours.data;
  for (let i = 0, o = 0; i < alpha.data.length; i++, o += 4) {
    const [r, g, b] = [data[o]!, data[o + 1]!, data[o + 2]!];
    const strongest = r > g ? (r > b ? r : b) : g > b ? g : b;
    const a = alphaOf[strongest]!;
    if (a === 0) continue;
    const gain = gainOf[strongest]!;
    alpha.data[i] = a;
    // What lies below black is negative, which the array takes for nothing.
    out[o] = (r - black) * gain;
    out[o + 1] = (g - black) * gain;
    out[o + 2] = (b - black) * gain;
    out[o + 3] = a;
  }
  return { colours, alpha };
}
