import type { Sound } from '../document/sound.ts';
import { defineEdit, find } from './edit.ts';

/* What is heard under the shots. */

/** The shortest part of a sound that is kept, in seconds. */
export const shortestSound = 0.05;

export const addSound = defineEdit('Add sound', (draft, sound: Sound) => {
  draft.sounds.push(sound);
});

export const changeSound = defineEdit(
  'Change sound',
  (draft, soundId: string, change: Partial<Omit<Sound, 'id' | 'file' | 'seconds'>>) => {
    const sound = find(draft.sounds, 'sound', soundId);
    const name = change.name?.trim() || sound.name;
    Object.assign(sound, change, { name });
    fit(sound);
  },
);

/** Begins a sound earlier or later in its file without moving what is heard: dragging its left end. */
export const trimSoundStart = defineEdit('Trim sound', (draft, soundId: string, at: number) => {
  const sound = find(draft.sounds, 'sound', soundId);
  const by = Math.max(-sound.from, Math.min(sound.length - shortestSound, at - sound.at));
  Object.assign(sound, { at: sound.at + by, from: sound.from + by, length: sound.length - by });
  fit(sound);
});

/** Ends a sound at a time: dragging its right end. */
export const trimSoundEnd = defineEdit('Trim sound', (draft, soundId: string, end: number) => {
  const sound = find(draft.sounds, 'sound', soundId);
  sound.length = end - sound.at;
  fit(sound);
});

export const removeSound = defineEdit('Delete sound', (draft, soundId: string) => {
  const { id } = find(draft.sounds, 'sound', soundId);
  draft.sounds = draft.sounds.filter((sound) => sound.id !== id);
});

/** No more is heard than there is, and fades are no longer than what is heard. */
function fit(sound: Sound): void {
  sound.from = Math.max(0, Math.min(sound.seconds - shortestSound, sound.from));
  sound.length = Math.max(shortestSound, Math.min(sound.seconds - sound.from, sound.length));
  sound.fadeIn = Math.max(0, Math.min(sound.length, sound.fadeIn));
  sound.fadeOut = Math.max(0, Math.min(sound.length, sound.fadeOut));
}
