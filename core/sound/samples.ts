/** Sound as it is heard: one array for each channel, -1 to 1, all equally long; `rate` samples a second. */
export interface Samples {
  rate: number;
  channels: Float32Array[];
}

export const lengthOf = ({ channels }: Samples): number => channels[0]?.length ?? 0;

/** All channels as one: their mean. */
export function monoOf(samples: Samples): Float32Array {
  const { channels } = samples;
  if (channels.length === 1) return channels[0]!;
  const out = new Float32Array(lengthOf(samples));
  for (const channel of channels) for (let i = 0; i < out.length; i++) out[i]! += channel[i]! / channels.length;
  return out;
}
