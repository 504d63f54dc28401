import { scaleLinear } from 'd3-scale';
import { useLayoutEffect, useRef, useState, type PointerEvent } from 'react';
import type { Document } from '../../../../core/scene/document.ts';
import type { Shot } from '../../../../core/scene/shot.ts';
import { drag } from '../../../parts/zoom.ts';
import { selectedLayers, useStage } from '../stage-state.ts';
import { BarRows } from './bar-rows.tsx';
import { CameraRows } from './camera-rows.tsx';
import { Graph } from './graph.tsx';
import { KeyRows } from './key-rows.tsx';
import { Playhead, Ruler } from './ruler.tsx';
import { Transport } from './transport.tsx';

export const labelWidth = 150;
export const rowHeight = 24;

interface TimelineProps {
  document: Document;
  shot: Shot;
  /** Bare share of each frame. */
  bare: number[];
}

/** Where frames lie on the track. */
export interface Track {
  across(frame: number): number;
  frameAt(clientX: number): number;
  width: number;
}

/** Transport, bare check, ruler, and the keyframes or bars of what is selected. */
export function Timeline({ document, shot, bare }: TimelineProps) {
  const element = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(800);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => setWidth(element.current?.clientWidth ?? 800));
    observer.observe(element.current!);
    return () => observer.disconnect();
  }, []);
  const { selection, timeline, setFrame, setPlaying } = useStage();
  const across = scaleLinear([0, Math.max(1, shot.length - 1)], [10, width - 14]);
  const track: Track = {
    across: (frame) => across(frame),
    width,
    frameAt: (clientX) => {
      const box = element.current!.getBoundingClientRect();
      return Math.max(0, Math.min(shot.length - 1, Math.round(across.invert(clientX - box.left))));
    },
  };
  const scrub = (event: PointerEvent): void => {
    setPlaying(false);
    setFrame(track.frameAt(event.clientX));
    drag(event, (move) => setFrame(track.frameAt(move.clientX)));
  };
  const layers = selectedLayers(shot, selection);
  return (
    <section className="flex h-full flex-col overflow-clip border-t border-line" aria-label="Timeline">
      <Transport document={document} shot={shot} bare={bare} />
      <div className="flex shrink-0">
        <div className="shrink-0 border-r border-line" style={{ width: labelWidth }} />
        <div ref={element} className="relative h-[34px] min-w-0 flex-1">
          <div className="absolute inset-0 cursor-ew-resize touch-none" onPointerDown={scrub} data-testid="ruler">
            <Ruler document={document} shot={shot} bare={bare} track={track} />
          </div>
          <Playhead shot={shot} track={track} />
        </div>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto" data-testid="rows">
        {timeline === 'bars' ? (
          <BarRows shot={shot} track={track} />
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
      </div>
    </section>
  );
}

/** A row with its name at the left and its track at the right. */
export function TrackRow({
  name,
  chosen,
  onName,
  children,
}: {
  name: string;
  chosen?: boolean;
  onName?: () => void;
  children: React.ReactNode;
}) {
  const look = `flex w-full items-center truncate px-3 text-left text-[12px] ${chosen ? 'text-pine' : 'text-ink-2'}`;
  return (
    <div className="flex border-b border-line" style={{ height: rowHeight }}>
      <div className="flex shrink-0 border-r border-line" style={{ width: labelWidth }}>
        {onName ? (
          <button type="button" className={look} onClick={onName}>
            <span className="truncate">{name}</span>
          </button>
        ) : (
          <span className={look}>
            <span className="truncate">{name}</span>
          </span>
        )}
      </div>
      <div className="relative min-w-0 flex-1">{children}</div>
    </div>
  );
}
