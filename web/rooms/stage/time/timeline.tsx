import { MoveHorizontal, ZoomIn, ZoomOut } from 'lucide-react';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { IconButton } from '../../../parts/button.tsx';
import { drag } from '../../../parts/zoom.ts';
import { frameNow, leastTimeline, mostTimeline, selectedLayers, useStage } from '../stage-state.ts';
import { BarRows } from './bar-rows.tsx';
import { CameraRows } from './camera-rows.tsx';
import { Graph } from './graph.tsx';
import { KeyRows } from './key-rows.tsx';
import { Playhead, Ruler } from './ruler.tsx';
import { labelWidth } from './track.tsx';
import { AddSound, SoundRows } from '../sound/sound-rows.tsx';
import { useSoundMarks } from '../sound/use-sound-facts.ts';
import { Transport } from './transport.tsx';
import { useTrack } from './use-track.ts';
import { zoomedTime } from './zoomed-time.ts';

interface TimelineProps {
  document: Document;
  shot: Shot;
  /** Bare share of each frame. */
  bare: number[];
  /** Where the shot begins in all of them one after the other, frames. */
  filmStart: number;
}

/** Transport, bare check, ruler, and the keyframes or bars of what is selected. */
export function Timeline({ document, shot, bare, filmStart }: TimelineProps) {
  const section = useRef<HTMLElement>(null);
  const lane = useRef<HTMLDivElement>(null);
  const { selection, timeline, setFrame, setPlaying } = useStage();
  const marks = useSoundMarks(document, filmStart, shot.length);
  const track = useTrack(lane, section, shot.length, marks);
  const scrub = (event: PointerEvent): void => {
    setPlaying(false);
    setFrame(track.frameAt(event.clientX));
    drag(event, (move) => setFrame(track.frameAt(move.clientX)));
  };
  const layers = selectedLayers(shot, selection);
  return (
    <section
      ref={section}
      className="relative flex h-full flex-col overflow-clip border-t border-line select-none"
      aria-label="Timeline"
    >
      <HeightGrip />
      <Transport document={document} shot={shot} bare={bare} />
      <div className="flex shrink-0">
        <div className="flex shrink-0 items-center border-r border-line px-1" style={{ width: labelWidth }}>
          <AddSound document={document} filmStart={filmStart} />
          <span className="flex-1" />
          <TimeZoom shot={shot} />
        </div>
        {/* As wide as the tracks below, which a scrollbar makes narrower, so that frames lie under one another. */}
        <div className="relative h-[34px]" style={{ width: track.width }}>
          <div
            className="absolute inset-0 cursor-ew-resize touch-none overflow-clip"
            onPointerDown={scrub}
            data-testid="ruler"
          >
            <Ruler document={document} shot={shot} bare={bare} track={track} />
          </div>
          <Playhead shot={shot} track={track} />
        </div>
      </div>
      <div
        className="relative flex min-h-0 flex-1 flex-col overflow-x-clip overflow-y-auto [scrollbar-gutter:stable]"
        data-testid="rows"
      >
        <div ref={lane} className="h-0 shrink-0" style={{ marginLeft: labelWidth }} />
        {timeline === 'bars' ? (
          <BarRows shot={shot} rate={document.frame.rate} track={track} />
        ) : timeline === 'graph' && layers[0] ? (
          <Graph document={document} shot={shot} layer={layers[0]} track={track} />
        ) : layers.length > 0 ? (
          <KeyRows shot={shot} layers={layers} track={track} />
        ) : selection?.kind === 'camera' ? (
          <CameraRows shot={shot} track={track} />
        ) : (
          <p className="relative z-10 m-1.5 w-fit rounded bg-paper px-1.5 py-1 text-[13px] text-ink-2">
            Select a layer to see its keyframes here, or look at the bars of all layers.
          </p>
        )}
        <SoundRows document={document} filmStart={filmStart} track={track} />
      </div>
    </section>
  );
}

/** Less or more of the shot at a time, about the playhead; for hands without a wheel. */
function TimeZoom({ shot }: { shot: Shot }) {
  const { timeView } = useStage();
  const whole = Math.max(1, shot.length - 1);
  const zoom = (factor: number): void => {
    const before = timeView ?? { first: 0, span: whole };
    useStage.setState({ timeView: zoomedTime(before, whole, frameNow(), factor) });
  };
  return (
    <>
      <IconButton label="Show more time" className="!size-6" disabled={!timeView} onClick={() => zoom(2)}>
        <ZoomOut size={13} />
      </IconButton>
      <IconButton label="Show less time" className="!size-6" onClick={() => zoom(0.5)}>
        <ZoomIn size={13} />
      </IconButton>
      <IconButton
        label="Fit the whole shot"
        className="!size-6"
        disabled={!timeView}
        onClick={() => useStage.setState({ timeView: null })}
      >
        <MoveHorizontal size={13} />
      </IconButton>
    </>
  );
}

/** The upper edge of the timeline: dragged, or moved by arrow keys, it gives the rows more room or less. */
function HeightGrip() {
  const height = useStage((state) => state.timelineHeight);
  const set = (next: number): void =>
    useStage.setState({ timelineHeight: Math.max(leastTimeline, Math.min(mostTimeline, Math.round(next))) });
  return (
    <div
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the timeline"
      aria-valuenow={height}
      aria-valuemin={leastTimeline}
      aria-valuemax={mostTimeline}
      tabIndex={0}
      title="Drag to make the timeline taller or lower; double-click for its first height"
      className="absolute inset-x-0 -top-px z-20 h-[5px] cursor-ns-resize touch-none hover:bg-pine/30"
      onDoubleClick={() => set(leastTimeline)}
      onPointerDown={(event: PointerEvent) => {
        const from = event.clientY;
        drag(event, (move) => set(height + from - move.clientY));
      }}
      onKeyDown={(event: KeyboardEvent) => {
        const step = { ArrowUp: 24, ArrowDown: -24 }[event.key];
        if (!step) return;
        event.preventDefault();
        event.stopPropagation();
        set(height + step);
      }}
    />
  );
}
