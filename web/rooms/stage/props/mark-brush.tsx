import { useState, type PointerEvent } from 'react';
import { changeProp, type PropSource } from '../../../../core/edits/prop-edits.ts';
import { propKind } from '../../../../core/props/props.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import type { BrushStroke } from '../../../../core/settings/setting.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { useStage } from '../stage-state.ts';
import type { HandlesProps } from '../view/layer-handles.tsx';
import { ViewCatcher } from '../view/view-catcher.tsx';
import { onScreen } from '../view/on-screen.ts';

/** Which setting of a prop is painted; null where none is. */
export const paintedSetting = ({ made }: PropSource): string | null =>
  Object.entries(propKind(made.prop)?.settings ?? {}).find(([, setting]) => setting.kind === 'strokes')?.[0] ?? null;

/** Marks of a brush over the view that say where a prop is thicker; with Alt they take away. */
export function MarkBrush({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { dispatch } = useProject();
  const { depthBrush } = useStage();
  const [live, setLive] = useState<BrushStroke | null>(null);
  const source = layer.source as PropSource;
  const key = paintedSetting(source);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  if (!matrix || !key || layer.locked) return null;
  const { width, height } = source;
  const marks = source.made.settings[key] as BrushStroke[];
  const unit = Math.hypot(matrix[0], matrix[1]) * zoom.view.scale;
  const paint = (event: PointerEvent): void => {
    if (event.button !== 0 || zoom.panning) return;
    event.stopPropagation();
    const at = (e: { clientX: number; clientY: number }): [number, number] => {
      const [x, y] = transform(invert(matrix), ...zoom.toThing(e.clientX, e.clientY));
      return [Number((x / width).toFixed(4)), Number((y / height).toFixed(4))];
    };
    let mark: BrushStroke = { points: [at(event)], width: depthBrush / (unit * height), erases: event.altKey };
    setLive(mark);
    drag(
      event,
      (move) => {
        mark = { ...mark, points: [...mark.points, at(move)].slice(0, 2000) };
        setLive(mark);
      },
      () => {
        setLive(null);
        dispatch(changeProp(shot.id, layer.id, {}, { [key]: [...marks, mark].slice(-300) }));
      },
    );
  };
  const line = ({ points }: BrushStroke): string =>
    points.map(([u, v]) => onScreen(zoom, matrix, u * width, v * height).join(' ')).join('L');
  return (
    <g>
      <ViewCatcher name="mark-brush" onPress={paint} />
      {[...marks, ...(live ? [live] : [])].map((mark, k) => (
        <path
          key={k}
          d={`M${line(mark)}${mark.points.length === 1 ? 'h0.1' : ''}`}
          fill="none"
          strokeLinecap="round"
          strokeLinejoin="round"
          className={mark.erases ? 'stroke-ink' : 'stroke-paper'}
          strokeDasharray={mark.erases ? '6 14' : undefined}
          strokeOpacity={mark === live ? 0.5 : 0.18}
          strokeWidth={mark.width * height * unit}
        />
      ))}
    </g>
  );
}
