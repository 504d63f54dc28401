import { useMemo } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { addShape } from '../../../../core/edits/shape-edits.ts';
import { shapeFamilies } from '../../../../core/shapes/shape-kind.ts';
import { shapeKinds } from '../../../../core/shapes/shape-kinds.ts';
import { KindSheet } from '../sheet/kind-sheet.tsx';
import { tileSize } from '../sheet/tile.tsx';
import { useTilePictures } from '../sheet/tile-pictures.ts';

interface ShapeSheetProps {
  document: Document;
  shot: Shot;
  frame: number;
  depth: number;
  onChoose(kind: string): void;
  onClose(): void;
}

const byFamily = shapeFamilies.map((name) => ({ name, kinds: shapeKinds.filter((kind) => kind.family === name) }));

/** All shapes as small pictures in this very shot; pressing one adds it. */
export function ShapeSheet({ document, shot, frame, depth, onChoose, onClose }: ShapeSheetProps) {
  const { width, height } = document.frame;
  const view = useMemo(() => {
    const [w, h] = [2 * tileSize[0], 2 * tileSize[1]];
    const scale = Math.min(w, h) / Math.min(width, height);
    return { width: w, height: h, scale, x: (w - width * scale) / 2, y: (h - height * scale) / 2 };
  }, [width, height]);
  const scenes = useMemo(
    () =>
      shapeKinds.map((kind) => {
        const wide = Math.min(width, height) * (kind.proportion > 0.7 ? 0.8 / Math.max(1, kind.proportion) : 1.1);
        const place = { id: 'shape-shown', depth, width: Math.round(wide) };
        return { id: kind.id, document: addShape(shot.id, kind.id, place).apply(document), frames: [frame] };
      }),
    [document, shot, frame, depth, width, height],
  );
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
