import { arrivalKind } from '../arrive/arrivals.ts';
import type { Document } from '../document/document.ts';
import type { Layer, Pen } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { ease } from '../motion/easing.ts';
import type { Point } from '../motion/property.ts';
import { lettersOf } from '../text/lettering.ts';
import { writingEdgeOf } from '../text/writing.ts';
import { sweepEdge } from './arriving.ts';
import { invert, transform, type Matrix } from './matrix.ts';
import { barOf, boxOf, type SourceBox } from './source-pixels.ts';
import { heldFrame } from './values.ts';
import { wordsNow } from './words-now.ts';

/** Where a pen is at rest, in pixels of the frame around its centre. */
interface PenPlace {
  place: Point;
  /** It is only there while it writes, comes and goes. */
  opacity: number;
}

/**
 * Where a layer's pivot is while it follows the writing edge of another; null where there is nothing to follow. It comes
 * in before the writing begins, is at the edge in every frame of it, and leaves after.
 * @param restOf how layers lie at rest at that frame
 */
export function penAt(
  shot: Shot,
  layer: Layer,
  pen: Pen,
  frame: number,
  document: Document,
  restOf: (layer: Layer) => Matrix,
): PenPlace | null {
  const owner = shot.layers.find((l) => l.id === pen.to);
  const arrive = owner?.arrive;
  if (!owner || !arrive) return null;
  const held = heldFrame(owner, frame);
  const { source } = owner;
  const words = source.kind === 'text' ? wordsNow(shot, owner, source, frame, restOf) : null;
  const begin = words?.first ?? barOf(shot, owner).first;
  const passed = Math.max(0, Math.min(1, (held - begin) / arrive.length));
  const share = ease(arrive.easing, passed);
  const box: SourceBox | null = words ? boxOfWords(words) : boxOf(document, owner, frame);
  const edge =
    words && arrivalKind(arrive.kind)?.writes ? writingEdgeOf(words, share) : box && sweptEdge(arrive, share, box);
  if (!edge) return null;
  const [x, y] = transform(restOf(owner), edge.at[0] + (words?.x ?? 0), edge.at[1]);
  const group = layer.group ? shot.layers.find((l) => l.id === layer.group) : undefined;
  const far = Math.hypot(document.frame.width, document.frame.height);
  const way = journey(pen, frame - begin, arrive.length);
  const angle = (way.angle * Math.PI) / 180;
  const reach = far * way.share;
  const place: Point = [x + Math.cos(angle) * reach, y + Math.sin(angle) * reach - edge.lift * pen.lift];
  return { place: group ? transform(invert(restOf(group)), ...place) : place, opacity: way.gone ? 0 : 1 };
}

/** How far a pen is from its place before and after the writing, 0..1, and in which direction. */
function journey(pen: Pen, passed: number, length: number): { share: number; angle: number; gone: boolean } {
  const { approach, from, away } = pen;
  if (passed >= 0 && passed <= length) return { share: 0, angle: 0, gone: false };
  const before = passed < 0;
  if (approach === 0) return { share: 0, angle: 0, gone: true };
  const t = (before ? -passed : passed - length) / approach;
  return { share: Math.min(1, t) ** 2, angle: before ? from : away, gone: t > 1 };
}

const boxOfWords = (words: Parameters<typeof lettersOf>[0]): SourceBox | null => {
  const set = lettersOf(words);
  return set ? { x: 0, y: 0, width: set.width, height: set.height } : null;
};

function sweptEdge(
  { kind, settings }: NonNullable<Layer['arrive']>,
  share: number,
  box: SourceBox,
): { at: Point; turn: number; lift: number } | null {
  if (kind !== 'unroll') return null;
  const angle = (settings.angle as { value?: number }).value ?? 0;
  return { ...sweepEdge(angle, share, box), lift: 0 };
}
