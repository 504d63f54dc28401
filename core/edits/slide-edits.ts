import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { valueAt, type Key, type Point, type Property, type PropertyValue } from '../motion/property.ts';
import { hashOf } from '../pixels/random.ts';
import { restMatrix } from '../scene/place.ts';
import { transform } from '../scene/matrix.ts';
import { boxOf } from '../scene/source-pixels.ts';
import { defineEdit } from './edit.ts';
import { layerIn, shotIn } from './layer-edits.ts';
import { middleWithin } from './strip-edits.ts';

export const slideWays = ['outwards', 'sideways', 'up and down'] as const;

/** How layers slide apart. */
export interface Slide {
  way: (typeof slideWays)[number];
  /** The furthest, frame pixels. */
  distance: number;
  /** How unlike their ways are, 0..1. */
  uneven: number;
  seed: number;
  /** Frames it takes, from the frame it begins at. */
  frames: number;
  /** Whether they slide together instead, and end where they lie now. */
  together: boolean;
  /** How far the ways bow aside, as a share of their length; 0 is straight. */
  bend: number;
  /** Degrees by which each turns on its way, some one way, some the other. */
  turn: number;
  /** Frames from one column to the next, from the left; 0 lets all begin at once. */
  later: number;
}

/** Layers slide apart from where they lie, each by a length of its own, as two keyframes of each. */
export const slideApart = defineEdit(
  'Slide apart',
  (draft: Document, shotId: string, ids: readonly string[], frame: number, slide: Slide) => {
    const shot = shotIn(draft, shotId);
    const layers = ids.map((id) => layerIn(draft, shotId, id)).filter((layer) => !layer.locked);
    const middles = layers.map((layer) => middleOf(draft, shot, layer, frame));
    const mean = (axis: 0 | 1): number => middles.reduce((sum, p) => sum + p[axis], 0) / Math.max(1, middles.length);
    const centre: Point = [mean(0), mean(1)];
    const columns = columnsOf(
      middles.map(([x]) => x),
      draft.frame.width / 50,
    );
    layers.forEach((layer, k) => {
      const way = wayOf(slide, middles[k]!, centre, k);
      const begin = Math.max(frame, Math.min(shot.length - 2, frame + columns[k]! * slide.later));
      const end = Math.max(begin + 1, Math.min(shot.length - 1, begin + slide.frames));
      const from = valueAt(layer.position, frame);
      const away: Point = [from[0] + way[0], from[1] + way[1]];
      const handles = bowed(way, slide, k);
      const [first, last] = slide.together ? [away, from] : [from, away];
      const [out, back] = slide.together ? [handles.back, handles.out] : [handles.out, handles.back];
      layer.position = between(
        layer.position,
        { frame: begin, value: first, easing: 'ease-out', ...(out && { out }) },
        { frame: end, value: last, easing: 'ease-in-out', ...(back && { in: back }) },
      );
      if (slide.turn === 0) return;
      const rest = valueAt<number>(layer.rotation, frame);
      const turned =
        rest + slide.turn * (hashOf(slide.seed, k, 3) < 0.5 ? -1 : 1) * (1 - slide.uneven * hashOf(slide.seed, k, 4));
      const [start, stop] = slide.together ? [turned, rest] : [rest, turned];
      layer.rotation = between(
        layer.rotation,
        { frame: begin, value: start, easing: 'ease-out' },
        { frame: end, value: stop, easing: 'ease-in-out' },
      );
    });
  },
);

/** A property that goes from one key to another; what it does without keys is kept. */
function between<T extends PropertyValue>(before: Property<T>, ...keys: [Key<T>, Key<T>]): Property<T> {
  const { jitter, drift, bob, follow } = before;
  return { ...(jitter && { jitter }), ...(drift && { drift }), ...(bob && { bob }), ...(follow && { follow }), keys };
}

/** Handles at both ends of a way that bows aside; some to one side, some to the other. None for a straight one. */
function bowed([dx, dy]: Point, { bend, seed }: Slide, index: number): { out?: Point; back?: Point } {
  if (bend === 0) return {};
  // The middle of a cubic lies three quarters of the way to where both handles are.
  const aside = (bend / 0.75) * (hashOf(seed, index, 2) < 0.5 ? -1 : 1);
  const [nx, ny] = [-dy * aside, dx * aside];
  return { out: [dx / 3 + nx, dy / 3 + ny], back: [-dx / 3 + nx, -dy / 3 + ny] };
}

/** Which column each lies in, from the left, beginning with 0: places no further apart than `within` are one. */
function columnsOf(xs: readonly number[], within: number): number[] {
  const order = xs.map((_, k) => k).sort((a, b) => xs[a]! - xs[b]!);
  const columns = xs.map(() => 0);
  order.forEach((k, n) => {
    if (n === 0) return;
    const before = order[n - 1]!;
    columns[k] = columns[before]! + (xs[k]! - xs[before]! > within ? 1 : 0);
  });
  return columns;
}

/** Where the middle of what is seen of a layer lies at rest. */
function middleOf(document: Document, shot: Document['shots'][number], layer: Layer, frame: number): Point {
  const box = boxOf(document, layer, frame);
  const matrix = restMatrix(document, shot, layer, frame);
  if (!box) return transform(matrix, 0, 0);
  const mask = layer.masks.at(-1);
  const at: Point = mask ? middleWithin(mask.path, box) : [box.x + box.width / 2, box.y + box.height / 2];
  return transform(matrix, ...at);
}

function wayOf({ way, distance, uneven, seed }: Slide, [x, y]: Point, centre: Point, index: number): Point {
  const length = distance * (1 - uneven * hashOf(seed, index));
  // By turns one way and the other, from the outside in.
  const side = index % 2 === 0 ? -1 : 1;
  if (way === 'up and down') return [0, side * length];
  if (way === 'sideways') return [Math.abs(x - centre[0]) < 1 ? side * length : Math.sign(x - centre[0]) * length, 0];
  const [dx, dy] = [x - centre[0], y - centre[1]];
  const far = Math.hypot(dx, dy);
  return far < 1 ? [0, side * length] : [(dx / far) * length, (dy / far) * length];
}
