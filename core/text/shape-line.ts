import bidiFactory from 'bidi-js';
import type { Path } from '../path/path.ts';
import { shaper, type Font } from './font.ts';
import { graphemesOf } from './graphemes.ts';
import type { TextSetting, TextSpan } from './text-setting.ts';

/** One cluster of a line: the glyphs that belong to some letters of the text and cannot be told apart. */
export interface Cluster {
  /** Letters of the text, in UTF-16 code units. */
  from: number;
  to: number;
  /** Pen place along the line, and how far the pen goes on; pixels. */
  x: number;
  advance: number;
  glyphs: { outline: readonly Path[]; x: number; y: number; size: number }[];
  lift: number;
  colour: number[] | null;
  /** No font has it. */
  missing: boolean;
}

export interface ShapedLine {
  /** From left to right, as they are seen. */
  clusters: Cluster[];
  width: number;
  /** Whether the line as a whole reads from right to left. */
  fromRight: boolean;
}

type Style = Omit<TextSpan, 'from' | 'to'>;

interface Run {
  from: number;
  to: number;
  level: number;
  font: Font;
  style: Style;
}

const bidi = bidiFactory();

/**
 * Sets one line: direction by the Unicode Bidirectional Algorithm (UAX 9), shaping by HarfBuzz, letters from the first
 * font that has them.
 * @param from, to the part of the setting's text that is this line
 */
export function shapeLine(setting: TextSetting, from: number, to: number, fonts: readonly Font[]): ShapedLine {
  const text = setting.text.slice(from, to);
  if (text === '') return { clusters: [], width: 0, fromRight: false };
  if (setting.spans?.length) return shapedAnew(setting, from, to, fonts);
  // While one types, most lines are those of before: they are kept as if they began the text.
  const { face, size, tracking } = setting;
  const key = JSON.stringify([face, size, tracking, text]);
  const known = kept.get(key) ?? shapedAnew({ ...setting, text }, 0, text.length, fonts);
  kept.set(key, known);
  if (kept.size > mostKept) kept.delete(kept.keys().next().value!);
  if (from === 0) return known;
  return { ...known, clusters: known.clusters.map((c) => ({ ...c, from: c.from + from, to: c.to + from })) };
}

const mostKept = 4000;
const kept = new Map<string, ShapedLine>();

function shapedAnew(setting: TextSetting, from: number, to: number, fonts: readonly Font[]): ShapedLine {
  const text = setting.text.slice(from, to);
  const levels = bidi.getEmbeddingLevels(text);
  const runs = runsOf(text, from, levels.levels, setting, fonts);
  const clusters: Cluster[] = [];
  let x = 0;
  for (const run of inSight(runs)) {
    for (const cluster of shapeRun(setting, run)) {
      clusters.push({ ...cluster, x });
      x += cluster.advance;
    }
  }
  const last = clusters.at(-1);
  // The space after the last letter is no part of the line.
  const width = last ? x - spacingOf(setting, styleAt(setting, last.from)) : 0;
  return { clusters, width, fromRight: (levels.paragraphs[0]?.level ?? 0) % 2 === 1 };
}

const spacingOf = ({ tracking, size }: TextSetting, style: Style): number => (tracking + (style.spacing ?? 0)) * size;

const styleAt = ({ spans = [] }: TextSetting, at: number): Style =>
  Object.assign({}, ...spans.filter((span) => at >= span.from && at < span.to)) as Style;

/** Parts of a line with one direction, one font and one style. */
function runsOf(text: string, offset: number, levels: Uint8Array, setting: TextSetting, fonts: readonly Font[]): Run[] {
  const runs: Run[] = [];
  let styled = '';
  for (const { segment, index } of graphemesOf(text)) {
    const codes = Array.from(segment, (letter) => letter.codePointAt(0)!);
    const font = fonts.find((f) => codes.every((code) => f.has(code) || isUnseen(code))) ?? fonts[0]!;
    const level = levels[index]!;
    const style = styleAt(setting, offset + index);
    const word = JSON.stringify([style.size, style.lift, style.spacing, style.colour]);
    const before = runs.at(-1);
    const to = offset + index + segment.length;
    if (before?.font === font && before.level === level && styled === word) before.to = to;
    else runs.push({ from: offset + index, to, level, font, style });
    styled = word;
  }
  return runs;
}

/** Joiners and marks of direction have no picture of their own. */
const isUnseen = (code: number): boolean => (code >= 0x200b && code <= 0x200f) || (code >= 0xfe00 && code <= 0xfe0f);

/** Runs in the order they are seen from left to right (UAX 9, rule L2). */
function inSight(runs: readonly Run[]): Run[] {
  const order = [...runs];
  const highest = Math.max(...runs.map((run) => run.level));
  for (let level = highest; level > 0; level--) {
    for (let start = 0; start < order.length; start++) {
      let end = start;
      while (end < order.length && order[end]!.level >= level) end++;
      if (end > start) order.splice(start, end - start, ...order.slice(start, end).reverse());
      start = Math.max(start, end);
    }
  }
  return order;
}

function shapeRun(setting: TextSetting, { from, to, level, font, style }: Run): Omit<Cluster, 'x'>[] {
  const { Buffer, Direction, Feature, shape } = shaper();
  const buffer = new Buffer();
  // With the letters around it, so that joining letters know their neighbours.
  buffer.addText(setting.text, from, to - from);
  buffer.guessSegmentProperties();
  buffer.setDirection(level % 2 === 1 ? Direction.RTL : Direction.LTR);
  const spacing = spacingOf(setting, style);
  // Spaced letters are not drawn as one.
  shape(font.handle, buffer, spacing === 0 ? [] : [new Feature('liga', 0), new Feature('clig', 0)]);
  const infos = buffer.getGlyphInfos();
  const places = buffer.getGlyphPositions();
  const size = setting.size * (style.size ?? 1);
  const unit = size / font.unitsPerEm;
  const starts = [...new Set(infos.map((info) => info.cluster))].sort((a, b) => a - b);
  const made: Omit<Cluster, 'x'>[] = [];
  infos.forEach(({ codepoint: glyph, cluster }, k) => {
    const place = places[k]!;
    let one = made.at(-1);
    if (one?.from !== cluster) {
      const end = starts[starts.indexOf(cluster) + 1] ?? to;
      const common = { lift: (style.lift ?? 0) * setting.size, colour: style.colour ?? null };
      one = { from: cluster, to: end, advance: spacing, glyphs: [], missing: false, ...common };
      made.push(one);
    }
    const x = one.advance - spacing + place.xOffset * unit;
    one.missing ||= glyph === 0;
    const outline = glyph === 0 ? noGlyph : font.outlineOf(glyph);
    one.glyphs.push({ outline, x, y: -place.yOffset * unit, size });
    one.advance += glyph === 0 ? 0.6 * size : place.xAdvance * unit;
  });
  return made;
}

const frame = (inset: number): Path => ({
  closed: true,
  points: (
    [
      [inset, -0.7 + inset],
      [0.5 - inset, -0.7 + inset],
      [0.5 - inset, -inset],
      [inset, -inset],
    ] as const
  ).map(([x, y]) => ({ at: [x + 0.05, y], in: null, out: null, smooth: false })),
});

/** What is shown for a letter that no font has: an empty frame, in em. */
const noGlyph: readonly Path[] = [frame(0), { ...frame(0.05), points: [...frame(0.05).points].reverse() }];
