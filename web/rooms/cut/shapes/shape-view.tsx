import type { PointerEvent } from 'react';
import { movedPath, movedPoints, withHandle, withoutPoints } from '../../../../core/path/edit-path.ts';
import { nearestOn, withPointAt, type Path, type Point } from '../../../../core/path/path.ts';
import type { Shape } from '../../../../core/path/shapes.ts';
import { svgData } from '../../../../core/formats/svg/geometry.ts';
import { arrowOf, isControl, useKeys } from '../../../parts/keys.ts';
import { drag, type Zoom } from '../../../parts/zoom.ts';
import type { CutTool, OutlineState } from '../cut-tools.ts';
import { catchRadius, useOutlineDraft, type OutlineDraft } from './outline-draft.ts';

export interface ShapeViewProps {
  zoom: Zoom;
  tool: CutTool;
  size: { width: number; height: number };
  shapes: readonly Shape[];
  outline: OutlineState;
  setOutline(change: Partial<OutlineState>): void;
  wire(from: Point, to: Point, strength: number): Promise<Point[]>;
  onShapes(shapes: Shape[], name: string, gesture?: string): void;
  onPath(path: Path): void;
}

const dashes: Record<Shape['how'], string | undefined> = { add: undefined, take: '7 4', within: '2 4' };

/** The outlines over the picture: the chosen one with its points and handles, and the one that is being drawn. */
export function ShapeView(props: ShapeViewProps) {
  const { zoom, tool, size, shapes, outline, setOutline, wire, onPath } = props;
  const { view } = zoom;
  const draft = useOutlineDraft({ zoom, tool, outline, middle: [size.width / 2, size.height / 2], wire, onPath });
  const chosen = shapes.find((shape) => shape.id === outline.shape) ?? null;
  const edit = usePointEditing(props, chosen);
  const drawing = tool !== 'points';
  const pointerDown = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    // The picture below answers to nothing while outlines are drawn or changed, except being moved with Space.
    event.stopPropagation();
    if (zoom.panning) return zoom.startPan(event);
    if (drawing) draft.onPointerDown(event);
    else edit.onPointerDown(event);
  };
  return (
    <svg
      className={`absolute inset-0 size-full ${drawing ? 'cursor-crosshair' : 'cursor-default'}`}
      data-testid="shape-view"
      role="application"
      aria-label="Outlines"
      onPointerDown={pointerDown}
      onPointerMove={draft.onPointerMove}
      onDoubleClick={(event) => (drawing ? draft.onDoubleClick() : edit.onDoubleClick(event))}
    >
      <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
        {shapes.map((shape) => (
          <Outline
            key={shape.id}
            data={svgData(shape.path)}
            scale={view.scale}
            dash={dashes[shape.how]}
            strong={shape === chosen}
            faint={shape.muted}
          />
        ))}
        <Draft draft={draft} tool={tool} scale={view.scale} />
      </g>
      {chosen && !drawing && (
        <Points
          path={chosen.path}
          chosen={outline.points}
          zoom={zoom}
          onPoint={edit.pressPoint}
          onHandle={edit.pressHandle}
        />
      )}
      {draft.pointer && drawing && <Crosshair at={draft.pointer} zoom={zoom} closing={draft.closing} />}
      {shapes.length > 0 && !drawing && !chosen && (
        <text x={16} y={26} className="fill-paper text-[13px]" onClick={() => setOutline({ shape: shapes[0]!.id })}>
          Press an outline to change it.
        </text>
      )}
    </svg>
  );
}

function Outline({
  data,
  scale,
  dash,
  strong,
  faint,
}: {
  data: string;
  scale: number;
  dash?: string;
  strong?: boolean;
  faint?: boolean;
}) {
  const dashed = dash
    ?.split(' ')
    .map((v) => Number(v) / scale)
    .join(' ');
  return (
    <g opacity={faint ? 0.4 : 1} pointerEvents="none">
      <path d={data} fill="none" stroke="#1c2a30" strokeOpacity={0.7} strokeWidth={(strong ? 4 : 3) / scale} />
      <path
        d={data}
        fill="none"
        stroke={strong ? '#d99a00' : '#f5f2eb'}
        strokeWidth={(strong ? 2 : 1.3) / scale}
        strokeDasharray={dashed}
      />
    </g>
  );
}

