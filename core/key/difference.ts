import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { squaredScreenDistance } from './screen.ts';

export interface DifferenceSettings {
  /** Distance to the still ground up to which a pixel is ground, and from which on it is all subject. */
  low: number;
  high: number;
}

export const defaultDifference: DifferenceSettings = { low: 10, high: 30 };

/**
 * Alpha (0..255) of what differs from a still ground, for clips without a screen: distance of colours as a chroma key sees
 * it, with a soft knee, after a mean of 3 x 3 so that noise alone makes no specks.
 * @param ground the same view without the subject, size of the picture
 */
export function differenceKey(picture: Rgba, ground: Rgba, { low, high }: DifferenceSettings): Bytes {
  const { width, height } = picture;
  const alpha = makeBytes(width, height);
  const span = Math.max(1, high - low);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let [r, g, b, n] = [0, 0, 0, 0];
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const o = (v * width + u) * 4;
          r += picture.data[o]! - ground.data[o]!;
          g += picture.data[o + 1]! - ground.data[o + 1]!;
          b += picture.data[o + 2]! - ground.data[o + 2]!;
          n++;
        }
      }
      const distance = Math.sqrt(squaredScreenDistance(r / n, g / n, b / n));
      const t = Math.max(0, Math.min(1, (distance - low) / span));
      alpha.data[y * width + x] = Math.round(255 * t * t * (3 - 2 * t));
    }
  }
  return alpha;
}

/**
 * The still ground of a clip: the median of its frames, channel by channel, which forgets what passes through less than half
 * of them. @param frames at least one, all of the same size
 */
export function temporalMedian(frames: readonly Rgba[]): Rgba {
  const { width, height } = frames[0]!;
  const out = makeRgba(width, height);
  const values = new Uint8Array(frames.length);
  for (let i = 0; i < out.data.length; i++) {
    for (let k = 0; k < frames.length; k++) values[k] = frames[k]!.data[i]!;
    values.sort();
    out.data[i] = values[frames.length >> 1]!;
  }
  return out;
}
