import type { Samples } from '../../core/sound/samples.ts';

/** What is being heard. */
export interface Voice {
  /** Seconds that have been heard since it began; null when the machine lets nothing be heard. */
  heard(): number | null;
  stop(): void;
}

let shared: AudioContext | null = null;

/**
 * Lets a sound be heard from a time on; in a loop it goes on without a gap.
 * @param from says the seconds in it, asked when it begins  @param loop seconds between which it goes round
 * @returns null where the browser does not allow it before something was pressed
 */
export async function heardFrom(
  { rate, channels }: Samples,
  from: () => number,
  loop: { start: number; end: number } | null,
): Promise<Voice | null> {
  shared ??= new AudioContext({ latencyHint: 'interactive' });
  const context = shared;
  // Where nothing was pressed yet, this would wait for a press. Else a busy machine may take its time.
  if (context.state !== 'running' && navigator.userActivation.hasBeenActive) await context.resume();
  if (context.state !== 'running' || channels[0]!.length === 0) return null;
  const buffer = context.createBuffer(channels.length, channels[0]!.length, rate);
  channels.forEach((channel, k) => buffer.copyToChannel(channel as Float32Array<ArrayBuffer>, k));
  const source = context.createBufferSource();
  source.buffer = buffer;
  if (loop) Object.assign(source, { loop: true, loopStart: loop.start, loopEnd: loop.end });
  source.connect(context.destination);
  const began = context.currentTime;
  source.start(began, from());
  return {
    heard: () => (context.state === 'running' ? context.currentTime - began - (context.outputLatency || 0) : null),
    stop: () => {
      source.stop();
      source.disconnect();
    },
  };
}
