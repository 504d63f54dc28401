import { seededRandom } from '../../core/pixels/random.ts';
import { makeRgba, type Bytes, type Rgba } from '../../core/pixels/raster.ts';

/** Green cloth hung behind something: uneven light, folds, and seams of shadow; colours in bytes. */
export function clothAt(u: number, v: number): [number, number, number] {
  const folds = 0.06 * Math.sin(31 * u + 2.4 * Math.sin(3 * v)) + 0.035 * Math.sin(73 * u + 5 * v + 1.3);
  const light = 1.02 - 0.42 * Math.hypot(u - 0.38, 0.8 * (v - 0.35)) + folds;
  return [46 * light, 168 * light, 72 * light];
}

/** Share of the cloth's light that falls onto what stands before it. */
const bounce = 0.1;

/**
 * The same subject before green cloth: what it covers of its own background is taken out exactly (picture minus background
 * times 1 - alpha) and the cloth put in its place, with some of its light thrown onto the subject, and camera noise.
 */
export function onGreenCloth(picture: Rgba, background: Rgba, alpha: Bytes): Rgba {
  const { width, height } = picture;
  const out = makeRgba(width, height);
  const random = seededRandom(31);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const cloth = clothAt(x / width, y / height);
      const a = alpha.data[i]! / 255;
      // Where nothing stands, the pictures differ by the shadow on what is not there any more.
      const there = a > 0 ? 1 : 0;
      for (let c = 0; c < 3; c++) {
        const own = there * (picture.data[i * 4 + c]! - background.data[i * 4 + c]! * (1 - a));
        const lit = own + a * bounce * cloth[c]!;
        out.data[i * 4 + c] = lit + cloth[c]! * (1 - a) + 5 * (random() + random() - 1);
      }
      out.data[i * 4 + 3] = 255;
    }
  }
  return out;
}
