import type { Document } from '../document/document.ts';
import type { Bubble } from '../document/words.ts';
import { valueAt } from '../motion/property.ts';
import type { TextSource } from '../scene/words-now.ts';
import { defineEdit } from './edit.ts';
import { layerIn } from './layer-edits.ts';

const paper: Bubble['colour'] = [245, 242, 235, 1];
const ink: Bubble['colour'] = [28, 42, 48, 1];

/** A bubble for words of a size, with a tail that goes down to the left. */
export function newBubble({ size, box }: Pick<TextSource, 'size' | 'box'>): Bubble {
  return {
    form: 'round',
    padding: Math.round(size * 0.45),
    colour: paper,
    stroke: { width: Math.max(1, Math.round(size / 16)), colour: ink },
    tail: {
      to: null,
      at: [Math.round(-0.2 * size), Math.round(box.height + 1.6 * size)],
      width: Math.round(size * 0.6),
    },
  };
}

/** Gives words a bubble, changes it, or takes it away. */
export const setBubble = defineEdit(
  'Change bubble',
  (draft: Document, shot: string, layer: string, bubble: Bubble | null) => {
    const { source } = layerIn(draft, shot, layer);
    if (source.kind === 'text') source.bubble = bubble;
  },
);

/** Lets the tail point at the pivot of another layer, which it follows from then on, or at a fixed point again. */
export const pointTailAt = defineEdit(
  'Point the tail',
  (draft: Document, shot: string, layer: string, to: string | null) => {
    const { source } = layerIn(draft, shot, layer);
    if (source.kind !== 'text' || !source.bubble) return;
    const fresh = newBubble(source).tail!;
    const { width } = source.bubble.tail ?? fresh;
    const at = to ? (valueAt(layerIn(draft, shot, to).pivot, 0) as [number, number]) : fresh.at;
    source.bubble.tail = { to, at, width };
  },
);
