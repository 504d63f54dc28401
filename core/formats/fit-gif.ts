import { even, type VideoPlan } from './fit-size.ts';

/** How a GIF is to be written. */
export interface GifPlan extends Omit<VideoPlan, 'bitrate'> {
  /** Levels of a channel that a colour may be off to stay as it was. */
  hold: number;
}

/** Levels that nobody sees, that somebody may see who looks for them, and how the step between takes effect on the size. */
const [plentiful, most, step, stepShare] = [4, 10, 3, 0.8];
/** Frames a second below which motion is no more one. */
const leastRate = 8;
const leastEdge = 120;
/** Files shrink less than frames do: what is between frames grows. And less than pixels do: a small picture has finer detail. */
const [byRate, byEdge] = [0.9, 1.8];
/** Of a limit so much is aimed at. */
const aim = 0.97;

/** A GIF as it is written without a limit, and what to try first with one. */
export const firstGifPlan = (wanted: Omit<GifPlan, 'hold'>): GifPlan => ({ ...wanted, hold: plentiful });

/**
 * What to try after a plan gave too many bytes: less true colours, then fewer frames, then a smaller picture, as far as that
 * should suffice. @param limit bytes @returns null where nothing is left to give up
 */
export function nextGifPlan(plan: GifPlan, bytes: number, limit: number): GifPlan | null {
  let { width, height, rate, hold } = plan;
  let need = Math.min(0.97, (limit * aim) / bytes);
  while (need < 1) {
    if (hold < most) {
      hold += step;
      need /= stepShare;
    } else if (rate > leastRate) {
      const slower = Math.max(leastRate, (rate * 2) / 3);
      need /= (slower / rate) ** byRate;
      rate = slower;
    } else {
      const smaller = Math.min(0.95, Math.max(0.5, need ** (1 / byEdge)));
      [width, height] = [even(width * smaller), even(height * smaller)];
      need /= smaller ** byEdge;
      if (Math.max(width, height) < leastEdge) return null;
    }
  }
  return { width, height, rate, hold };
}
