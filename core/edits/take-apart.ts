import { atRest, type UnitState } from '../arrive/arrival.ts';
import { arrivalKind } from '../arrive/arrivals.ts';
import { stateOf, stepsOf, type UnitsBy } from '../arrive/course.ts';
import type { Document } from '../document/document.ts';
import { plainLayer, type Layer, type LayerSource } from '../document/layer.ts';
import { plainWords } from '../document/words.ts';
import { sampledKeys } from '../motion/keys.ts';
import type { Property, PropertyValue } from '../motion/property.ts';
import { arrivalsAt } from '../scene/arriving.ts';
import { barOf } from '../scene/source-pixels.ts';
import { lettersOf } from '../text/lettering.ts';
import { unitsOf, type LetterUnit } from '../text/units.ts';
import { defineEdit, type Edit } from './edit.ts';
import { freeId, layerIn, nameOfWords, shotIn } from './layer-edits.ts';

type Text = Extract<LayerSource, { kind: 'text' }>;

/** How far keyframes may be from what they stand for: pixels of the words, degrees, shares. */
const tolerance = { place: 0.25, turn: 0.05, share: 0.004 };

/** Whether a layer's words can be taken apart: their faces must be there. */
export const canTakeApart = ({ source }: Layer): boolean =>
  source.kind === 'text' && !source.bubble && !!lettersOf(source);

/**
 * Takes words apart into layers of their own, one for each letter, word or line, in a group that hangs where the words
 * did. How they came and went becomes keyframes; what only uncovers them (wiped on, out of a line, written) cannot, and
 * goes on as an arrival of each.
 */
export function takeApart(shotId: string, layerId: string, by: Exclude<UnitsBy, 'whole'>): Edit {
  return defineEdit('Take apart', (draft: Document) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    const { source } = layer;
    const set = source.kind === 'text' ? lettersOf(source) : undefined;
    if (source.kind !== 'text' || !set) return;
    const bar = barOf(shot, layer);
    const units = unitsOf(set, by);
    const parts = units.map((unit, k) => ({
      ...partOf(layer, source, unit, freeId(draft, layerId, `p${k}`)),
      ...motionOf(layer, unit, k, units.length, by, bar),
    }));
    Object.assign(layer, { source: { kind: 'group', open: true }, colour: null, arrive: null, leave: null });
    shot.layers.splice(shot.layers.indexOf(layer) + 1, 0, ...parts);
  })();
}

/** One unit as a layer at rest: its place is in the pixels of the words, as the group lies where they lay. */
function partOf(layer: Layer, source: Text, { letters, box }: LetterUnit, id: string): Layer {
  const [first, last] = [letters[0]!, letters.at(-1)!];
  const text = source.text.slice(first.from, last.to);
  const spans = source.spans
    .filter((span) => span.from < last.to && span.to > first.from)
    .map((span) => ({
      ...span,
      from: Math.max(0, span.from - first.from),
      to: Math.min(text.length, span.to - first.from),
    }));
  const { face, size, leading, tracking, stroke } = source;
  const words = { ...plainWords, text, face, size, leading, tracking, stroke, spans };
  const { width, height } = lettersOf(words)!;
  const alone = letters.length === 1;
  return {
    ...plainLayer,
    id,
    name: nameOfWords(text),
    source: { ...words, box: { width, height } },
    group: layer.id,
    depth: layer.depth,
    pivot: { value: [width / 2, height / 2] },
    position: { value: [box.x + box.width / 2, box.y + box.height / 2] },
    rotation: { value: alone ? (first.turn * 180) / Math.PI : 0 },
    colour: layer.colour,
    motionBlur: layer.motionBlur,
    timing: { ...layer.timing, like: null },
  };
}

/** What a unit's arrival and leaving do to it, as keyframes; or as an arrival of its own where they only uncover it. */
function motionOf(
  layer: Layer,
  unit: LetterUnit,
  index: number,
  count: number,
  by: UnitsBy,
  bar: { first: number; end: number },
): Partial<Layer> {
  const { arrive, leave } = layer;
  if (!arrive && !leave) return {};
  if ([arrive, leave].some((one) => one && uncovers(one.kind))) return { arrive: whole(arrive), leave: whole(leave) };
  const stateAt = (frame: number): UnitState[] =>
    arrivalsAt(layer, bar, frame, 1).map((one) => {
      const own = one.by === by ? { index, count } : { index: 0, count: 1 };
      return stateOf(one, own.index, stepsOf(one.order, own.count, one.seed), unit.box);
    });
  const at = <T extends PropertyValue>(tolerated: number, value: (states: UnitState[]) => T): Property<T> => {
    const keys = sampledKeys((frame) => value(stateAt(frame)), bar.first, bar.end - 1, tolerated);
    return { keys };
  };
  const sum = (states: UnitState[], part: (state: UnitState) => number): number =>
    states.reduce((total, state) => total + part(state), 0);
  const product = (states: UnitState[], part: (state: UnitState) => number): number =>
    states.reduce((total, state) => total * part(state), 1);
  const { box } = unit;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const turn = unit.letters.length === 1 ? (unit.letters[0]!.turn * 180) / Math.PI : 0;
  return {
    position: at(tolerance.place, (states): [number, number] => [
      x + sum(states, (s) => s.move[0] + aside(s, unit)[0]),
      y + sum(states, (s) => s.move[1] + aside(s, unit)[1]),
    ]),
    rotation: at(tolerance.turn, (states) => turn + sum(states, (s) => s.turn)),
    scale: at(tolerance.share, (states) => product(states, (s) => Math.sqrt(s.grow[0] * s.grow[1]))),
    opacity: at(tolerance.share, (states) => product(states, (s) => s.opacity)),
  };
}

/** Where the middle of a unit goes when it turns or grows about another point. */
function aside({ about, turn, grow }: UnitState, { box }: LetterUnit): [number, number] {
  const [dx, dy] = [(0.5 - about[0]) * box.width, (0.5 - about[1]) * box.height];
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const [gx, gy] = [dx * grow[0], dy * grow[1]];
  return [gx * cos - gy * sin - dx, gx * sin + gy * cos - dy];
}

const whole = <A extends Layer['arrive']>(setting: A): A => (setting ? { ...setting, by: 'whole' } : setting);

function uncovers(kind: string): boolean {
  const found = arrivalKind(kind);
  if (!found) return false;
  const values = Object.fromEntries(Object.entries(found.settings).map(([key, one]) => [key, one.start]));
  const state = found.at(0.5, values as never, { width: 1, height: 1, scale: 1, random: () => 0.5 });
  return (state === atRest ? null : state.reveal) !== null;
}
