import { dilate } from '../pixels/distance.ts';
import { makeBytes, type Bytes } from '../pixels/raster.ts';

/**
 * The region to rebuild behind a piece: everything it touches even faintly, and a rim around that, so that neither its
 * soft edge nor lens blur nor compression halos leave a ghost.
 * @param alpha 0..255  @param rim pixels beyond the last trace of alpha
 */
export function holeBehind(alpha: Bytes, rim: number): Bytes {
  const touched = makeBytes(alpha.width, alpha.height);
  for (let i = 0; i < touched.data.length; i++) touched.data[i] = alpha.data[i]! > 2 ? 1 : 0;
  return dilate(touched, rim);
}
