import type { Document } from '../document/document.ts';
import type { EvaluatedFrame } from './draw.ts';
import { evaluateProject, together } from './sequence.ts';

/** The frames of all shots that are played and exported, from `first` up to, but not with, `end`. */
export interface FrameRange {
  first: number;
  end: number;
}

/** A frame of the clip: one of the project, and perhaps another over it by a share. */
interface LoopFrame {
  frame: number;
  over: { frame: number; share: number } | null;
}

/** Frames of a crossfade of the ends: never more than there are to fade. */
function faded({ ends }: Document, { first, end }: FrameRange): number {
  return ends.kind === 'crossfade' ? Math.min(ends.frames, Math.floor((end - first) / 2)) : 0;
}

/** How many frames the clip has, with what is done to its ends. */
export function loopLength(document: Document, range: FrameRange): number {
  const length = range.end - range.first;
  if (document.ends.kind === 'back-again') return Math.max(1, 2 * length - 2);
  return length - faded(document, range);
}

/**
 * What frame `index` of the clip is made of. With a crossfade the clip begins in what was its last stretch, over which its first
 * one comes; gone back again, it ends one frame before its first.
 */
export function loopFrame(document: Document, range: FrameRange, index: number): LoopFrame {
  const { first, end } = range;
  const length = end - first;
  const at = Math.max(0, Math.min(loopLength(document, range) - 1, index));
  if (document.ends.kind === 'back-again')
    return { frame: first + (at < length ? at : 2 * length - 2 - at), over: null };
  const frames = faded(document, range);
  if (at >= frames) return { frame: first + at, over: null };
  if (at === 0) return { frame: end - frames, over: null };
  return { frame: end - frames + at, over: { frame: first + at, share: at / frames } };
}

/** What the clip looks like at a frame of it, all shots one after the other, with what is done to its ends. */
export function evaluateLoop(document: Document, range: FrameRange, index: number): EvaluatedFrame {
  const { frame, over } = loopFrame(document, range, index);
  const from = evaluateProject(document, frame);
  if (!over) return from;
  const to = together(evaluateProject(document, over.frame), 'ends');
  return { ...from, draws: [...from.draws, { ...to, opacity: over.share }] };
}
