import { untouched, type Document, type Picture, type Piece } from '../../core/document/document.ts';
import type { Edit } from '../../core/edits/edit.ts';
import { startMove } from '../../core/edits/first-moves.ts';
import { setLayer } from '../../core/edits/layer-edits.ts';
import { hangPicture, liftOut } from '../../core/edits/lift-edit.ts';
import { addPiece } from '../../core/edits/project-edits.ts';
import { hangSlices } from '../../core/edits/slice-edit.ts';
import { distanceIn, placeInDepth, slicedRelief } from '../../core/edits/depth-edits.ts';
import { groundAt } from '../../core/depth/guess.ts';
import { valueAt } from '../../core/motion/property.ts';
import { CutClient, NothingBehind } from '../workers/cut-client.ts';
import { guessDepth, NothingFarther, sliceDepth } from '../workers/depth-client.ts';
import { uploadPixels } from './api.ts';
import { newId } from './project.ts';
import { storedLift, storedSlices } from './stored-plate.ts';

export interface MakingListener {
  progress(doing: string, share: number): void;
  /** Aborted when it is not wanted any more: nothing is changed then. */
  signal: AbortSignal;
}

/** Shares of the whole at which the steps begin. */
const begins = { cut: 0.02, lift: 0.18, guess: 0.5, slice: 0.56, move: 0.97 } as const;
/** A piece that covers less, or more, is no subject before a background. */
const [leastShare, mostShare] = [0.003, 0.9];
const bands = 3;

/** Collects ordinary edits over a document that is not changed before all of them are known. */
class Sequence {
  readonly edits: Edit[] = [];

  constructor(public document: Document) {}

  add(edit: Edit): void {
    this.edits.push(edit);
    this.document = edit.apply(this.document);
  }
}

/**
 * From a photo to a moving clip: finds the subject, lifts it out, rebuilds what is behind, guesses the depth of that, slices it,
 * hangs all of it and starts a move. Every step is an ordinary one that can be opened and changed.
 * @returns one edit with all of it; null when it was cancelled
 */
export async function makeItMove(before: Document, picture: Picture, listener: MakingListener): Promise<Edit | null> {
  const { signal } = listener;
  const made = new Sequence(before);
  const shot = before.shots[0]!.id;
  const stop = new Promise<null>((resolve) => signal.addEventListener('abort', () => resolve(null), { once: true }));
  const unlessStopped = <T>(work: Promise<T>): Promise<T | null> => Promise.race([work, stop]);

  const subject = await unlessStopped(liftSubject(made, picture, listener));
  if (subject === null || signal.aborted) return null;
  const layers = made.document.shots[0]!.layers;
  if (!layers.some(({ source }) => source.kind === 'background' && source.picture === picture.id))
    made.add(hangPicture(picture.id, newId('layer')));

  if (!(await inDepth(made, picture, subject, listener))) return null;
  made.add(startMove(shot, 'push', subject.layer));
  return { name: 'Make it move', apply: (document) => made.edits.reduce((now, edit) => edit.apply(now), document) };
}

/**
 * Guesses how near everything is that the subject leaves, slices it, and hangs the slices. What is all one thing, as a picture that was
 * cut out before, stays one layer.
 * @returns false when it was cancelled
 */
async function inDepth(made: Sequence, picture: Picture, subject: Lifted, listener: MakingListener): Promise<boolean> {
  const { progress, signal } = listener;
  const shot = made.document.shots[0]!.id;
  progress('Guessing near and far', begins.guess);
  const plate = made.document.pictures.find(({ id }) => id === picture.id)!;
  const file = plate.background?.steps.at(-1)?.file ?? plate.file;
  const guessing = guessDepth(file);
  signal.addEventListener('abort', () => guessing.cancel(), { once: true });
  const guess = await guessing.answer;
  if (!guess) return false;
  const map = await uploadPixels(guess.map);

  const slicing = sliceDepth(file, map, bands, true, (doing, share) =>
    progress(doing, begins.slice + (begins.move - begins.slice) * share),
  );
  signal.addEventListener('abort', () => slicing.cancel(), { once: true });
  const sliced = await slicing.answer.catch((error: unknown) => {
    if (error instanceof NothingFarther) return 'one thing' as const;
    throw error;
  });
  if (!sliced) return false;
  if (sliced === 'one thing') return !signal.aborted;
  const { slices, background } = await storedSlices(sliced);
  if (signal.aborted) return false;

  progress('Framing the move', begins.move);
  const behind = made.document.shots[0]!.layers.find(
    ({ source }) => source.kind === 'background' && source.picture === picture.id,
  )!;
  // It was enlarged for a first move that is not this one; subject and place are to fit as in the photo.
  const scale = made.document.shots[0]!.layers.find(({ id }) => id === subject.layer)?.scale ?? behind.scale;
  made.add(setLayer('Guess near and far', shot, behind.id, { relief: slicedRelief(map), scale }));
  made.add(hangSlices(shot, behind.id, slices, background));
  made.add(
    placeInDepth(
      shot,
      subject.layer,
      slices.map(({ layer }) => layer),
      distanceIn(valueAt(behind.depth, 0), subject.closeness(guess.horizon ?? 0.4)),
    ),
  );
  return true;
}

interface Lifted {
  /** Its layer; null where nothing stood out. */
  layer: string | null;
  /** How near the place is where it stands. */
  closeness(horizon: number): number;
}

/** Finds what stands out, and lifts it with what is behind rebuilt. */
async function liftSubject(made: Sequence, picture: Picture, { progress, signal }: MakingListener): Promise<Lifted> {
  const nothing: Lifted = { layer: null, closeness: () => 1 };
  const client = new CutClient();
  signal.addEventListener('abort', () => client.close(), { once: true });
  try {
    progress('Finding the subject', begins.cut);
    const opened = await client.open(picture.file, null);
    opened?.close();
    const recipe: Piece['recipe'] = { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null };
    const found = await client.solve({ recipe, care: untouched.care, marks: [], open: null }, {});
    if (!found?.bounds || found.share < leastShare || found.share > mostShare) return nothing;
    const piece: Piece = { ...untouched, id: newId('piece'), picture: picture.id, name: picture.name, recipe };
    const adding = addPiece(piece);
    const withPiece = adding.apply(made.document);
    const lifting = client.lift(withPiece, piece.id, {
      progress: (doing, share) => progress(doing, begins.lift + (begins.guess - begins.lift) * share),
    });
    const lifted = await lifting.answer;
    if (!lifted) return nothing;
    const stored = await storedLift(withPiece, piece, lifted);
    if (signal.aborted) return nothing;
    made.add(adding);
    made.add(liftOut(stored));
    const { y, height } = stored.pieces[0]!.cutout.bounds;
    const feet = (y + height) / picture.height;
    return { layer: stored.pieces[0]!.layer, closeness: (horizon) => groundAt(Math.min(1, feet), horizon) };
  } catch (error) {
    // What fills its picture has no place behind it; the picture as a whole still has depth.
    if (error instanceof NothingBehind) return nothing;
    throw error;
  } finally {
    client.close();
  }
}
