import { useMemo } from 'react';
import { arrivalKinds } from '../../../../core/arrive/arrivals.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { setArrival } from '../../../../core/edits/arrival-edits.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { barOf } from '../../../../core/scene/source-pixels.ts';
import { KindSheet } from '../sheet/kind-sheet.tsx';
import { useTilePictures, useViewOf } from '../sheet/tile-pictures.ts';

interface ArrivalSheetProps {
  document: Document;
  shot: Shot;
  layer: Layer;
  leaving: boolean;
  onChoose(kind: string): void;
  onClose(): void;
}

/** Pictures of a moving tile. */
const steps = 12;
const families = [{ name: 'ways', kinds: arrivalKinds }];

/** All ways to arrive, or to leave, playing on this very layer. */
export function ArrivalSheet({ document, shot, layer, leaving, onChoose, onClose }: ArrivalSheetProps) {
  const { first } = barOf(shot, layer);
  const rest = useMemo(() => withoutArrival(document, shot.id, layer.id), [document, shot.id, layer.id]);
  const view = useViewOf(rest, shot, layer, first, 1.6);
  const scenes = useMemo(
    () =>
      arrivalKinds.map(({ id }) => {
        const shown = setArrival(shot.id, [layer.id], id).apply(rest);
        const length = lengthIn(shown, shot.id, layer.id);
        // It comes, and stays for a moment.
        const frames = Array.from({ length: steps }, (_, k) =>
          Math.min(shot.length - 1, Math.round(first + (length * k) / (steps - 3))),
        );
        return { id, document: shown, frames: leaving ? frames.reverse() : frames };
      }),
    [rest, shot, layer.id, first, leaving],
  );
  return (
    <KindSheet
      title={leaving ? `How ${layer.name} leaves` : `How ${layer.name} arrives`}
      things="ways"
      hint="Point at a way to see it large on this layer; press to take it."
      families={families}
      pictures={useTilePictures(scenes, shot.id, view)}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}

const withoutArrival = (document: Document, shot: string, layer: string): Document =>
  setArrival(shot, [layer], null).apply(document);

const lengthIn = (document: Document, shot: string, layer: string): number =>
  document.shots.find((s) => s.id === shot)!.layers.find((l) => l.id === layer)!.arrive!.length;
