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
  /** All that come or go together; not none of them. */
  layers: readonly Layer[];
  leaving: boolean;
  onChoose(kind: string): void;
  onClose(): void;
}

/** Pictures of a moving tile. */
const steps = 12;
const families = [{ name: 'ways', kinds: arrivalKinds }];

/** All ways to arrive, or to leave, playing on these very layers. */
export function ArrivalSheet({ document, shot, layers, leaving, onChoose, onClose }: ArrivalSheetProps) {
  const named = layers.map((layer) => layer.id).join(' ');
  const { first, rest } = useMemo(() => {
    const ids = named.split(' ');
    const { first } = barOf(
      shot,
      shot.layers.find((layer) => layer.id === ids[0])!,
    );
    return { first, rest: setArrival(shot.id, ids, null).apply(document) };
  }, [document, shot, named]);
  const view = useViewOf(rest, shot, named, first, 1.6);
  const scenes = useMemo(
    () =>
      arrivalKinds.map(({ id }) => {
        const ids = named.split(' ');
        const shown = setArrival(shot.id, ids, id).apply(rest);
        const length = lengthIn(shown, shot.id, ids[0]!);
        // It comes, and stays for a moment.
        const frames = Array.from({ length: steps }, (_, k) =>
          Math.min(shot.length - 1, Math.round(first + (length * k) / (steps - 3))),
        );
        return { id, document: shown, frames: leaving ? frames.reverse() : frames };
      }),
    [rest, shot, named, first, leaving],
  );
  const [who, does] = layers.length > 1 ? [`${layers.length} layers`, ''] : [layers[0]!.name, 's'];
  return (
    <KindSheet
      title={`How ${who} ${leaving ? 'leave' : 'arrive'}${does}`}
      things="ways"
      hint="Point at a way to see it large; press to take it."
      families={families}
      pictures={useTilePictures(scenes, shot.id, view)}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}

const lengthIn = (document: Document, shot: string, layer: string): number =>
  document.shots.find((s) => s.id === shot)!.layers.find((l) => l.id === layer)!.arrive!.length;
