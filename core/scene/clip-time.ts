import { plainLayer, type Layer, type Timing } from '../document/layer.ts';
import { valueAt } from '../motion/property.ts';

/** What of a clip is seen: one frame, or two of which the second covers a share of the first. */
export interface ClipMoment {
  index: number;
  mix: { index: number; share: number } | null;
}

/** What decides how a clip runs on a layer. */
export type ClipRun = Pick<Layer, 'timing'> & Partial<Pick<Layer, 'clipTime'>>;

/** A hair more than exact: a frame that begins just now must not be missed by rounding. */
const hair = 1e-6;

/** Two frames are blended in steps of this, so that what was blended once can be kept. */
const steps = 16;

/**
 * What a clip shows at a frame of the shot: by its keyframes of clip time where it has some, else from where it slips at its
 * speed; when it is over again, backwards, or its last.
 * @param clip count of its frames, and how many a second
 * @param rate frames a second of the shot
 */
export function clipMoment(
  clip: { frames: number; rate: number },
  rate: number,
  frame: number,
  run: ClipRun = plainLayer,
): ClipMoment {
  const { timing } = run;
  const last = clip.frames - 1;
  if (timing.freeze !== null) return { index: Math.min(last, timing.freeze), mix: null };
  if (run.clipTime) {
    const at = valueAt(run.clipTime, frame) * clip.rate + hair;
    return momentAt(clip.frames, Math.floor(at), at - Math.floor(at), 1, timing);
  }
  const { bar, slip, speed } = timing;
  const passed = ((frame - (bar?.first ?? 0)) * clip.rate * Math.abs(speed)) / rate + (slip - Math.floor(slip)) + hair;
  const whole = Math.floor(passed);
  const at = Math.floor(slip) + (speed < 0 ? last - whole : whole);
  return momentAt(clip.frames, at, passed - whole, speed < 0 ? -1 : 1, timing);
}

/** @param past how far the next frame in its direction has come, 0..1 */
function momentAt(frames: number, at: number, past: number, direction: 1 | -1, timing: Timing): ClipMoment {
  const { ends, between } = timing;
  const crossfade = ends === 'repeat' ? Math.min(timing.crossfade, Math.floor(frames / 2)) : 0;
  const length = frames - crossfade;
  const index = folded(at, length, ends);
  // The frames beyond the loop's end run on under its beginning and fade away.
  if (index < crossfade) return mixed(index, length + index, 1 - (index + 0.5) / crossfade);
  return between === 'blend' ? mixed(index, folded(at + direction, length, ends), past) : { index, mix: null };
}

function mixed(index: number, other: number, share: number): ClipMoment {
  const rounded = Math.round(share * steps) / steps;
  return { index, mix: rounded > 0 && other !== index ? { index: other, share: rounded } : null };
}

function folded(at: number, frames: number, ends: Timing['ends']): number {
  if (ends === 'hold') return Math.max(0, Math.min(frames - 1, at));
  const turn = Math.floor(at / frames);
  const within = at - turn * frames;
  return ends === 'swing' && turn % 2 !== 0 ? frames - 1 - within : within;
}
