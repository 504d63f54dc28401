import { useEffect } from 'react';
import type { Document, Shot } from '../../../core/scene/document.ts';
import { useStage } from './stage-state.ts';

/** Advances the playhead by the clock, so that a slow picture drops frames instead of slowing down. */
export function usePlayback(document: Document, shot: Shot): void {
  const playing = useStage((state) => state.playing);
  const rate = document.frame.rate;
  const { length } = shot;
  useEffect(() => {
    if (!playing) return;
    const { setFrame, setPlaying, frame, loop } = useStage.getState();
    const first = !loop && frame >= length - 1 ? 0 : frame;
    const from = performance.now();
    let tick = requestAnimationFrame(function step(now) {
      const passed = first + Math.floor(((now - from) / 1000) * rate);
      if (passed >= length && !useStage.getState().loop) {
        setFrame(length - 1);
        setPlaying(false);
        return;
      }
      const next = passed % length;
      if (next !== useStage.getState().frame) setFrame(next);
      tick = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(tick);
  }, [playing, rate, length]);
}
