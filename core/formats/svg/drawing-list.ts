import type { Drawing } from './drawing.ts';
import { readDrawing } from './read-drawing.ts';

/** Drawings that were read, by the hash of their file. */
const ready = new Map<string, Drawing>();
const loading = new Map<string, Promise<Drawing>>();

/** A drawing that was loaded before; undefined for one that was not. */
export const drawingOf = (file: string): Drawing | undefined => ready.get(file);

/**
 * Reads a drawing once; whoever asks meanwhile waits for the same.
 * @param fetchText gives the text of its file
 */
export function loadDrawing(file: string, fetchText: (file: string) => Promise<string>): Promise<Drawing> {
  const known = loading.get(file);
  if (known) return known;
  const made = fetchText(file).then((text) => {
    const drawing = readDrawing(text);
    ready.set(file, drawing);
    return drawing;
  });
  loading.set(file, made);
  // What failed may be tried again.
  made.catch(() => loading.delete(file));
  return made;
}
