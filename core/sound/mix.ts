import { lengthOf, type Samples } from './samples.ts';

/** A part of a sound that is heard from a time on. All times are seconds. */
export interface HeardPart {
  samples: Samples;
  /** When it begins to be heard. */
  at: number;
  /** Where in the sound that is. */
  from: number;
  /** How long it is heard. */
  length: number;
  /** How loud: 1 as it is, 0 not at all. */
  level: number;
  /** How long it takes to come, and to go. */
  fadeIn: number;
  fadeOut: number;
}

/**
 * How loud a part is at a time after its beginning, its level taken in. Fades are of equal power: a quarter of a sine, so that
 * one that goes while another comes is as loud as each.
 * @param time seconds, 0..length
 */
export function loudnessAt(
  { level, length, fadeIn, fadeOut }: Omit<HeardPart, 'samples' | 'at' | 'from'>,
  time: number,
): number {
  if (time < 0 || time >= length) return 0;
  const comes = fadeIn > 0 ? Math.min(1, time / fadeIn) : 1;
  const goes = fadeOut > 0 ? Math.min(1, (length - time) / fadeOut) : 1;
  return level * Math.sin((comes * Math.PI) / 2) * Math.sin((goes * Math.PI) / 2);
}

/**
 * All that is heard between two times, in two channels. Sounds of one channel are heard alike on both sides; of more than two,
 * the first two. What together would be louder than 1 is bent softly below it, so that nothing crackles.
 * @param rate samples a second of the result, and of every part
 */
export function mixed(parts: readonly HeardPart[], rate: number, first: number, end: number): Samples {
  const length = Math.max(0, Math.round((end - first) * rate));
  const channels = [new Float32Array(length), new Float32Array(length)];
  for (const part of parts) {
    if (part.samples.rate !== rate) throw new RangeError('Sounds are mixed at one rate.');
    const own = part.samples.channels;
    const begin = Math.round((part.at - first) * rate);
    const offset = Math.round(part.from * rate);
    const count = Math.min(Math.round(part.length * rate), lengthOf(part.samples) - offset);
    const [risen, falls] = [part.fadeIn * rate, (part.length - part.fadeOut) * rate];
    for (let k = Math.max(0, -begin); k < count && begin + k < length; k++) {
      // Between its fades it is as loud as it is.
      const gain = k >= risen && k <= falls ? part.level : loudnessAt(part, k / rate);
      channels[0]![begin + k]! += gain * own[0]![offset + k]!;
      channels[1]![begin + k]! += gain * (own[1] ?? own[0]!)[offset + k]!;
    }
  }
  for (const channel of channels) for (let i = 0; i < length; i++) channel[i] = softly(channel[i]!);
  return { rate, channels };
}

/** A sound whose end goes over into its beginning, so that it can go round: shorter by the fade, of equal power. */
export function crossfadedEnds({ rate, channels }: Samples, seconds: number): Samples {
  const count = Math.round(seconds * rate);
  return {
    rate,
    channels: channels.map((channel) => {
      const out = channel.slice(0, channel.length - count);
      for (let i = 0; i < count; i++) {
        const share = (i / count) * (Math.PI / 2);
        out[i] = softly(Math.cos(share) * channel[channel.length - count + i]! + Math.sin(share) * channel[i]!);
      }
      return out;
    }),
  };
}

/** Below this nothing is changed. */
const knee = 0.9;

/** Bends what is louder than the knee towards 1, without a corner: x = k + (1 - k) tanh((x - k) / (1 - k)). */
export function softly(x: number): number {
  const loud = Math.abs(x);
  return loud <= knee ? x : Math.sign(x) * (knee + (1 - knee) * Math.tanh((loud - knee) / (1 - knee)));
}
