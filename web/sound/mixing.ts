import type { Document } from '../../core/document/document.ts';
import { mixed } from '../../core/sound/mix.ts';
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

/** What the mix of a project depends on: while this is the same, so is what is heard. */
export const mixKey = ({ sounds, frame }: Document, first: number, end: number): string =>
  JSON.stringify([
    sounds.filter(({ muted }) => !muted).map(({ name: _, id: __, ...heard }) => heard),
    frame.rate,
    first,
    end,
  ]);
