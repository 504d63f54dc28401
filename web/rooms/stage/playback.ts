import { useEffect } from 'react';
import type { Document } from '../../../core/document/document.ts';
import type { Shot } from '../../../core/document/shot.ts';
import type { Samples } from '../../../core/sound/samples.ts';
import { notifyError } from '../../data/notices.ts';
import { heardFrom, type Voice } from '../../sound/player.ts';
import { frameNow, usePlayed, useStage } from './stage-state.ts';

/** Beyond this the machine's sound has stopped, and the picture goes on without it. */
const stalled = 0.5;

/**
 * Advances the playhead by the clock, so that a slow picture drops frames instead of slowing down. Of a shot with a work
 * area only that is played. Where something is heard, the clock is that of the sound, so the two never part.
 * @param mix what is heard, and `filmStart` where frame 0 lies in it
 */
export function usePlayback(
  document: Document,
  { length, workArea }: Pick<Shot, 'length' | 'workArea'>,
  mix: Samples | null,
  filmStart = 0,
): void {
  const playing = useStage((state) => state.playing);
  const heard = useStage((state) => state.heard);
  const loop = useStage((state) => state.loop);
  const sound = heard ? mix : null;
  const rate = document.frame.rate;
  const start = workArea?.first ?? 0;
  const end = Math.min(length, workArea?.end ?? length);
  useEffect(() => {
    if (!playing) return;
    const { setPlaying } = useStage.getState();
    const frame = frameNow();
    const outside = frame < start || frame >= end || (!loop && frame >= end - 1);
    const first = outside ? start : frame;
    const clock = new PlayClock();
    if (sound) clock.follow(sound, { filmStart, first, start, end, rate, loop }).catch(notifyError);
    let tick = requestAnimationFrame(function step() {
      // Stopped, and only not told yet.
      if (!useStage.getState().playing) return;
      const passed = first - start + Math.floor(clock.passed() * rate);
      if (start + passed >= end && !loop) {
        usePlayed.setState({ frame: end - 1 });
        setPlaying(false);
        return;
      }
      const next = start + (passed % Math.max(1, end - start));
      if (next !== frameNow()) usePlayed.setState({ frame: next });
      tick = requestAnimationFrame(step);
    });
    return () => {
      cancelAnimationFrame(tick);
      clock.stop();
      // Also where its room is left in the middle: the playhead stands, and goes where it is put from now on.
      useStage.setState({ frame: frameNow() });
      usePlayed.setState({ frame: null });
    };
  }, [playing, loop, rate, start, end, sound, filmStart]);
}

interface Played {
  filmStart: number;
  first: number;
  start: number;
  end: number;
  rate: number;
  loop: boolean;
}

/** Seconds that have been played: by the machine's clock, and once something is heard by how much of that was. */
class PlayClock {
  private readonly began = performance.now();
  private voice: Voice | null = null;
  /** What had been played when the voice began. */
  private before = 0;
  private stopped = false;

  private byMachine(): number {
    return (performance.now() - this.began) / 1000;
  }

  passed(): number {
    const heard = this.voice?.heard() ?? null;
    const own = this.byMachine();
    if (heard === null || Math.abs(this.before + heard - own) > stalled) return own;
    return this.before + Math.max(0, heard);
  }

  /** Lets the sound be heard from where the picture is. */
  async follow(sound: Samples, { filmStart, first, start, end, rate, loop }: Played): Promise<void> {
    const at = (frame: number): number => (filmStart + frame) / rate;
    const round = loop ? { start: at(start), end: at(end) } : null;
    const place = (): number => {
      const passed = at(first) + this.byMachine();
      return round ? round.start + ((passed - round.start) % (round.end - round.start)) : passed;
    };
    const [voice, before] = [await heardFrom(sound, place, round), this.byMachine()];
    if (this.stopped) return voice?.stop();
    [this.voice, this.before] = [voice, before];
  }

  stop(): void {
    this.stopped = true;
    this.voice?.stop();
  }
}