function Draft({ draft, tool, scale }: { draft: OutlineDraft; tool: CutTool; scale: number }) {
  const { line, live, points, form, pointer } = draft;
  const through = (way: readonly Point[]): string =>
    way.length > 1 ? `M${way.map((p) => p.join(' ')).join('L')}` : '';
  const pen = points.length > 0 && tool === 'pen' ? points : [];
  const next = pen.length > 0 && pointer ? [...pen, { at: pointer, in: null, out: null, smooth: false }] : pen;
  return (
    <>
      {line.length > 1 && <Outline data={through(line)} scale={scale} strong />}
      {live.length > 1 && <Outline data={through(live)} scale={scale} dash="4 3" strong />}
      {next.length > 1 && <Outline data={svgData({ points: next, closed: false })} scale={scale} strong />}
      {form && <Outline data={svgData(form)} scale={scale} strong />}
      {[line[0], ...pen.map((p) => p.at)].map(
        (at, k) =>
          at && (
            <circle
              key={k}
              cx={at[0]}
              cy={at[1]}
              r={5 / scale}
              fill="#f5f2eb"
              stroke="#d99a00"
              strokeWidth={2 / scale}
            />
          ),
      )}
    </>
  );
}

function Crosshair({ at, zoom, closing }: { at: Point; zoom: Zoom; closing: boolean }) {
  const [x, y] = [at[0] * zoom.view.scale + zoom.view.x, at[1] * zoom.view.scale + zoom.view.y];
  return (
    <g transform={`translate(${x} ${y})`} pointerEvents="none">
      <path d="M-9 0H9M0-9V9" stroke="#1c2a30" strokeWidth={3} opacity={0.5} />
      <path d="M-9 0H9M0-9V9" stroke="#f5f2eb" strokeWidth={1.2} />
      {closing && <circle r={catchRadius} fill="none" stroke="#d99a00" strokeWidth={2.5} />}
    </g>
  );
}

interface PointsProps {
  path: Path;
  chosen: ReadonlySet<number>;
  zoom: Zoom;
  onPoint(event: PointerEvent, index: number): void;
  onHandle(event: PointerEvent, index: number, side: 'in' | 'out'): void;
}

/** Corner points are squares, smooth ones round; handles show at chosen points. */
function Points({ path, chosen, zoom, onPoint, onHandle }: PointsProps) {
  const { scale, x, y } = zoom.view;
  const screen = (at: Point): Point => [at[0] * scale + x, at[1] * scale + y];
  return path.points.map((point, k) => {
    const [px, py] = screen(point.at);
    const isChosen = chosen.has(k);
    const handles = (['in', 'out'] as const).flatMap((side) => {
      const offset = point[side];
      return offset && isChosen ? [{ side, end: screen([point.at[0] + offset[0], point.at[1] + offset[1]]) }] : [];
    });
    const look = { fill: isChosen ? '#d99a00' : '#f5f2eb', stroke: '#1c2a30', strokeWidth: 1.4 };
    return (
      <g key={k}>
        {handles.map(({ side, end }) => (
          <g key={side}>
            <path d={`M${px} ${py}L${end.join(' ')}`} stroke="#d99a00" strokeWidth={1.4} />
            <circle
              cx={end[0]}
              cy={end[1]}
              r={4.5}
              fill="#f5f2eb"
              stroke="#d99a00"
              strokeWidth={1.8}
              className="cursor-move"
              data-handle={`${k}-${side}`}
              onPointerDown={(event) => onHandle(event, k, side)}
            />
          </g>
        ))}
        <g className="cursor-move" data-point={k} onPointerDown={(event) => onPoint(event, k)}>
          {point.smooth ? (
            <circle cx={px} cy={py} r={5} {...look} />
          ) : (
            <rect x={px - 4.5} y={py - 4.5} width={9} height={9} {...look} />
          )}
        </g>
      </g>
    );
  });
}

