import {
  ChevronDown,
  ChevronRight,
  Eye,
  EyeOff,
  Folder,
  Link2,
  Lock,
  LockOpen,
  Move,
  PenTool,
  PaintBucket,
  Shapes,
  Sparkles,
  Type,
  Contrast,
} from 'lucide-react';
import { memo, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { renameLayer, setDepth, setHidden, setLayer, setLocked } from '../../../core/edits/layer-edits.ts';
import type { Layer, LayerSource } from '../../../core/document/layer.ts';
import { fileUrl } from '../../data/api.ts';
import { useProject } from '../../data/project.ts';
import { IconButton } from '../../parts/button.tsx';
import { NameField } from '../../parts/name-field.tsx';
import { ShortenedName } from '../../parts/shortened-name.tsx';
import { drag } from '../../parts/zoom.ts';
import { rowHeight, rulerWidth } from './depth-scale.ts';
import { depthBetween, type RackEntry } from './rack-order.ts';
import { frameNow, useStage } from './stage-state.ts';

/** All rows of the rack as they hang now, for the row that is dragged between them. */
export interface Rack {
  rows: (RackEntry & { top: number })[];
  depthAt(y: number): number;
  areaTop(): number;
}

interface RackRowProps {
  shot: string;
  layer: Layer;
  depth: number;
  /** How many groups it is in. */
  level: number;
  top: number;
  chosen: boolean;
  /** The file of a picture of it. */
  still: string | null;
  rack: { readonly current: Rack };
}

/** One decimal, or two where one would not tell it from its neighbours. */
const depthText = (depth: number): string =>
  Number.isInteger(Math.round(depth * 100) / 10) ? depth.toFixed(1) : depth.toFixed(2);

const icons: Partial<Record<LayerSource['kind'], ReactNode>> = {
  shape: <Shapes size={15} />,
  text: <Type size={15} />,
  prop: <Sparkles size={15} />,
  drawing: <PenTool size={15} />,
  colour: <PaintBucket size={15} />,
  carrier: <Move size={15} />,
  grade: <Contrast size={15} />,
  group: <Folder size={15} />,
};

/**
 * One layer on the rack: drag it to another distance, between any two others. A change of another layer leaves it as it is, so
 * what is asked only when a hand comes is read then.
 */
export const RackRow = memo(function RackRow({ shot, layer, depth, level, top, chosen, still, rack }: RackRowProps) {
  const dispatch = useProject((project) => project.dispatch);
  const { selectLayer, selectRange } = useStage.getState();
  const [renaming, setRenaming] = useState(false);
  const startDrag = (event: PointerEvent): void => {
    if (event.button !== 0 || (event.target as HTMLElement).closest('button, input')) return;
    // As they hang when the drag begins: what moves meanwhile is only this one.
    const { rows, depthAt, areaTop } = rack.current;
    const { selection, keepLook } = useStage.getState();
    const frame = frameNow();
    const order = rows.map((other) => other.layer.id);
    if (event.shiftKey) return selectRange(order, layer.id);
    const more = event.ctrlKey || event.metaKey;
    if (more || !chosen) selectLayer(layer.id, more);
    if (more) return;
    // One of several that was only pressed, not dragged, is meant alone.
    if (layer.locked) return selectLayer(layer.id);
    const gesture = `depth ${layer.id} ${Date.now()}`;
    const along = chosen && selection?.kind === 'layers' ? selection.ids.filter((id) => id !== layer.id) : [];
    const grabbed = event.clientY - areaTop() - top;
    const from = event.clientY;
    let now = depth;
    let pressed = true;
    const follow = (move: globalThis.PointerEvent): void => {
      if (pressed && Math.abs(move.clientY - from) < 3) return;
      pressed = false;
      const middle = move.clientY - areaTop() - grabbed + rowHeight / 2;
      const rest = rows.filter((other) => other.layer.id !== layer.id && other.level === level);
      const above = rest.filter((other) => other.top + rowHeight / 2 <= middle).at(-1);
      const below = rest.find((other) => other.top + rowHeight / 2 > middle);
      const next = Number(depthBetween(depthAt(middle), above?.depth ?? null, below?.depth ?? null).toFixed(2));
      for (const id of along) {
        const other = rows.find((o) => o.layer.id === id);
        if (other && !other.layer.locked)
          dispatch(setDepth(shot, id, other.depth * (next / depth), frame, !keepLook), gesture);
      }
      if (next !== now) dispatch(setDepth(shot, layer.id, next, frame, !keepLook), gesture);
      now = next;
    };
    drag(event, follow, () => pressed && along.length > 0 && selectLayer(layer.id));
  };
  const keyDown = (event: KeyboardEvent): void => {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'Enter') selectLayer(layer.id, event.shiftKey);
    else if (event.key === 'F2') setRenaming(true);
    else if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && !layer.locked) {
      const step = (event.shiftKey ? 1 : 0.1) * (event.key === 'ArrowUp' ? -1 : 1);
      const next = Number((depth + step).toFixed(2));
      dispatch(setDepth(shot, layer.id, next, frameNow(), !useStage.getState().keepLook), `depth keys ${layer.id}`);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      role="group"
      tabIndex={0}
      aria-label={`${layer.name}, depth ${depthText(depth)}`}
      title="Drag to change the distance from the lens (arrow keys); Ctrl adds to the selection, Shift selects all in between"
      data-layer={layer.id}
      onPointerDown={startDrag}
      onKeyDown={keyDown}
      onFocus={(event) => {
        if (event.target === event.currentTarget && event.currentTarget.matches(':focus-visible') && !chosen)
          selectLayer(layer.id);
      }}
      className={`absolute right-1.5 flex touch-none select-none items-center gap-1.5 rounded-md border px-1 ${chosen ? 'border-pine bg-white' : 'border-line bg-paper'} ${layer.locked ? '' : 'cursor-ns-resize'} ${layer.hidden ? 'opacity-60' : ''}`}
      style={{ top, left: rulerWidth + level * 12, height: rowHeight - 3 }}
    >
      <Picture shot={shot} layer={layer} still={still} />
      <span className="flex min-w-0 flex-1 flex-col leading-tight">
        {renaming ? (
          <NameField
            autoFocus
            onDone={() => setRenaming(false)}
            label="Layer name"
            value={layer.name}
            onChange={(name) => dispatch(renameLayer(shot, layer.id, name))}
            className="-ml-1.5 !py-0 text-[12px]"
          />
        ) : (
          <span
            className="text-[12px]"
            title={`${layer.name} (double-click or F2 renames)`}
            onDoubleClick={() => setRenaming(true)}
          >
            <ShortenedName name={layer.name} />
          </span>
        )}
        <span className="flex items-center gap-1 font-mono text-[10px] text-ink-2">
          {depthText(depth)}
          {(layer.fastened || layer.window) && <Link2 size={10} aria-label="tied to another layer" />}
          {layer.solo && <span className="font-sans">solo</span>}
        </span>
      </span>
      <IconButton
        label={layer.hidden ? `Show ${layer.name}` : `Hide ${layer.name}`}
        className="!size-6"
        onClick={() => dispatch(setHidden(shot, layer.id, !layer.hidden))}
      >
        {layer.hidden ? <EyeOff size={13} /> : <Eye size={13} />}
      </IconButton>
      <IconButton
        label={layer.locked ? `Unlock ${layer.name}` : `Lock ${layer.name}`}
        className="!size-6"
        onClick={() => dispatch(setLocked(shot, layer.id, !layer.locked))}
      >
        {layer.locked ? <Lock size={13} className="text-brick" /> : <LockOpen size={13} className="text-ink-2" />}
      </IconButton>
    </div>
  );
});

function Picture({ shot, layer, still }: Pick<RackRowProps, 'shot' | 'layer' | 'still'>) {
  const dispatch = useProject((project) => project.dispatch);
  const { source } = layer;
  if (source.kind === 'group') {
    const toggle = (): void =>
      dispatch(setLayer('Fold group', shot, layer.id, { source: { ...source, open: !source.open } }));
    return (
      <IconButton
        label={source.open ? `Fold ${layer.name}` : `Unfold ${layer.name}`}
        className="!size-7"
        onClick={toggle}
      >
        {source.open ? <ChevronDown size={15} /> : <ChevronRight size={15} />}
      </IconButton>
    );
  }
  return (
    <span
      className={`flex h-7 w-8 shrink-0 items-center justify-center overflow-hidden rounded-sm ${still ? 'chequer' : 'bg-paper-2 text-ink-2'}`}
    >
      {still ? (
        <img src={fileUrl(still, 96)} alt="" className="max-h-full max-w-full" draggable={false} />
      ) : (
        icons[source.kind]
      )}
    </span>
  );
}
