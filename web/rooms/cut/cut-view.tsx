import { useEffect, useEffectEvent, useRef, useState, type MouseEvent, type PointerEvent, type ReactNode } from 'react';
import { strokeReaches } from '../../../core/cut/strokes.ts';
import type { SubjectRecipe } from '../../../core/document/recipe.ts';
import { BrushRing, SignedStrokes, TaperedLine, useBrush, WideStroke } from '../../parts/brush.tsx';
import { drag, useZoom, type Zoom } from '../../parts/zoom.ts';
import { ZoomField } from '../../parts/zoom-field.tsx';
import type { CutPixels } from './cut-session.ts';
import { isOutlineTool, type CutTool } from './cut-tools.ts';
import { drawLook, type LookOptions } from './looks.ts';
import type { LineDraft } from './line-draft.ts';
import type { Scene } from './scene.ts';

type Stroke = SubjectRecipe['keep'][number];

interface CutViewProps {
  pixels: CutPixels;
  version: number;
  options: LookOptions;
  /** For the look on the scene. */
  scene?: Scene | null;
  tool: CutTool;
  radius: number;
  recipe: SubjectRecipe | null;
  /** Thin lines that Keep and Drop follow from place to place; null where they are painted. */
  lines: LineDraft | null;
  onStroke(stroke: Stroke): void;
  onBox(box: { x: number; y: number; width: number; height: number }): void;
  /** A press on the picture that is no drag; null where it means nothing. */
  onPoint: ((at: [number, number]) => void) | null;
  onWipe(wipe: number): void;
  /** A place to bring into view; a new object each time. */
  focus: { x: number; y: number; width: number; height: number } | null;
  /** What lies over the picture and answers to the pointer first. */
  over?(zoom: Zoom): ReactNode;
}

