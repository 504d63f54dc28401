import { movedStroke } from '../cut/strokes.ts';
import type { Piece } from '../document/document.ts';
import { alphaOf, type Rect, type Rgba } from '../pixels/raster.ts';
import { unitedAlpha } from '../rebuild/behind.ts';
import type { Touch } from '../rebuild/retouch.ts';

/**
 * Retouching marks of a piece with what they need, in the pixels of a part of its picture.
 * @param load pixels of a stored file
 */
export function loadedTouches(
  touches: Piece['touches'],
  part: Rect,
  load: (file: string) => Promise<Rgba>,
): Promise<Touch[]> {
  return Promise.all(
    touches.map(async (touch): Promise<Touch> => {
      if (touch.kind !== 'behind') return { ...touch, stroke: movedStroke(touch.stroke, part.x, part.y) };
      const placed = { alpha: alphaOf(await load(touch.file)), x: touch.x - part.x, y: touch.y - part.y };
      return { kind: 'behind', hidden: unitedAlpha([placed], part.width, part.height), seed: touch.seed };
    }),
  );
}
