import type { Font, Glyph, PathCommand } from 'opentype.js';
import type { Path, PathPoint, Point } from '../path/path.ts';

/** Lines of text and how they are set; lengths in pixels. */
export interface TextSetting {
  text: string;
  size: number;
  align: 'left' | 'centre' | 'right';
  /** From line to line, as a factor of the size; added between letters, as a share of it. */
  leading: number;
  tracking: number;
  stroke: { width: number } | null;
}

export interface SetText {
  /** Outlines of all letters, to be filled by winding. */
  outlines: Path[];
  width: number;
  height: number;
}

/**
 * Sets text as outlines, so that it looks the same wherever it is painted. Kerning as the font says; the box begins at
 * (0, 0), is as wide as the widest line and has room for a stroke all around.
 */
export function setText(setting: TextSetting, font: Font): SetText {
  const { size, align, leading, stroke } = setting;
  const lines = setting.text.split('\n').map((text) => lineOf(text, font, setting));
  const room = Math.ceil((stroke?.width ?? 0) / 2 + size * 0.04);
  const widest = Math.max(1, ...lines.map((line) => line.width));
  const ascent = (font.ascender / font.unitsPerEm) * size;
  const descent = (-font.descender / font.unitsPerEm) * size;
  const outlines = lines.flatMap(({ glyphs, width }, k) => {
    const spare = widest - width;
    const x = room + (align === 'left' ? 0 : align === 'centre' ? spare / 2 : spare);
    const y = room + ascent + k * leading * size;
    return glyphs.flatMap((one) => pathsOf(one.glyph.getPath(x + one.x, y, size).commands));
  });
  return {
    outlines,
    width: widest + 2 * room,
    height: ascent + descent + (lines.length - 1) * leading * size + 2 * room,
  };
}

/**
 * Letters of a line, each as far right as those before it and the kerning say. Letters are set one by one: faces with
 * contextual forms would need a shaping engine, and look well without.
 */
function lineOf(text: string, font: Font, { size, tracking }: TextSetting): { glyphs: PlacedGlyph[]; width: number } {
  const unit = size / font.unitsPerEm;
  const glyphs: PlacedGlyph[] = [];
  let x = 0;
  let width = 0;
  for (const letter of text) {
    const glyph = font.charToGlyph(letter);
    const before = glyphs.at(-1);
    if (before) x += font.getKerningValue(before.glyph, glyph) * unit;
    glyphs.push({ glyph, x });
    x += (glyph.advanceWidth ?? 0) * unit;
    // The space after the last letter is no part of the line.
    width = x;
    x += tracking * size;
  }
  return { glyphs, width };
}

interface PlacedGlyph {
  glyph: Glyph;
  x: number;
}

/** The contours that drawing commands make; quadratic curves become cubic ones. */
export function pathsOf(commands: readonly PathCommand[]): Path[] {
  const paths: Path[] = [];
  let points: PathPoint[] = [];
  const finish = (): void => {
    if (points.length > 1) paths.push(closedOf(points));
    points = [];
  };
  const curve = (b: Point, c: Point, at: Point): void => {
    const from = points.at(-1)!;
    from.out = [b[0] - from.at[0], b[1] - from.at[1]];
    points.push({ at, in: [c[0] - at[0], c[1] - at[1]], out: null, smooth: false });
  };
  for (const command of commands) {
    if (command.type === 'Z') {
      finish();
      continue;
    }
    const at: Point = [command.x, command.y];
    if (command.type === 'M') {
      finish();
      points = [{ at, in: null, out: null, smooth: false }];
    } else if (command.type === 'L') points.push({ at, in: null, out: null, smooth: false });
    else if (command.type === 'C') curve([command.x1, command.y1], [command.x2, command.y2], at);
    else {
      const [ax, ay] = points.at(-1)!.at;
      const third = (v: number, end: number): number => end + (2 / 3) * (v - end);
      curve([third(command.x1, ax), third(command.y1, ay)], [third(command.x1, at[0]), third(command.y1, at[1])], at);
    }
  }
  finish();
  return paths;
}

/** Fonts end contours where they began; that last point is the first one. */
function closedOf(points: PathPoint[]): Path {
  const [first, last] = [points[0]!, points.at(-1)!];
  const same = points.length > 2 && Math.hypot(first.at[0] - last.at[0], first.at[1] - last.at[1]) < 1e-6;
  if (!same) return { points, closed: true };
  return { points: [{ ...first, in: last.in }, ...points.slice(1, -1)], closed: true };
}
