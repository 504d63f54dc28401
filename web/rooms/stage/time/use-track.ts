import { scaleLinear } from 'd3-scale';
import { useEffect, useEffectEvent, useLayoutEffect, useState, type RefObject } from 'react';
import { useStage } from '../stage-state.ts';
import type { Track } from './track.tsx';
import { zoomedTime } from './zoomed-time.ts';

/** Pixels left free before the first frame and after the last. */
const [before, after] = [10, 14];

/** So close, in pixels, what is dragged is caught. */
const catches = 6;

/**
 * Where frames lie: all of the shot, or the part that was zoomed to. Ctrl and the wheel, or a pinch, zoom at the pointer;
 * a sideways wheel, or Shift and the wheel, goes along.
 * @param lane what is exactly as wide as the tracks are  @param area what hears the wheel
 * @param marks frames at which something is heard
 */
export function useTrack(
  lane: RefObject<HTMLElement | null>,
  area: RefObject<HTMLElement | null>,
  length: number,
  marks: readonly number[],
) {
  const [width, setWidth] = useState(800);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => setWidth(lane.current?.clientWidth ?? 800));
    observer.observe(lane.current!);
    return () => observer.disconnect();
  }, [lane]);
  const whole = Math.max(1, length - 1);
  const chosen = useStage((state) => state.timeView);
  const span = Math.min(whole, chosen?.span ?? whole);
  const first = Math.max(0, Math.min(whole - span, chosen?.first ?? 0));
  const across = scaleLinear([first, first + span], [before, width - after]);
  const inLane = (clientX: number): number => across.invert(clientX - lane.current!.getBoundingClientRect().left);
  const onWheel = useEffectEvent((event: WheelEvent) => {
    const along = event.shiftKey && event.deltaX === 0 ? event.deltaY : event.deltaX;
    if (event.ctrlKey || event.metaKey) {
      event.preventDefault();
      const factor = Math.exp(event.deltaY * 0.003);
      useStage.setState({ timeView: zoomedTime({ first, span }, whole, inLane(event.clientX), factor) });
    } else if (along !== 0 && chosen) {
      event.preventDefault();
      const start = first + (along / (width - before - after)) * span;
      useStage.setState({ timeView: { first: Math.max(0, Math.min(whole - span, start)), span } });
    }
  });
  useEffect(() => {
    const element = area.current!;
    const listener = (event: WheelEvent): void => onWheel(event);
    // Chromium would zoom the page otherwise; only a listener that is not passive may prevent it.
    element.addEventListener('wheel', listener, { passive: false });
    return () => element.removeEventListener('wheel', listener);
  }, [area]);
  const inside = (frame: number): number => Math.max(0, Math.min(length - 1, Math.round(frame)));
  const track: Track = {
    across: (frame) => across(frame),
    width,
    frameAt: (clientX) => inside(inLane(clientX)),
    caughtAt: (clientX) => {
      const at = inLane(clientX);
      const mark = nearestOf(marks, at);
      return inside(mark !== null && Math.abs(across(mark) - across(at)) <= catches ? mark : at);
    },
  };
  return track;
}

const nearestOf = (marks: readonly number[], at: number): number | null =>
  marks.reduce<number | null>((a, b) => (a === null || Math.abs(b - at) < Math.abs(a - at) ? b : a), null);
