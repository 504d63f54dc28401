import { expect } from 'chai';
import { rectangle } from '../path/forms.ts';
import { addLayer } from './arrange-edits.ts';
import { emptyDocument, readDocument, type Document } from '../document/document.ts';
import type { Draw } from '../scene/draw.ts';
import type { Edit } from './edit.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { transform } from '../scene/matrix.ts';
import { cameraAt, layerMatrix } from '../scene/place.ts';
import { numbersOfPath } from '../document/points.ts';

/* A project of coloured cards, and where they are seen. */

export const hash = (digit: string): string => digit.repeat(64);
export const [width, height] = [400, 300];

export const apply = (document: Document, ...edits: Edit[]): Document => {
  const after = edits.reduce((d, edit) => edit.apply(d), document);
  return readDocument(JSON.parse(JSON.stringify(after)));
};

export const card = (id: string, depth = 3, position: [number, number] = [0, 0]): Edit =>
  addLayer(
    'shot',
    { id, name: id, depth, position },
    {
      source: { kind: 'shape', made: null, closed: true, filled: true, gradient: null, stroke: null },
      colour: [200, 40, 40, 1],
      points: numbersOfPath(rectangle({ x: 0, y: 0, width: 40, height: 20 })),
      pivot: [20, 10],
    },
  );

export const empty = (): Document => emptyDocument('Quay', { width, height, rate: 30 }, 2, 'shot');
export const shotOf = (document: Document) => document.shots[0]!;
export const layerOf = (document: Document, id: string) => shotOf(document).layers.find((l) => l.id === id)!;
export const drawOf = (document: Document, id: string, frame = 0): Draw =>
  evaluateFrame(document, shotOf(document), frame).draws.find((d) => d.layer === id)!;
/** Where a point of a card's source is seen, from the centre of the frame. */
export const seenAt = (document: Document, id: string, x = 20, y = 10, frame = 0): [number, number] => {
  const shot = shotOf(document);
  const matrix = layerMatrix(document, shot, layerOf(document, id), cameraAt(shot, frame), frame)!;
  const [u, v] = transform(matrix, x, y);
  return [u - width / 2, v - height / 2];
};
export const near = (got: readonly number[], wanted: readonly number[], within = 1e-6): void =>
  wanted.forEach((v, k) => expect(got[k], `${got.join()} is ${wanted.join()}`).closeTo(v, within));