/** The picture, with strokes painted on it directly. */
export function CutView({
  pixels,
  version,
  options,
  scene = null,
  tool,
  radius,
  recipe,
  lines,
  onStroke,
  onBox,
  onPoint,
  onWipe,
  focus,
  over,
}: CutViewProps) {
  const container = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const zoom = useZoom(container, pixels.picture);
  const { view, size } = zoom;
  const bringIntoView = useEffectEvent((place: NonNullable<CutViewProps['focus']>) => zoom.show(place));
  useEffect(() => {
    if (focus) bringIntoView(focus);
  }, [focus]);
  useEffect(() => {
    const element = canvas.current;
    if (!element || size.width === 0) return;
    const ratio = window.devicePixelRatio;
    const width = Math.round(size.width * ratio);
    const height = Math.round(size.height * ratio);
    if (element.width !== width || element.height !== height) Object.assign(element, { width, height });
    drawLook(element, pixels, view, options, scene);
  }, [pixels, version, view, size, options, scene]);

  const brush = useBrush({
    zoom,
    active: tool !== null && !placing.includes(tool) && !isOutlineTool(tool),
    radius,
    middle: [pixels.picture.width / 2, pixels.picture.height / 2],
    // Beside the picture there is nothing to paint on.
    onStroke: (stroke) => {
      if (!strokeReaches(stroke, pixels.picture)) return;
      if (lines) lines.take(stroke, view.scale);
      else onStroke(stroke);
    },
  });
  const followPointer = useEffectEvent((at: [number, number]) => lines?.look(at, radius / Math.max(view.scale, 0.05)));
  useEffect(() => {
    if (brush.pointer) followPointer(brush.pointer);
  }, [brush.pointer]);

  const [drawn, setDrawn] = useState<{ x: number; y: number; width: number; height: number } | null>(null);
  const pressedAt = useRef<[number, number]>([0, 0]);
  const pointerDown = (event: PointerEvent): void => {
    pressedAt.current = [event.clientX, event.clientY];
    if (tool !== 'box' || zoom.panning || event.button !== 0) return brush.onPointerDown(event);
    const from = zoom.toThing(event.clientX, event.clientY);
    let box: typeof drawn = null;
    drag(
      event,
      (move) => {
        box = boxBetween(from, zoom.toThing(move.clientX, move.clientY), pixels.picture);
        setDrawn(box);
      },
      () => {
        setDrawn(null);
        if (box && box.width * view.scale > 6 && box.height * view.scale > 6) onBox(box);
      },
    );
  };
  const click = (event: MouseEvent): void => {
    const [x, y] = pressedAt.current;
    if (!onPoint || zoom.panning || Math.hypot(event.clientX - x, event.clientY - y) > 4) return;
    const [u, v] = zoom.toThing(event.clientX, event.clientY);
    const { width, height } = pixels.picture;
    if (u >= 0 && v >= 0 && u < width && v < height) onPoint([Math.floor(u), Math.floor(v)]);
  };
  const shownBox = drawn ?? recipe?.box ?? null;
  const mark = marksOf[tool ?? 'keep'] ?? marksOf.keep!;
  const cursor =
    zoom.panning || (!tool && !onPoint)
      ? 'cursor-grab'
      : !tool || placing.includes(tool)
        ? 'cursor-crosshair'
        : 'cursor-none';
  return (
    <div
      ref={container}
      data-testid="cut-view"
      data-view={`${view.scale},${view.x},${view.y}`}
      className={`relative h-full overflow-hidden bg-field ${cursor}`}
      onPointerDown={pointerDown}
      onClick={click}
      onPointerMove={brush.onPointerMove}
      onPointerLeave={brush.onPointerLeave}
    >
      <canvas ref={canvas} className="absolute inset-0 size-full" aria-label="The picture and its cut" role="img" />
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
          {recipe && tool && <SignedStrokes strokes={recipe.keep} sign="plus" scale={view.scale} />}
          {recipe && tool && <SignedStrokes strokes={recipe.drop} sign="minus" scale={view.scale} />}
          {brush.live && tool && !lines && <WideStroke stroke={brush.live} colour={mark.colour} />}
          {brush.live && lines && (
            <SignedStrokes strokes={[brush.live]} sign={mark.sign === 'minus' ? 'minus' : 'plus'} scale={view.scale} />
          )}
          {lines?.shown.map((line, k) => (
            <TaperedLine key={k} line={line} colour={mark.colour} />
          ))}
          {lines?.from && (
            <circle
              cx={lines.from[0]}
              cy={lines.from[1]}
              r={4 / view.scale}
              fill={mark.colour}
              stroke="#f5f2eb"
              strokeWidth={1.5 / view.scale}
            />
          )}
          {recipe?.at && (
            <g
              transform={`translate(${recipe.at.join()}) scale(${1 / view.scale})`}
              fill="none"
              data-testid="pointed-at"
            >
              <circle r={7} stroke="#1d2522" strokeWidth={4} />
              <circle r={7} stroke="#f5f2eb" strokeWidth={2} />
            </g>
          )}
          {shownBox && (
            <rect
              {...shownBox}
              fill="none"
              stroke="#d99a00"
              strokeWidth={2 / view.scale}
              strokeDasharray={drawn ? undefined : `${5 / view.scale} ${4 / view.scale}`}
            />
          )}
        </g>
        {tool && !placing.includes(tool) && !isOutlineTool(tool) && brush.pointer && !zoom.panning && (
          <BrushRing
            at={brush.pointer}
            view={view}
            radius={tool === 'screen' || lines ? 5 : radius}
            mark={mark.sign}
            dashed={mark.sign === 'minus'}
          />
        )}
      </svg>
      {over?.(zoom)}
      <ZoomField zoom={zoom} />
      {options.look === 'wipe' && (
        <WipeHandle zoom={zoom} width={pixels.picture.width} wipe={options.wipe} onWipe={onWipe} />
      )}
    </div>
  );
}

/** Tools that show a place or a part of the picture, and do not paint. */
const placing: readonly CutTool[] = ['box', 'point'];

/** How each tool's brush looks; never by colour alone. */
const marksOf: Partial<Record<NonNullable<CutTool>, { colour: string; sign: 'plus' | 'minus' | 'dot' }>> = {
  keep: { colour: '#0e5b50', sign: 'plus' },
  drop: { colour: '#ae3b27', sign: 'minus' },
  restore: { colour: '#0e5b50', sign: 'plus' },
  wipe: { colour: '#ae3b27', sign: 'minus' },
  soften: { colour: '#44648a', sign: 'dot' },
  refine: { colour: '#d99a00', sign: 'dot' },
  screen: { colour: '#d99a00', sign: 'dot' },
};

function boxBetween(
  a: readonly [number, number],
  b: readonly [number, number],
  size: { width: number; height: number },
) {
  const clampX = (v: number): number => Math.max(0, Math.min(size.width, Math.round(v)));
  const clampY = (v: number): number => Math.max(0, Math.min(size.height, Math.round(v)));
  const [x, y] = [clampX(Math.min(a[0], b[0])), clampY(Math.min(a[1], b[1]))];
  return { x, y, width: clampX(Math.max(a[0], b[0])) - x, height: clampY(Math.max(a[1], b[1])) - y };
}

interface WipeHandleProps {
  zoom: ReturnType<typeof useZoom>;
  width: number;
  wipe: number;
  onWipe(wipe: number): void;
}

export function WipeHandle({ zoom, width, wipe, onWipe }: WipeHandleProps) {
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
