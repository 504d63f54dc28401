import type { Document } from '../../core/document/document.ts';
import { loopLength, type FrameRange } from '../../core/scene/loop.ts';
import { crossfadedEnds, mixed } from '../../core/sound/mix.ts';
import type { Samples } from '../../core/sound/samples.ts';
import { samplesOf, soundRate } from './decoded.ts';

/** What is heard of a project between two frames of all its shots; null where that is nothing. */
export async function mixOf(document: Document, first: number, end: number): Promise<Samples | null> {
  const { rate } = document.frame;
  const [from, to] = [first / rate, end / rate];
  const heard = document.sounds.filter(
    ({ muted, level, at, length }) => !muted && level > 0 && at < to && at + length > from,
  );
  if (heard.length === 0) return null;
  const parts = await Promise.all(heard.map(async (sound) => ({ ...sound, samples: await samplesOf(sound.file) })));
  return mixed(parts, soundRate, from, to);
}

/** What is heard of a clip, with what is done to its ends: going back again, the sound goes on. */
export async function loopMixOf(document: Document, range: FrameRange): Promise<Samples | null> {
  const { first, end } = range;
  const length = loopLength(document, range);
  const faded = end - first - length;
  if (faded <= 0) return mixOf(document, first, first + length);
  const whole = await mixOf(document, first, end);
  return whole && crossfadedEnds(whole, faded / document.frame.rate);
}

/** What the mix of a project depends on: while this is the same, so is what is heard. */
export const mixKey = ({ sounds, frame, ends }: Document, first: number, end: number): string =>
  JSON.stringify([
    sounds.filter(({ muted }) => !muted).map(({ name: _, id: __, ...heard }) => heard),
    frame.rate,
    ends,
    first,
    end,
  ]);
