import type { Rgba } from './raster.ts';

/** Linear light (0..1) of each sRGB byte, IEC 61966-2-1. */
export const linearOfByte: Float32Array = Float32Array.from({ length: 256 }, (_, v) => {
  const c = v / 255;
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
});

const cubeRoot = Float32Array.from({ length: 4097 }, (_, i) => {
  const t = i / 4096;
  return t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116;
});

/**
 * CIELAB (D65 white) of every pixel, three floats a pixel: L 0..100, a and b about -110..110.
 * Follows CIE 15:2004 on linear sRGB; the cube root is read from a table of 4096 steps (error below 0.05 in L above L = 1).
 */
export function labOf(picture: Rgba): Float32Array {
  const count = picture.width * picture.height;
  const lab = new Float32Array(count * 3);
  const { data } = picture;
  for (let i = 0; i < count; i++) {
    const r = linearOfByte[data[i * 4]!]!;
    const g = linearOfByte[data[i * 4 + 1]!]!;
    const b = linearOfByte[data[i * 4 + 2]!]!;
    const x = cubeRoot[(((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047) * 4096 + 0.5) | 0]!;
    const y = cubeRoot[((0.2126729 * r + 0.7151522 * g + 0.072175 * b) * 4096 + 0.5) | 0]!;
    const z = cubeRoot[(((0.0193339 * r + 0.119192 * g + 0.9503041 * b) / 1.08883) * 4096 + 0.5) | 0]!;
    lab[i * 3] = 116 * y - 16;
    lab[i * 3 + 1] = 500 * (x - y);
    lab[i * 3 + 2] = 200 * (y - z);
  }
  return lab;
}

/** What red, green and blue add to luma (Rec. 709). */
export const lumaShares = [0.2126, 0.7152, 0.0722] as const;
const [ofRed, ofGreen, ofBlue] = lumaShares;

/** Luma (Rec. 709 weights on sRGB bytes), 0..255. */
export function lumaOf(r: number, g: number, b: number): number {
  return ofRed * r + ofGreen * g + ofBlue * b;
}
