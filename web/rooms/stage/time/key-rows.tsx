import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { moveKeys, stretchKeys, type KeyRef } from '../../../../core/edits/key-edits.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { propertyAt, propertyName, propertyPaths, type PropertyPath } from '../../../../core/document/properties.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { differenceBetween, withChanges } from '../../../../core/document/difference.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { useStage } from '../stage-state.ts';
import { TrackRow, type Track } from './track.tsx';

/** The properties that always have a row; the others once they have keyframes. */
const usual: readonly PropertyPath[] = ['position', 'scale', 'rotation', 'opacity'];

interface Row {
  layer: Layer;
  property: PropertyPath;
  frames: number[];
  cycle: boolean;
}

export function rowsOf(layers: readonly Layer[]): Row[] {
  return layers.flatMap((layer) =>
    propertyPaths(layer).flatMap((property) => {
      const found = propertyAt(layer, property);
      const frames = found && 'keys' in found ? found.keys.map((key) => key.frame) : [];
      const shown = frames.length > 0 || (layers.length === 1 && usual.includes(property));
      return shown ? [{ layer, property, frames, cycle: !!found && 'keys' in found && !!found.cycle }] : [];
    }),
  );
}

const sameRef = (a: KeyRef, b: KeyRef): boolean =>
  a.layer === b.layer && a.property === b.property && a.frame === b.frame;

/** Keyframes of the selected layers: drag them, Shift adds to the selection, Alt stretches, an empty place frames many. */
export function KeyRows({ shot, layers, track }: { shot: Shot; layers: Layer[]; track: Track }) {
  const { selectKeys } = useStage();
  const rows = rowsOf(layers);
  const [band, setBand] = useState<{ x: number; y: number; width: number; height: number } | null>(null);
  const startBand = (event: PointerEvent): void => {
    if (event.button !== 0 || (event.target as HTMLElement).closest('button')) return;
    const element = event.currentTarget as HTMLElement;
    const box = element.getBoundingClientRect();
    const [x0, y0] = [event.clientX, event.clientY];
    drag(
      event,
      (move) => {
        const [left, top] = [Math.min(x0, move.clientX), Math.min(y0, move.clientY)];
        const [width, height] = [Math.abs(move.clientX - x0), Math.abs(move.clientY - y0)];
        setBand({ x: left - box.left, y: top - box.top, width, height });
        const within = [...element.querySelectorAll<HTMLElement>('[data-key]')].filter((key) => {
          const at = key.getBoundingClientRect();
          const [cx, cy] = [at.left + at.width / 2, at.top + at.height / 2];
          return cx >= left && cx <= left + width && cy >= top && cy <= top + height;
        });
        selectKeys(within.map((key) => JSON.parse(key.dataset.key!) as KeyRef));
      },
      (end) => {
        setBand(null);
        if (Math.hypot(end.clientX - x0, end.clientY - y0) < 3) selectKeys([]);
      },
    );
  };
  return (
    <div className="relative flex-1 shrink-0 touch-none" onPointerDown={startBand}>
      {rows.map((row) => (
        <KeyRow
          key={`${row.layer.id} ${row.property}`}
          shot={shot}
          row={row}
          track={track}
          several={layers.length > 1}
        />
      ))}
      {band && (
        <div
          className="pointer-events-none absolute border border-saffron bg-saffron/15"
          style={{ left: band.x, top: band.y, width: band.width, height: band.height }}
        />
      )}
    </div>
  );
}

