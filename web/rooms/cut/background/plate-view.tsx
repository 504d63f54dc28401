import { useEffect, useRef, useState, type PointerEvent, type ReactNode } from 'react';
import { strokeReaches } from '../../../../core/cut/strokes.ts';
import { BrushRing, roundPoint, useBrush, WideStroke, type BrushStroke } from '../../../parts/brush.tsx';
import { drag, useZoom } from '../../../parts/zoom.ts';
import { WipeHandle } from '../cut-view.tsx';

export interface Pad {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export type PlateLook = 'background' | 'picture' | 'wipe';

interface PlateViewProps {
  plate: ImageBitmap;
  /** Where the plate lies in picture pixels. */
  bounds: { x: number; y: number; width: number; height: number };
  picture: ImageBitmap;
  look: PlateLook;
  /** Borders that are to be added; dragging a border changes them. */
  pad: Pad | null;
  onPad(pad: Pad): void;
  /** A take that is looked at or in the making, as large as plate and borders together. */
  preview: ImageBitmap | null;
  tool: { kind: 'brush'; colour: string; mark: 'plus' | 'minus' | 'dot' } | { kind: 'line' } | null;
  radius: number;
  onStroke(stroke: BrushStroke): void;
  onLine(from: [number, number], to: [number, number]): void;
  onSource(point: [number, number]): void;
  /** Marks in picture pixels. */
  children?: (scale: number) => ReactNode;
}

const none: Pad = { left: 0, top: 0, right: 0, bottom: 0 };

/** The background, with everything that is painted, drawn or dragged on it in picture pixels. */
export function PlateView(props: PlateViewProps) {
  const { plate, bounds, picture, look, preview, tool, radius, children } = props;
  const pad = props.pad ?? none;
  const container = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [wipe, setWipe] = useState(0.5);
  const [line, setLine] = useState<{ from: [number, number]; to: [number, number] } | null>(null);
  const width = bounds.width + pad.left + pad.right;
  const height = bounds.height + pad.top + pad.bottom;
  const zoom = useZoom(container, { width, height }, props.pad ? 48 : 24);
  const { view, size } = zoom;
  const left = bounds.x - pad.left;
  const top = bounds.y - pad.top;
  const toPicture = ([x, y]: readonly [number, number]): [number, number] => roundPoint([x + left, y + top]);

  const brush = useBrush({
    zoom,
    active: tool?.kind === 'brush',
    radius,
    middle: [width / 2, height / 2],
    // Beside the picture there is nothing to paint on.
    onStroke: (stroke) => {
      if (strokeReaches(stroke, { width, height })) props.onStroke({ ...stroke, points: stroke.points.map(toPicture) });
    },
    onAltPress: (point) => props.onSource(toPicture(point)),
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element || size.width === 0) return;
    const ratio = window.devicePixelRatio;
    Object.assign(element, { width: Math.round(size.width * ratio), height: Math.round(size.height * ratio) });
    const context = element.getContext('2d')!;
    context.fillStyle = '#777b7c';
    context.fillRect(0, 0, element.width, element.height);
    const scale = view.scale * ratio;
    context.setTransform(scale, 0, 0, scale, view.x * ratio, view.y * ratio);
    context.imageSmoothingEnabled = scale < 2;
    if (look !== 'picture') {
      if (preview) context.drawImage(preview, 0, 0, width, height);
      else context.drawImage(plate, pad.left, pad.top);
    }
    if (look !== 'background') {
      context.save();
      context.beginPath();
      context.rect(0, 0, look === 'wipe' ? width * wipe : width, height);
      context.clip();
      context.clearRect(0, 0, width, height);
      context.drawImage(picture, -left, -top);
      context.restore();
    }
  }, [plate, picture, preview, view, size, look, wipe, width, height, left, top, pad.left, pad.top]);

  const pointerDown = (event: PointerEvent): void => {
    if (tool?.kind !== 'line' || zoom.panning || event.button !== 0) return brush.onPointerDown(event);
    const from = zoom.toThing(event.clientX, event.clientY);
    let to = from;
    drag(
      event,
      (move) => {
        to = zoom.toThing(move.clientX, move.clientY);
        setLine({ from, to });
      },
      () => {
        setLine(null);
        if (Math.hypot(to[0] - from[0], to[1] - from[1]) * view.scale > 8) props.onLine(toPicture(from), toPicture(to));
      },
    );
  };

