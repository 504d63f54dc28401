import { cleanColours } from '../cut/foreground-colours.ts';
import type { Progress } from '../pixels/progress.ts';
import { boundsOf, cropRgba, type Bytes, type Rect, type Rgba } from '../pixels/raster.ts';
import { retouch, type Touch } from './retouch.ts';

/** Thrown when there is nothing to lift. */
export class NothingToLift extends Error {
  constructor() {
    super('The piece is empty. Find the subject, or paint Keep strokes over what you want to lift out.');
    this.name = 'NothingToLift';
  }
}

/**
 * The piece with clean edge colours and its own retouching, trimmed to `bounds`.
 * @param alpha of the piece, 0..255  @param colours the piece's colours when they are known, as from a key
 * @throws NothingToLift, Cancelled
 */
export async function cutPiece(
  request: { picture: Rgba; alpha: Bytes; colours?: Rgba; touches?: readonly Touch[] },
  progress?: Progress,
): Promise<{ cutout: Rgba; bounds: Rect }> {
  const { picture, alpha, colours, touches = [] } = request;
  const bounds = boundsOf(alpha);
  if (!bounds) throw new NothingToLift();
  progress?.report?.('Cleaning the edge colours', 0);
  let piece = colours ?? cleanColours(picture, alpha);
  for (const touch of touches) piece = await retouch(piece, touch, alpha, progress);
  return { cutout: cropRgba(piece, bounds), bounds };
}
