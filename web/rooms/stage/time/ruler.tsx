import type { PointerEvent } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import { setMarkers, setWorkArea } from '../../../../core/edits/shot-edits.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { useFrameNow, useStage } from '../stage-state.ts';
import type { Track } from './track.tsx';

interface RulerProps {
  document: Document;
  shot: Shot;
  bare: number[];
  track: Track;
}

/** Bare strip, seconds, work area and markers over the rows. */
export function Ruler({ document, shot, bare, track }: RulerProps) {
  const { rate } = document.frame;
  const { across, width } = track;
  const seconds = shot.length / rate;
  const second = across(rate) - across(0);
  const step = [0.1, 0.25, 0.5, 1, 2, 5, 10, 20].find((s) => second * s > 56) ?? 30;
  const marks = Array.from({ length: Math.floor(seconds / step) + 1 }, (_, k) => Number((k * step).toFixed(2))).filter(
    (at) => across(at * rate) > -40 && across(at * rate) < width - 24,
  );
  return (
    <>
      {!shot.bareMeant && <BareStrip bare={bare} track={track} />}
      <svg className="absolute inset-x-0 top-[8px] h-[26px] w-full border-b border-line" aria-hidden>
        {marks.map((at) => (
          <g key={at} transform={`translate(${across(at * rate)} 0)`}>
            <line y1={16} y2={26} stroke="#5b6a70" />
            <text x={3} y={14} className="fill-ink-2 font-mono text-[10px]">
              {at}s
            </text>
          </g>
        ))}
      </svg>
      <WorkArea shot={shot} track={track} />
      <Markers shot={shot} track={track} />
    </>
  );
}

/** Marks the frames in which part of the frame is bare: brick with a hatch, so that it is not colour alone. */
function BareStrip({ bare, track }: { bare: number[]; track: Track }) {
  const { across, width } = track;
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

function WorkArea({ shot, track }: { shot: Shot; track: Track }) {
  const { dispatch } = useProject();
  const { workArea } = shot;
  if (!workArea) return null;
  const pull = (event: PointerEvent, side: 'first' | 'end'): void => {
    event.stopPropagation();
    const gesture = `work area ${Date.now()}`;
    drag(event, (move) => {
      const frame = track.frameAt(move.clientX);
      const next =
        side === 'first'
          ? { ...workArea, first: Math.min(frame, workArea.end - 1) }
          : { ...workArea, end: Math.max(frame + 1, workArea.first + 1) };
      dispatch(setWorkArea(shot.id, next), gesture);
    });
  };
  const [left, right] = [track.across(workArea.first), track.across(workArea.end - 1)];
  return (
    <div
      className="absolute top-[24px] h-[10px]"
      style={{ left, width: Math.max(2, right - left) }}
      data-testid="work-area"
    >
      <div className="absolute inset-x-0 top-[3px] h-[4px] bg-dusk/60" />
      {(['first', 'end'] as const).map((side) => (
        <div
          key={side}
          className={`absolute top-0 h-[10px] w-[7px] cursor-ew-resize rounded-sm bg-dusk ${side === 'first' ? '-left-[4px]' : '-right-[4px]'}`}
          title={side === 'first' ? 'The work area begins here (I)' : 'The work area ends here (O)'}
          onPointerDown={(event) => pull(event, side)}
        />
      ))}
    </div>
  );
}

function Markers({ shot, track }: { shot: Shot; track: Track }) {
  const { dispatch } = useProject();
  const { setFrame } = useStage();
  return shot.markers.map((marker, k) => (
    <button
      key={`${marker.frame}-${k}`}
      type="button"
      aria-label={`Marker ${marker.name}`}
      title={`${marker.name}: press to go there, double-click deletes it`}
      className="absolute top-[9px] flex h-[14px] -translate-x-[5px] items-center gap-0.5"
      style={{ left: track.across(marker.frame) }}
      onPointerDown={(event) => event.stopPropagation()}
      onClick={() => setFrame(marker.frame)}
      onDoubleClick={() =>
        dispatch(
          setMarkers(
            shot.id,
            shot.markers.filter((_, n) => n !== k),
          ),
        )
      }
    >
      <svg width={10} height={14} aria-hidden>
        <path d="M1 1h8v7l-4 5-4-5Z" fill="#44648a" stroke="#f5f2eb" />
      </svg>
      <span className="text-[10px] text-dusk">{marker.name}</span>
    </button>
  ));
}

export function Playhead({ shot, track }: { shot: Shot; track: Track }) {
  const frame = useFrameNow();
  const { setFrame } = useStage();
  const at = track.across(frame);
  const seen = at >= 0 && at <= track.width;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Playhead"
      aria-valuemin={0}
      aria-valuemax={shot.length - 1}
      aria-valuenow={frame}
      className="pointer-events-none absolute inset-y-0 left-0 z-10 w-px bg-saffron will-change-transform"
      // Moved as a layer of its own: nothing else is laid out or painted anew for it.
      style={{ transform: `translateX(${Math.max(0, Math.min(track.width, at))}px)`, opacity: seen ? 1 : 0 }}
      onKeyDown={(event) => {
        const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
        if (step === 0) return;
        event.preventDefault();
        event.stopPropagation();
        setFrame(Math.max(0, Math.min(shot.length - 1, frame + step * (event.shiftKey ? 10 : 1))));
      }}
    >
      <span className="absolute top-0 -left-[5px] h-[9px] w-[11px] rounded-b-[5px] bg-saffron" />
      {/* Reaches over the rows, which clip it; the slider itself stays small, or focusing it would scroll the room. */}
      <span className="absolute top-full left-0 h-[600px] w-px bg-saffron" aria-hidden />
    </div>
  );
}