  return (
    <div
      ref={container}
      data-testid="plate-view"
      data-view={`${view.scale},${view.x - left * view.scale},${view.y - top * view.scale}`}
      className={`relative h-full overflow-hidden bg-field ${tool && !zoom.panning ? (tool.kind === 'line' ? 'cursor-crosshair' : 'cursor-none') : 'cursor-grab'}`}
      onPointerDown={pointerDown}
      onPointerMove={brush.onPointerMove}
      onPointerLeave={brush.onPointerLeave}
    >
      <canvas ref={canvas} className="absolute inset-0 size-full" aria-label="The background" role="img" />
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
          <g transform={`translate(${-left} ${-top})`}>{children?.(view.scale)}</g>
          {brush.live && tool?.kind === 'brush' && <WideStroke stroke={brush.live} colour={tool.colour} />}
          {line && <GuideMark from={line.from} to={line.to} scale={view.scale} />}
          {props.pad && !preview && (
            <path
              d={`M0 0H${width}V${height}H0ZM${pad.left} ${pad.top}v${bounds.height}h${bounds.width}v${-bounds.height}Z`}
              fill="#f5f2eb"
              fillOpacity={0.35}
              fillRule="evenodd"
              stroke="#1c2a30"
              strokeDasharray={`${6 / view.scale} ${4 / view.scale}`}
              strokeWidth={1 / view.scale}
            />
          )}
        </g>
        {tool?.kind === 'brush' && brush.pointer && !zoom.panning && (
          <BrushRing at={brush.pointer} view={view} radius={radius} mark={tool.mark} dashed={tool.mark === 'minus'} />
        )}
      </svg>
      {props.pad && <BorderHandles pad={pad} view={view} width={width} height={height} onPad={props.onPad} />}
      {look === 'wipe' && <WipeHandle zoom={zoom} width={width} wipe={wipe} onWipe={setWipe} />}
    </div>
  );
}

/** A guide line: solid between two small bars. */
export function GuideMark({
  from,
  to,
  scale,
}: {
  from: readonly [number, number];
  to: readonly [number, number];
  scale: number;
}) {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
  const [nx, ny] = [(-(to[1] - from[1]) / length) * (6 / scale), ((to[0] - from[0]) / length) * (6 / scale)];
  const bar = ([x, y]: readonly [number, number]): string => `M${x - nx} ${y - ny}L${x + nx} ${y + ny}`;
  const d = `M${from.join(' ')}L${to.join(' ')}${bar(from)}${bar(to)}`;
  return (
    <>
      <path d={d} stroke="#1c2a30" strokeWidth={4 / scale} fill="none" opacity={0.6} />
      <path d={d} stroke="#d99a00" strokeWidth={2 / scale} fill="none" />
    </>
  );
}

interface BorderHandlesProps {
  pad: Pad;
  view: { scale: number; x: number; y: number };
  width: number;
  height: number;
  onPad(pad: Pad): void;
}

const sides = [
  { side: 'left', x: 0, y: 0.5, sign: -1, across: true },
  { side: 'right', x: 1, y: 0.5, sign: 1, across: true },
  { side: 'top', x: 0.5, y: 0, sign: -1, across: false },
  { side: 'bottom', x: 0.5, y: 1, sign: 1, across: false },
] as const;

function BorderHandles({ pad, view, width, height, onPad }: BorderHandlesProps) {
  const clamp = (v: number): number => Math.max(0, Math.min(8192, Math.round(v)));
  return sides.map(({ side, x, y, sign, across }) => (
    <button
      key={side}
      type="button"
      aria-label={`Widen ${side}: ${pad[side]} pixels`}
      title={`Drag to widen at the ${side}; arrow keys by 10`}
      className={`absolute flex -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded border-2 border-saffron bg-paper ${across ? 'h-10 w-3 cursor-ew-resize' : 'h-3 w-10 cursor-ns-resize'}`}
      style={{ left: view.x + x * width * view.scale, top: view.y + y * height * view.scale }}
      onKeyDown={(event) => {
        const step = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
        if (!step) return;
        event.preventDefault();
        onPad({ ...pad, [side]: clamp(pad[side] + sign * step * (event.shiftKey ? 100 : 10)) });
      }}
      onPointerDown={(event) => {
        event.stopPropagation();
        const from = across ? event.clientX : event.clientY;
        const before = pad[side];
        // The view refits as the ground grows; the scale at the start keeps the drag steady.
        const { scale } = view;
        drag(event, (move) =>
          onPad({ ...pad, [side]: clamp(before + (sign * ((across ? move.clientX : move.clientY) - from)) / scale) }),
        );
      }}
    />
  ));
}
