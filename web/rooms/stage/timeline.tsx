import { Pause, Play, Repeat } from 'lucide-react';
import { scaleLinear } from 'd3-scale';
import { useLayoutEffect, useRef, useState, type PointerEvent } from 'react';
import type { Document, Layer, Shot } from '../../../core/scene/document.ts';
import { enlargementToCover } from '../../../core/scene/bare.ts';
import { animated, enlargeToCover, moveKey, propertyNames, type Animated } from '../../../core/scene/layer-edits.ts';
import { useProject } from '../../data/project.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { drag } from '../../parts/zoom.ts';
import { useStage } from './stage-state.ts';

const labels = 150;
const rowHeight = 24;

interface TimelineProps {
  document: Document;
  shot: Shot;
  /** Bare share of each frame. */
  bare: number[];
}

/** Transport, bare check, ruler, and the keyframes of what is selected. */
export function Timeline({ document, shot, bare }: TimelineProps) {
  const track = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(800);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => setWidth(track.current?.clientWidth ?? 800));
    observer.observe(track.current!);
    return () => observer.disconnect();
  }, []);
  const { selection, setFrame, setPlaying } = useStage();
  const across = scaleLinear([0, Math.max(1, shot.length - 1)], [10, width - 14]);
  const frameAt = (clientX: number): number => {
    const box = track.current!.getBoundingClientRect();
    return Math.max(0, Math.min(shot.length - 1, Math.round(across.invert(clientX - box.left))));
  };
  const scrub = (event: PointerEvent): void => {
    setPlaying(false);
    setFrame(frameAt(event.clientX));
    drag(event, (move) => setFrame(frameAt(move.clientX)));
  };
  const layer = selection?.kind === 'layer' ? shot.layers.find((l) => l.id === selection.id) : undefined;
  return (
    <section className="flex h-full flex-col border-t border-line" aria-label="Timeline">
      <Transport document={document} shot={shot} bare={bare} />
      <div className="flex min-h-0 flex-1">
        <div className="shrink-0 border-r border-line pt-[34px]" style={{ width: labels }}>
          {layer && animated.map((property) => <RowLabel key={property} text={propertyNames[property]} />)}
          {selection?.kind === 'camera' && <RowLabel text="Framing" />}
        </div>
        <div ref={track} className="relative min-w-0 flex-1 overflow-hidden">
          <div
            className="absolute inset-x-0 top-0 h-[34px] cursor-ew-resize touch-none"
            onPointerDown={scrub}
            data-testid="ruler"
          >
            <BareStrip bare={bare} across={across} width={width} />
            <Ruler document={document} shot={shot} across={across} width={width} />
          </div>
          <div className="absolute inset-x-0 top-[34px]">
            {layer &&
              animated.map((property) => (
                <KeyRow
                  key={property}
                  shot={shot}
                  layer={layer}
                  property={property}
                  across={across}
                  frameAt={frameAt}
                />
              ))}
            {selection?.kind === 'camera' && <CameraRow across={across} length={shot.length} />}
            {!selection && <p className="p-3 text-[13px] text-ink-2">Select a layer to see its keyframes here.</p>}
          </div>
          <Playhead across={across} shot={shot} />
        </div>
      </div>
    </section>
  );
}

function RowLabel({ text }: { text: string }) {
  return (
    <div className="flex items-center border-b border-line px-3 text-[12px] text-ink-2" style={{ height: rowHeight }}>
      {text}
    </div>
  );
}

function Transport({ document, shot, bare }: TimelineProps) {
  const { frame, playing, loop, setPlaying, setLoop } = useStage();
  const { dispatch } = useProject();
  const { rate } = document.frame;
  const worst = Math.max(0, ...bare);
  const back = [...shot.layers].filter((l) => l.source.kind !== 'piece').sort((a, b) => b.depth - a.depth)[0];
  const cure = worst > 0 && back ? enlargementToCover(document, shot, back) : 1;
  const time = (f: number): string => (f / rate).toFixed(2).padStart(5, '0');
  return (
    <div className="flex h-10 shrink-0 items-center gap-2 border-b border-line px-2">
      <IconButton
        label={playing ? 'Stop' : 'Play'}
        shortcut="Space"
        onClick={() => setPlaying(!playing)}
        className="!size-8"
      >
        {playing ? <Pause size={17} /> : <Play size={17} />}
      </IconButton>
      <IconButton label="Loop" pressed={loop} onClick={() => setLoop(!loop)}>
        <Repeat size={15} />
      </IconButton>
      <output className="font-mono text-[12px]" aria-label="Playhead" data-testid="playhead">
        {time(frame)} <span className="text-ink-2">/ {time(shot.length)} s</span>{' '}
        <span className="ml-2 text-ink-2">frame</span> {frame}
      </output>
      <div className="ml-auto flex items-center gap-2 text-[13px]" data-testid="bare-check">
        {worst > 0 && shot.layers.length > 0 ? (
          <>
            <span className="text-brick">
              Bare in {bare.filter((b) => b > 0).length} frames, up to {(worst * 100).toFixed(worst < 0.1 ? 1 : 0)} %
            </span>
            {back && cure > 1 && Number.isFinite(cure) && (
              <Button onClick={() => dispatch(enlargeToCover(shot.id, back.id))}>
                Enlarge {back.name} by {((cure - 1) * 100).toFixed(1)} %
              </Button>
            )}
          </>
        ) : (
          <span className="text-ink-2">{shot.layers.length > 0 ? 'No bare frame' : ''}</span>
        )}
      </div>
    </div>
  );
}

type Across = (frame: number) => number;

