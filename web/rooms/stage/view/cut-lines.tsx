import { useState, type PointerEvent } from 'react';
import type { CutLine } from '../../../../core/edits/strip-edits.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { drag } from '../../../parts/zoom.ts';
import { useStage } from '../stage-state.ts';
import type { HandlesProps } from './layer-handles.tsx';
import { ViewCatcher } from './view-catcher.tsx';
import { onScreen } from './on-screen.ts';

/** Cuts are drawn as straight lines over a layer; Shift holds them upright or level. A press on one takes it away. */
export function CutLines({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { cutLines } = useStage();
  const [live, setLive] = useState<CutLine | null>(null);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  if (!matrix) return null;
  const at = (e: { clientX: number; clientY: number }): [number, number] =>
    transform(invert(matrix), ...zoom.toThing(e.clientX, e.clientY));
  const draw = (event: PointerEvent): void => {
    if (event.button !== 0 || zoom.panning) return;
    event.stopPropagation();
    const from = at(event);
    let line: CutLine = [from, from];
    drag(
      event,
      (move) => {
        const [x, y] = at(move);
        const upright = Math.abs(x - from[0]) < Math.abs(y - from[1]);
        line = [from, move.shiftKey ? (upright ? [from[0], y] : [x, from[1]]) : [x, y]];
        setLive(line);
      },
      () => {
        setLive(null);
        // A press that did not move is no line.
        if (Math.hypot(line[1][0] - from[0], line[1][1] - from[1]) * zoom.view.scale > 6)
          useStage.setState({ cutLines: [...cutLines, line].slice(-40) });
      },
    );
  };
  return (
    <g>
      <ViewCatcher name="cut-lines" onPress={draw} />
      {[...cutLines, ...(live ? [live] : [])].map((line, k) => {
        const [x1, y1] = onScreen(zoom, matrix, ...line[0]);
        const [x2, y2] = onScreen(zoom, matrix, ...line[1]);
        const way = { x1, y1, x2, y2 };
        return (
          <g key={k}>
            <line {...way} stroke="#f5f2eb" strokeWidth={4} strokeOpacity={0.7} />
            <line {...way} className="stroke-brick" strokeWidth={1.5} strokeDasharray="7 4" />
            <line
              {...way}
              data-cut={k}
              stroke="transparent"
              strokeWidth={10}
              className="pointer-events-auto cursor-pointer"
              onPointerDown={(event) => {
                event.stopPropagation();
                useStage.setState({ cutLines: cutLines.filter((_, n) => n !== k) });
              }}
            >
              <title>Press to take this cut away</title>
            </line>
          </g>
        );
      })}
    </g>
  );
}
