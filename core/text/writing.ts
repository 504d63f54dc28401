import { lettersOf } from './lettering.ts';
import type { Letter, SetText } from './set-text.ts';
import { strokesOf, type Stroke } from './strokes.ts';
import type { TextSetting } from './text-setting.ts';

/** One part of writing: a stroke drawn, or the way to the next through the air. */
interface Part {
  letter: number;
  stroke: Stroke | null;
  from: [number, number];
  to: [number, number];
  /** Where it begins and ends, as shares of the whole. */
  begin: number;
  end: number;
  /** Between words the pen is lifted; between strokes of a word it only skips. */
  lifted: boolean;
}

/** A text as a hand writes it, evenly: drawn lengths take their time, ways through the air a third of it. */
export interface Writing {
  letters: readonly Letter[];
  strokes: readonly Stroke[][];
  parts: readonly Part[];
}

/** Where a pen is. */
export interface WritingEdge {
  at: [number, number];
  /** Direction it goes in, degrees. */
  turn: number;
  /** How far it is lifted, 0..1. */
  lift: number;
}

const inTheAir = 1 / 3;
const made = new WeakMap<SetText, Writing>();

/** How a set text is written. */
export function writingOf(set: SetText): Writing {
  const known = made.get(set) ?? makeWriting(set);
  made.set(set, known);
  return known;
}

function makeWriting(set: SetText): Writing {
  const letters = set.letters.filter((letter) => !letter.blank).sort((a, b) => a.from - b.from);
  const strokes = letters.map(strokesOf);
  const parts: Part[] = [];
  let length = 0;
  let pen: [number, number] | null = null;
  letters.forEach((letter, k) => {
    for (const stroke of strokes[k]!) {
      const [from, to] = [xy(stroke.points[0]!), xy(stroke.points.at(-1)!)];
      if (pen) {
        const way = Math.hypot(from[0] - pen[0], from[1] - pen[1]) * inTheAir;
        const lifted = letters[k - 1] !== undefined && letters[k - 1]!.word !== letter.word && parts.at(-1)!.letter < k;
        parts.push({ letter: k, stroke: null, from: pen, to: from, begin: length, end: length + way, lifted });
        length += way;
      }
      // A dot takes as long as it is wide.
      const drawn = Math.max(lengthOf(stroke), stroke.points[0]![2]);
      parts.push({ letter: k, stroke, from, to, begin: length, end: length + drawn, lifted: false });
      length += drawn;
      pen = to;
    }
  });
  for (const part of parts) {
    part.begin /= length;
    part.end /= length;
  }
  return { letters, strokes, parts };
}

const xy = ([x, y]: readonly number[]): [number, number] => [x!, y!];

function lengthOf({ points }: Stroke): number {
  let length = 0;
  for (let k = 1; k < points.length; k++)
    length += Math.hypot(points[k]![0] - points[k - 1]![0], points[k]![1] - points[k - 1]![1]);
  return length;
}

/** Which letters stand at a share of the writing, and what is drawn of the one that is being written. */
export function writtenAt(
  writing: Writing,
  share: number,
): { done: Letter[]; current: { letter: Letter; drawn: Stroke[] } | null } {
  const done: Letter[] = [];
  let current: { letter: Letter; drawn: Stroke[] } | null = null;
  writing.letters.forEach((letter, k) => {
    const own = writing.parts.filter((part) => part.letter === k && part.stroke);
    if (own.length === 0 || own.at(-1)!.end <= share) return void done.push(letter);
    if (own[0]!.begin >= share) return;
    const drawn = own
      .filter((part) => part.begin < share)
      .map((part) => upTo(part.stroke!, Math.min(1, (share - part.begin) / (part.end - part.begin))));
    current = { letter, drawn };
  });
  return { done, current };
}

/** The beginning of a stroke, by a share of its length. */
function upTo(stroke: Stroke, share: number): Stroke {
  if (share >= 1) return stroke;
  let left = lengthOf(stroke) * share;
  const points = [stroke.points[0]!];
  for (let k = 1; k < stroke.points.length; k++) {
    const [a, b] = [stroke.points[k - 1]!, stroke.points[k]!];
    const step = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (step > left) {
      const t = left / step;
      points.push([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t]);
      break;
    }
    left -= step;
    points.push(b);
  }
  return { points };
}

/** Where the pen is at a share of the writing; null for a text without letters. */
export function writingEdge(writing: Writing, share: number): WritingEdge | null {
  const { parts } = writing;
  const part = parts.find(({ end }) => share < end) ?? parts.at(-1);
  if (!part) return null;
  const t = Math.max(0, Math.min(1, (share - part.begin) / (part.end - part.begin || 1)));
  if (!part.stroke) {
    const { from, to } = part;
    // Slow at both ends, as a hand is.
    const s = t * t * (3 - 2 * t);
    const at: [number, number] = [from[0] + (to[0] - from[0]) * s, from[1] + (to[1] - from[1]) * s];
    const turn = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
    return { at, turn, lift: part.lifted ? Math.sin(Math.PI * t) : 0 };
  }
  const { points } = upTo(part.stroke, t);
  const [before, at] = [points[Math.max(0, points.length - 4)]!, points.at(-1)!];
  return { at: xy(at), turn: (Math.atan2(at[1] - before[1], at[0] - before[0]) * 180) / Math.PI, lift: 0 };
}

/** Where the pen is in a text, or null where its face is not there yet. */
export function writingEdgeOf(setting: TextSetting, share: number): WritingEdge | null {
  const set = lettersOf(setting);
  return set ? writingEdge(writingOf(set), share) : null;
}
