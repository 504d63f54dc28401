import type { PointerEvent } from 'react';
import type { Path } from '../../../../core/path/path.ts';
import { setLayer } from '../../../../core/edits/layer-edits.ts';
import { invert, transform, type Matrix } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { useStage } from '../stage-state.ts';
import type { HandlesProps } from './layer-handles.tsx';
import { onScreen } from './on-screen.ts';

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Regions on a layer that are moved and sized in the view: where it sways, what its masks show, where it breaks out. */
export function RegionHandles(props: HandlesProps) {
  const { document, shot, layer, frame } = props;
  const { dispatch } = useProject();
  const sections = useStage((state) => state.sections);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  if (!matrix || layer.locked) return null;
  return (
    <g>
      {sections.includes('Sway') &&
        layer.sways.map(
          (sway) =>
            sway.region && (
              <BoxHandles
                key={sway.id}
                {...props}
                matrix={matrix}
                box={sway.region}
                round={sway.region.form === 'ellipse'}
                name="Swaying region"
                onChange={(box, gesture) => {
                  const sways = layer.sways.map((s) =>
                    s.id === sway.id ? { ...s, region: { ...s.region!, ...box } } : s,
                  );
                  dispatch(setLayer('Change sway', shot.id, layer.id, { sways }), gesture);
                }}
              />
            ),
        )}
      {sections.includes('Masks') &&
        layer.masks.map((mask) => {
          const box = boxAround(mask.path);
          return (
            <BoxHandles
              key={mask.id}
              {...props}
              matrix={matrix}
              box={box}
              round={mask.path.points.some((p) => p.out)}
              name="Mask"
              onChange={(next, gesture) => {
                const masks = layer.masks.map((m) =>
                  m.id === mask.id ? { ...m, path: fitted(mask.path, box, next) } : m,
                );
                dispatch(setLayer('Change masks', shot.id, layer.id, { masks }), gesture);
              }}
            />
          );
        })}
      {layer.window?.free && <FreeLine {...props} />}
    </g>
  );
}

function boxAround({ points }: Path): Box {
  const [xs, ys] = [points.map((p) => p.at[0]), points.map((p) => p.at[1])];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(1, Math.max(...xs) - x), height: Math.max(1, Math.max(...ys) - y) };
}

/** A path stretched from one box into another. */
function fitted(path: Path, from: Box, to: Box): Path {
  const [sx, sy] = [to.width / from.width, to.height / from.height];
  const scaled = (p: [number, number] | null): [number, number] | null => p && [p[0] * sx, p[1] * sy];
  return {
    ...path,
    points: path.points.map((p) => ({
      ...p,
      at: [to.x + (p.at[0] - from.x) * sx, to.y + (p.at[1] - from.y) * sy],
      in: scaled(p.in),
      out: scaled(p.out),
    })),
  };
}

interface BoxHandlesProps extends HandlesProps {
  matrix: Matrix;
  box: Box;
  round: boolean;
  name: string;
  onChange(box: Box, gesture: string): void;
}

