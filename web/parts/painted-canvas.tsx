import { useEffect, useRef } from 'react';
import type { Document } from '../../core/scene/document.ts';
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
  label: string;
}

/** A canvas that a worker paints the shot on, at the device's own resolution. */
export function PaintedCanvas({ document, shot, frame, view, size, atRest = false, label }: PaintedCanvasProps) {
  const place = useRef<HTMLDivElement>(null);
  const painter = useRef<PaintClient | null>(null);

  useEffect(() => {
    // Made here and not by React: a canvas can be handed to a worker only once.
    const canvas = window.document.createElement('canvas');
    canvas.className = 'absolute inset-0 size-full';
    place.current!.append(canvas);
    let told = false;
    const client = new PaintClient(canvas, (answer) => {
      place.current?.setAttribute('data-painted', String(answer.frame));
      if (answer.problem && !told) {
        told = true;
        notify('problem', answer.problem);
      }
    });
    painter.current = client;
    return () => {
      painter.current = null;
      client.close();
      canvas.remove();
    };
  }, []);

  useEffect(() => painter.current?.setDocument(document, shot), [document, shot]);
  useEffect(() => {
    if (size.width === 0) return;
    const ratio = window.devicePixelRatio;
    painter.current?.paint({
      frame,
      width: Math.round(size.width * ratio),
      height: Math.round(size.height * ratio),
      scale: view.scale * ratio,
      x: view.x * ratio,
      y: view.y * ratio,
      atRest,
    });
  }, [document, shot, frame, view.scale, view.x, view.y, size.width, size.height, atRest]);

  return <div ref={place} className="absolute inset-0" role="img" aria-label={label} data-testid="painted" />;
}
