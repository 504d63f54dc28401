import { drawStroke, type Stroke } from '../cut/strokes.ts';
import { makeBytes, type Bytes } from '../pixels/raster.ts';

/** A straight line that must run through the hole, in picture pixels. */
export interface GuideLine {
  from: readonly [number, number];
  to: readonly [number, number];
}

/** What the user says about a region to rebuild. */
export interface Guides {
  /** Where texture may come from; anywhere when empty. */
  from: readonly Stroke[];
  /** Where it must not come from. */
  never: readonly Stroke[];
  lines: readonly GuideLine[];
}

export const noGuides: Guides = { from: [], never: [], lines: [] };

/** 1 where the guides forbid to copy from; null when they forbid nothing. */
export function barredBy(guides: Guides, width: number, height: number): Bytes | null {
  if (guides.from.length === 0 && guides.never.length === 0) return null;
  const barred = makeBytes(width, height, guides.from.length > 0 ? 1 : 0);
  for (const stroke of guides.from) drawStroke(barred, stroke, 0);
  for (const stroke of guides.never) drawStroke(barred, stroke, 1);
  return barred;
}