function BoxHandles({ zoom, layer, matrix, box, round, name, onChange }: BoxHandlesProps) {
  const { x, y, width, height } = box;
  const steps = round ? 40 : 4;
  const outline = Array.from({ length: steps }, (_, k) => {
    const angle = (2 * Math.PI * k) / steps;
    const at: [number, number] = round
      ? [x + (width / 2) * (1 + Math.cos(angle)), y + (height / 2) * (1 + Math.sin(angle))]
      : [k === 0 || k === 3 ? x : x + width, k < 2 ? y : y + height];
    return onScreen(zoom, matrix, ...at).join(' ');
  }).join('L');
  const back = invert(matrix);
  const follow = (event: PointerEvent, change: (dx: number, dy: number) => Box): void => {
    event.stopPropagation();
    const [fx, fy] = transform(back, ...zoom.toThing(event.clientX, event.clientY));
    const gesture = `region ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const [u, v] = transform(back, ...zoom.toThing(move.clientX, move.clientY));
      onChange(change(u - fx, v - fy), gesture);
    });
  };
  const corner = onScreen(zoom, matrix, x + width, y + height);
  return (
    <g>
      <path d={`M${outline}Z`} fill="none" stroke="#1c2a30" strokeOpacity={0.5} strokeWidth={3} />
      <path
        d={`M${outline}Z`}
        fill="transparent"
        stroke="#f5f2eb"
        strokeWidth={1.5}
        strokeDasharray="5 4"
        className="pointer-events-auto cursor-move"
        onPointerDown={(event) => follow(event, (dx, dy) => ({ ...box, x: x + dx, y: y + dy }))}
      >
        <title>{name}</title>
      </path>
      <rect
        x={corner[0] - 5}
        y={corner[1] - 5}
        width={10}
        height={10}
        rx={2}
        className="pointer-events-auto cursor-nwse-resize fill-paper stroke-saffron"
        strokeWidth={2}
        onPointerDown={(event) =>
          follow(event, (dx, dy) => ({ ...box, width: Math.max(2, width + dx), height: Math.max(2, height + dy) }))
        }
      >
        <title>{`${name}: size`}</title>
      </rect>
    </g>
  );
}

/** The line beyond which a layer breaks out of its window. */
function FreeLine({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { dispatch } = useProject();
  const window = layer.window!;
  const free = window.free!;
  const other = shot.layers.find((l) => l.id === window.to);
  const matrix = other && layerMatrix(document, shot, other, cameraAt(shot, frame), frame);
  if (!matrix) return null;
  const [x, y] = onScreen(zoom, matrix, ...free.at);
  const radians = (free.angle * Math.PI) / 180;
  const [tx, ty] = onScreen(zoom, matrix, free.at[0] + Math.cos(radians), free.at[1] + Math.sin(radians));
  const length = Math.hypot(tx - x, ty - y) || 1;
  const [dx, dy] = [(tx - x) / length, (ty - y) / length];
  const back = invert(matrix);
  const set = (part: Partial<typeof free>, gesture: string): void => {
    const next = { ...window, free: { ...free, ...part } };
    dispatch(setLayer('Change window', shot.id, layer.id, { window: next }), gesture);
  };
  const move = (event: PointerEvent): void => {
    event.stopPropagation();
    const gesture = `free ${layer.id} ${Date.now()}`;
    drag(event, (e) => set({ at: transform(back, ...zoom.toThing(e.clientX, e.clientY)) }, gesture));
  };
  const turn = (event: PointerEvent): void => {
    event.stopPropagation();
    const gesture = `free turn ${layer.id} ${Date.now()}`;
    drag(event, (e) => {
      const [u, v] = transform(back, ...zoom.toThing(e.clientX, e.clientY));
      const angle = (Math.atan2(v - free.at[1], u - free.at[0]) * 180) / Math.PI;
      set({ angle: e.shiftKey ? Math.round(angle / 15) * 15 : Number(angle.toFixed(1)) }, gesture);
    });
  };
  const along = `M${x - dy * 400} ${y + dx * 400}L${x + dy * 400} ${y - dx * 400}`;
  return (
    <g data-testid="free-line">
      <path d={along} stroke="#1c2a30" strokeOpacity={0.5} strokeWidth={3.5} />
      <path d={along} stroke="#f5f2eb" strokeWidth={1.5} strokeDasharray="9 5" />
      <line x1={x} y1={y} x2={x + dx * 34} y2={y + dy * 34} stroke="#d99a00" strokeWidth={2} />
      <circle
        cx={x}
        cy={y}
        r={6}
        className="pointer-events-auto cursor-move fill-paper stroke-saffron"
        strokeWidth={2}
        onPointerDown={move}
      >
        <title>Beyond this line the layer is seen whole</title>
      </circle>
      <circle
        cx={x + dx * 34}
        cy={y + dy * 34}
        r={5}
        className="pointer-events-auto cursor-grab fill-saffron stroke-ink"
        onPointerDown={turn}
      >
        <title>The side that is free</title>
      </circle>
    </g>
  );
}
