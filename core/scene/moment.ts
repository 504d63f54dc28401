import type { Camera } from '../depth/camera.ts';
import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { compose, type Matrix } from './matrix.ts';
import { restMatrix } from './place.ts';
import type { DepthRange } from './slab.ts';
import type { SourceBox } from './source-pixels.ts';
import { wordsNow, type TextNow, type TextSource } from './words-now.ts';

/** What a layer is evaluated at. */
export interface Moment {
  document: Document;
  shot: Shot;
  frame: number;
  camera: Camera;
  /** The camera at another moment. */
  cameraThen(frame: number): Camera;
  /** Of a layer that lies between two distances, which of them are meant; null for all. */
  slice: DepthRange | null;
  /** Whether this is one of several moments of a smeared layer: then nothing in it is smeared again. */
  sampled: boolean;
}

export const wordsOf = ({ document, shot, frame }: Moment, layer: Layer, source: TextSource): TextNow =>
  wordsNow(shot, layer, source, frame, (other) => restMatrix(document, shot, other, frame));

/** Frame pixels per pixel of a layer's source as it lies at rest. */
export function sizeAtRest(document: Document, shot: Shot, layer: Layer): number {
  const frameSized = frameSizedKinds.includes(layer.source.kind);
  const [a, b, c, d] = frameSized ? [1, 0, 0, 1, 0, 0] : restMatrix(document, shot, layer, 0);
  return Math.sqrt(Math.abs(a * d - b * c)) || 1;
}

/** Kinds of sources that are as large as the frame; each of a group's members is as far away as it is. */
export const frameSizedKinds: readonly string[] = ['group', 'colour', 'grade'];

export const movedBy = (matrix: Matrix, { x, y }: SourceBox): Matrix => compose(matrix, [1, 0, 0, 1, x, y]);
