import type { PointerEvent } from 'react';
import { setProperty } from '../../../../core/edits/layer-edits.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { BendHandle } from './bend-handle.tsx';
import type { HandlesProps } from './layer-handles.tsx';
import { onScreen } from './on-screen.ts';

/** The points of a shape layer and their handles; with keyframes the outline changes over time. */
export function ShapePoints({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { dispatch } = useProject();
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  if (!matrix || layer.locked) return null;
  const numbers = layerValue(shot, layer, 'points', frame);
  const back = invert(matrix);
  const pull = (event: PointerEvent, first: number, handle: 0 | 2 | 4): void => {
    event.stopPropagation();
    const gesture = `points ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const [u, v] = transform(back, ...zoom.toThing(move.clientX, move.clientY));
      const next = [...numbers];
      const [x, y] = [numbers[first]!, numbers[first + 1]!];
      next[first + handle] = handle === 0 ? u : u - x;
      next[first + handle + 1] = handle === 0 ? v : v - y;
      // The other handle stays opposite, unless Alt parts them.
      const other = handle === 2 ? 4 : 2;
      if (handle !== 0 && !move.altKey) {
        const far = Math.hypot(numbers[first + other]!, numbers[first + other + 1]!);
        const length = Math.hypot(u - x, v - y) || 1;
        next[first + other] = (-(u - x) / length) * far;
        next[first + other + 1] = (-(v - y) / length) * far;
      }
      dispatch(setProperty(shot.id, layer.id, 'points', frame, next), gesture);
    });
  };
  const points = Array.from({ length: numbers.length / 6 }, (_, k) => k * 6);
  return (
    <g>
      {points.map((first) => {
        const [x, y] = [numbers[first]!, numbers[first + 1]!];
        const [px, py] = onScreen(zoom, matrix, x, y);
        return (
          <g key={first}>
            {([2, 4] as const).map((handle) => {
              const [hx, hy] = [numbers[first + handle]!, numbers[first + handle + 1]!];
              if (hx === 0 && hy === 0) return null;
              return (
                <BendHandle
                  key={handle}
                  from={[px, py]}
                  at={onScreen(zoom, matrix, x + hx, y + hy)}
                  title="Bend the outline (Alt: this side only)"
                  onPointerDown={(event) => pull(event, first, handle)}
                />
              );
            })}
            <rect
              x={px - 5}
              y={py - 5}
              width={10}
              height={10}
              data-point={first / 6}
              className="pointer-events-auto cursor-move fill-saffron stroke-ink"
              strokeWidth={1.3}
              onPointerDown={(event) => pull(event, first, 0)}
            >
              <title>Move this point</title>
            </rect>
          </g>
        );
      })}
    </g>
  );
}
