import { useMemo } from 'react';
import { farToNear } from '../../../../core/scene/place.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { firstMoves, startMove, type FirstMove } from '../../../../core/edits/first-moves.ts';
import { useProject } from '../../../data/project.ts';
import { KindSheet } from '../sheet/kind-sheet.tsx';
import { useTilePictures } from '../sheet/tile-pictures.ts';
import { tileSize } from '../sheet/tile.tsx';

/** Pictures of a moving tile. */
const steps = 8;
const kinds = (Object.keys(firstMoves) as FirstMove[]).map((id) => ({ id, ...firstMoves[id] }));
const families = [{ name: 'moves', kinds }];

/** The nearest cutout that is shown: what a move is to keep whole. */
export function subjectOf(shot: Shot): string | null {
  const pieces = shot.layers.filter((layer) => layer.source.kind === 'piece' && !layer.hidden);
  return farToNear(pieces).at(-1)?.id ?? null;
}

/** Moves of the camera to start from, playing on this very scene; pressing one replaces the Framings. */
export function MoveSheet({ document, shot, onClose }: { document: Document; shot: Shot; onClose(): void }) {
  const { dispatch } = useProject();
  const subject = useMemo(() => subjectOf(shot), [shot]);
  const scenes = useMemo(
    () =>
      kinds.map(({ id }) => ({
        id,
        document: startMove(shot.id, id, subject).apply(document),
        frames: Array.from({ length: steps }, (_, k) => Math.round((k * (shot.length - 1)) / (steps - 1))),
      })),
    [document, shot, subject],
  );
  const view = useMemo(() => wholeFrame(document.frame), [document.frame]);
  return (
    <KindSheet
      title="Moves to start from"
      things="moves"
      hint="Point at a move to see it large; press to take it. The Framings it sets can be changed like any others."
      families={families}
      pictures={useTilePictures(scenes, shot.id, view)}
      onChoose={(id) => {
        dispatch(startMove(shot.id, id as FirstMove, subject));
        onClose();
      }}
      onClose={onClose}
    />
  );
}

/** All of the frame as large as a tile holds it, in twice its pixels. */
function wholeFrame(frame: { width: number; height: number }) {
  const [width, height] = tileSize.map((side) => 2 * side) as [number, number];
  const scale = Math.min(width / frame.width, height / frame.height);
  return { width, height, scale, x: (width - frame.width * scale) / 2, y: (height - frame.height * scale) / 2 };
}
