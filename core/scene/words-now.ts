import { ease } from '../motion/easing.ts';
import { flattened } from '../path/path.ts';
import { lettersOf } from '../text/lettering.ts';
import type { Along, TextSetting } from '../text/text-setting.ts';
import type { Layer, LayerSource } from '../document/layer.ts';
import type { TextChanges } from '../document/words.ts';
import { outlinesOfShape } from '../document/points.ts';
import type { Shot } from '../document/shot.ts';
import { compose, invert, transform, type Matrix } from './matrix.ts';
import { heldFrame, layerValue } from './values.ts';
import { barOf } from './source-pixels.ts';

export type TextSource = Extract<LayerSource, { kind: 'text' }>;

/** Words as they stand at one frame. */
export interface TextNow extends TextSetting {
  along: Exclude<Along, { form: 'layer' }> | null;
  stroke: { width: number; colour: number[] } | null;
  /** How far to the right its box begins, so that the side it is aligned by stays where it is. */
  x: number;
  /** The frames in which these words stand. */
  first: number;
  end: number;
}

/**
 * A layer's words at a frame: what changes by itself has changed, and what they run along is known.
 * @param restOf how a layer lies at rest at that frame
 */
export function wordsNow(
  shot: Shot,
  layer: Layer,
  source: TextSource,
  frame: number,
  restOf: (layer: Layer) => Matrix,
): TextNow {
  const bar = barOf(shot, layer);
  const { face, size, align, leading, tracking, stroke, wrap, spans } = source;
  const along = source.along && alongNow(shot, layer, source.along, frame, restOf);
  const changed = source.changes ? changedText(source.text, source.changes, heldFrame(layer, frame) - bar.first) : null;
  const stands =
    changed?.first === undefined ? bar : { first: bar.first + changed.first, end: bar.first + changed.end };
  const setting = { text: changed?.text ?? source.text, face, size, align, leading, tracking, wrap, along };
  const kept = changed ? [] : spans;
  const words: TextNow = {
    ...setting,
    spans: kept,
    stroke,
    x: 0,
    first: stands.first,
    end: Math.min(bar.end, stands.end),
  };
  if (changed) words.x = shiftOf(words, source.box.width);
  return words;
}

/** Where other words must begin so that they are aligned within the box of those that were set. */
function shiftOf(words: TextNow, width: number): number {
  const set = lettersOf(words);
  if (!set || words.align === 'left' || words.align === 'justified') return 0;
  return (width - set.width) * (words.align === 'centre' ? 0.5 : 1);
}

/** @param passed frames since the layer's bar began */
function changedText(
  text: string,
  changes: TextChanges,
  passed: number,
): { text: string; first?: undefined } | { text: string; first: number; end: number } {
  if (changes.kind === 'number') {
    const { from, to, begin, length, easing } = changes;
    const share = ease(easing, (passed - begin) / length);
    const number = numberText(from + (to - from) * share, changes);
    return { text: text.includes('#') ? text.replaceAll('#', number) : number };
  }
  const { list, repeats } = changes;
  const total = list.reduce((sum, word) => sum + word.frames, 0);
  const round = repeats ? Math.floor(passed / total) * total : 0;
  let first = round;
  for (const [k, word] of list.entries()) {
    const last = k === list.length - 1 && !repeats;
    const end = last ? Number.MAX_SAFE_INTEGER : first + word.frames;
    if (passed < end) return { text: word.text, first, end };
    first = end;
  }
  return { text: list.at(-1)!.text, first, end: Number.MAX_SAFE_INTEGER };
}

function numberText(value: number, { decimals, grouped }: Extract<TextChanges, { kind: 'number' }>): string {
  const digits = { minimumFractionDigits: decimals, maximumFractionDigits: decimals };
  // A language of its own, or the same project would read unlike on two machines.
  const text = new Intl.NumberFormat('en', { ...digits, useGrouping: grouped }).format(value);
  return /^-[0.,]+$/.test(text) ? text.slice(1) : text;
}

function alongNow(
  shot: Shot,
  layer: Layer,
  along: NonNullable<TextSource['along']>,
  frame: number,
  restOf: (layer: Layer) => Matrix,
): TextNow['along'] {
  if (along.form !== 'layer') return along;
  const other = shot.layers.find((l) => l.id === along.layer);
  if (other?.source.kind !== 'shape') return null;
  const points = other.points ? layerValue(shot, other, 'points', frame) : undefined;
  const [path] = outlinesOfShape(other, other.source, heldFrame(other, frame), points);
  if (!path) return null;
  const toWords = compose(invert(restOf(layer)), restOf(other));
  const line = flattened(path, 0.2).map(([x, y]) => transform(toWords, x, y));
  return { form: 'line', points: line, closed: false, start: along.start, inside: along.inside };
}
