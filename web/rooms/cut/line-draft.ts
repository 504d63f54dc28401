import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { ThinLine } from '../../../core/cut/thin-line.ts';
import type { SubjectRecipe } from '../../../core/document/recipe.ts';
import { notifyError } from '../../data/notices.ts';
import type { BrushStroke } from '../../parts/brush.tsx';

type Place = [number, number];
type Stroke = SubjectRecipe['keep'][number];

interface Drawing {
  kind: 'keep' | 'drop';
  /** The piece, and whatever else it is part of. */
  of: string;
}

interface LineDraftOptions {
  /** What lines are drawn for; null while none are. */
  drawing: Drawing | null;
  picture: Size;
  find(way: Place[], widest: number): Promise<ThinLine | null>;
  onLine(line: Drawing & { stroke: Stroke }): void;
}

/** Thin lines that are being drawn, from click to click or along a drag. */
export interface LineDraft {
  /** Where the line goes on from. */
  from: Place | null;
  /** Lines that were drawn and are still being taken, and the one to the pointer. */
  shown: ThinLine[];
  /** A press with the brush. @param scale CSS pixels a picture pixel has */
  take(stroke: BrushStroke, scale: number): void;
  /** The pointer is here. @param widest half the width of the widest line that is meant */
  look(at: Place, widest: number): void;
}

/** CSS pixels by which a press must move to be a line by itself, and within which a second press ends a line. */
const [dragged, same] = [8, 5];
/** Half the width in pixels of the widest thing that is a thin line in a picture, however broad the brush. */
const widestLine = ({ width, height }: Size): number => Math.max(5, Math.max(width, height) / 400);

interface Size {
  width: number;
  height: number;
}

const apart = (a: Place, b: Place): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** Clicks joined by the thin line that leads from one to the next; a drag follows the line under it. Escape lays it down. */
export function useLineDraft({ drawing, picture, find, onLine }: LineDraftOptions): LineDraft | null {
  const [from, setFrom] = useState<Place | null>(null);
  const [preview, setPreview] = useState<ThinLine | null>(null);
  /** What was drawn and is being looked for, as it was seen; and what was found. */
  const [taken, setTaken] = useState<(ThinLine | null)[]>([]);
  const [found, setFound] = useState<(Drawing & { stroke: Stroke | null })[]>([]);
  /** Whether a line to the pointer is being looked for, and where the pointer went in the meantime. */
  const asking = useRef(false);
  const pointed = useRef<{ at: Place; widest: number } | null>(null);
  const waiting = useRef(Promise.resolve());
  // One a time, so that each comes onto what the one before it made.
  const pass = useEffectEvent(([first, ...rest]: typeof found) => {
    setFound(rest);
    setTaken(taken.slice(1));
    if (first?.stroke) onLine({ ...first, stroke: first.stroke });
  });
  useEffect(() => {
    if (found.length > 0) pass(found);
  }, [found]);
  const name = drawing && `${drawing.kind} ${drawing.of}`;
  const latest = useRef<{ name: string | null; from: Place | null }>({ name: null, from: null });
  const begin = (at: Place | null): void => {
    latest.current = { name, from: at };
    setFrom(at);
    setPreview(null);
  };
  const reset = useEffectEvent(() => begin(null));
  useEffect(() => reset(), [name]);
  if (!drawing) return null;

  const follow = (way: Place[], widest: number, goOn: boolean): void => {
    setTaken([...taken, preview]);
    begin(goOn ? way.at(-1)! : null);
    // One after the other, as they were drawn.
    const work = async (): Promise<void> => {
      const line = await find(way, Math.min(widestLine(picture), widest)).catch((error: unknown) => {
        notifyError(error);
        return null;
      });
      const stroke = line && { radius: Math.max(...line.radii), ...line };
      setFound((before) => [...before, { ...drawing, stroke }]);
    };
    waiting.current = waiting.current.then(work, work);
  };
  // One question at a time: while a line is looked for the pointer moves on, and only its newest place counts.
  const ask = async (): Promise<void> => {
    const start = latest.current.from;
    if (!start || !pointed.current || asking.current) return;
    const { at, widest } = pointed.current;
    pointed.current = null;
    asking.current = true;
    // A picture that is just being opened has no lines yet: the pointer will move again.
    const line = await find([start, at], Math.min(widestLine(picture), widest)).catch(() => null);
    asking.current = false;
    if (latest.current.name === name && latest.current.from === start) setPreview(line);
    await ask();
  };

  return {
    from,
    shown: [...taken, preview].filter((line) => line !== null),
    take: ({ points, radius }, scale) => {
      const [start, end] = [points[0]!, points.at(-1)!];
      const length = points.reduce((most, point) => Math.max(most, apart(start, point)), 0);
      if (length * scale >= dragged) {
        follow(points, radius, false);
      } else if (from && apart(from, end) * scale < same) begin(null);
      else if (from) follow([from, end], radius, true);
      else begin(end);
    },
    look: (at, widest) => {
      pointed.current = { at, widest };
      void ask();
    },
  };
}
