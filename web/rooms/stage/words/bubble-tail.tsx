import type { PointerEvent } from 'react';
import { setBubble } from '../../../../core/edits/bubble-edits.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import type { HandlesProps } from '../view/layer-handles.tsx';
import { onScreen } from '../view/on-screen.ts';

/** Where the tail of a bubble ends: a point that is dragged, on the layer it points at or anywhere. */
export function BubbleTail({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { dispatch } = useProject();
  const bubble = layer.source.kind === 'text' ? layer.source.bubble : null;
  const tail = bubble?.tail;
  if (!bubble || !tail || layer.locked) return null;
  const holder = (tail.to && shot.layers.find((l) => l.id === tail.to)) || layer;
  const matrix = layerMatrix(document, shot, holder, cameraAt(shot, frame), frame);
  if (!matrix) return null;
  const [x, y] = onScreen(zoom, matrix, ...tail.at);
  const pull = (event: PointerEvent): void => {
    event.stopPropagation();
    const gesture = `tail ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const at = transform(invert(matrix), ...zoom.toThing(move.clientX, move.clientY));
      dispatch(setBubble(shot.id, layer.id, { ...bubble, tail: { ...tail, at } }), gesture);
    });
  };
  return (
    <g data-tail className="pointer-events-auto cursor-move" onPointerDown={pull}>
      <circle cx={x} cy={y} r={8} className="fill-saffron stroke-ink" strokeWidth={1.5} />
      <circle cx={x} cy={y} r={2.5} className="fill-ink" />
      <title>Where the tail points</title>
    </g>
  );
}
