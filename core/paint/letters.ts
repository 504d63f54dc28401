import { atRest, type UnitState } from '../arrive/arrival.ts';
import { arrivalKind } from '../arrive/arrivals.ts';
import { stateOf, stepsOf, type ArrivalNow } from '../arrive/course.ts';
import { clipOf, stateMatrix } from '../scene/arriving.ts';
import type { Colour, Content } from '../scene/draw.ts';
import { compose, type Matrix } from '../scene/matrix.ts';
import { lettersOf } from '../text/lettering.ts';
import type { Letter, SetText } from '../text/set-text.ts';
import { unitsOf, type LetterUnit } from '../text/units.ts';
import { cssColour, strokeWith } from './ink.ts';
import type { Surface2D } from './surface.ts';
import { trace } from './trace.ts';
import { setMatrix, type PaintView } from './view.ts';
import { paintWritten } from './written.ts';

type TextContent = Extract<Content, { kind: 'text' }>;

/** Draws words: those at rest as one outline, what arrives letter by letter where it is then. */
export function paintText<Image>(
  surface: Surface2D<Image>,
  matrix: Matrix,
  content: TextContent,
  view: PaintView,
): void {
  const { text, arrivals } = content;
  const set = lettersOf(text);
  if (!set) {
    view.missing.push(`face:${text.face}`);
    return;
  }
  if (arrivals.length === 0) return inkLetters(surface, set.letters, content);
  const alpha = surface.globalAlpha;
  const { resting, moving } = letterStates(set, arrivals);
  inkLetters(surface, resting, content);
  for (const { letters, states } of moving) {
    surface.save();
    let placed = matrix;
    let opacity = 1;
    for (const { state, box, line } of states) {
      const clip = clipOf(state, state.reveal?.form === 'line' ? line : box);
      if (clip) {
        surface.beginPath();
        trace(surface, clip);
        surface.clip();
      }
      placed = compose(placed, stateMatrix(state, box));
      setMatrix(surface, placed, view);
      opacity *= state.opacity;
    }
    surface.globalAlpha = alpha * Math.max(0, Math.min(1, opacity));
    const written = states.find(({ state }) => state.reveal?.form === 'written')?.state.reveal;
    if (written?.form === 'written')
      paintWritten(surface, set, text, written.share, (some) => inkLetters(surface, some, content));
    else if (opacity > 0) inkLetters(surface, letters, content);
    surface.restore();
  }
  surface.globalAlpha = alpha;
  setMatrix(surface, matrix, view);
}

/** Letters with how they stand by each arrival, where any of them does not rest. */
interface Moving {
  letters: Letter[];
  states: { state: UnitState; box: LetterUnit['box']; line: LetterUnit['box'] }[];
}

/** Which letters rest, and how the others stand. */
export function letterStates(
  set: SetText,
  arrivals: readonly ArrivalNow[],
): { resting: readonly Letter[]; moving: Moving[] } {
  if (arrivals.length === 1) return statesByOne(set, arrivals[0]!);
  // Coming and going at once: each letter by itself, under both.
  const each = set.letters.map((letter): Moving => ({ letters: [letter], states: [] }));
  for (const arrival of arrivals)
    for (const { letters, states } of statesByOne(set, arrival).moving)
      for (const letter of letters) each[set.letters.indexOf(letter)]!.states.push(...states);
  const resting = each.filter(({ states }) => states.length === 0).flatMap(({ letters }) => letters);
  return { resting, moving: each.filter(({ states }) => states.length > 0) };
}

function statesByOne(set: SetText, arrival: ArrivalNow): { resting: readonly Letter[]; moving: Moving[] } {
  // Writing goes through all letters by itself.
  const units = unitsOf(set, arrivalKind(arrival.kind)?.writes ? 'whole' : arrival.by);
  const course = stepsOf(arrival.order, units.length, arrival.seed);
  const resting: Letter[] = [];
  const moving: Moving[] = [];
  units.forEach(({ letters, box, line }, index) => {
    const state = stateOf(arrival, index, course, box);
    if (state === atRest) resting.push(...letters);
    else moving.push({ letters, states: [{ state, box, line }] });
  });
  return { resting, moving };
}

/**
 * Strokes letters, then fills them, so that none lies over the stroke of its neighbour. Opaque ones are filled one by one,
 * which costs a half; where they are seen through they are one outline, or they would be darker where they overlap.
 */
function inkLetters<Image>(surface: Surface2D<Image>, letters: readonly Letter[], { text, colour }: TextContent): void {
  if (text.stroke) {
    tracePaths(surface, letters);
    strokeWith(surface, text.stroke);
  }
  for (const [ink, own] of byColour(letters, colour)) {
    surface.fillStyle = ink;
    const opaque = surface.globalAlpha >= 1 && (own[0]!.colour ?? colour)[3] === 1;
    for (const part of opaque ? own.map((letter) => [letter]) : [own]) {
      tracePaths(surface, part);
      surface.fill();
    }
  }
}

function tracePaths<Image>(surface: Surface2D<Image>, letters: readonly Letter[]): void {
  surface.beginPath();
  for (const letter of letters) for (const outline of letter.outlines) trace(surface, outline);
}

function byColour(letters: readonly Letter[], colour: Colour): Map<string, Letter[]> {
  const groups = new Map<string, Letter[]>();
  for (const letter of letters) {
    const ink = cssColour(letter.colour ?? colour);
    const group = groups.get(ink);
    if (group) group.push(letter);
    else groups.set(ink, [letter]);
  }
  return groups;
}
