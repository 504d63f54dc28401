import { useEffect } from 'react';
import type { Document } from '../../../core/document/document.ts';
import type { Shot } from '../../../core/document/shot.ts';
import type { Samples } from '../../../core/sound/samples.ts';
import { notifyError } from '../../data/notices.ts';
import { PlayClock } from '../../sound/play-clock.ts';
import { heardFrom } from '../../sound/player.ts';
import { frameNow, usePlayed, useStage } from './stage-state.ts';

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
    const at = (frame: number): number => (filmStart + frame) / rate;
    const round = loop ? { start: at(start), end: at(end) } : null;
    const placeOf = (played: number): number =>
      round ? round.start + ((at(first) + played - round.start) % (round.end - round.start)) : at(first) + played;
    const clock = new PlayClock(
      () => performance.now() / 1000,
      async (played) => sound && heardFrom(sound, () => placeOf(played()), round),
    );
    if (sound) clock.follow().catch(notifyError);
    let tick = requestAnimationFrame(function step() {
      // Stopped, and only not told yet.
      if (!useStage.getState().playing) return;
      const passed = first - start + Math.floor(clock.passed(notifyError) * rate);
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
