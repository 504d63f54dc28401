import type { PointerEvent } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import { setGuides } from '../../../../core/edits/shot-edits.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { drag, type Zoom } from '../../../parts/zoom.ts';
import { frameOnScreen } from './on-screen.ts';

/** Lines of one's own that dragged layers catch: drag them, double-click takes one away. */
export function Guides({ document, shot, zoom }: { document: Document; shot: Shot; zoom: Zoom }) {
  const { dispatch } = useProject();
  const { width, height } = document.frame;
  const [left, top] = frameOnScreen(zoom, 0, 0);
  const [right, bottom] = frameOnScreen(zoom, width, height);
  const guide = (axis: 'x' | 'y', at: number, k: number) => {
    const [px, py] = frameOnScreen(zoom, axis === 'x' ? at : 0, axis === 'y' ? at : 0);
    const line = axis === 'x' ? { x1: px, x2: px, y1: top, y2: bottom } : { x1: left, x2: right, y1: py, y2: py };
    const set = (list: number[]): (typeof shot)['guides'] => ({ ...shot.guides, [axis]: list });
    const move = (event: PointerEvent): void => {
      event.stopPropagation();
      const gesture = `guide ${Date.now()}`;
      drag(event, (e) => {
        const to = zoom.toThing(e.clientX, e.clientY)[axis === 'x' ? 0 : 1];
        const list = shot.guides[axis].map((old, n) => (n === k ? Math.round(to) : old));
        dispatch(setGuides(shot.id, set(list)), gesture);
      });
    };
    return (
      <g key={`${axis}${k}`} data-guide={axis}>
        <line {...line} stroke="#f5f2eb" strokeWidth={2.5} strokeOpacity={0.6} />
        <line {...line} stroke="#44648a" strokeWidth={1.2} />
        <line
          {...line}
          stroke="transparent"
          strokeWidth={9}
          className={`pointer-events-auto ${axis === 'x' ? 'cursor-ew-resize' : 'cursor-ns-resize'}`}
          onPointerDown={move}
          onDoubleClick={() => dispatch(setGuides(shot.id, set(shot.guides[axis].filter((_, n) => n !== k))))}
        >
          <title>Guide: drag to move, double-click takes it away</title>
        </line>
      </g>
    );
  };
  return (
    <g>
      {shot.guides.x.map((at, k) => guide('x', at, k))}
      {shot.guides.y.map((at, k) => guide('y', at, k))}
    </g>
  );
}
