import { useEffect, useMemo, useRef, useState } from 'react';
import type { Document } from '../../core/document/document.ts';
import type { FrameRange } from '../../core/scene/loop.ts';
import { notify } from '../data/notices.ts';
import { PaintClient } from '../workers/paint-client.ts';
import type { ViewTransform } from './zoom.ts';

interface PaintedCanvasProps {
  document: Document;
  shot: string;
  frame: number;
  view: ViewTransform;
  size: { width: number; height: number };
  atRest?: boolean;
  /** While it plays the picture may be coarser, and what was painted is kept. */
  playing?: boolean;
  /** Whether blurs and sways are left out. */
  light?: boolean;
  /** Layers of which the frames before and after are shown faintly. */
  onion?: string[];
  /** Frames of all shots one after the other that are played as a clip; `frame` counts through them. */
  loop?: FrameRange | null;
  label: string;
}

const noLayers: string[] = [];

/** A canvas that a worker paints the shot on, at the device's own resolution. */
export function PaintedCanvas({
  document,
  shot,
  frame,
  view,
  size,
  atRest = false,
  playing = false,
  light = false,
  onion = noLayers,
  loop = null,
  label,
}: PaintedCanvasProps) {
  const place = useRef<HTMLDivElement>(null);
  const painter = useRef<PaintClient | null>(null);
  /** Grows with every worker that died: then canvas and worker are made anew. */
  const [life, setLife] = useState(0);

  useEffect(() => {
    // Made here and not by React: a canvas can be handed to a worker only once.
    const canvas = window.document.createElement('canvas');
    canvas.className = 'absolute inset-0 size-full';
    place.current!.append(canvas);
    let told = false;
    let again = 0;
    const died = (): void => {
      again = window.setTimeout(() => setLife((n) => n + 1), Math.min(8000, 500 * 2 ** life));
      if (life === 0) notify('problem', 'The view stopped and is being started again. What you did is kept.');
    };
    const client = new PaintClient(
      canvas,
      (answer, idle) => {
        if (idle) place.current?.setAttribute('data-busy', 'false');
        place.current?.setAttribute('data-painted', String(answer.frame));
        place.current?.setAttribute('data-quality', String(answer.quality));
        if (answer.problem && !told) {
          told = true;
          notify('problem', answer.problem);
        }
        if (!answer.problem) told = false;
      },
      died,
    );
    painter.current = client;
    return () => {
      clearTimeout(again);
      painter.current = null;
      client.close();
      canvas.remove();
    };
  }, [life]);

  // Lists are new with every render; their words are not.
  const named = onion.join(' ');
  const skins = useMemo(() => (named === '' ? noLayers : named.split(' ')), [named]);
  const [first, end] = [loop?.first ?? null, loop?.end ?? null];
  useEffect(() => painter.current?.setDocument(document, shot), [document, shot, life]);
  useEffect(() => {
    if (size.width === 0) return;
    const ratio = window.devicePixelRatio;
    place.current?.setAttribute('data-busy', 'true');
    painter.current?.paint({
      frame,
      width: Math.round(size.width * ratio),
      height: Math.round(size.height * ratio),
      scale: view.scale * ratio,
      x: view.x * ratio,
      y: view.y * ratio,
      atRest,
      playing,
      light,
      onion: skins,
      loop: first === null || end === null ? null : { first, end },
    });
  }, [
    document,
    shot,
    frame,
    view.scale,
    view.x,
    view.y,
    size.width,
    size.height,
    atRest,
    playing,
    light,
    skins,
    first,
    end,
    life,
  ]);

  return <div ref={place} className="absolute inset-0" role="img" aria-label={label} data-testid="painted" />;
}
