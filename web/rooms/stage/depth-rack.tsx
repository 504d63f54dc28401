import { Camera, Eye, EyeOff, Lock, LockOpen } from 'lucide-react';
import { useLayoutEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Document, Layer, Shot } from '../../../core/scene/document.ts';
import { farToNear, stillOf } from '../../../core/scene/evaluate.ts';
import { renameLayer, setDepth, setHidden, setLocked } from '../../../core/scene/layer-edits.ts';
import { fileUrl } from '../../data/api.ts';
import { useProject } from '../../data/project.ts';
import { IconButton } from '../../parts/button.tsx';
import { NameField } from '../../parts/name-field.tsx';
import { drag } from '../../parts/zoom.ts';
import { depthScale, depthTicks, placeRows } from './depth-scale.ts';
import { useStage } from './stage-state.ts';

const rowHeight = 40;
const rulerWidth = 42;

/** The side view and layer list in one: rows hang on a ruler from the lens down to the horizon. */
export function DepthRack({ document, shot }: { document: Document; shot: Shot }) {
  const area = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(400);
  const { selection, select } = useStage();
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => setHeight(area.current?.clientHeight ?? 400));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
  const scale = depthScale(height - 20);
  const layers = farToNear(shot.layers).reverse();
  const tops = placeRows(
    layers.map((layer) => scale(layer.depth)),
    rowHeight,
    height - 4,
  );
  return (
    <aside className="flex min-h-0 flex-col border-r border-line" aria-label="Depth rack">
      <button
        type="button"
        aria-pressed={selection?.kind === 'camera'}
        onClick={() => select(selection?.kind === 'camera' ? null : { kind: 'camera' })}
        className={`m-2 flex h-9 items-center gap-2 rounded-md border px-2 text-[13px] font-medium ${selection?.kind === 'camera' ? 'border-pine bg-white text-pine' : 'border-line hover:bg-paper-2'}`}
      >
        <Camera size={15} />
        Lens
        <span className="ml-auto text-[12px] font-normal text-ink-2">Framing</span>
      </button>
      <div ref={area} className="relative min-h-0 flex-1 overflow-hidden">
        <svg className="absolute inset-0 size-full" aria-hidden>
          <line x1={rulerWidth - 12} x2={rulerWidth - 12} y1={0} y2={height} stroke="#d3ccbd" strokeWidth={2} />
          {depthTicks.map((depth) => (
            <g key={depth} transform={`translate(0 ${scale(depth)})`}>
              <line x1={rulerWidth - 17} x2={rulerWidth - 12} stroke="#5b6a70" />
              <text x={rulerWidth - 20} y={4} textAnchor="end" className="fill-ink-2 font-mono text-[10px]">
                {depth}
              </text>
            </g>
          ))}
          {layers.map((layer, index) => (
            <path
              key={layer.id}
              d={`M${rulerWidth - 12} ${scale(layer.depth)}L${rulerWidth} ${tops[index]! + rowHeight / 2}`}
              stroke={selection?.kind === 'layer' && selection.id === layer.id ? '#0e5b50' : '#5b6a70'}
              strokeWidth={1.5}
              fill="none"
            />
          ))}
        </svg>
        {layers.map((layer, index) => (
          <RackRow
            key={layer.id}
            document={document}
            shot={shot}
            layer={layer}
            top={tops[index]!}
            areaHeight={height - 20}
          />
        ))}
        {layers.length === 0 && (
          <p className="absolute left-12 p-3 text-[13px] text-ink-2">
            Layers hang here by their distance from the lens.
          </p>
        )}
        <div className="absolute right-2 bottom-0.5 text-[11px] text-ink-2">Horizon</div>
      </div>
    </aside>
  );
}

interface RackRowProps {
  document: Document;
  shot: Shot;
  layer: Layer;
  top: number;
  areaHeight: number;
}

function RackRow({ document, shot, layer, top, areaHeight }: RackRowProps) {
  const { dispatch } = useProject();
  const { selection, select } = useStage();
  const chosen = selection?.kind === 'layer' && selection.id === layer.id;
  const [renaming, setRenaming] = useState(false);
  const still = stillOf(document, layer.source);
  const startDrag = (event: PointerEvent): void => {
    if (event.button !== 0 || (event.target as HTMLElement).closest('button, input')) return;
    select({ kind: 'layer', id: layer.id });
    if (layer.locked) return;
    const scale = depthScale(areaHeight);
    const from = event.clientY;
    const start = scale(layer.depth);
    const gesture = `depth ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const depth = scale.invert(start + move.clientY - from);
      dispatch(setDepth(shot.id, layer.id, Number(depth.toFixed(2))), gesture);
    });
  };
  const keyDown = (event: KeyboardEvent): void => {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'Enter') select({ kind: 'layer', id: layer.id });
    else if (event.key === 'F2') setRenaming(true);
    else if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && !layer.locked) {
      const step = (event.shiftKey ? 1 : 0.1) * (event.key === 'ArrowUp' ? -1 : 1);
      dispatch(setDepth(shot.id, layer.id, Number((layer.depth + step).toFixed(2))), `depth keys ${layer.id}`);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      role="group"
      tabIndex={0}
      aria-label={`${layer.name}, depth ${layer.depth.toFixed(1)}`}
      title="Drag to change the distance from the lens (arrow keys)"
      data-layer={layer.id}
      onPointerDown={startDrag}
      onKeyDown={keyDown}
      onFocus={(event) => event.target === event.currentTarget && select({ kind: 'layer', id: layer.id })}
      className={`absolute right-1.5 flex items-center gap-1.5 rounded-md border px-1 ${chosen ? 'border-pine bg-white' : 'border-line bg-paper'} ${layer.locked ? '' : 'cursor-ns-resize'} ${layer.hidden ? 'opacity-60' : ''}`}
      style={{ top, left: rulerWidth, height: rowHeight - 3 }}
    >
      <span className="chequer flex h-7 w-9 shrink-0 items-center justify-center overflow-hidden rounded-sm">
        {still && <img src={fileUrl(still, 96)} alt="" className="max-h-full max-w-full" draggable={false} />}
      </span>
      <span className="flex min-w-0 flex-1 flex-col leading-tight">
        {renaming ? (
          <NameField
            autoFocus
            onDone={() => setRenaming(false)}
            label="Layer name"
            value={layer.name}
            onChange={(name) => dispatch(renameLayer(shot.id, layer.id, name))}
            className="-ml-1.5 !py-0 text-[12px]"
          />
        ) : (
          <span
            className="truncate text-[12px]"
            title={`${layer.name} (double-click or F2 renames)`}
            onDoubleClick={() => setRenaming(true)}
          >
            {layer.name}
          </span>
        )}
        <span className="font-mono text-[10px] text-ink-2">{layer.depth.toFixed(1)}</span>
      </span>
      <IconButton
        label={layer.hidden ? `Show ${layer.name}` : `Hide ${layer.name}`}
        className="!size-6"
        onClick={() => dispatch(setHidden(shot.id, layer.id, !layer.hidden))}
      >
        {layer.hidden ? <EyeOff size={13} /> : <Eye size={13} />}
      </IconButton>
      <IconButton
        label={layer.locked ? `Unlock ${layer.name}` : `Lock ${layer.name}`}
        className="!size-6"
        onClick={() => dispatch(setLocked(shot.id, layer.id, !layer.locked))}
      >
        {layer.locked ? <Lock size={13} className="text-brick" /> : <LockOpen size={13} className="text-ink-2" />}
      </IconButton>
    </div>
  );
}
