import { bandRadius } from '../cut/alpha.ts';
import { cleanColours } from '../cut/foreground-colours.ts';
import type { Progress } from '../pixels/progress.ts';
import { boundsOf, cropRgba, makeBytes, type Bytes, type Rect, type Rgba } from '../pixels/raster.ts';
import { rebuild, type Preview } from './fill.ts';
import { holeBehind } from './hole.ts';

/** Thrown when there is nothing to lift. */
export class NothingToLift extends Error {
  constructor() {
    super('The piece is empty. Find the subject, or paint Keep strokes over what you want to lift out.');
    this.name = 'NothingToLift';
  }
}

export interface LiftRequest {
  picture: Rgba;
  /** Alpha of the piece, 0..255. */
  alpha: Bytes;
  /** Pieces lifted from the same picture before: they are rebuilt away too. */
  others: readonly { alpha: Bytes; x: number; y: number }[];
  seed: number;
}

export interface Lifted {
  /** The piece with its own colours, trimmed to `bounds`. */
  cutout: Rgba;
  bounds: Rect;
  /** The picture with all pieces rebuilt away. */
  background: Rgba;
}

/** Lift out: the piece, trimmed and with clean colours, and a whole background behind it. @throws NothingToLift, Cancelled */
export async function liftPiece(request: LiftRequest, progress?: Progress, preview?: Preview): Promise<Lifted> {
  const { picture, alpha, others, seed } = request;
  const bounds = boundsOf(alpha);
  if (!bounds) throw new NothingToLift();
  progress?.report?.('Cleaning the edge colours', 0);
  const cutout = cropRgba(cleanColours(picture, alpha), bounds);
  const all = makeBytes(picture.width, picture.height);
  all.data.set(alpha.data);
  for (const other of others) {
    for (let y = 0; y < other.alpha.height; y++) {
      for (let x = 0; x < other.alpha.width; x++) {
        const i = (other.y + y) * picture.width + other.x + x;
        all.data[i] = Math.max(all.data[i]!, other.alpha.data[y * other.alpha.width + x]!);
      }
    }
  }
  const hole = holeBehind(all, bandRadius(picture.width, picture.height));
  return { cutout, bounds, background: await rebuild({ picture, hole, seed }, progress, preview) };
}
