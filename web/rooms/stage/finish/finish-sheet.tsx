import { useMemo } from 'react';
import { addFinish } from '../../../../core/edits/finish-edits.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { families } from '../../../../core/finish/finish.ts';
import { finishKinds } from '../../../../core/finish/finishes.ts';
import { KindSheet } from '../sheet/kind-sheet.tsx';
import { useTilePictures, useViewOf } from '../sheet/tile-pictures.ts';

interface FinishSheetProps {
  document: Document;
  shot: Shot;
  layer: Layer;
  frame: number;
  onChoose(kind: string): void;
  onClose(): void;
}

const byFamily = families.map((name) => ({ name, kinds: finishKinds.filter((kind) => kind.family === name) }));

/** All finishes as small live pictures of this very layer; pressing one adds it. */
export function FinishSheet({ document, shot, layer, frame, onChoose, onClose }: FinishSheetProps) {
  const view = useViewOf(document, shot, layer.id, frame);
  const scenes = useMemo(
    () =>
      finishKinds.map(({ id }) => ({
        id,
        document: addFinish(shot.id, layer.id, id, 'finish-shown').apply(document),
        frames: [frame],
      })),
    [document, shot.id, layer.id, frame],
  );
  return (
    <KindSheet
      title={`Add a finish to ${layer.name}`}
      things="finishes"
      hint="Point at a finish to see it large on this layer; press to add it."
      families={byFamily}
      pictures={useTilePictures(scenes, shot.id, view)}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}
