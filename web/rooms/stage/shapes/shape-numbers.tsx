import type { PointerEvent } from 'react';
import { shapePath } from '../../../../core/document/properties.ts';
import type { ShapeSetting } from '../../../../core/document/shape-setting.ts';
import { setProperty } from '../../../../core/edits/layer-edits.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { heldFrame } from '../../../../core/scene/values.ts';
import { valuesAt } from '../../../../core/settings/setting.ts';
import { shapeKind } from '../../../../core/shapes/shape-kinds.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import type { HandlesProps } from '../view/layer-handles.tsx';
import { onScreen } from '../view/on-screen.ts';

/** Handles for the numbers a shape is made from: how many points, how deep, how round. */
export function ShapeNumbers({ document, shot, layer, zoom, frame, made }: HandlesProps & { made: ShapeSetting }) {
  const { dispatch } = useProject();
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  const kind = shapeKind(made.shape);
  if (!matrix || !kind || layer.locked) return null;
  const values = valuesAt(kind.settings, made.settings, heldFrame(layer, frame));
  return Object.entries(kind.handles).map(([key, handle]) => {
    if (!handle) return null;
    const [x, y] = onScreen(zoom, matrix, ...handle.at(values, made));
    const pull = (event: PointerEvent): void => {
      event.stopPropagation();
      const gesture = `shape ${layer.id} ${key} ${Date.now()}`;
      drag(event, (move) => {
        const point = transform(invert(matrix), ...zoom.toThing(move.clientX, move.clientY));
        const value = handle.value(point, values, made);
        dispatch(setProperty(shot.id, layer.id, shapePath(key), frame, value), gesture);
      });
    };
    return (
      <g key={key} data-shape-number={key} className="pointer-events-auto cursor-move" onPointerDown={pull}>
        <circle cx={x} cy={y} r={7} className="fill-saffron stroke-ink" strokeWidth={1.5} />
        <path d={`M${x - 3} ${y}h6`} className="stroke-ink" strokeWidth={1.5} />
        <title>{`${kind.name}: ${kind.settings[key]!.name}`}</title>
      </g>
    );
  });
}
