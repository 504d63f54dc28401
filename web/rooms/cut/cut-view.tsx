import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { Recipe } from '../../../core/scene/document.ts';
import { useKeys } from '../../parts/keys.ts';
import { drag, useZoom } from '../../parts/zoom.ts';
import type { CutPixels } from './cut-session.ts';
import { drawLook, type LookOptions } from './looks.ts';

export type Tool = 'keep' | 'drop' | null;
type Stroke = Recipe['keep'][number];

interface CutViewProps {
  pixels: CutPixels;
  version: number;
  options: LookOptions;
  tool: Tool;
  radius: number;
  recipe: Recipe | null;
  onStroke(stroke: Stroke): void;
  onWipe(wipe: number): void;
}

/** The picture, with strokes painted on it directly. */
export function CutView({ pixels, version, options, tool, radius, recipe, onStroke, onWipe }: CutViewProps) {
  const container = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const zoom = useZoom(container, pixels.picture);
  const { view, size } = zoom;
  const [live, setLive] = useState<Stroke | null>(null);
  const [pointer, setPointer] = useState<[number, number] | null>(null);

  useEffect(() => {
    const element = canvas.current;
    if (!element || size.width === 0) return;
    const ratio = window.devicePixelRatio;
    const width = Math.round(size.width * ratio);
    const height = Math.round(size.height * ratio);
    if (element.width !== width || element.height !== height) Object.assign(element, { width, height });
    drawLook(element, pixels, view, options);
  }, [pixels, version, view, size, options]);

  const strokeRadius = radius / Math.max(view.scale, 0.05);
  const start = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    if (zoom.panning || !tool) return zoom.startPan(event);
    let stroke: Stroke = { radius: strokeRadius, points: [roundPoint(zoom.toThing(event.clientX, event.clientY))] };
    setLive(stroke);
    drag(
      event,
      (move) => {
        const point = roundPoint(zoom.toThing(move.clientX, move.clientY));
        const first = stroke.points[0]!;
        const last = stroke.points.at(-1)!;
        // Shift holds a straight line from where the stroke began.
        if (move.shiftKey) stroke = { ...stroke, points: [first, point] };
        else if (Math.hypot(point[0] - last[0], point[1] - last[1]) * view.scale > 2)
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
    if (!tool) return;
    const arrows: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const arrow = arrows[event.key];
    const at = pointer ?? [pixels.picture.width / 2, pixels.picture.height / 2];
    if (arrow) {
      event.preventDefault();
      const far = (event.shiftKey ? 40 : 8) / view.scale;
      setPointer([at[0] + arrow[0] * far, at[1] + arrow[1] * far]);
    } else if (event.key === 'Enter' && !(event.target as HTMLElement).closest('button, a, input')) {
      onStroke({ radius: strokeRadius, points: [roundPoint(at)] });
    }
  });

  const cursor = zoom.panning || !tool ? 'cursor-grab' : 'cursor-none';
  return (
    <div
      ref={container}
      data-testid="cut-view"
      data-view={`${view.scale},${view.x},${view.y}`}
      className={`relative h-full overflow-hidden bg-field ${cursor}`}
      onPointerDown={start}
      onPointerMove={(event) => setPointer(zoom.toThing(event.clientX, event.clientY))}
      onPointerLeave={() => !live && setPointer(null)}
    >
      <canvas ref={canvas} className="absolute inset-0 size-full" aria-label="The picture and its cut" role="img" />
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
          {recipe && tool && <StrokeMarks strokes={recipe.keep} kind="keep" scale={view.scale} />}
          {recipe && tool && <StrokeMarks strokes={recipe.drop} kind="drop" scale={view.scale} />}
          {live && tool && <LiveStroke stroke={live} kind={tool} />}
        </g>
        {tool && pointer && !zoom.panning && (
          <g transform={`translate(${pointer[0] * view.scale + view.x} ${pointer[1] * view.scale + view.y})`}>
            <circle r={radius} fill="none" stroke="#1c2a30" strokeWidth={3} opacity={0.6} />
            <circle
              r={radius}
              fill="none"
              stroke="#f5f2eb"
              strokeWidth={1.5}
              strokeDasharray={tool === 'drop' ? '4 3' : undefined}
            />
            <path d={tool === 'keep' ? 'M-4 0H4M0-4V4' : 'M-4 0H4'} stroke="#f5f2eb" strokeWidth={1.5} />
          </g>
        )}
      </svg>
      {options.look === 'wipe' && (
        <WipeHandle zoom={zoom} width={pixels.picture.width} wipe={options.wipe} onWipe={onWipe} />
      )}
    </div>
  );
}

