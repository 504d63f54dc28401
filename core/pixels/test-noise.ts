import { seededRandom } from './random.ts';
import { makeRgba, type Rgba } from './raster.ts';

/** A picture with normal noise (Box & Muller 1958) of a standard deviation in bytes; for tests. */
export function noisyPicture(
  width: number,
  height: number,
  sigma: number,
  colour: (x: number, y: number) => readonly number[],
): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(41);
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  for (let i = 0; i < width * height; i++) {
    const clean = colour(i % width, Math.floor(i / width));
    for (let c = 0; c < 3; c++) picture.data[i * 4 + c] = clean[c]! + sigma * normal();
    picture.data[i * 4 + 3] = 255;
  }
  return picture;
}
