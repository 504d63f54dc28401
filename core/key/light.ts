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
  for (let i = 0; i < alpha.data.length; i++) {
    const t = Math.max(0, Math.min(1, (lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!) - low) / span));
    const knee = t * t * (3 - 2 * t);
    const a = Math.round(255 * (drop === 'dark' ? knee : 1 - knee));
    alpha.data[i] = a;
    colours.data[i * 4 + 3] = a;
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
  const scale = 255 / (255 - black);
  for (let i = 0; i < alpha.data.length; i++) {
    const o = i * 4;
    const strongest = Math.max(0, Math.max(data[o]!, data[o + 1]!, data[o + 2]!) - black);
    const a = Math.round(strongest * scale);
    alpha.data[i] = a;
    if (a === 0) continue;
    for (let c = 0; c < 3; c++) colours.data[o + c] = (Math.max(0, data[o + c]! - black) * 255) / strongest;
    colours.data[o + 3] = a;
  }
  return { colours, alpha };
}