const roundPoint = ([x, y]: readonly [number, number]): [number, number] => [
  Math.round(x * 10) / 10,
  Math.round(y * 10) / 10,
];
const pathOf = (stroke: Stroke): string =>
  stroke.points.length === 1
    ? `M${stroke.points[0]!.join(' ')}h0.01`
    : `M${stroke.points.map((p) => p.join(' ')).join('L')}`;

function LiveStroke({ stroke, kind }: { stroke: Stroke; kind: 'keep' | 'drop' }) {
  return (
    <path
      d={pathOf(stroke)}
      fill="none"
      stroke={kind === 'keep' ? '#0e5b50' : '#ae3b27'}
      strokeOpacity={0.55}
      strokeWidth={stroke.radius * 2}
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  );
}

/** Keep strokes are solid with a plus at their head, Drop strokes dashed with a minus. */
function StrokeMarks({ strokes, kind, scale }: { strokes: Stroke[]; kind: 'keep' | 'drop'; scale: number }) {
  const colour = kind === 'keep' ? '#0e5b50' : '#ae3b27';
  return strokes.map((stroke, index) => {
    const [x, y] = stroke.points[0]!;
    return (
      <g key={index}>
        <path d={pathOf(stroke)} fill="none" stroke="#f5f2eb" strokeWidth={4 / scale} strokeLinecap="round" />
        <path
          d={pathOf(stroke)}
          fill="none"
          stroke={colour}
          strokeWidth={2 / scale}
          strokeDasharray={kind === 'drop' ? `${6 / scale} ${4 / scale}` : undefined}
          strokeLinecap="round"
        />
        <g transform={`translate(${x} ${y}) scale(${1 / scale})`}>
          <circle r={7} fill={colour} stroke="#f5f2eb" strokeWidth={1.5} />
          <path d={kind === 'keep' ? 'M-3.5 0H3.5M0-3.5V3.5' : 'M-3.5 0H3.5'} stroke="#f5f2eb" strokeWidth={1.8} />
        </g>
      </g>
    );
  });
}

interface WipeHandleProps {
  zoom: ReturnType<typeof useZoom>;
  width: number;
  wipe: number;
  onWipe(wipe: number): void;
}

function WipeHandle({ zoom, width, wipe, onWipe }: WipeHandleProps) {
  const x = zoom.view.x + width * wipe * zoom.view.scale;
  const clamp = (v: number): number => Math.max(0, Math.min(1, v));
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Wipe between before and after"
      aria-valuenow={Math.round(wipe * 100)}
      aria-valuemin={0}
      aria-valuemax={100}
      className="absolute inset-y-0 flex w-6 -translate-x-1/2 cursor-ew-resize items-center justify-center"
      style={{ left: x }}
      onKeyDown={(event) => {
        if (event.key === 'ArrowLeft') onWipe(clamp(wipe - 0.02));
        if (event.key === 'ArrowRight') onWipe(clamp(wipe + 0.02));
      }}
      onPointerDown={(event) => {
        event.stopPropagation();
        drag(event, (move) => onWipe(clamp(zoom.toThing(move.clientX, move.clientY)[0] / width)));
      }}
    >
      <span className="absolute inset-y-0 w-0.5 bg-saffron" />
      <span className="relative h-9 w-3 rounded-sm border-2 border-saffron bg-paper" />
    </div>
  );
}
