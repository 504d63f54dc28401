import { arrivalKind } from '../arrive/arrivals.ts';
import type { UnitState } from '../arrive/arrival.ts';
import { stateOf, stepsOf, type ArrivalNow } from '../arrive/course.ts';
import { leavingOf, type ArrivalSetting } from '../document/arrival-setting.ts';
import type { Layer } from '../document/layer.ts';
import { valuesAt } from '../settings/setting.ts';
import type { DrawClip } from './draw.ts';
import { compose, type Matrix } from './matrix.ts';
import { heldFrame } from './values.ts';
import type { SourceBox } from './source-pixels.ts';

/** The frames in which something stands. */
export interface Stretch {
  first: number;
  end: number;
}

/**
 * How a layer comes and goes at a frame; empty while it rests. At the first frame of its bar nothing of it is there yet,
 * and leaving mirrors arriving: what the first frame is to one, the last is to the other.
 * @param scale pixels of the source a frame pixel has
 */
export function arrivalsAt(layer: Layer, bar: Stretch, frame: number, scale: number): ArrivalNow[] {
  const held = heldFrame(layer, frame);
  const { arrive } = layer;
  const leave = leavingOf(arrive, layer.leave);
  const coming = arrive && nowOf(arrive, (held - bar.first) / arrive.length, held, scale);
  const going = leave && nowOf(leave, (bar.end - 1 - held) / leave.length, held, scale);
  return [coming, going].filter((one) => one !== null);
}

function nowOf(setting: ArrivalSetting, passed: number, frame: number, scale: number): ArrivalNow | null {
  const kind = arrivalKind(setting.kind);
  if (passed >= 1 || !kind) return null;
  const { by, order, overlap, easing, seed } = setting;
  const values = valuesAt(kind.settings, setting.settings, frame);
  return { kind: setting.kind, values, by, order, overlap, easing, seed, passed: Math.max(0, passed), scale };
}

/** Whether an arrival is for letters to do, each by itself. */
export const byLetters = ({ kind, by }: ArrivalNow): boolean => by !== 'whole' || !!arrivalKind(kind)?.writes;

/** How a layer that arrives as a whole is changed: where its content lies then, how much of it is seen. */
export interface WholeState {
  /** Maps the resting source to where it is. */
  matrix: Matrix;
  opacity: number;
  /** In resting pixels. */
  clips: DrawClip['path'][];
}

/** What the arrivals of a whole layer make of it together. @param tip where the tail of a bubble ends; both in pixels of the source */
export function wholeState(
  arrivals: readonly ArrivalNow[],
  box: SourceBox,
  tip: readonly [number, number] | null = null,
): WholeState {
  let matrix: Matrix = [1, 0, 0, 1, 0, 0];
  let opacity = 1;
  const clips: DrawClip['path'][] = [];
  for (const arrival of arrivals) {
    // Without letters to write, what is written is wiped on from the left.
    const writes = !!arrivalKind(arrival.kind)?.writes;
    const one = writes ? { ...arrival, kind: 'unroll', values: { angle: 0 } } : arrival;
    const tail: [number, number] | undefined = tip
      ? [(tip[0] - box.x) / box.width, (tip[1] - box.y) / box.height]
      : undefined;
    const unit = { width: box.width, height: box.height, tail };
    const state = stateOf(one, 0, stepsOf('first to last', 1, 0), unit);
    matrix = compose(matrix, stateMatrix(state, box));
    opacity *= state.opacity;
    const clip = clipOf(state, box);
    if (clip) clips.push(clip);
  }
  return { matrix, opacity, clips };
}

/** Maps resting pixels to where a state puts them. */
export function stateMatrix({ move, turn, grow, about }: UnitState, box: SourceBox): Matrix {
  const [x, y] = [box.x + about[0] * box.width, box.y + about[1] * box.height];
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const own: Matrix = [cos * grow[0], sin * grow[0], -sin * grow[1], cos * grow[1], x + move[0], y + move[1]];
  return compose(own, [1, 0, 0, 1, -x, -y]);
}

/** The outline, in resting pixels, within which a state is seen; null for everything. */
export function clipOf({ reveal }: UnitState, box: SourceBox): DrawClip['path'] | null {
  if (reveal?.form === 'line')
    return cornersPath([
      [box.x, box.y],
      [box.x + box.width, box.y + box.height],
    ]);
  if (reveal?.form !== 'sweep') return null;
  const { angle, share } = reveal;
  const [ux, uy] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const [mx, my] = [box.x + box.width / 2, box.y + box.height / 2];
  const half = (Math.abs(ux) * box.width + Math.abs(uy) * box.height) / 2;
  const wide = box.width + box.height;
  const corner = (along: number, side: number): [number, number] => [
    mx + ux * along - uy * side,
    my + uy * along + ux * side,
  ];
  const reach = -half + 2 * half * share;
  const back = -half - wide;
  return pathThrough([corner(back, -wide), corner(reach, -wide), corner(reach, wide), corner(back, wide)]);
}

const cornersPath = ([[left, top], [right, bottom]]: [[number, number], [number, number]]): DrawClip['path'] =>
  pathThrough([
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom],
  ]);

const pathThrough = (points: [number, number][]): DrawClip['path'] => ({
  closed: true,
  points: points.map((at) => ({ at, in: null, out: null, smooth: false })),
});

/** Where a sweeping edge has got to, in resting pixels: its middle, and the direction it goes in, degrees. */
export function sweepEdge(angle: number, share: number, box: SourceBox): { at: [number, number]; turn: number } {
  const [ux, uy] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const half = (Math.abs(ux) * box.width + Math.abs(uy) * box.height) / 2;
  const reach = -half + 2 * half * share;
  return { at: [box.x + box.width / 2 + ux * reach, box.y + box.height / 2 + uy * reach], turn: angle };
}
