import { lengthOf, monoOf, type Samples } from '../../core/sound/samples.ts';
import { fileBytes } from '../data/api.ts';
import { soundAnswerSchema, type SoundFacts, type SoundRequest } from '../workers/sound-messages.ts';

/** Samples a second everything is heard, mixed and exported at. */
export const soundRate = 48_000;

/** What the browser makes of the bytes of a sound, at `soundRate`. @throws when it is none it can read */
export async function decoded(bytes: ArrayBuffer): Promise<Samples> {
  const context = new OfflineAudioContext(2, 1, soundRate);
  const buffer = await context.decodeAudioData(bytes);
  const channels = Array.from({ length: Math.min(2, buffer.numberOfChannels) }, (_, k) => buffer.getChannelData(k));
  return { rate: buffer.sampleRate, channels };
}

/** Decoded sounds that were used last; a minute of one takes 23 MB. */
const kept = new Map<string, { samples: Promise<Samples>; bytes: number }>();
const mostBytes = 500e6;

/** The samples of a stored sound. */
export function samplesOf(file: string): Promise<Samples> {
  const there = kept.get(file) ?? { samples: fileBytes(file).then(decoded), bytes: 0 };
  // Least recently used first.
  kept.delete(file);
  kept.set(file, there);
  there.samples.then(
    (samples) => {
      there.bytes = samples.channels.length * lengthOf(samples) * 4;
      forgetOld();
    },
    () => kept.delete(file),
  );
  return there.samples;
}

function forgetOld(): void {
  let bytes = [...kept.values()].reduce((sum, one) => sum + one.bytes, 0);
  for (const [file, one] of kept) {
    if (bytes <= mostBytes || kept.size === 1) return;
    kept.delete(file);
    bytes -= one.bytes;
  }
}

/** How a stored sound looks, and when things start and beat in it; found in a worker. */
export async function soundFacts(file: string): Promise<SoundFacts> {
  const samples = await samplesOf(file);
  const worker = new Worker(new URL('../workers/sound.worker.ts', import.meta.url), { type: 'module', name: 'sound' });
  try {
    return await new Promise<SoundFacts>((resolve, reject) => {
      worker.onmessage = ({ data }: MessageEvent<unknown>) => resolve(soundAnswerSchema.parse(data));
      worker.onerror = (event) => reject(new Error(event.message || 'This sound could not be looked at.'));
      worker.postMessage({ mono: monoOf(samples).slice(), rate: samples.rate } satisfies SoundRequest);
    });
  } finally {
    worker.terminate();
  }
}
