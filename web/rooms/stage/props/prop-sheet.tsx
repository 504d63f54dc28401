import { useMemo } from 'react';
import { addProp } from '../../../../core/edits/prop-edits.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { propFamilies } from '../../../../core/props/prop.ts';
import { propKinds } from '../../../../core/props/props.ts';
import { KindSheet } from '../sheet/kind-sheet.tsx';
import { tileSize } from '../sheet/tile.tsx';
import { useTilePictures } from '../sheet/tile-pictures.ts';

interface PropSheetProps {
  document: Document;
  shot: Shot;
  frame: number;
  depth: number;
  onChoose(kind: string): void;
  onClose(): void;
}

const byFamily = propFamilies.map((name) => ({ name, kinds: propKinds.filter((kind) => kind.family === name) }));
/** Pictures of a moving tile, and how many frames apart they are. */
const [pictures, apart] = [6, 3];

/** All props as small live pictures in this very shot; pressing one adds it. */
export function PropSheet({ document, shot, frame, depth, onChoose, onClose }: PropSheetProps) {
  const { width, height } = document.frame;
  const view = useMemo(() => {
    const [w, h] = [2 * tileSize[0], 2 * tileSize[1]];
    const scale = Math.max(w / width, h / height);
    return { width: w, height: h, scale, x: (w - width * scale) / 2, y: (h - height * scale) / 2 };
  }, [width, height]);
  const scenes = useMemo(
    () =>
      propKinds.map((kind) => ({
        id: kind.id,
        document: addProp(shot.id, kind.id, { id: 'prop-shown', depth }).apply(document),
        frames: Array.from({ length: kind.slab ? pictures : 1 }, (_, k) =>
          Math.min(shot.length - 1, frame + apart * k),
        ),
      })),
    [document, shot, frame, depth],
  );
  return (
    <KindSheet
      title="Add a prop"
      things="props"
      hint="Point at a prop to see it large in this shot; press to add it."
      families={byFamily}
      pictures={useTilePictures(scenes, shot.id, view)}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}
