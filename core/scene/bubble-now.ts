import type { Bubble } from '../document/words.ts';
import { boundsOfOutlines } from '../document/points.ts';
import { bubbleOutlines } from '../path/bubble.ts';
import type { Path, Point } from '../path/path.ts';
import { lettersOf } from '../text/lettering.ts';
import type { SourceBox } from './source-pixels.ts';
import type { TextNow, TextSource } from './words-now.ts';

/** The bubble around a layer's words at one frame, in the pixels of the words. */
export interface BubbleNow {
  outlines: Path[];
  colour: readonly number[];
  stroke: { width: number; colour: readonly number[] } | null;
  box: SourceBox;
  /** Where its tail ends. */
  tip: Point | null;
}

/**
 * The bubble around words: as large as they are now, its tail where it is to end.
 * @param tipOf where the tail ends, in pixels of the words; null where what it points at is not seen
 */
export function bubbleNow(
  source: TextSource,
  bubble: Bubble,
  words: TextNow,
  tipOf: (tail: NonNullable<Bubble['tail']>) => Point | null,
): BubbleNow {
  const { form, padding, colour, stroke, tail } = bubble;
  const tip = tail && tipOf(tail);
  const outlines = bubbleOutlines(roomOf(source, words), form, padding, tip && { tip, width: tail.width });
  return { outlines, colour, stroke, box: boundsOfOutlines(outlines, stroke), tip };
}

/** The room words take as they are now, which need not be the words that were set. */
function roomOf(source: TextSource, words: TextNow): SourceBox {
  const set = lettersOf(words);
  return set ? { x: words.x, y: 0, width: set.width, height: set.height } : { x: 0, y: 0, ...source.box };
}
