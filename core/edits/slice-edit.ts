import { cutName } from '../document/cut-name.ts';
import { valueAt } from '../motion/property.ts';
import type { Document, Piece } from '../document/document.ts';
import { untouched } from '../document/document.ts';
import { defineEdit, find } from './edit.ts';
import { plainLayer, type Layer } from '../document/layer.ts';
import { layerIn, shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';
import type { PlateStep } from '../document/plate.ts';

export interface SliceFiles {
  piece: string;
  layer: string;
  /** The slice with its colours, and its alpha alone; both as large as the picture. */
  file: string;
  alphaFile: string;
  closeness: number;
}

/** Distance of a closeness between two distances: even in 1 / distance, as parallax is. */
export const distanceOf = (closeness: number, near: number, far: number): number =>
  1 / (1 / far + closeness * (1 / near - 1 / far));

/**
 * Hangs the slices of a layer's picture at their distances, and behind them the background rebuilt without them, in
 * place of the layer, which is hidden. Nothing moves at rest.
 */
export const hangSlices = defineEdit(
  'Slice by depth',
  (
    draft: Document,
    shotId: string,
    layerId: string,
    slices: SliceFiles[],
    background: { step: PlateStep; layer: string; closeness: number },
  ) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    const { source, relief } = layer;
    if (!relief || (source.kind !== 'picture' && source.kind !== 'background')) return;
    const picture = find(draft.pictures, 'picture', source.picture);
    const depth = valueAt<number>(layer.depth, 0);
    const hung = (id: string, name: string, closeness: number, own: Layer['source']): Layer => ({
      ...plainLayer,
      id,
      name: freeName(draft, name),
      source: own,
      group: layer.group,
      depth: { value: distanceOf(closeness, depth * relief.near, depth * relief.far) },
      pivot: layer.pivot,
      position: layer.position,
      scale: layer.scale,
      rotation: layer.rotation,
      flip: layer.flip,
    });
    const bounds = { x: 0, y: 0, width: picture.width, height: picture.height };
    const made = slices.map((slice, k): Layer => {
      const piece: Piece = {
        ...untouched,
        id: slice.piece,
        picture: picture.id,
        name: `${picture.name} slice ${k + 1}`,
        recipe: { kind: 'mask', file: slice.alphaFile, x: 0, y: 0 },
        cutout: null,
      };
      piece.cutout = { file: slice.file, bounds, of: cutName(piece) };
      draft.pieces.push(piece);
      return hung(slice.layer, piece.name, slice.closeness, { kind: 'piece', piece: slice.piece });
    });
    picture.background = { steps: [...(picture.background?.steps ?? []), background.step] };
    made.push(
      hung(background.layer, `${picture.name} behind`, background.closeness, {
        kind: 'background',
        picture: picture.id,
      }),
    );
    shot.layers.splice(shot.layers.indexOf(layer), 0, ...made);
    layer.hidden = true;
    // Its background is now the one behind the slices; it goes on showing the picture.
    layer.source = { kind: 'picture', picture: picture.id };
  },
);
