import { addSound } from '../../../../core/edits/sound-edits.ts';
import type { Edit } from '../../../../core/edits/edit.ts';
import { cutTo } from '../../../../core/document/limits.ts';
import { longestName } from '../../../../core/document/schema-parts.ts';
import { lengthOf } from '../../../../core/sound/samples.ts';
import { uploadSound } from '../../../data/api.ts';
import { newId } from '../../../data/project.ts';
import { decoded } from '../../../sound/decoded.ts';

/** Longer sounds would fill the memory. */
const mostMinutes = 20;

/**
 * Takes in a sound: it is decoded before anything is stored.
 * @param at seconds in all shots, where it begins
 * @returns the edit that adds it, and its id  @throws with a sentence
 */
export async function soundFrom(file: File, at: number): Promise<{ id: string; edit: Edit }> {
  const samples = await decoded(await file.arrayBuffer()).catch(() => {
    throw new Error('This browser cannot read it as a sound. Bring in WAV, MP3, M4A, OGG or FLAC.');
  });
  const seconds = lengthOf(samples) / samples.rate;
  if (seconds > mostMinutes * 60) throw new Error(`It is longer than ${mostMinutes} minutes. Cut it shorter first.`);
  if (seconds < 0.05) throw new Error('There is nothing to be heard in it.');
  const plain = file.name
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  const id = newId('sound');
  const name = cutTo(plain || 'Sound', longestName);
  const whole = { seconds, at, from: 0, length: seconds, level: 1, fadeIn: 0, fadeOut: 0, muted: false };
  return { id, edit: addSound({ id, name, file: await uploadSound(file), ...whole }) };
}
