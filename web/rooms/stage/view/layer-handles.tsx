import type { PointerEvent } from 'react';
import { valueAt } from '../../../../core/motion/property.ts';
import type { Document } from '../../../../core/document/document.ts';
import { movePivot, setProperty } from '../../../../core/edits/layer-edits.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { boxOf } from '../../../../core/scene/source-pixels.ts';
import { useProject } from '../../../data/project.ts';
import { drag, type Zoom } from '../../../parts/zoom.ts';
import { useStage } from '../stage-state.ts';
import { onScreen } from './on-screen.ts';

export interface HandlesProps {
  document: Document;
  shot: Shot;
  layer: Layer;
  zoom: Zoom;
  frame: number;
}

type ScreenPoint = [number, number];

/** Outline of a layer with handles for size, turn and pivot; or its four corners to be pinned. */
export function LayerHandles(props: HandlesProps & { alone: boolean }) {
  const { document, shot, layer, zoom, frame, alone } = props;
  const tool = useStage((state) => state.tool);
  const box = boxOf(document, layer, frame);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  if (!matrix) return null;
  const offsets = layer.corners ? layerValue(shot, layer, 'corners', frame) : [0, 0, 0, 0, 0, 0, 0, 0];
  const square = box ? cornersOf(box) : [];
  const corners = square.map(([x, y], k) => onScreen(zoom, matrix, x + offsets[2 * k]!, y + offsets[2 * k + 1]!));
  const outline = corners.map((c) => c.join(' ')).join('L');
  return (
    <g>
      {box && (
        <>
          <path d={`M${outline}Z`} fill="none" stroke="#1c2a30" strokeOpacity={0.5} strokeWidth={3} />
          <path d={`M${outline}Z`} fill="none" stroke="#d99a00" strokeWidth={1.5} />
        </>
      )}
      {alone && !layer.locked && tool === 'corners' && box && (
        <CornerPins {...props} square={square} corners={corners} />
      )}
      {alone && !layer.locked && tool === 'move' && <SizeAndTurn {...props} corners={corners} />}
    </g>
  );
}

const cornersOf = ({ x, y, width, height }: { x: number; y: number; width: number; height: number }): ScreenPoint[] => [
  [x, y],
  [x + width, y],
  [x + width, y + height],
  [x, y + height],
];

function CornerPins({
  document,
  shot,
  layer,
  zoom,
  frame,
  square,
  corners,
}: HandlesProps & { square: ScreenPoint[]; corners: ScreenPoint[] }) {
  const { dispatch } = useProject();
  const pull = (event: PointerEvent, k: number): void => {
    event.stopPropagation();
    const gesture = `corners ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
      if (!matrix) return;
      const [u, v] = transform(invert(matrix), ...zoom.toThing(move.clientX, move.clientY));
      const next = layer.corners ? [...layerValue(shot, layer, 'corners', frame)] : Array<number>(8).fill(0);
      next[2 * k] = u - square[k]![0];
      next[2 * k + 1] = v - square[k]![1];
      dispatch(setProperty(shot.id, layer.id, 'corners', frame, next), gesture);
    });
  };
  return corners.map(([cx, cy], k) => (
    <circle
      key={k}
      cx={cx}
      cy={cy}
      r={7}
      data-corner={k}
      className="pointer-events-auto cursor-move fill-saffron stroke-ink"
      strokeWidth={1.5}
      onPointerDown={(event) => pull(event, k)}
    >
      <title>Pin this corner</title>
    </circle>
  ));
}

function SizeAndTurn({ document, shot, layer, zoom, frame, corners }: HandlesProps & { corners: ScreenPoint[] }) {
  const { dispatch } = useProject();
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  if (!matrix) return null;
  const pivot = onScreen(zoom, matrix, ...layerValue(shot, layer, 'pivot', frame));
  const middle: ScreenPoint =
    corners.length > 0 ? [(corners[0]![0] + corners[1]![0]) / 2, (corners[0]![1] + corners[1]![1]) / 2] : pivot;
  const centre: ScreenPoint =
    corners.length > 0 ? [(corners[0]![0] + corners[2]![0]) / 2, (corners[0]![1] + corners[2]![1]) / 2] : pivot;
  const away = Math.hypot(middle[0] - centre[0], middle[1] - centre[1]);
  const up: ScreenPoint = away > 0 ? [(middle[0] - centre[0]) / away, (middle[1] - centre[1]) / away] : [0, -1];
  const turner: ScreenPoint = [middle[0] + up[0] * 26, middle[1] + up[1] * 26];
  const inView = (event: PointerEvent): ((e: { clientX: number; clientY: number }) => ScreenPoint) => {
    const view = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    return (e) => [e.clientX - view.left - pivot[0], e.clientY - view.top - pivot[1]];
  };
  const scaleFrom = (event: PointerEvent): void => {
    event.stopPropagation();
    const at = inView(event);
    const from = Math.max(4, Math.hypot(...at(event)));
    const before = valueAt<number>(layer.scale, frame);
    const gesture = `scale ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const value = Math.max(0.005, (before * Math.hypot(...at(move))) / from);
      dispatch(setProperty(shot.id, layer.id, 'scale', frame, value), gesture);
    });
  };
  const rotateFrom = (event: PointerEvent): void => {
    event.stopPropagation();
    const at = inView(event);
    const angle = (e: { clientX: number; clientY: number }): number => {
      const [x, y] = at(e);
      return (Math.atan2(y, x) * 180) / Math.PI;
    };
    let last = angle(event);
    let turned = valueAt<number>(layer.rotation, frame);
    const gesture = `rotate ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      // Small steps added up, so that turning past 180 degrees goes on instead of jumping back.
      turned += ((angle(move) - last + 540) % 360) - 180;
      last = angle(move);
      const value = move.shiftKey ? Math.round(turned / 15) * 15 : turned;
      dispatch(setProperty(shot.id, layer.id, 'rotation', frame, Number(value.toFixed(2))), gesture);
    });
  };
  const movePivotFrom = (event: PointerEvent): void => {
    event.stopPropagation();
    const gesture = `pivot ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const [u, v] = transform(invert(matrix), ...zoom.toThing(move.clientX, move.clientY));
      dispatch(movePivot(shot.id, layer.id, [u, v], frame), gesture);
    });
  };
  return (
    <>
      {corners.length > 0 && (
        <>
          <line x1={middle[0]} y1={middle[1]} x2={turner[0]} y2={turner[1]} stroke="#d99a00" strokeWidth={1.5} />
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
        </>
      )}
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
      <g className="pointer-events-auto cursor-move" onPointerDown={movePivotFrom} data-testid="pivot">
        <circle cx={pivot[0]} cy={pivot[1]} r={9} fill="transparent" />
        <circle cx={pivot[0]} cy={pivot[1]} r={4} fill="none" stroke="#1c2a30" strokeWidth={3} strokeOpacity={0.5} />
        <circle cx={pivot[0]} cy={pivot[1]} r={4} fill="none" stroke="#d99a00" strokeWidth={1.5} />
        <path d={`M${pivot[0] - 8} ${pivot[1]}h16M${pivot[0]} ${pivot[1] - 8}v16`} stroke="#d99a00" strokeWidth={1.5} />
        <title>Pivot: drag it anywhere, also outside the picture</title>
      </g>
    </>
  );
}
