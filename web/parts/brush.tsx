import { useState, type PointerEvent } from 'react';
import { arrowOf, useKeys } from './keys.ts';
import { drag, type Zoom } from './zoom.ts';

export interface BrushStroke {
  radius: number;
  points: [number, number][];
}

interface BrushOptions {
  zoom: Zoom;
  /** Whether the brush is in the hand; otherwise drags move the view. */
  active: boolean;
  /** On screen, CSS pixels. */
  radius: number;
  /** Where the crosshair begins when arrow keys move it. */
  middle: [number, number];
  onStroke(stroke: BrushStroke): void;
  /** With Alt held a press marks a place instead. */
  onAltPress?(point: [number, number]): void;
}

export interface Brush {
  live: BrushStroke | null;
  pointer: [number, number] | null;
  onPointerDown(event: PointerEvent): void;
  onPointerMove(event: PointerEvent): void;
  onPointerLeave(): void;
}

export const roundPoint = ([x, y]: readonly [number, number]): [number, number] => [
  Math.round(x * 10) / 10,
  Math.round(y * 10) / 10,
];

/**
 * A round brush on a zoomable thing. Shift holds a straight line; arrow keys move a crosshair and Enter paints there, so
 * that all of it works without a mouse.
 */
export function useBrush({ zoom, active, radius, middle, onStroke, onAltPress }: BrushOptions): Brush {
  const [live, setLive] = useState<BrushStroke | null>(null);
  const [pointer, setPointer] = useState<[number, number] | null>(null);
  const { scale } = zoom.view;
  const strokeRadius = radius / Math.max(scale, 0.05);

  const onPointerDown = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    if (zoom.panning || !active) return zoom.startPan(event);
    const first = roundPoint(zoom.toThing(event.clientX, event.clientY));
    if (event.altKey && onAltPress) return onAltPress(first);
    let stroke: BrushStroke = { radius: strokeRadius, points: [first] };
    setLive(stroke);
    drag(
      event,
      (move) => {
        const point = roundPoint(zoom.toThing(move.clientX, move.clientY));
        const last = stroke.points.at(-1)!;
        // Shift holds a straight line from where the stroke began.
        if (move.shiftKey) stroke = { ...stroke, points: [first, point] };
        else if (Math.hypot(point[0] - last[0], point[1] - last[1]) * scale > 2)
          stroke = { ...stroke, points: [...stroke.points, point] };
        setLive(stroke);
        setPointer(point);
      },
      () => {
        setLive(null);
        onStroke(stroke);
      },
    );
  };

  useKeys((event) => {
    if (!active) return;
    const arrow = arrowOf(event, 8 / scale, 40 / scale);
    const at = pointer ?? middle;
    if (arrow) {
      event.preventDefault();
      setPointer([at[0] + arrow[0], at[1] + arrow[1]]);
    } else if (event.key === 'Enter' && !(event.target as HTMLElement).closest('button, a, input')) {
      if (event.altKey && onAltPress) onAltPress(roundPoint(at));
      else onStroke({ radius: strokeRadius, points: [roundPoint(at)] });
    }
  });

  return {
    live,
    pointer,
    onPointerDown,
    onPointerMove: (event) => setPointer(zoom.toThing(event.clientX, event.clientY)),
    onPointerLeave: () => {
      if (!live) setPointer(null);
    },
  };
}

const pathOf = (points: readonly (readonly [number, number])[]): string =>
  points.length === 1 ? `M${points[0]!.join(' ')}h0.01` : `M${points.map((p) => p.join(' ')).join('L')}`;

/** A stroke as wide as its brush, while it is painted or as a painted region. */
export function WideStroke({
  stroke,
  colour,
  opacity = 0.55,
}: {
  stroke: BrushStroke;
  colour: string;
  opacity?: number;
}) {
  return (
    <path
      d={pathOf(stroke.points)}
      fill="none"
      stroke={colour}
      strokeOpacity={opacity}
      strokeWidth={stroke.radius * 2}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  );
}

/** A line as wide as it is at each of its points. */
export function TaperedLine({
  line: { points, radii },
  colour,
}: {
  line: { points: readonly (readonly [number, number])[]; radii: readonly number[] };
  colour: string;
}) {
  return (
    <g stroke={colour} opacity={0.8} strokeLinecap="round">
      {points.slice(1).map(([x, y], k) => (
        <line key={k} x1={points[k]![0]} y1={points[k]![1]} x2={x} y2={y} strokeWidth={radii[k]! + radii[k + 1]!} />
      ))}
    </g>
  );
}

/** The ring that shows where and how large the brush is. */
export function BrushRing({
  at,
  view,
  radius,
  mark,
  dashed,
}: {
  at: [number, number];
  view: { scale: number; x: number; y: number };
  radius: number;
  mark: 'plus' | 'minus' | 'dot';
  dashed?: boolean;
}) {
  const marks = { plus: 'M-4 0H4M0-4V4', minus: 'M-4 0H4', dot: 'M-1 0H1M0-1V1' };
  return (
    <g transform={`translate(${at[0] * view.scale + view.x} ${at[1] * view.scale + view.y})`}>
      <circle r={radius} fill="none" stroke="#1c2a30" strokeWidth={3} opacity={0.6} />
      <circle r={radius} fill="none" stroke="#f5f2eb" strokeWidth={1.5} strokeDasharray={dashed ? '4 3' : undefined} />
      <path d={marks[mark]} stroke="#f5f2eb" strokeWidth={1.5} />
    </g>
  );
}

/** Strokes as thin lines: solid with a plus at their head, or dashed with a minus; never told apart by colour alone. */
export function SignedStrokes({
  strokes,
  sign,
  scale,
}: {
  strokes: readonly BrushStroke[];
  sign: 'plus' | 'minus';
  scale: number;
}) {
  const colour = sign === 'plus' ? '#0e5b50' : '#ae3b27';
  return strokes.map((stroke, index) => {
    const [x, y] = stroke.points[0]!;
    const d = pathOf(stroke.points);
    return (
      <g key={index}>
        <path d={d} fill="none" stroke="#f5f2eb" strokeWidth={4 / scale} strokeLinecap="round" />
        <path
          d={d}
          fill="none"
          stroke={colour}
          strokeWidth={2 / scale}
          strokeDasharray={sign === 'minus' ? `${6 / scale} ${4 / scale}` : undefined}
          strokeLinecap="round"
        />
        <g transform={`translate(${x} ${y}) scale(${1 / scale})`}>
          <circle r={7} fill={colour} stroke="#f5f2eb" strokeWidth={1.5} />
          <path d={sign === 'plus' ? 'M-3.5 0H3.5M0-3.5V3.5' : 'M-3.5 0H3.5'} stroke="#f5f2eb" strokeWidth={1.8} />
        </g>
      </g>
    );
  });
}
