import { useEffectEvent, useEffect, useRef, useState, type PointerEvent } from 'react';
import { fitPath } from '../../../../core/path/fit.ts';
import { ellipse, polygon, rectangle } from '../../../../core/path/forms.ts';
import { corner, type Path, type PathPoint, type Point } from '../../../../core/path/path.ts';
import { arrowOf, isControl, useKeys } from '../../../parts/keys.ts';
import { drag, type Zoom } from '../../../parts/zoom.ts';
import type { CutTool, OutlineState } from '../cut-tools.ts';

/** CSS pixels within which a press means a point that is there. */
export const catchRadius = 9;

interface DraftOptions {
  zoom: Zoom;
  tool: CutTool;
  outline: OutlineState;
  middle: Point;
  /** The way along edges between two places. */
  wire(from: Point, to: Point, strength: number): Promise<Point[]>;
  onPath(path: Path): void;
}

/** An outline that is being drawn: its points so far, and the line to the pointer. */
export interface OutlineDraft {
  /** A line of many points for outlines, points with handles for paths, two corners for forms. */
  line: Point[];
  live: Point[];
  points: PathPoint[];
  form: Path | null;
  pointer: Point | null;
  /** Whether a press now would close the outline. */
  closing: boolean;
  onPointerDown(event: PointerEvent): void;
  onPointerMove(event: PointerEvent): void;
  onDoubleClick(): void;
}

/**
 * Drawing a new outline: clicks joined by clinging or straight lines, with a drag drawn freehand; a path whose points pull
 * their handles while they are dragged; or a form in a box. Enter closes, Backspace takes the last point back, Escape
 * gives up. Arrow keys move a crosshair and P sets a point there.
 */
