import { useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import type { Sound } from '../../../../core/document/sound.ts';
import { soundFacts } from '../../../sound/decoded.ts';
import type { SoundFacts } from '../../../workers/sound-messages.ts';

const factsQuery = (file: string) => ({
  queryKey: ['sound', file],
  queryFn: () => soundFacts(file),
  staleTime: Infinity,
});

/** How a sound looks, and what begins and beats in it; undefined until that is known. */
export const useSoundFacts = (file: string) => useQuery(factsQuery(file));

/** Times of a file that are heard, in frames of the shot. */
export function framesHeard(sound: Sound, times: readonly number[], rate: number, filmStart: number): number[] {
  const { at, from, length } = sound;
  return times.filter((t) => t >= from && t < from + length).map((t) => (at + t - from) * rate - filmStart);
}

/** Frames of a shot at which something beats or starts, as numbers that need not be whole. */
export function useSoundMarks(document: Document, filmStart: number, length: number): number[] {
  const heard = document.sounds.filter(({ muted }) => !muted);
  const facts = useQueries({ queries: heard.map(({ file }) => factsQuery(file)), combine: dataOf });
  const { rate } = document.frame;
  const { sounds } = document;
  return useMemo(() => {
    const all = sounds
      .filter(({ muted }) => !muted)
      .flatMap((sound, k) => {
        const known = facts[k];
        return known ? framesHeard(sound, [...known.starts, ...known.beats], rate, filmStart) : [];
      });
    return all.filter((frame) => frame >= 0 && frame < length);
  }, [sounds, facts, rate, filmStart, length]);
}

const dataOf = (results: { data?: SoundFacts }[]): (SoundFacts | undefined)[] => results.map(({ data }) => data);
