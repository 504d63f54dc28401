import { useMemo } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { addLayer } from '../../../../core/edits/arrange-edits.ts';
import { plainShot } from '../../../../core/document/shot.ts';
import { addShape } from '../../../../core/edits/shape-edits.ts';
import { shapeFamilies, type ShapeKind } from '../../../../core/shapes/shape-kind.ts';
import { shapeKinds } from '../../../../core/shapes/shape-kinds.ts';
import { KindSheet } from '../sheet/kind-sheet.tsx';
import { tileSize } from '../sheet/tile.tsx';
import { useTilePictures, type TileScene } from '../sheet/tile-pictures.ts';

interface ShapeSheetProps {
  document: Document;
  shot: Shot;
  onChoose(kind: string): void;
  onClose(): void;
}

const [pine, cream] = [
  [14, 91, 80, 1],
  [250, 246, 236, 1],
];
const byFamily = shapeFamilies.map((name) => ({ name, kinds: shapeKinds.filter((kind) => kind.family === name) }));

/** All shapes as small pictures, alone on paper: in the shot others could hide them. Pressing one adds it. */
export function ShapeSheet({ document, shot, onChoose, onClose }: ShapeSheetProps) {
  const scenes = useMemo(() => shapeKinds.map((kind) => sceneOf(document, shot, kind)), [document, shot]);
  return (
    <KindSheet
      title="Add a shape"
      things="shapes"
      hint="Point at a shape to see it large; press to add it. Its numbers are led by handles in the view."
      families={byFamily}
      pictures={useTilePictures(scenes, shot.id, view)}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}

/** A tile is painted in twice its pixels, as a frame of its own. */
const [width, height] = [2 * tileSize[0], 2 * tileSize[1]];
const view = { width, height, scale: 1, x: 0, y: 0 };

/** A shape alone on paper in a frame as large as a tile. */
function sceneOf(document: Document, { id, name }: Shot, kind: ShapeKind): TileScene {
  const wide = Math.min(0.82 * width, (0.82 * height) / kind.proportion);
  const place = { id: 'shape-shown', depth: 3, width: Math.round(wide), colour: pine };
  const paper: Document = {
    ...document,
    frame: { ...document.frame, width, height },
    shots: [{ ...plainShot, id, name, length: 1, layers: [] }],
  };
  const edits = [
    addLayer(id, { id: 'paper', name: 'Paper', depth: 40 }, { source: { kind: 'colour' }, colour: cream }),
    addShape(id, kind.id, place),
  ];
  return { id: kind.id, document: edits.reduce((d, edit) => edit.apply(d), paper), frames: [0] };
}