export function useOutlineDraft({ zoom, tool, outline, middle, wire, onPath }: DraftOptions): OutlineDraft {
  const [line, setLine] = useState<Point[]>([]);
  /** How long the line was at every click, so that clicks can be taken back. */
  const [clicks, setClicks] = useState<number[]>([]);
  const [live, setLive] = useState<Point[]>([]);
  const [points, setPoints] = useState<PathPoint[]>([]);
  const [form, setForm] = useState<Path | null>(null);
  const [pointer, setPointer] = useState<Point | null>(null);
  const asking = useRef(false);
  /** The line as it is while answers are awaited, and the clicks that wait for one another. */
  const drawn = useRef<{ line: Point[]; clicks: number[] }>({ line: [], clicks: [] });
  const waiting = useRef(Promise.resolve());
  const { scale } = zoom.view;

  const put = (next: { line: Point[]; clicks: number[] }): void => {
    drawn.current = next;
    setLine(next.line);
    setClicks(next.clicks);
    setLive([]);
  };
  const after = (work: () => Promise<void>): void => {
    waiting.current = waiting.current.then(work, work);
  };
  const reset = (): void => {
    put({ line: [], clicks: [] });
    setPoints([]);
    setForm(null);
  };
  const onTool = useEffectEvent(reset);
  useEffect(() => onTool(), [tool]);

  const first = tool === 'pen' ? (points[0]?.at ?? null) : (line[0] ?? null);
  const enough = tool === 'pen' ? points.length > 2 : clicks.length > 1;
  const near = (a: Point, b: Point): boolean => Math.hypot(a[0] - b[0], a[1] - b[1]) * scale < catchRadius;
  const closing = !!first && !!pointer && enough && near(first, pointer);

  const finish = (): void =>
    after(async () => {
      const { line: way } = drawn.current;
      if (tool === 'pen' && points.length > 2) onPath({ points, closed: true });
      if (tool === 'outline' && way.length > 2) {
        const back = outline.mode === 'cling' ? await wire(way.at(-1)!, way[0]!, outline.strength) : [];
        onPath(fitPath([...way, ...back.slice(1, -1)], Math.max(0.8, 1.2 / scale), true));
      }
      reset();
    });

  const append = (way: readonly Point[], ...marks: number[]): void => {
    const before = drawn.current;
    const base = before.line.length;
    put({ line: [...before.line, ...way], clicks: [...before.clicks, ...marks.map((mark) => base + mark)] });
  };
  /** A click that comes while the wire still looks for the way to the one before waits for it. */
  const click = (at: Point): void =>
    after(async () => {
      const last = drawn.current.line.at(-1);
      const clings = last && outline.mode === 'cling';
      const way = clings ? (await wire(last, at, outline.strength)).slice(1) : [at];
      append(way, way.length);
    });

  // One question at a time: while the wire grows the pointer moves on, and only its newest place counts.
  const followPointer = useEffectEvent(async (at: Point) => {
    if (tool !== 'outline' || line.length === 0 || asking.current) return;
    if (outline.mode === 'straight') return setLive([line.at(-1)!, at]);
    asking.current = true;
    try {
      setLive(await wire(line.at(-1)!, at, outline.strength));
    } finally {
      asking.current = false;
    }
  });
  useEffect(() => {
    if (pointer) void followPointer(pointer);
  }, [pointer, line]);

  const pressOutline = (event: PointerEvent, at: Point): void => {
    if (closing) return finish();
    let free: Point[] = [];
    drag(
      event,
      (move) => {
        const next = zoom.toThing(move.clientX, move.clientY);
        const last = free.at(-1) ?? at;
        if (free.length === 0 && near(at, next)) return;
        if (Math.hypot(next[0] - last[0], next[1] - last[1]) * scale > 2) free = [...free, next];
        setLive([at, ...free]);
      },
      () => {
        click(at);
        if (free.length > 0) after(async () => append(free, free.length));
      },
    );
  };
  const pressPen = (event: PointerEvent, at: Point): void => {
    if (closing) return finish();
    const added = [...points, corner(at)];
    setPoints(added);
    drag(event, (move) => {
      const to = zoom.toThing(move.clientX, move.clientY);
      if (near(at, to)) return;
      const out: Point = [to[0] - at[0], to[1] - at[1]];
      setPoints([...added.slice(0, -1), { at, in: [-out[0], -out[1]], out, smooth: true }]);
    });
  };
  const pressForm = (event: PointerEvent, at: Point): void => {
    let made: Path | null = null;
    drag(
      event,
      (move) => {
        made = formBetween(tool, outline.sides, at, zoom.toThing(move.clientX, move.clientY), move.shiftKey);
        setForm(made);
      },
      () => {
        setForm(null);
        if (made) onPath(made);
      },
    );
  };

  useKeys((event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const drawing = tool === 'outline' || tool === 'pen';
    if (!drawing) return;
    const arrow = arrowOf(event, 8 / scale, 40 / scale);
    const at = pointer ?? middle;
    if (arrow) setPointer([at[0] + arrow[0], at[1] + arrow[1]]);
    else if (event.key.toLowerCase() === 'p' && tool === 'outline' && pointer) click(pointer);
    else if (event.key.toLowerCase() === 'p' && tool === 'pen' && pointer) setPoints([...points, corner(pointer)]);
    else if (event.key === 'Enter' && !isControl(event)) finish();
    else if (event.key === 'Backspace' && (line.length > 0 || points.length > 0)) {
      setPoints(points.slice(0, -1));
      const left = clicks.slice(0, -1);
      put({ line: line.slice(0, left.at(-1) ?? 0), clicks: left });
    } else if (event.key === 'Escape' && (line.length > 0 || points.length > 0)) reset();
    else return;
    event.preventDefault();
  });

  return {
    line,
    live,
    points,
    form,
    pointer,
    closing,
    onPointerDown: (event) => {
      const at = zoom.toThing(event.clientX, event.clientY);
      if (tool === 'outline') pressOutline(event, at);
      else if (tool === 'pen') pressPen(event, at);
      else pressForm(event, at);
    },
    onPointerMove: (event) => setPointer(zoom.toThing(event.clientX, event.clientY)),
    onDoubleClick: finish,
  };
}

/** A form in the box between two places; null while it is too small to be meant. */
function formBetween(tool: CutTool, sides: number, from: Point, to: Point, even: boolean): Path | null {
  let [width, height] = [Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])];
  if (even) width = height = Math.max(width, height);
  if (width < 3 || height < 3) return null;
  const box = {
    x: to[0] < from[0] ? from[0] - width : from[0],
    y: to[1] < from[1] ? from[1] - height : from[1],
    width,
    height,
  };
  if (tool === 'ellipse') return ellipse(box);
  if (tool === 'polygon') return polygon(box, sides);
  return rectangle(box, tool === 'rounded' ? Math.min(width, height) / 5 : 0);
}
