import { useRef, type PointerEvent } from 'react';
import { viewOfPlane } from '../../../core/depth/camera.ts';
import { valueAt } from '../../../core/motion/property.ts';
import type { Document, Layer, Shot } from '../../../core/scene/document.ts';
import { cameraAt, farToNear, layerMatrix, pixelsOf } from '../../../core/scene/evaluate.ts';
import { setProperty } from '../../../core/scene/layer-edits.ts';
import { invert, transform, type Matrix } from '../../../core/scene/matrix.ts';
import { useProject } from '../../data/project.ts';
import { PaintedCanvas } from '../../parts/painted-canvas.tsx';
import { drag, useZoom, type Zoom } from '../../parts/zoom.ts';
import { FramingHandles } from './framing-handles.tsx';
import { useStage } from './stage-state.ts';

const atRest = { x: 0, y: 0, z: 0 };

/** The shot through the lens; with the lens selected, the scene at rest with its two Framings. */
export function StageView({ document, shot }: { document: Document; shot: Shot }) {
  const container = useRef<HTMLDivElement>(null);
  const { frame, selection, select, setPlaying, playing } = useStage();
  const framing = selection?.kind === 'camera';
  const zoom = useZoom(container, document.frame, framing ? 56 : 20, () => setPlaying(!playing));
  const { dispatch } = useProject();
  const camera = framing ? atRest : cameraAt(shot, frame);
  const selected = selection?.kind === 'layer' ? shot.layers.find((l) => l.id === selection.id) : undefined;

  const moveLayer = (event: PointerEvent, layer: Layer): void => {
    const plane = viewOfPlane(camera, layer.depth);
    if (!plane || layer.locked) return;
    const [fromX, fromY] = zoom.toThing(event.clientX, event.clientY);
    const [x, y] = valueAt(layer.position, frame);
    const gesture = `move ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const [toX, toY] = zoom.toThing(move.clientX, move.clientY);
      let dx = (toX - fromX) / plane.scale;
      let dy = (toY - fromY) / plane.scale;
      // Shift holds the move straight.
      if (move.shiftKey) [dx, dy] = Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy];
      dispatch(setProperty(shot.id, layer.id, 'position', frame, [x + dx, y + dy]), gesture);
    });
  };
  const press = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    setPlaying(false);
    if (zoom.panning || framing) return zoom.startPan(event);
    const [x, y] = zoom.toThing(event.clientX, event.clientY);
    // The selected layer keeps the pointer while it is under it, so that it can be moved below nearer ones.
    const under =
      selected && contains(document, shot, selected, camera, frame, x, y)
        ? selected
        : layerAt(document, shot, camera, frame, x, y);
    if (!under) return select(null);
    if (under.id !== selected?.id) select({ kind: 'layer', id: under.id });
    moveLayer(event, under);
  };
  return (
    <section
      ref={container}
      data-testid="stage-view"
      data-view={`${zoom.view.scale},${zoom.view.x},${zoom.view.y}`}
      className={`relative min-w-0 overflow-hidden bg-field ${zoom.panning ? 'cursor-grab' : ''}`}
      aria-label="View"
      onPointerDown={press}
    >
      <PaintedCanvas
        document={document}
        shot={shot.id}
        frame={frame}
        view={zoom.view}
        size={zoom.size}
        atRest={framing}
        label="The shot at the playhead"
      />
      <svg className="pointer-events-none absolute inset-0 size-full">
        {framing ? (
          <FramingHandles document={document} shot={shot} zoom={zoom} />
        ) : (
          selected &&
          !playing && <LayerHandles document={document} shot={shot} layer={selected} zoom={zoom} frame={frame} />
        )}
      </svg>
    </section>
  );
}

function contains(
  document: Document,
  shot: Shot,
  layer: Layer,
  camera: ReturnType<typeof cameraAt>,
  frame: number,
  x: number,
  y: number,
): boolean {
  const pixels = pixelsOf(document, layer.source);
  const matrix = layerMatrix(document, shot, layer, camera, frame);
  if (!pixels || !matrix || layer.hidden) return false;
  const [u, v] = transform(invert(matrix), x, y);
  return u >= pixels.x && v >= pixels.y && u <= pixels.x + pixels.width && v <= pixels.y + pixels.height;
}

function layerAt(
  document: Document,
  shot: Shot,
  camera: ReturnType<typeof cameraAt>,
  frame: number,
  x: number,
  y: number,
): Layer | undefined {
  return farToNear(shot.layers)
    .reverse()
    .find((layer) => !layer.locked && contains(document, shot, layer, camera, frame, x, y));
}

interface LayerHandlesProps {
  document: Document;
  shot: Shot;
  layer: Layer;
  zoom: Zoom;
  frame: number;
}

/** Outline of the selected layer with a handle at each corner for scale and one above it for rotation. */
function LayerHandles({ document, shot, layer, zoom, frame }: LayerHandlesProps) {
  const { dispatch } = useProject();
  const pixels = pixelsOf(document, layer.source);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  if (!pixels || !matrix) return null;
  const onScreen = (m: Matrix, x: number, y: number): [number, number] => {
    const [u, v] = transform(m, x, y);
    return [u * zoom.view.scale + zoom.view.x, v * zoom.view.scale + zoom.view.y];
  };
  const { x, y, width, height } = pixels;
  const corners = [
    [x, y],
    [x + width, y],
    [x + width, y + height],
    [x, y + height],
  ].map(([u, v]) => onScreen(matrix, u!, v!));
  const pivot = onScreen(matrix, ...layer.pivot);
  const top: [number, number] = [(corners[0]![0] + corners[1]![0]) / 2, (corners[0]![1] + corners[1]![1]) / 2];
  const away = Math.hypot(top[0] - pivot[0], top[1] - pivot[1]) || 1;
  const turner: [number, number] = [
    top[0] + ((top[0] - pivot[0]) / away) * 26,
    top[1] + ((top[1] - pivot[1]) / away) * 26,
  ];
  const outline = corners.map((c) => c.join(' ')).join('L');

  const scaleFrom = (event: PointerEvent): void => {
    event.stopPropagation();
    const box = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    const distance = (e: { clientX: number; clientY: number }): number =>
      Math.hypot(e.clientX - box.left - pivot[0], e.clientY - box.top - pivot[1]);
    const from = Math.max(4, distance(event));
    const before = valueAt(layer.scale, frame);
    const gesture = `scale ${layer.id} ${Date.now()}`;
    drag(event, (move) =>
      dispatch(
        setProperty(shot.id, layer.id, 'scale', frame, Math.max(0.005, (before * distance(move)) / from)),
        gesture,
      ),
    );
  };
  const rotateFrom = (event: PointerEvent): void => {
    event.stopPropagation();
    const box = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    const angle = (e: { clientX: number; clientY: number }): number =>
      (Math.atan2(e.clientY - box.top - pivot[1], e.clientX - box.left - pivot[0]) * 180) / Math.PI;
    let last = angle(event);
    let turned = valueAt(layer.rotation, frame);
    const gesture = `rotate ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      // Small steps added up, so that turning past 180 degrees goes on instead of jumping back.
      turned += ((angle(move) - last + 540) % 360) - 180;
      last = angle(move);
      const value = move.shiftKey ? Math.round(turned / 15) * 15 : turned;
      dispatch(setProperty(shot.id, layer.id, 'rotation', frame, Number(value.toFixed(2))), gesture);
    });
  };
  return (
    <g>
      <path d={`M${outline}Z`} fill="none" stroke="#1c2a30" strokeOpacity={0.5} strokeWidth={3} />
      <path d={`M${outline}Z`} fill="none" stroke="#d99a00" strokeWidth={1.5} />
      {!layer.locked && (
        <>
          <line x1={top[0]} y1={top[1]} x2={turner[0]} y2={turner[1]} stroke="#d99a00" strokeWidth={1.5} />
          <circle
            cx={turner[0]}
            cy={turner[1]}
            r={6}
            className="pointer-events-auto cursor-grab fill-paper stroke-saffron"
            strokeWidth={2}
            onPointerDown={rotateFrom}
          >
            <title>Rotate (Shift: steps of 15 degrees)</title>
          </circle>
          {corners.map(([cx, cy], index) => (
            <rect
              key={index}
              x={cx - 5}
              y={cy - 5}
              width={10}
              height={10}
              rx={2}
              className="pointer-events-auto cursor-nwse-resize fill-paper stroke-saffron"
              strokeWidth={2}
              onPointerDown={scaleFrom}
            >
              <title>Scale</title>
            </rect>
          ))}
        </>
      )}
      <path d={`M${pivot[0] - 6} ${pivot[1]}h12M${pivot[0]} ${pivot[1] - 6}v12`} stroke="#d99a00" strokeWidth={1.5} />
    </g>
  );
}
