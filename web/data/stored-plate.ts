import { cutName } from '../../core/document/cut-name.ts';
import type { Document, Piece } from '../../core/document/document.ts';
import {
  emptyGuides,
  firstBehind,
  type PlateOrder,
  type PlateStep,
  type PlateTake,
} from '../../core/document/plate.ts';
import type { LiftResult } from '../../core/edits/lift-edit.ts';
import type { SliceFiles } from '../../core/edits/slice-edit.ts';
import type { CutLifted } from '../workers/cut-client.ts';
import type { SlicedPictures } from '../workers/depth-client.ts';
import type { MadeStepFile } from '../workers/plate-messages.ts';
import { uploadPixels } from './api.ts';
import { newId } from './project.ts';

/* What workers make, uploaded and said in the words of the document. */

export async function storeTake(made: MadeStepFile, seed: number): Promise<PlateTake[]> {
  return made.take ? [{ seed, file: await uploadPixels(made.take.pixels), bounds: made.take.bounds }] : [];
}

/** A step with what was just made of it; takes of earlier inputs are let go. */
export async function finishedStep(
  order: PlateOrder | PlateStep,
  made: MadeStepFile,
  keep: PlateTake[],
): Promise<PlateStep> {
  const file = await uploadPixels(made.plate!);
  const { bounds } = made;
  if (order.kind === 'retouch') return { ...order, file, bounds };
  const fresh = await storeTake(made, order.seed);
  const takes = [...keep.filter((t) => t.seed !== order.seed || fresh.length === 0), ...fresh];
  return { ...order, file, bounds, takes: takes.sort((a, b) => a.seed - b.seed) } as PlateStep;
}

/** Uploads what was lifted, and says it in the words of the document that holds its piece. */
export async function storedLift(document: Document, piece: Piece, lifted: CutLifted): Promise<LiftResult> {
  const picture = document.pictures.find((p) => p.id === piece.picture)!;
  const before = picture.background?.steps ?? [];
  const own: PlateOrder = before[0]?.kind === 'behind' ? before[0] : { ...firstBehind, id: newId('step') };
  const orders = [own, ...before.filter((step) => step.kind !== 'behind')];
  const of = (id: string): string => cutName(document.pieces.find((p) => p.id === id)!);
  const pieces = await Promise.all(
    lifted.pieces.map(async ({ piece: id, cutout, bounds }) => ({
      piece: id,
      cutout: { file: await uploadPixels(cutout), bounds, of: of(id) },
      layer: newId('layer'),
    })),
  );
  const steps = await Promise.all(lifted.steps.map((made, k) => finishedStep(orders[k]!, made, [])));
  return { pieces, steps, backgroundLayer: newId('layer') };
}

/** Uploads the slices of a picture and what lies behind them. */
export async function storedSlices(
  made: SlicedPictures,
): Promise<{ slices: SliceFiles[]; background: { step: PlateStep; layer: string; closeness: number } }> {
  const slices = await Promise.all(
    made.slices.map(async ({ picture, alpha, closeness }) => ({
      piece: newId('piece'),
      layer: newId('layer'),
      file: await uploadPixels(picture),
      alphaFile: await uploadPixels(alpha),
      closeness,
    })),
  );
  const { width, height } = made;
  const step = {
    ...firstBehind,
    id: newId('step'),
    guides: emptyGuides,
    takes: [],
    file: await uploadPixels(made.background),
    bounds: { x: 0, y: 0, width, height },
  };
  return { slices, background: { step, layer: newId('layer'), closeness: made.closeness } };
}
