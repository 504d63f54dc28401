import type { PointerEvent } from 'react';
import { keyFramesOf, shiftLayers } from '../../../../core/edits/key-edits.ts';
import { changeArrival } from '../../../../core/edits/arrival-edits.ts';
import { setLayer } from '../../../../core/edits/layer-edits.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { barOf } from '../../../../core/scene/source-pixels.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { rackEntries } from '../rack-order.ts';
import { useStage } from '../stage-state.ts';
import { ClipMarks } from './clip-marks.tsx';
import { TrackRow, type Track } from './track.tsx';

type Modifiers = Pick<PointerEvent, 'shiftKey' | 'ctrlKey' | 'metaKey'>;

/** A bar for every layer: from when to when it is there, with ticks where it has keyframes. */
export function BarRows({ shot, rate, track }: { shot: Shot; rate: number; track: Track }) {
  const { selection, selectLayer, selectRange } = useStage();
  const chosen = selection?.kind === 'layers' ? selection.ids : [];
  const entries = rackEntries(shot, 0);
  const order = entries.map(({ layer }) => layer.id);
  const press = (id: string, { shiftKey, ctrlKey, metaKey }: Modifiers): void =>
    shiftKey ? selectRange(order, id) : selectLayer(id, ctrlKey || metaKey);
  return entries.map(({ layer }) => (
    <TrackRow
      key={layer.id}
      name={layer.name}
      chosen={chosen.includes(layer.id)}
      onName={(event) => press(layer.id, event)}
    >
      <Bar
        shot={shot}
        rate={rate}
        layer={layer}
        track={track}
        chosen={chosen.includes(layer.id)}
        along={chosen}
        onPress={(event) => press(layer.id, event)}
      />
    </TrackRow>
  ));
}

interface BarProps {
  shot: Shot;
  rate: number;
  layer: Layer;
  track: Track;
  chosen: boolean;
  /** Layers that are selected: dragging one of their bars takes all of them along. */
  along: readonly string[];
  onPress(event: Modifiers): void;
}

function Bar({ shot, rate, layer, track, chosen, along, onPress }: BarProps) {
  const { dispatch } = useProject();
  const { selectLayer } = useStage();
  const { first, end } = barOf(shot, layer);
  const { across, frameAt, caughtAt } = track;
  const fixed = layer.locked || layer.timing.like !== null;
  const [left, right] = [across(first), across(Math.min(shot.length, end) - 1)];
  const trim = (event: PointerEvent, side: 'first' | 'end'): void => {
    event.stopPropagation();
    if (fixed) return;
    const gesture = `bar ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const frame = caughtAt(move.clientX);
      const bar =
        side === 'first' ? { first: Math.min(frame, end - 1), end } : { first, end: Math.max(first + 1, frame + 1) };
      dispatch(setLayer('Trim layer', shot.id, layer.id, { timing: { ...layer.timing, bar } }), gesture);
    });
  };
  const shift = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const several = chosen && along.length > 1 && !event.shiftKey && !event.ctrlKey && !event.metaKey;
    if (!several) onPress(event);
    if (fixed || event.shiftKey || event.ctrlKey || event.metaKey) return several ? selectLayer(layer.id) : undefined;
    const taken = several
      ? shot.layers.filter((l) => along.includes(l.id) && !l.locked && l.timing.like === null)
      : [layer];
    const ids = taken.map((l) => l.id);
    const least = -Math.min(...taken.map((l) => barOf(shot, l).first));
    const from = frameAt(event.clientX);
    const gesture = `shift ${layer.id} ${Date.now()}`;
    let by = 0;
    let pressed = true;
    const follow = (move: globalThis.PointerEvent): void => {
      const next = Math.max(least, frameAt(move.clientX) - from);
      if (next === by) return;
      pressed = false;
      dispatch(shiftLayers(shot.id, ids, next - by), gesture);
      by = next;
    };
    drag(event, follow, () => pressed && several && selectLayer(layer.id));
  };
  return (
    <div
      role="group"
      aria-label={`${layer.name} from frame ${first} to ${end}`}
      data-bar={layer.id}
      onPointerDown={shift}
      className={`absolute top-1 bottom-1 touch-none rounded-md border ${chosen ? 'border-pine bg-pine/25' : 'border-line bg-paper-2'} ${fixed ? '' : 'cursor-grab'}`}
      style={{ left: left - 4, width: right - left + 8 }}
    >
      {keyFramesOf(layer).map((frame) => (
        <span key={frame} className="absolute top-1 bottom-1 w-px bg-pine" style={{ left: across(frame) - left + 3 }} />
      ))}
      <ClipMarks layer={layer} left={left} across={across} rate={rate} />
      {(['arrive', 'leave'] as const).map((side) => (
        <ArrivalEnd key={side} shot={shot} layer={layer} track={track} side={side} />
      ))}
      {!fixed &&
        (['first', 'end'] as const).map((side) => (
          <span
            key={side}
            title={side === 'first' ? 'Start' : 'End'}
            onPointerDown={(event) => trim(event, side)}
            className={`absolute inset-y-0 w-2 cursor-ew-resize ${side === 'first' ? 'left-0 rounded-l-md border-l-2' : 'right-0 rounded-r-md border-r-2'} border-pine/60`}
          />
        ))}
    </div>
  );
}

/** The head or tail of a bar in which its layer comes or goes; its inner end is dragged to make it longer or shorter. */
function ArrivalEnd({
  shot,
  layer,
  track,
  side,
}: {
  shot: Shot;
  layer: Layer;
  track: Track;
  side: 'arrive' | 'leave';
}) {
  const { dispatch } = useProject();
  const setting = layer[side];
  if (!setting) return null;
  const { first, end } = barOf(shot, layer);
  const { across, frameAt } = track;
  const comes = side === 'arrive';
  const width = across(setting.length) - across(0);
  const name = `${layer.name} ${comes ? 'arrives' : 'leaves'} in ${setting.length} frames`;
  const setLength = (length: number, gesture?: string): void =>
    dispatch(
      changeArrival(shot.id, layer.id, side, { length: Math.max(1, Math.min(end - first, Math.round(length))) }),
      gesture,
    );
  const pull = (event: PointerEvent): void => {
    event.stopPropagation();
    if (layer.locked || event.button !== 0) return;
    const gesture = `arrival ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const at = frameAt(move.clientX);
      setLength(comes ? at - first : end - 1 - at, gesture);
    });
  };
  return (
    <span className={`absolute inset-y-0 ${comes ? 'left-1' : 'right-1'}`} style={{ width }} data-arrival={side}>
      <svg className="size-full" preserveAspectRatio="none" viewBox="0 0 10 10" aria-hidden>
        <path d={comes ? 'M0 10 10 0V10Z' : 'M0 0 10 10H0Z'} className="fill-dusk/45" />
      </svg>
      <span
        role="slider"
        tabIndex={0}
        aria-label={name}
        aria-valuenow={setting.length}
        title={name}
        onPointerDown={pull}
        onKeyDown={(event) => {
          const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
          if (!step) return;
          event.preventDefault();
          event.stopPropagation();
          setLength(setting.length + (comes ? step : -step) * (event.shiftKey ? 10 : 1));
        }}
        className={`absolute inset-y-0 w-2.5 cursor-ew-resize touch-none border-dusk ${comes ? '-right-1 border-r-2' : '-left-1 border-l-2'}`}
      />
    </span>
  );
}
