import type { PointerEvent } from 'react';
import type { Document } from '../../../core/document/document.ts';
import type { Framing, Shot } from '../../../core/document/shot.ts';
import { seenAtEnd } from '../../../core/scene/place.ts';
import { setFraming } from '../../../core/edits/camera-edits.ts';
import { useProject } from '../../data/project.ts';
import { drag, type Zoom } from '../../parts/zoom.ts';

interface FramingHandlesProps {
  document: Document;
  shot: Shot;
  zoom: Zoom;
}

/** The rectangles the camera sees at the first and the last frame, drawn on the scene at rest. */
export function FramingHandles({ document, shot, zoom }: FramingHandlesProps) {
  const { first, last } = shot.camera;
  const centre = (f: Framing): [number, number] => [
    (document.frame.width / 2 + f.x) * zoom.view.scale + zoom.view.x,
    (document.frame.height / 2 + f.y) * zoom.view.scale + zoom.view.y,
  ];
  const [ax, ay] = centre(first);
  const [bx, by] = centre(last);
  return (
    <g>
      <path d={`M${ax} ${ay}L${bx} ${by}`} stroke="#1c2a30" strokeOpacity={0.5} strokeWidth={3.5} />
      <path d={`M${ax} ${ay}L${bx} ${by}`} stroke="#f5f2eb" strokeWidth={1.5} />
      {(['first', 'last'] as const).map((end) => (
        <SeenBox key={end} end={end} document={document} shot={shot} zoom={zoom} />
      ))}
      <FramingBox which="last" framing={last} document={document} shot={shot} zoom={zoom} centre={[bx, by]} />
      <FramingBox which="first" framing={first} document={document} shot={shot} zoom={zoom} centre={[ax, ay]} />
    </g>
  );
}

/** What the camera truly sees at an end, where a counter-move holds the framed plane back from its Framing. */
function SeenBox({ end, document, shot, zoom }: FramingHandlesProps & { end: 'first' | 'last' }) {
  const framing = shot.camera[end];
  const seen = seenAtEnd(shot, end);
  if (Math.hypot(seen.x - framing.x, seen.y - framing.y) < 1) return null;
  const { width, height } = document.frame;
  const [w, h] = [width * seen.size * zoom.view.scale, height * seen.size * zoom.view.scale];
  const left = (width / 2 + seen.x) * zoom.view.scale + zoom.view.x - w / 2;
  const top = (height / 2 + seen.y) * zoom.view.scale + zoom.view.y - h / 2;
  return (
    <g data-seen={end}>
      <rect x={left} y={top} width={w} height={h} fill="none" stroke="#1c2a30" strokeOpacity={0.5} strokeWidth={3} />
      <rect
        x={left}
        y={top}
        width={w}
        height={h}
        fill="none"
        stroke="#f5f2eb"
        strokeWidth={1.5}
        strokeDasharray="2 4"
      />
      <text x={left + 6} y={end === 'first' ? top + 16 : top + h - 8} className="fill-paper text-[11px]">
        Seen at the {end} frame
      </text>
    </g>
  );
}

interface FramingBoxProps extends FramingHandlesProps {
  which: 'first' | 'last';
  framing: Framing;
  centre: [number, number];
}

function FramingBox({ which, framing, document, shot, zoom, centre }: FramingBoxProps) {
  const { dispatch } = useProject();
  const width = document.frame.width * framing.size * zoom.view.scale;
  const height = document.frame.height * framing.size * zoom.view.scale;
  const [cx, cy] = centre;
  const left = cx - width / 2;
  const top = cy - height / 2;
  const change = (next: Framing, gesture: string): void => dispatch(setFraming(shot.id, which, next), gesture);
  const move = (event: PointerEvent): void => {
    event.stopPropagation();
    const from = zoom.toThing(event.clientX, event.clientY);
    const gesture = `framing ${which} ${Date.now()}`;
    drag(event, (e) => {
      const to = zoom.toThing(e.clientX, e.clientY);
      let [dx, dy] = [to[0] - from[0], to[1] - from[1]];
      if (e.shiftKey) [dx, dy] = Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy];
      change({ ...framing, x: framing.x + dx, y: framing.y + dy }, gesture);
    });
  };
  const resize = (event: PointerEvent): void => {
    event.stopPropagation();
    const middle: [number, number] = [document.frame.width / 2 + framing.x, document.frame.height / 2 + framing.y];
    const distance = (e: { clientX: number; clientY: number }): number => {
      const [x, y] = zoom.toThing(e.clientX, e.clientY);
      return Math.hypot(x - middle[0], y - middle[1]);
    };
    const from = Math.max(1, distance(event));
    const gesture = `framing size ${which} ${Date.now()}`;
    drag(event, (e) => change({ ...framing, size: (framing.size * distance(e)) / from }, gesture));
  };
  const nudge = (event: React.KeyboardEvent): void => {
    const by = event.shiftKey ? 10 : 1;
    const arrows: Record<string, [number, number]> = {
      ArrowLeft: [-by, 0],
      ArrowRight: [by, 0],
      ArrowUp: [0, -by],
      ArrowDown: [0, by],
    };
    const arrow = arrows[event.key];
    if (!arrow) return;
    event.preventDefault();
    event.stopPropagation();
    change({ ...framing, x: framing.x + arrow[0], y: framing.y + arrow[1] }, `framing keys ${which}`);
  };
  const dashes = which === 'last' ? '8 5' : undefined;
  const name = which === 'first' ? 'First frame' : 'Last frame';
  // The first one's label sits outside its upper left corner, the last one's inside its lower right: they cannot meet.
  const label = which === 'first' ? [left + 2, top - 9] : [left + width - 90, top + height - 16];
  return (
    <g>
      <rect
        x={left}
        y={top}
        width={width}
        height={height}
        fill="none"
        stroke="#1c2a30"
        strokeOpacity={0.55}
        strokeWidth={4}
      />
      <rect
        x={left}
        y={top}
        width={width}
        height={height}
        fill="none"
        stroke="#d99a00"
        strokeWidth={2}
        strokeDasharray={dashes}
      />
      {/* Only the border takes the pointer, so that a Framing inside the other can be reached. */}
      <rect
        x={left}
        y={top}
        width={width}
        height={height}
        fill="none"
        stroke="transparent"
        strokeWidth={14}
        tabIndex={0}
        role="button"
        aria-label={`${name} framing`}
        data-framing={which}
        className="pointer-events-auto cursor-move"
        onPointerDown={move}
        onKeyDown={nudge}
      />
      <g
        transform={`translate(${label[0]} ${label[1]})`}
        className="pointer-events-auto cursor-move"
        onPointerDown={move}
      >
        <rect x={-4} y={-13} width={82} height={18} rx={3} fill="#d99a00" />
        <text className="fill-ink text-[12px] font-medium">{name}</text>
      </g>
      {[
        [left, top],
        [left + width, top],
        [left, top + height],
        [left + width, top + height],
      ].map(([x, y], index) => (
        <rect
          key={index}
          x={x! - 5}
          y={y! - 5}
          width={10}
          height={10}
          rx={2}
          className="pointer-events-auto cursor-nwse-resize fill-paper stroke-saffron"
          strokeWidth={2}
          onPointerDown={resize}
        />
      ))}
    </g>
  );
}