/** Moving, adding and taking away points of the chosen shape. */
function usePointEditing({ zoom, tool, shapes, outline, setOutline, onShapes }: ShapeViewProps, chosen: Shape | null) {
  const put = (path: Path, name: string, gesture?: string): void => {
    if (chosen)
      onShapes(
        shapes.map((shape) => (shape.id === chosen.id ? { ...shape, path } : shape)),
        name,
        gesture,
      );
  };
  const dragBy = (
    event: PointerEvent,
    change: (dx: number, dy: number, move: globalThis.PointerEvent) => void,
  ): void => {
    event.stopPropagation();
    const from = zoom.toThing(event.clientX, event.clientY);
    drag(event, (move) => {
      const to = zoom.toThing(move.clientX, move.clientY);
      change(to[0] - from[0], to[1] - from[1], move);
    });
  };
  const newGesture = (): string => `points-${crypto.randomUUID()}`;

  useKeys((event) => {
    if (tool !== 'points' || !chosen || event.ctrlKey || event.metaKey || event.altKey) return;
    const arrow = arrowOf(event);
    if (arrow) {
      const moved =
        outline.points.size > 0 ? movedPoints(chosen.path, outline.points, ...arrow) : movedPath(chosen.path, ...arrow);
      put(moved, 'Move points', `nudge-${chosen.id}`);
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      const left = outline.points.size > 0 ? withoutPoints(chosen.path, outline.points) : null;
      if (left) put(left, 'Remove points');
      else
        onShapes(
          shapes.filter((shape) => shape !== chosen),
          'Remove outline',
        );
      setOutline({ points: new Set() });
    } else if (event.key === 'Tab' && !isControl(event)) {
      const last = Math.max(-1, ...outline.points);
      const count = chosen.path.points.length;
      setOutline({ points: new Set([(last + (event.shiftKey ? count - 1 : 1)) % count]) });
    } else return;
    event.preventDefault();
  });

  const hit = (at: Point): { shape: Shape; place: NonNullable<ReturnType<typeof nearestOn>> } | null => {
    const found = shapes.flatMap((shape) => {
      const place = nearestOn(shape.path, at);
      return place && place.distance * zoom.view.scale < catchRadius ? [{ shape, place }] : [];
    });
    return (
      found.find(({ shape }) => shape === chosen) ??
      found.sort((a, b) => a.place.distance - b.place.distance)[0] ??
      null
    );
  };

  return {
    pressPoint: (event: PointerEvent, index: number): void => {
      if (event.shiftKey) {
        event.stopPropagation();
        const points = new Set(outline.points);
        if (!points.delete(index)) points.add(index);
        return setOutline({ points });
      }
      const moving = outline.points.has(index) ? outline.points : new Set([index]);
      setOutline({ points: moving });
      const gesture = newGesture();
      const { path } = chosen!;
      dragBy(event, (dx, dy) => put(movedPoints(path, moving, dx, dy), 'Move points', gesture));
    },
    pressHandle: (event: PointerEvent, index: number, side: 'in' | 'out'): void => {
      const gesture = newGesture();
      const { path } = chosen!;
      const start = path.points[index]![side]!;
      dragBy(event, (dx, dy, move) =>
        put(withHandle(path, index, side, [start[0] + dx, start[1] + dy], move.altKey), 'Move handle', gesture),
      );
    },
    /** On an outline: chooses it, and drags it whole; elsewhere lets go of what is chosen. */
    onPointerDown: (event: PointerEvent): void => {
      const found = hit(zoom.toThing(event.clientX, event.clientY));
      setOutline({ shape: found?.shape.id ?? outline.shape, points: new Set() });
      if (!found) return;
      const gesture = newGesture();
      const { shape } = found;
      dragBy(event, (dx, dy) =>
        onShapes(
          shapes.map((s) => (s.id === shape.id ? { ...s, path: movedPath(shape.path, dx, dy) } : s)),
          'Move outline',
          gesture,
        ),
      );
    },
    onDoubleClick: (event: { clientX: number; clientY: number }): void => {
      const found = hit(zoom.toThing(event.clientX, event.clientY));
      if (!found || found.shape !== chosen) return;
      put(withPointAt(chosen.path, found.place.segment, found.place.t), 'Add point');
      setOutline({ points: new Set([found.place.segment + 1]) });
    },
  };
}