function KeyRow({ shot, row, track, several }: { shot: Shot; row: Row; track: Track; several: boolean }) {
  const { layer, property, frames, cycle } = row;
  const { dispatch, latest } = useProject();
  const { keys: chosen, selectKeys, setFrame, setPlaying } = useStage();
  const { across, caughtAt } = track;
  const press = (event: PointerEvent, frame: number): void => {
    if (event.button !== 0) return;
    setPlaying(false);
    const ref: KeyRef = { layer: layer.id, property, frame };
    const already = chosen.some((other) => sameRef(other, ref));
    if (event.shiftKey) {
      selectKeys(already ? chosen.filter((other) => !sameRef(other, ref)) : [...chosen, ref]);
      return;
    }
    const held = already ? chosen : [ref];
    if (!already) selectKeys(held);
    if (layer.locked) return;
    if (event.altKey && held.length > 1) stretch(event, held, frame);
    else move(event, held, frame);
  };
  /** All chosen keys move alike, and none is dropped on one that stays: that would lose the other. */
  const move = (event: PointerEvent, held: KeyRef[], from: number): void => {
    const gesture = `keys ${Date.now()}`;
    let by = 0;
    drag(
      event,
      (pointer) => {
        const next = caughtAt(pointer.clientX) - from;
        const least = -Math.min(...held.map((ref) => ref.frame));
        if (next === by || next < least || lands(shot, held, next)) return;
        dispatch(moveKeys(shot.id, moved(held, by), next - by), gesture);
        by = next;
        selectKeys(moved(held, by));
      },
      () => setFrame(from + by),
    );
  };
  const stretch = (event: PointerEvent, held: KeyRef[], from: number): void => {
    const anchor = Math.min(...held.map((ref) => ref.frame));
    if (from === anchor) return;
    const gesture = `stretch ${Date.now()}`;
    // Always stretched from where the keys were, so that rounding does not add up.
    const before = latest();
    let made = before;
    drag(event, (pointer) => {
      const factor = Math.max(0.05, (caughtAt(pointer.clientX) - anchor) / (from - anchor));
      const edit = stretchKeys(shot.id, held, anchor, factor);
      const next = edit.apply(before);
      const changes = differenceBetween(made, next);
      made = next;
      dispatch({ name: edit.name, apply: (now) => withChanges(now, changes).document }, gesture);
      selectKeys(held.map((ref) => ({ ...ref, frame: Math.round(anchor + (ref.frame - anchor) * factor) })));
    });
  };
  /** Arrow keys take the chosen keys along, with Shift by ten; the focus stays on the key that was moved. */
  const nudge = (event: KeyboardEvent, frame: number): void => {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    if (layer.locked) return;
    const ref: KeyRef = { layer: layer.id, property, frame };
    const held = chosen.some((other) => sameRef(other, ref)) ? chosen : [ref];
    const by = way * (event.shiftKey ? 10 : 1);
    if (Math.min(...held.map((h) => h.frame)) + by < 0 || lands(shot, held, by)) return;
    dispatch(moveKeys(shot.id, held, by), `nudge keys ${held.length} ${property} ${layer.id}`);
    selectKeys(moved(held, by));
    setFrame(frame + by);
    const there = JSON.stringify({ ...ref, frame: frame + by });
    const area = event.currentTarget.closest('section')!;
    requestAnimationFrame(() =>
      [...area.querySelectorAll<HTMLElement>('[data-key]')].find((key) => key.dataset.key === there)?.focus(),
    );
  };
  const name = propertyName(layer, property);
  return (
    <TrackRow name={several ? `${layer.name} · ${name}` : name}>
      {frames.length > 1 && (
        <div
          className="absolute top-1/2 h-0.5 bg-pine/35"
          style={{ left: across(frames[0]!), width: across(frames.at(-1)!) - across(frames[0]!) }}
        />
      )}
      {cycle && (
        <div
          className="absolute top-1/2 right-0 border-t-2 border-dotted border-pine/50"
          style={{ left: across(frames.at(-1)!) }}
        />
      )}
      {frames.map((frame, index) => {
        const ref: KeyRef = { layer: layer.id, property, frame };
        const selected = chosen.some((other) => sameRef(other, ref));
        return (
          <button
            key={index}
            type="button"
            data-key={JSON.stringify(ref)}
            aria-label={`${several ? `${layer.name} ` : ''}${name} keyframe at frame ${frame}`}
            aria-pressed={selected}
            onPointerDown={(event) => {
              event.stopPropagation();
              press(event, frame);
            }}
            onKeyDown={(event) => nudge(event, frame)}
            onClick={(event) => {
              if (event.detail === 0) selectKeys([ref]);
              if (!event.shiftKey) setFrame(frame);
            }}
            className="absolute top-0.5 flex h-5 w-4 -translate-x-1/2 cursor-ew-resize touch-none items-center justify-center"
            style={{ left: across(frame) }}
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
    </TrackRow>
  );
}

const moved = (refs: readonly KeyRef[], by: number): KeyRef[] => refs.map((ref) => ({ ...ref, frame: ref.frame + by }));

/** Whether any of the keys, moved, would come to lie on a key that is not moved. */
function lands(shot: Shot, held: readonly KeyRef[], by: number): boolean {
  const rows = rowsOf(shot.layers);
  return held.some((ref) => {
    const row = rows.find((r) => r.layer.id === ref.layer && r.property === ref.property);
    const own = held.filter((h) => h.layer === ref.layer && h.property === ref.property).map((h) => h.frame);
    return row?.frames.some((frame) => frame === ref.frame + by && !own.includes(frame));
  });
}
