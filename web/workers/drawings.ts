import { drawingsOf, type Document } from '../../core/document/document.ts';
import type { Drawing } from '../../core/formats/svg/drawing.ts';
import { loadDrawing as load } from '../../core/formats/svg/drawing-list.ts';
import { loadFacesOf } from './faces.ts';

/** A drawing, read when it is first used. */
export const loadDrawing = (file: string): Promise<Drawing> =>
  load(file, async (hash) => {
    const response = await fetch(`/api/files/${hash}`);
    if (!response.ok) throw new Error('A drawing could not be loaded. Reload the page and try again.');
    return response.text();
  });

/**
 * Loads what a document's layers are made from and evaluation or painting cannot wait for: the faces of its words and its
 * drawings. One that cannot be read does not keep the others.
 */
export const loadMadeOf = (document: Document): Promise<unknown> =>
  Promise.all([loadFacesOf(document), ...drawingsOf(document).map((file) => loadDrawing(file).catch(() => undefined))]);
