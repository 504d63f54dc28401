import { useEffect } from 'react';
import type { Document } from '../../../core/document/document.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { useStage } from './stage-state.ts';

/**
 * Advances the playhead by the clock, so that a slow picture drops frames instead of slowing down. Of a shot with a work
 * area only that is played.
 */
export function usePlayback(document: Document, { length, workArea }: Pick<Shot, 'length' | 'workArea'>): void {
  const playing = useStage((state) => state.playing);
  const rate = document.frame.rate;
  const start = workArea?.first ?? 0;
  const end = Math.min(length, workArea?.end ?? length);
  useEffect(() => {
    if (!playing) return;
    const { setFrame, setPlaying, frame, loop } = useStage.getState();
    const outside = frame < start || frame >= end || (!loop && frame >= end - 1);
    const first = outside ? start : frame;
    const from = performance.now();
    let tick = requestAnimationFrame(function step(now) {
      const passed = first - start + Math.floor(((now - from) / 1000) * rate);
      if (start + passed >= end && !useStage.getState().loop) {
        setFrame(end - 1);
        setPlaying(false);
        return;
      }
      const next = start + (passed % Math.max(1, end - start));
      if (next !== useStage.getState().frame) setFrame(next);
      tick = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(tick);
  }, [playing, rate, start, end]);
}
