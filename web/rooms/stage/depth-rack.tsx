import { Camera } from 'lucide-react';
import { useLayoutEffect, useRef, useState } from 'react';
import type { Document } from '../../../core/document/document.ts';
import { cameraAt } from '../../../core/scene/place.ts';
import { valueAt } from '../../../core/motion/property.ts';
import { stillOf } from '../../../core/scene/source-pixels.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { AddMenu } from './add-menu.tsx';
import { depthScale, depthTicks, placeRows, rowHeight, rulerWidth } from './depth-scale.ts';
import { rackEntries } from './rack-order.ts';
import { RackRow, type Rack } from './rack-row.tsx';
import { SideView } from './side-view.tsx';
import { useStage } from './stage-state.ts';

const nothingHung: Rack = { rows: [], depthAt: (y) => y, areaTop: () => 0 };

/** The side view and layer list in one: rows hang on a ruler from the lens down to the horizon. */
export function DepthRack({ document, shot }: { document: Document; shot: Shot }) {
  const area = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(400);
  const { selection, select, frame, keepLook } = useStage();
  useLayoutEffect(() => {
    const observer = new ResizeObserver(() => setHeight(area.current?.clientHeight ?? 400));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
  const entries = rackEntries(shot, frame);
  // More rows than fit make the rack longer than the room, and it scrolls.
  const room = Math.max(height - 4, entries.length * (rowHeight - 2) + 24);
  const scale = depthScale(room - 20);
  const tops = placeRows(
    entries.map(({ depth }) => scale(depth)),
    rowHeight - 2,
    room - 16,
  );
  const rack = useRef<Rack>(nothingHung);
  useLayoutEffect(() => {
    rack.current = {
      rows: entries.map((entry, k) => ({ ...entry, top: tops[k]! })),
      depthAt: (y) => scale.invert(y),
      areaTop: () => area.current!.getBoundingClientRect().top - area.current!.scrollTop,
    };
  });
  const chosen = new Set(selection?.kind === 'layers' ? selection.ids : []);
  const { camera } = shot;
  const focus = camera.aperture > 0 ? valueAt(camera.focus, frame) : null;
  return (
    <aside className="flex min-h-0 flex-col border-r border-line" aria-label="Depth rack">
      <div className="m-2 mb-1 flex gap-1">
        <button
          type="button"
          aria-pressed={selection?.kind === 'camera'}
          onClick={() => select(selection?.kind === 'camera' ? null : { kind: 'camera' })}
          className={`flex h-9 flex-1 items-center gap-2 rounded-md border px-2 text-[13px] font-medium ${selection?.kind === 'camera' ? 'border-pine bg-white text-pine' : 'border-line hover:bg-paper-2'}`}
        >
          <Camera size={15} />
          Lens
          <span className="ml-auto text-[12px] font-normal text-ink-2">Framing</span>
        </button>
        <AddMenu document={document} shot={shot} />
      </div>
      <label className="mx-2 mb-1 flex items-center gap-1.5 text-[12px] text-ink-2">
        <input
          type="checkbox"
          checked={keepLook}
          onChange={(event) => useStage.setState({ keepLook: event.target.checked })}
        />
        Distance keeps the look at rest
      </label>
      <SideView shot={shot} frame={frame} camera={cameraAt(shot, frame)} entries={entries} chosen={chosen} />
      <div ref={area} className="relative min-h-0 flex-1 overflow-x-hidden overflow-y-auto">
        <div className="relative" style={{ height: room }}>
          <svg className="absolute inset-0 size-full" aria-hidden>
            <line x1={rulerWidth - 12} x2={rulerWidth - 12} y1={0} y2={room} stroke="#d3ccbd" strokeWidth={2} />
            {depthTicks.map((depth) => (
              <g key={depth} transform={`translate(0 ${scale(depth)})`}>
                <line x1={rulerWidth - 17} x2={rulerWidth - 12} stroke="#5b6a70" />
                <text x={rulerWidth - 20} y={4} textAnchor="end" className="fill-ink-2 font-mono text-[10px]">
                  {depth}
                </text>
              </g>
            ))}
            {focus !== null && (
              <line
                x1={2}
                x2={rulerWidth}
                y1={scale(focus)}
                y2={scale(focus)}
                stroke="#d99a00"
                strokeWidth={2}
                strokeDasharray="4 3"
              />
            )}
            {entries.map(({ layer, depth }, index) => (
              <path
                key={layer.id}
                d={`M${rulerWidth - 12} ${scale(depth)}L${rulerWidth} ${tops[index]! + rowHeight / 2}`}
                stroke={chosen.has(layer.id) ? '#0e5b50' : '#5b6a70'}
                strokeWidth={1.5}
                fill="none"
              />
            ))}
          </svg>
          {entries.map(({ layer, depth, level }, index) => (
            <RackRow
              key={layer.id}
              shot={shot.id}
              layer={layer}
              depth={depth}
              level={level}
              top={tops[index]!}
              chosen={chosen.has(layer.id)}
              still={stillOf(document, layer.source)}
              rack={rack}
            />
          ))}
          {entries.length === 0 && (
            <p className="absolute left-12 p-3 text-[13px] text-ink-2">
              Layers hang here by their distance from the lens.
            </p>
          )}
          <div className="pointer-events-none absolute right-2 bottom-0 text-[11px] text-ink-2">Horizon</div>
        </div>
      </div>
    </aside>
  );
}
