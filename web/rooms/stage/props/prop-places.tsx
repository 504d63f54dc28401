import type { PointerEvent } from 'react';
import { propPath } from '../../../../core/document/properties.ts';
import type { PropSource } from '../../../../core/edits/prop-edits.ts';
import { setProperty } from '../../../../core/edits/layer-edits.ts';
import type { Point } from '../../../../core/motion/property.ts';
import { propKind } from '../../../../core/props/props.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import type { HandlesProps } from '../view/layer-handles.tsx';
import { onScreen } from '../view/on-screen.ts';

/** Handles for the places a prop has: from where smoke rises, where a lamp is, where a curtain of light ends. */
export function PropPlaces({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { dispatch } = useProject();
  const source = layer.source as PropSource;
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  const kind = propKind(source.made.prop);
  if (!matrix || !kind || layer.locked) return null;
  const { width, height } = source;
  const pull = (event: PointerEvent, key: string): void => {
    event.stopPropagation();
    const gesture = `place ${layer.id} ${key} ${Date.now()}`;
    drag(event, (move) => {
      const [x, y] = transform(invert(matrix), ...zoom.toThing(move.clientX, move.clientY));
      dispatch(setProperty(shot.id, layer.id, propPath(key), frame, [x / width, y / height]), gesture);
    });
  };
  return Object.entries(kind.settings).map(([key, setting]) => {
    if (setting.kind !== 'place') return null;
    const [u, v] = layerValue(shot, layer, propPath(key), frame) as Point;
    const [x, y] = onScreen(zoom, matrix, u * width, v * height);
    return (
      <g
        key={key}
        data-place={key}
        className="pointer-events-auto cursor-move"
        onPointerDown={(event) => pull(event, key)}
      >
        <circle cx={x} cy={y} r={8} className="fill-saffron stroke-ink" strokeWidth={1.5} />
        <circle cx={x} cy={y} r={2.5} className="fill-ink" />
        <title>{`${kind.name}: ${setting.name}`}</title>
      </g>
    );
  });
}
