import type { Document, Picture } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';

/** The picture a layer shows, or is cut out of; null for everything else. */
export function pictureOf(document: Document, { source }: Pick<Layer, 'source'>): Picture | null {
  const id =
    source.kind === 'piece'
      ? document.pieces.find((p) => p.id === source.piece)?.picture
      : source.kind === 'picture' || source.kind === 'background'
        ? source.picture
        : null;
  return document.pictures.find((p) => p.id === id) ?? null;
}

/** How long the clip is that a layer shows, and at what rate; null where it shows none. */
export const clipOf = (document: Document, layer: Pick<Layer, 'source'>): Picture['clip'] =>
  pictureOf(document, layer)?.clip ?? null;
