import { scaleLinear } from 'd3-scale';
import { useLayoutEffect, useRef, useState, type PointerEvent } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { drag } from '../../../parts/zoom.ts';
import { selectedLayers, useStage } from '../stage-state.ts';
import { BarRows } from './bar-rows.tsx';
import { CameraRows } from './camera-rows.tsx';
import { Graph } from './graph.tsx';
import { KeyRows } from './key-rows.tsx';
import { Playhead, Ruler } from './ruler.tsx';
import { labelWidth, type Track } from './track.tsx';
import { Transport } from './transport.tsx';

interface TimelineProps {
  document: Document;
  shot: Shot;
  /** Bare share of each frame. */
  bare: number[];
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
