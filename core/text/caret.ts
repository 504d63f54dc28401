import type { Point } from '../path/path.ts';
import { cornersOf, type Letter, type SetText } from './set-text.ts';

/** Where a caret stands: a place on a baseline, the direction of the line, and how far it reaches up and down. */
export interface Caret {
  at: Point;
  turn: number;
  ascent: number;
  descent: number;
  line: number;
}

/** The line of a letter reads from right to left where its text does. */
const fromRight = (letter: Letter, text: string): boolean =>
  /\p{Script=Hebrew}|\p{Script=Arabic}/u.test(text.slice(letter.from, letter.to));

const along = ({ at, turn }: Letter, way: number): Point => [
  at[0] + Math.cos(turn) * way,
  at[1] + Math.sin(turn) * way,
];

/** The caret before a place of the text, in UTF-16 code units; inside a letter that is several it stands at its share. */
export function caretAt(set: SetText, text: string, place: number, size: number): Caret {
  const inside = set.letters.find((l) => place > l.from && place < l.to);
  const line = lineOf(set, place);
  const own = set.letters.filter((l) => l.line === line);
  const next = own.find((l) => l.from === place);
  const before = own.find((l) => l.to === place);
  const one = inside ?? next ?? before;
  if (!one) {
    const { left, width, baseline } = set.lines[line]!;
    // An empty line has its caret where its words would begin.
    return { at: [left + width / 2, baseline], turn: 0, ascent: size * 0.9, descent: size * 0.25, line };
  }
  const share = inside ? (place - one.from) / (one.to - one.from) : one === next ? 0 : 1;
  const way = (fromRight(one, text) ? 1 - share : share) * one.advance;
  return { at: along(one, way), turn: one.turn, ascent: one.ascent, descent: one.descent, line };
}

/** The two ends of a caret, upper first. */
export function caretLine({ at, turn, ascent, descent }: Caret): [Point, Point] {
  const [ux, uy] = [Math.sin(turn), -Math.cos(turn)];
  return [
    [at[0] + ux * ascent, at[1] + uy * ascent],
    [at[0] - ux * descent, at[1] - uy * descent],
  ];
}

function lineOf(set: SetText, place: number): number {
  const found = set.lines.findIndex((line) => place >= line.from && place <= line.to);
  // A space at which a line was broken belongs to the line before it.
  return found >= 0
    ? found
    : Math.max(
        0,
        set.lines.findLastIndex((line) => line.from <= place),
      );
}

/** The rooms of letters between two places, to be marked. */
export const letterBoxes = (set: SetText, from: number, to: number): Point[][] =>
  set.letters.filter((l) => l.from < to && l.to > from).map(cornersOf);

/** The place of the text nearest to a point; `from` and `to` are the places that come into question. */
export function nearestPlace(set: SetText, text: string, point: readonly number[], from = 0, to = text.length): number {
  let best = to;
  let least = Infinity;
  for (let place = from; place <= to; place++) {
    // Never between the halves of one letter.
    if (place > 0 && /[\udc00-\udfff]/.test(text[place] ?? '')) continue;
    const caret = caretAt(set, text, place, 0);
    const [dx, dy] = [point[0]! - caret.at[0], point[1]! - caret.at[1]];
    const across = Math.abs(dx * Math.cos(caret.turn) + dy * Math.sin(caret.turn));
    const up = -dy * Math.cos(caret.turn) + dx * Math.sin(caret.turn);
    // The right line first, then the nearest place in it.
    const off = Math.max(0, up - caret.ascent, -up - caret.descent);
    const cost = across + 20 * off;
    if (cost < least) [least, best] = [cost, place];
  }
  return best;
}

/** The place above or below another, in the line before or after. */
export function placeInLine(set: SetText, text: string, place: number, by: 1 | -1): number {
  const caret = caretAt(set, text, place, 0);
  const line = set.lines[caret.line + by];
  if (!line) return by < 0 ? 0 : text.length;
  return nearestPlace(set, text, [caret.at[0], line.baseline], line.from, line.to);
}
