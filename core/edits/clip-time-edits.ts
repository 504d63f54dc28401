import type { Document, Picture } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { keysOf, turnedRound } from '../motion/keys.ts';
import { valueAt, type Key } from '../motion/property.ts';
import { clipOf } from '../scene/clip-of.ts';
import { barOf } from '../scene/source-pixels.ts';
import { defineEdit, type Edit } from './edit.ts';
import { layerIn, shotIn } from './layer-edits.ts';

/* How a clip runs by keyframes: held within, run back, faster and slower. Values are seconds of the clip. */

type Clip = NonNullable<Picture['clip']>;

/** Other keyframes for those a clip has. */
type Change = (keys: Key<number>[], at: { shot: Shot; layer: Layer; clip: Clip; rate: number }) => Key<number>[];

/** Changes the keyframes of a layer's clip time; one that has none yet begins with those that run it as it runs now. */
function changeClipTime(name: string, shotId: string, layerId: string, change: Change): Edit {
  return defineEdit(name, (draft: Document) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    const clip = clipOf(draft, layer);
    if (!clip) return;
    const { rate } = draft.frame;
    const keys = layer.clipTime ? keysOf(layer.clipTime) : [];
    const before = keys.length > 0 ? keys : runningKeys(shot, layer, clip, rate);
    layer.clipTime = { keys: inOrder(change([...before], { shot, layer, clip, rate })) };
    layer.timing.freeze = null;
  })();
}

/** Two keyframes between which a clip runs as its slip and its speed have it. */
function runningKeys(shot: Shot, layer: Layer, clip: Clip, rate: number): Key<number>[] {
  const { slip, speed, freeze } = layer.timing;
  const { first, end } = barOf(shot, layer);
  if (freeze !== null) return [{ frame: first, value: freeze / clip.rate, easing: 'linear' }];
  // Backwards a clip begins at the very end of its last frame.
  const start = (speed < 0 ? Math.floor(slip) + clip.frames - 1e-3 : slip) / clip.rate;
  const last = Math.max(first + 1, end);
  return [
    { frame: first, value: start, easing: 'linear' },
    { frame: last, value: start + ((last - first) * speed) / rate, easing: 'linear' },
  ];
}

const inOrder = (keys: Key<number>[]): Key<number>[] => {
  const there = new Map(keys.map((key) => [key.frame, key]));
  return [...there.values()].sort((a, b) => a.frame - b.frame);
};

export const keyClipTime = (shot: string, layer: string): Edit =>
  changeClipTime('Set clip time by keyframes', shot, layer, (keys) => keys);

/** Lets a clip run by its slip and speed again. */
export const runSteadily = defineEdit('Run at constant speed', (draft, shot: string, layer: string) => {
  layerIn(draft, shot, layer).clipTime = null;
});

/** Parts the keys at a frame, with a key of their own value there. */
function partedAt(keys: readonly Key<number>[], frame: number) {
  const before = keys.filter((key) => key.frame < frame);
  const after = keys.filter((key) => key.frame > frame);
  const there = keys.find((key) => key.frame === frame);
  const easing = there?.easing ?? before.at(-1)?.easing ?? 'linear';
  const here: Key<number> = { frame, value: valueAt({ keys: [...keys] }, frame), easing };
  return { before, here, after };
}

/** The clip stands still at a frame for so many frames, and then goes on: all that comes later in it comes later by as many. */
export const holdClip = (shot: string, layer: string, frame: number, frames: number): Edit =>
  changeClipTime('Hold clip', shot, layer, (keys) => {
    const { before, here, after } = partedAt(keys, frame);
    const later = after.map((key) => ({ ...key, frame: key.frame + frames }));
    return [...before, { ...here, easing: 'linear' }, { ...here, frame: frame + frames }, ...later];
  });

/** From a frame on the clip runs back the way it came. */
export const runClipBack = (shot: string, layer: string, frame: number): Edit =>
  changeClipTime('Run clip back', shot, layer, (keys) => {
    const { before, here } = partedAt(keys, frame);
    const forwards = [...before, here];
    const back = forwards.slice(0, -1).map((key): Key<number> => {
      const reached = forwards[forwards.indexOf(key) - 1];
      return { frame: 2 * frame - key.frame, value: key.value, easing: turnedRound(reached?.easing ?? 'linear') };
    });
    return [...before, { ...here, easing: turnedRound(before.at(-1)?.easing ?? 'linear') }, ...back];
  });

/**
 * From a frame to the next keyframe the clip runs at another speed: it gets there sooner or later, and so does all that
 * comes after. Beyond the last keyframe it runs on to the end of the layer's bar.
 * @param speed 1 as it was filmed; its direction stays that of the keyframes
 */
export const setClipSpeed = (shot: string, layer: string, frame: number, speed: number): Edit =>
  changeClipTime('Change clip speed', shot, layer, (keys, at) => {
    const { before, here, after } = partedAt(keys, frame);
    const [next, ...rest] = after;
    const pace = Math.max(0.01, Math.abs(speed)) / at.rate;
    if (!next) {
      const end = Math.max(frame + 1, barOf(at.shot, at.layer).end);
      const last: Key<number> = { frame: end, value: here.value + (end - frame) * pace, easing: 'linear' };
      return [...before, { ...here, easing: 'linear' }, last];
    }
    if (next.value === here.value) return keys;
    const arrives = frame + Math.max(1, Math.round(Math.abs(next.value - here.value) / pace));
    const later = arrives - next.frame;
    return [
      ...before,
      { ...here, easing: 'linear' },
      ...[next, ...rest].map((k) => ({ ...k, frame: k.frame + later })),
    ];
  });

/** How fast a clip runs at a frame: 1 as it was filmed, 0 held, below 0 backwards. */
export function clipSpeedAt({ clipTime, timing }: Layer, rate: number, frame: number): number {
  if (!clipTime) return timing.freeze === null ? timing.speed : 0;
  return (
    ((valueAt(clipTime, frame + 0.5) - valueAt(clipTime, Math.max(0, frame - 0.5))) * rate) / (frame > 0 ? 1 : 0.5)
  );
}
