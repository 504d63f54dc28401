import type { PointerEvent } from 'react';

interface BendHandleProps {
  /** The point it belongs to, and itself, in CSS pixels of the view. */
  from: [number, number];
  at: [number, number];
  title: string;
  onPointerDown(event: PointerEvent): void;
}

/** A handle that bends a curve, tied to its point by a line. */
export function BendHandle({ from, at, title, onPointerDown }: BendHandleProps) {
  return (
    <g>
      <line x1={from[0]} y1={from[1]} x2={at[0]} y2={at[1]} stroke="#d99a00" strokeWidth={1.3} />
      <circle
        cx={at[0]}
        cy={at[1]}
        r={5}
        className="pointer-events-auto cursor-move fill-paper stroke-saffron"
        strokeWidth={2}
        onPointerDown={onPointerDown}
      >
        <title>{title}</title>
      </circle>
    </g>
  );
}
