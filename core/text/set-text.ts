import type { Path, Point } from '../path/path.ts';
import { curveAlong, type Curve } from './along.ts';
import { breakLines } from './break-lines.ts';
import type { Font } from './font.ts';
import { placedPath } from './glyph-paths.ts';
import { shapeLine, type Cluster, type ShapedLine } from './shape-line.ts';
import type { TextSetting } from './text-setting.ts';

/** A letter as it is set, or several that are drawn as one. All in pixels of the text. */
export interface Letter {
  /** Filled together by winding. */
  outlines: readonly Path[];
  /** The pen's place on the baseline, and the direction of the line there, radians. */
  at: Point;
  turn: number;
  advance: number;
  /** How far it reaches above and below its place, before it is turned. */
  ascent: number;
  descent: number;
  word: number;
  line: number;
  /** Which letters of the text, in UTF-16 code units. */
  from: number;
  to: number;
  colour: number[] | null;
  missing: boolean;
  /** A space is a letter without a picture. */
  blank: boolean;
}

export interface SetLine {
  from: number;
  to: number;
  left: number;
  width: number;
  baseline: number;
}

export interface SetText {
  letters: Letter[];
  lines: SetLine[];
  words: number;
  width: number;
  height: number;
}

/**
 * Sets text as letters with outlines, so that it looks the same wherever it is painted. The box begins at (0, 0), is as
 * wide as the widest line, or as lines are broken at, and has room for a stroke all around.
 * @param fonts in the order letters are looked for in them; at least one
 */
export function setText(setting: TextSetting, fonts: readonly Font[]): SetText {
  const { size, leading, stroke, wrap = null } = setting;
  const first = fonts[0]!;
  const room = Math.ceil((stroke?.width ?? 0) / 2 + size * 0.04);
  const ascent = (first.ascent / first.unitsPerEm) * size;
  const descent = (first.descent / first.unitsPerEm) * size;
  const shaped = (from: number, to: number): ShapedLine => shapeLine(setting, from, to, fonts);
  const stretches = breakLines(setting.text, wrap, (from, to) => shaped(from, to).width);
  const lines = stretches.map((part) => ({ ...part, ...shaped(part.from, part.to) }));
  const widest = wrap ?? Math.max(1, ...lines.map((line) => line.width));
  const height = ascent + descent + (lines.length - 1) * leading * size;
  const words = wordsOf(setting.text);
  const along = setting.along?.form === 'layer' ? null : (setting.along ?? null);
  const curve = along ? curveAlong(along, widest, ascent) : null;
  const set: SetLine[] = [];
  const letters = lines.flatMap((line, index) => {
    const { clusters, left, width } = aligned(line, setting, widest);
    const baseline = ascent + index * leading * size;
    set.push({ from: line.from, to: line.to, left: left + room, width, baseline: baseline + room });
    return clusters.map((cluster): Letter => {
      const common = { ascent, descent, line: index, word: words.at(cluster.from) };
      return curve
        ? letterOnCurve(cluster, left, baseline, curve, common)
        : letterAt(cluster, [room + left + cluster.x, room + baseline], 0, common);
    });
  });
  const done = { letters, lines: set, words: words.count };
  // On a line that is given, words lie where that line is.
  if (along?.form === 'line') return { ...done, width: widest + 2 * room, height: height + 2 * room };
  if (curve) return { ...done, ...movedIntoBox(letters, room) };
  return { ...done, width: widest + 2 * room, height: height + 2 * room };
}

/** Where a line begins; a justified one has what is spare between its words. */
function aligned(
  { clusters, width, fromRight, last }: ShapedLine & { last: boolean },
  { align, text }: TextSetting,
  widest: number,
): { clusters: Cluster[]; left: number; width: number } {
  const spare = widest - width;
  const gaps = clusters.slice(0, -1).filter((c) => text.slice(c.from, c.to) === ' ').length;
  if (align === 'justified' && !last && gaps > 0) {
    let added = 0;
    const spread = clusters.map((cluster) => {
      const moved = { ...cluster, x: cluster.x + added };
      if (text.slice(cluster.from, cluster.to) !== ' ') return moved;
      added += spare / gaps;
      return { ...moved, advance: cluster.advance + spare / gaps };
    });
    return { clusters: spread, left: 0, width: widest };
  }
  const side = align === 'justified' ? (fromRight ? 'right' : 'left') : align;
  return { clusters, left: side === 'left' ? 0 : side === 'centre' ? spare / 2 : spare, width };
}

type Common = Pick<Letter, 'ascent' | 'descent' | 'line' | 'word'>;

function letterAt(cluster: Cluster, at: Point, turn: number, common: Common): Letter {
  const { from, to, advance, colour, missing, lift, glyphs } = cluster;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const outlines = glyphs.flatMap(({ outline, x, y, size }) => {
    const [dx, dy] = [x, y - lift];
    const place: Point = [at[0] + dx * cos - dy * sin, at[1] + dx * sin + dy * cos];
    return outline.map((path) => placedPath(path, place, size, turn));
  });
  return { outlines, at, turn, advance, from, to, colour, missing, blank: outlines.length === 0, ...common };
}

/** A letter stands upright on a curve where its middle is. */
function letterOnCurve(cluster: Cluster, left: number, baseline: number, curve: Curve, common: Common): Letter {
  const half = cluster.advance / 2;
  const { at, turn } = curve(left + cluster.x + half, baseline);
  const start: Point = [at[0] - half * Math.cos(turn), at[1] - half * Math.sin(turn)];
  return letterAt(cluster, start, turn, common);
}

/** Moves letters so that the box around them begins at (0, 0). */
function movedIntoBox(letters: Letter[], room: number): { width: number; height: number } {
  const corners = letters.flatMap(cornersOf);
  if (corners.length === 0) return { width: 1, height: 1 };
  const left = Math.min(...corners.map(([x]) => x)) - room;
  const top = Math.min(...corners.map(([, y]) => y)) - room;
  for (const letter of letters) {
    letter.at = [letter.at[0] - left, letter.at[1] - top];
    letter.outlines = letter.outlines.map((path) => placedPath(path, [-left, -top], 1, 0));
  }
  return {
    width: Math.max(...corners.map(([x]) => x)) - left + room,
    height: Math.max(...corners.map(([, y]) => y)) - top + room,
  };
}

/** The corners of the room a letter has, from the top left clockwise. */
export function cornersOf({ at, turn, advance, ascent, descent }: Letter): Point[] {
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return (
    [
      [0, -ascent],
      [advance, -ascent],
      [advance, descent],
      [0, descent],
    ] as const
  ).map(([x, y]) => [at[0] + x * cos - y * sin, at[1] + x * sin + y * cos]);
}

/** Which word each place of a text belongs to; spaces belong to the word before them. */
function wordsOf(text: string): { count: number; at(place: number): number } {
  const starts = [...text.matchAll(/\S+/g)].map((found) => found.index);
  return {
    count: starts.length,
    at: (place) =>
      Math.max(
        0,
        starts.findLastIndex((start) => start <= place),
      ),
  };
}