/** Marks the frames in which part of the frame is bare: brick with a hatch, so that it is not colour alone. */
function BareStrip({ bare, across, width }: { bare: number[]; across: Across; width: number }) {
  const step = bare.length > 1 ? across(1) - across(0) : width;
  return (
    <svg className="absolute inset-x-0 top-0 h-[8px] w-full bg-paper-2" aria-hidden>
      <defs>
        <pattern id="bare-hatch" width={5} height={8} patternUnits="userSpaceOnUse" patternTransform="skewX(-30)">
          <rect width={5} height={8} fill="#ae3b27" />
          <rect width={1.6} height={8} fill="#f5f2eb" />
        </pattern>
      </defs>
      {bare.map(
        (share, frame) =>
          share > 0 && (
            <rect key={frame} x={across(frame) - step / 2} width={step + 0.5} height={8} fill="url(#bare-hatch)" />
          ),
      )}
    </svg>
  );
}

function Ruler({ document, shot, across, width }: { document: Document; shot: Shot; across: Across; width: number }) {
  const { rate } = document.frame;
  const seconds = shot.length / rate;
  const step = [0.25, 0.5, 1, 2, 5, 10, 20].find((s) => (width / seconds) * s > 56) ?? 30;
  const marks = Array.from({ length: Math.floor(seconds / step) + 1 }, (_, k) => k * step);
  return (
    <svg className="absolute inset-x-0 top-[8px] h-[26px] w-full border-b border-line" aria-hidden>
      {marks.map((second) => (
        <g key={second} transform={`translate(${across(second * rate)} 0)`}>
          <line y1={16} y2={26} stroke="#5b6a70" />
          <text x={3} y={14} className="fill-ink-2 font-mono text-[10px]">
            {second}s
          </text>
        </g>
      ))}
    </svg>
  );
}

function Playhead({ across, shot }: { across: Across; shot: Shot }) {
  const { frame, setFrame } = useStage();
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Playhead"
      aria-valuemin={0}
      aria-valuemax={shot.length - 1}
      aria-valuenow={frame}
      className="pointer-events-none absolute inset-y-0 w-px bg-saffron"
      style={{ left: across(frame) }}
      onKeyDown={(event) => {
        const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
        if (step === 0) return;
        event.preventDefault();
        event.stopPropagation();
        setFrame(Math.max(0, Math.min(shot.length - 1, frame + step * (event.shiftKey ? 10 : 1))));
      }}
    >
      <span className="absolute top-0 -left-[5px] h-[9px] w-[11px] rounded-b-[5px] bg-saffron" />
    </div>
  );
}

interface KeyRowProps {
  shot: Shot;
  layer: Layer;
  property: Animated;
  across: Across;
  frameAt(clientX: number): number;
}

function KeyRow({ shot, layer, property, across, frameAt }: KeyRowProps) {
  const { dispatch } = useProject();
  const { key: chosen, selectKey, setFrame, setPlaying } = useStage();
  const current = layer[property];
  const keys = 'keys' in current ? current.keys : [];
  const press = (event: PointerEvent, from: number): void => {
    if (event.button !== 0) return;
    setPlaying(false);
    selectKey({ property, frame: from });
    const gesture = `key ${layer.id} ${property} ${Date.now()}`;
    let at = from;
    drag(
      event,
      (move) => {
        const to = frameAt(move.clientX);
        // A key is not dropped on another one: that would lose the other.
        if (to === at || layer.locked || keys.some((k) => k.frame === to && k.frame !== from)) return;
        dispatch(moveKey(shot.id, layer.id, property, at, to), gesture);
        at = to;
        selectKey({ property, frame: to });
      },
      () => setFrame(at),
    );
  };
  return (
    <div className="relative border-b border-line" style={{ height: rowHeight }}>
      {keys.length > 1 && (
        <div
          className="absolute top-1/2 h-0.5 bg-pine/35"
          style={{ left: across(keys[0]!.frame), width: across(keys.at(-1)!.frame) - across(keys[0]!.frame) }}
        />
      )}
      {keys.map((key) => {
        const selected = chosen?.property === property && chosen.frame === key.frame;
        return (
          <button
            key={key.frame}
            type="button"
            aria-label={`${propertyNames[property]} keyframe at frame ${key.frame}`}
            aria-pressed={selected}
            onPointerDown={(event) => press(event, key.frame)}
            onClick={() => {
              selectKey({ property, frame: key.frame });
              setFrame(key.frame);
            }}
            className="absolute top-0.5 flex h-5 w-4 -translate-x-1/2 cursor-ew-resize touch-none items-center justify-center"
            style={{ left: across(key.frame) }}
          >
            <svg width={11} height={18} aria-hidden>
              <path
                d="M1.5 5.5 5.5 1.5 9.5 5.5V16.5H1.5Z"
                fill={selected ? '#d99a00' : '#0e5b50'}
                stroke="#f5f2eb"
                strokeWidth={1}
              />
            </svg>
          </button>
        );
      })}
    </div>
  );
}

function CameraRow({ across, length }: { across: Across; length: number }) {
  const last = across(length - 1);
  return (
    <div className="relative border-b border-line" style={{ height: rowHeight }}>
      <div className="absolute top-1/2 h-0.5 bg-pine/35" style={{ left: across(0), width: last - across(0) }} />
      {[across(0), last].map((x) => (
        <svg
          key={x}
          width={11}
          height={18}
          className="absolute top-[3px] -translate-x-1/2"
          style={{ left: x }}
          aria-hidden
        >
          <path d="M1.5 5.5 5.5 1.5 9.5 5.5V16.5H1.5Z" fill="#0e5b50" stroke="#f5f2eb" strokeWidth={1} />
        </svg>
      ))}
    </div>
  );
}
