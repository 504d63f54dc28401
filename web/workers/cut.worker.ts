import '../data/without-eval.ts';
import { checkPiece, type Finding } from '../../core/cut/check.ts';
import { movedStroke } from '../../core/cut/strokes.ts';
import { thinLine } from '../../core/cut/thin-line.ts';
import { temporalMedian } from '../../core/key/difference.ts';
import { distanceHistogram, lumaHistogram } from '../../core/key/histogram.ts';
import { asMuchAsThere, emptinessOf } from '../../core/pixels/emptiness.ts';
import { Cancelled } from '../../core/pixels/progress.ts';
import {
  alphaOf,
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  type Bytes,
  type Rect,
  type Rgba,
} from '../../core/pixels/raster.ts';
import { NothingToContinue } from '../../core/rebuild/fill.ts';
import { cutPiece } from '../../core/rebuild/lift.ts';
import { withCare } from '../../core/cut/edge-care.ts';
import { colouredBy, finished, type Found } from '../../core/make/cut-piece.ts';
import { loadedTouches } from '../../core/make/piece-touches.ts';
import { makeBehind, type PlateWork } from '../../core/make/make-plate.ts';
import { firstBehind } from '../../core/document/plate.ts';
import { standsInPicture, stepsOf } from '../../core/document/recipe-steps.ts';
import type { SingleRecipe, SubjectRecipe } from '../../core/document/recipe.ts';
import { byKind } from './by-kind.ts';
import { breathe, progressFor } from './cancelling.ts';
import { ClipStore } from './clip-store.ts';
import { keepCut, keptCut, keyOf, type CutKey } from './kept-cuts.ts';
import { learnedLook } from './learned.ts';
import { cutRequestSchema, type CutAnswer, type CutOrder, type CutRequest } from './cut-messages.ts';
import { OpenPicture } from './open-picture.ts';
import { alphaBitmap, bitmapOf, fileUrlOf, loadBitmap, loadPixels, pixelsOfBitmap, pngOf } from './pixels.ts';
import { filesOf, makeOn } from './plate-files.ts';

/** One picture is open at a time. */
let open: OpenPicture | null = null;
const clips = new ClipStore();
const cancelled = new Set<number>();
const waiting: CutOrder[] = [];
let busy = false;
/** Whether nobody looks. */
let resting = false;

const answer = (message: CutAnswer, transfer: Transferable[] = []): void => self.postMessage(message, { transfer });

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = cutRequestSchema.parse(data);
  if (message.kind === 'cancel') {
    cancelled.add(message.request);
    return;
  }
  if (message.kind === 'leave') {
    void keepNow().finally(() => self.close());
    return;
  }
  resting = message.kind === 'rest' || message.kind === 'forget';
  if (message.kind === 'rest') {
    void keepNow();
    return;
  }
  if (message.kind === 'forget') {
    void keepNow().finally(forget);
    return;
  }
  waiting.push(message);
  void work();
};

/** Lets go of what was open, unless somebody looks again. */
function forget(): void {
  if (!resting) return;
  open = null;
  clips.keepOnly(new Set());
}

async function work(): Promise<void> {
  if (busy) return;
  busy = true;
  for (let message = waiting.shift(); message; message = waiting.shift()) {
    try {
      await handle(message);
    } catch (error) {
      if (error instanceof Cancelled) answer({ kind: 'cancelled', request: message.request });
      else
        answer({
          kind: 'failed',
          request: message.request,
          message: error instanceof Error ? error.message : String(error),
          nothingBehind: error instanceof NothingToContinue,
        });
    }
    cancelled.delete(message.request);
  }
  busy = false;
  // Nothing is wanted just now: the press that comes next is made ready, as long as nothing else comes.
  do await breathe();
  while (!busy && !resting && open?.prepare());
}

const handle = (message: CutOrder): Promise<void> =>
  byKind<CutOrder, Promise<void>>(message, {
    open: openPicture,
    ground: stillGround,
    solve: async (order) => {
      // A newer solve makes an older one that has not begun pointless.
      if (waiting.some((other) => other.kind === 'solve')) answer({ kind: 'cancelled', request: order.request });
      else await solve(opened(), order);
    },
    wire: async ({ request, from, to, strength }) =>
      answer({ kind: 'wire', request, way: opened().wayAlongEdges(from, to, strength) }),
    line: async ({ request, way, widest }) =>
      answer({ kind: 'line', request, line: thinLine(opened().picture, way, widest) }),
    lift: (order) => lift(opened(), order),
    check: async ({ request }) => {
      const { shown, keyed, picture } = opened();
      const findings = shown ? checkPiece(shown, keyed ? null : picture, emptinessOf(picture)?.own) : [];
      answer({ kind: 'checked', request, findings: findings.map(sent) });
    },
  });

async function openPicture({ request, file, frame }: Extract<CutOrder, { kind: 'open' }>): Promise<void> {
  const name = frame ? [frame.file, frame.index].join() : file;
  const known = open?.name === name ? open : null;
  open = null;
  const looking = learnedLook();
  // Of two that fail the picture is the one that is told of.
  looking.catch(() => undefined);
  const bitmap = frame ? await clips.frame({ ...frame, mix: null, piece: null }) : await loadBitmap(fileUrlOf(file));
  const pixels = known?.picture ?? pixelsOfBitmap(bitmap);
  const look = await looking;
  // It is seen before it is looked into: what is asked of it meanwhile waits for its turn.
  answer({ kind: 'opened', request, picture: bitmap }, [bitmap]);
  open = known?.shownAnew() ?? new OpenPicture(name, pixels, look, frame?.index);
}

function opened(): OpenPicture {
  if (!open) throw new Error('No picture is open.');
  return open;
}

async function stopIfCancelled(request: number): Promise<void> {
  await breathe();
  if (cancelled.has(request)) throw new Cancelled();
}

/** The same, and when something newer is to be solved, which makes this pointless. */
async function stopIfLeft(request: number): Promise<void> {
  await stopIfCancelled(request);
  if (waiting.some((other) => other.kind === 'solve')) throw new Cancelled();
}

/** Findings with points a message can carry. */
const sent = (finding: Finding) => ({
  ...finding,
  marks: finding.marks.map((mark) => ({ ...mark, stroke: movedStroke(mark.stroke, 0, 0) })),
});

type Solve = Extract<CutRequest, { kind: 'solve' }>;

const isPlain = ({ recipe, care, marks }: Solve): boolean =>
  recipe.kind === 'subject' &&
  care.grow === 0 &&
  care.soften === 0 &&
  care.smooth === 0 &&
  care.clean === 1 &&
  marks.length === 0;

async function solve(state: OpenPicture, message: Solve): Promise<void> {
  const { request, recipe } = message;
  const started = performance.now();
  if (await showKept(state, message, started)) return;
  const fresh = stepsOf(recipe).some((step) => step.recipe.kind === 'subject' && !state.knows(step.id));
  if (fresh) answer({ kind: 'progress', request, doing: 'Finding the subject', share: 0.1 });
  if (recipe.kind === 'subject' && isPlain(message)) await solvePlain(state, request, recipe, started);
  else {
    const between = (): Promise<void> => stopIfCancelled(request);
    const early = await state.find(recipe, between, true);
    if (state.unsettled(recipe)) {
      await sendPart(
        request,
        'mask',
        0,
        0,
        withCare(early.alpha, message.care, message.marks, state.picture),
        null,
        started,
      );
      await quiet();
      if (overtaken(request)) return;
      await between();
    }
    await sendDressed(state, message, await state.find(recipe, () => stopIfLeft(request)), started);
  }
  keepSoon(state, message);
}

/** Only subjects take so long that keeping them is worth it. */
const worthKeeping = ({ recipe }: Pick<Solve, 'recipe'>): boolean =>
  stepsOf(recipe).some((step) => step.recipe.kind === 'subject');

const keyOfSolve = (
  state: OpenPicture,
  { recipe, care, marks }: Pick<Solve, 'recipe' | 'care' | 'marks'>,
): Promise<CutKey> => keyOf(state.name, recipe, care, marks);

/** Shows a cut that was solved before this picture was opened; once something was solved here that goes on from there. */
async function showKept(state: OpenPicture, message: Solve, started: number): Promise<boolean> {
  if (state.shown || !worthKeeping(message)) return false;
  const cutout = await keptCut(await keyOfSolve(state, message));
  if (!cutout) return false;
  const { request } = message;
  const alpha = alphaOf(cutout);
  state.dressed = true;
  state.keyed = stepsOf(message.recipe).some((step) => isKey(step.recipe));
  state.shown = alpha;
  await sendPart(request, 'alpha', 0, 0, alpha, cutout, started);
  answer({ kind: 'solved', request, bounds: boundsOf(alpha), share: shareOf(alpha), ...openFacts(state, message) });
  return true;
}

/** Keeps what is shown and was not kept yet. */
let keep: (() => Promise<void>) | null = null;
let keepAt: ReturnType<typeof setTimeout> | undefined;
/** What is being kept. */
let keeping = Promise.resolve();

/** Keeps what is shown now, once nothing else has been wanted for a while. */
function keepSoon(state: OpenPicture, message: Solve): void {
  clearTimeout(keepAt);
  keep = null;
  const { shown } = state;
  if (!worthKeeping(message) || !shown) return;
  keep = async () => {
    if (!busy && open === state && state.shown === shown) await keepShown(state, message, shown);
  };
  keepAt = setTimeout(() => void keepNow(), 700);
}

function keepNow(): Promise<void> {
  clearTimeout(keepAt);
  if (keep) keeping = keeping.then(keep, keep);
  keep = null;
  return keeping;
}

async function keepShown(state: OpenPicture, message: Solve, alpha: Bytes): Promise<void> {
  const bounds = boundsOf(alpha);
  if (!bounds) return;
  const found = await state.find(message.recipe, () => Promise.resolve());
  const { area, colours } = colouredPart(state, found, alpha, message.care.clean, bounds);
  const { width, height } = alpha;
  await keepCut(await keyOfSolve(state, message), { file: await pngOf(colours), x: area.x, y: area.y, width, height });
}

/** A piece's colours where there is anything of it, with a little around. */
function colouredPart(state: OpenPicture, found: Found, alpha: Bytes, clean: number, bounds: Rect) {
  const area = growRect(bounds, 4, alpha.width, alpha.height);
  const crop = { alpha: cropBytes(found.alpha, area), colours: found.colours && cropRgba(found.colours, area) };
  const part = cropBytes(alpha, area);
  return { area, part, colours: colouredBy(cropRgba(state.picture, area), crop, part, clean) };
}

/** A subject as it was found: its mask at once, then its alpha, and of both only what changed. */
async function solvePlain(state: OpenPicture, request: number, recipe: SubjectRecipe, started: number): Promise<void> {
  const { subject, mask } = state.subjectOf('first', recipe);
  if (state.dressed) subject.stale = { x: 0, y: 0, width: mask.width, height: mask.height };
  state.dressed = false;
  state.keyed = false;
  if (subject.stale) {
    const { x, y } = subject.stale;
    const part = asMuchAsThere(binaryAlpha(cropBytes(mask, subject.stale)), state.picture, x, y);
    await sendPart(request, 'mask', x, y, part, null, started);
  }
  await stopIfCancelled(request);
  if (overtaken(request)) return;
  const send = async (area: Rect | null): Promise<void> => {
    if (!area) return;
    const part = asMuchAsThere(cropBytes(subject.alpha!, area), state.picture, area.x, area.y);
    const colours = colouredBy(cropRgba(state.picture, area), { alpha: part, colours: null }, part);
    await sendPart(request, 'alpha', area.x, area.y, part, colours, started);
  };
  await send(state.refresh(subject, mask));
  state.shown = asMuchAsThere(subject.alpha!, state.picture);
  if (!subject.settled) {
    await quiet();
    if (overtaken(request)) return;
    await send(await state.settle(subject, mask, () => stopIfLeft(request)));
  }
  const alpha = asMuchAsThere(subject.alpha!, state.picture);
  state.shown = alpha;
  answer({ kind: 'solved', request, bounds: boundsOf(alpha), share: shareOf(alpha), histogram: null, screen: null });
}

/** How long the hand has to rest before edges far from a stroke are found again. */
const rest = 350;

/** Waits until the hand rests; at once when something else is wanted, which then decides what is done. */
async function quiet(): Promise<void> {
  const until = performance.now() + rest;
  while (waiting.length === 0 && performance.now() < until) await new Promise((go) => setTimeout(go, 25));
}

/** Whether a newer wish made this one pointless; says so. */
function overtaken(request: number): boolean {
  if (!waiting.some((other) => other.kind === 'solve')) return false;
  answer({ kind: 'cancelled', request });
  return true;
}

async function sendPart(
  request: number,
  stage: 'mask' | 'alpha',
  x: number,
  y: number,
  shown: Bytes,
  colours: Rgba | null,
  started: number,
): Promise<void> {
  const alpha = await alphaBitmap(shown);
  const cutout = colours && (await bitmapOf(colours));
  const milliseconds = performance.now() - started;
  answer({ kind: 'part', request, stage, x, y, alpha, cutout, milliseconds }, cutout ? [alpha, cutout] : [alpha]);
}

/** Anything but a plain subject: its alpha at once, its colours when they are known. */
async function sendDressed(state: OpenPicture, message: Solve, found: Found, started: number): Promise<void> {
  const { request, care } = message;
  state.dressed = true;
  state.keyed = found.colours !== null;
  const alpha = withCare(found.alpha, care, message.marks, state.picture);
  state.shown = alpha;
  await sendPart(request, 'mask', 0, 0, alpha, null, started);
  await stopIfCancelled(request);
  if (overtaken(request)) return;
  const bounds = boundsOf(alpha);
  if (bounds) {
    const { area, part, colours } = colouredPart(state, found, alpha, care.clean, bounds);
    await sendPart(request, 'alpha', area.x, area.y, part, colours, started);
  }
  answer({ kind: 'solved', request, bounds, share: shareOf(alpha), ...openFacts(state, message) });
}

function openFacts(state: OpenPicture, { recipe, open: step }: Solve) {
  const steps = stepsOf(recipe);
  return keyFacts(state.picture, (steps.find(({ id }) => id === step) ?? steps.at(-1)!).recipe);
}

const isKey = ({ kind }: SingleRecipe): boolean => kind === 'chroma' || kind === 'luma' || kind === 'unveil';

function keyFacts(picture: Rgba, recipe: SingleRecipe) {
  if (recipe.kind === 'chroma') {
    const { screen, ...histogram } = distanceHistogram(picture, recipe.colours);
    return { histogram, screen: [screen[0], screen[1], screen[2]] as [number, number, number] };
  }
  const byLight = recipe.kind === 'luma' || recipe.kind === 'unveil';
  return { histogram: byLight ? lumaHistogram(picture) : null, screen: null };
}

const shareOf = (alpha: Bytes): number => alpha.data.reduce((sum, a) => sum + a, 0) / 255 / alpha.data.length;

const binaryAlpha = (mask: Bytes): Bytes => ({ ...mask, data: mask.data.map((v) => v * 255) });

/** Frames of which the median over time is taken. */
const mostSampled = 15;

/** The ground of a clip without what moves before it. */
async function stillGround({ request, file, frames, only }: Extract<CutRequest, { kind: 'ground' }>): Promise<void> {
  const count = only === null ? Math.min(mostSampled, frames) : 1;
  const pictures: Rgba[] = [];
  for (let k = 0; k < count; k++) {
    const index = only ?? Math.round((k * (frames - 1)) / Math.max(1, count - 1));
    const bitmap = await clips.frame({ file, index, mix: null, piece: null });
    pictures.push(pixelsOfBitmap(bitmap));
    bitmap.close();
    answer({ kind: 'progress', request, doing: 'Looking for the still ground', share: (k + 1) / (count + 1) });
    await stopIfCancelled(request);
  }
  answer({ kind: 'ground', request, ground: await pngOf(temporalMedian(pictures)) });
}

async function lift(state: OpenPicture, message: Extract<CutRequest, { kind: 'lift' }>): Promise<void> {
  const { request, document } = message;
  const piece = document.pieces.find((p) => p.id === message.piece);
  const picture = document.pictures.find((p) => p.id === piece?.picture);
  if (!piece || !picture || piece.recipe.kind === 'shadow')
    throw new Error('This piece is not in the project any more.');
  const progress = progressFor(
    (doing, share) => answer({ kind: 'progress', request, doing, share }),
    () => cancelled.has(request),
  );
  progress.report('Cutting', 0);
  await stopIfCancelled(request);
  const { recipe } = piece;
  const found = await state.find(recipe, () => stopIfCancelled(request));
  const { alpha, colours } = finished(state.picture, found, piece);
  if (picture.clip) {
    // Every frame of a clip is cut when it is drawn; what is stored is one of them, to be recognised by.
    const bounds = { x: 0, y: 0, width: picture.width, height: picture.height };
    const pieces = [{ piece: piece.id, cutout: await pngOf(colours), bounds, lost: 0 }];
    answer({ kind: 'lifted', request, pieces, steps: [] });
    return;
  }
  const load = (file: string): Promise<Rgba> =>
    file === picture.file ? Promise.resolve(state.picture) : loadPixels(fileUrlOf(file));
  const touches = await loadedTouches(piece.touches, { x: 0, y: 0, width: alpha.width, height: alpha.height }, load);
  const cut = await cutPiece({ picture: state.picture, alpha, colours, touches }, progress);
  const pieces = [{ piece: piece.id, cutout: await pngOf(cut.cutout), bounds: cut.bounds, lost: 0 }];
  // Who lifts goes on to another room: what was cut is kept now, so that the piece opens at once when it is looked at again.
  if (worthKeeping({ recipe }) && touches.length === 0) {
    const { x, y } = cut.bounds;
    const { care, marks } = piece;
    const { width, height } = alpha;
    await keepCut(await keyOfSolve(state, { recipe, care, marks }), { file: pieces[0]!.cutout, x, y, width, height });
  }
  if (message.alone || !standsInPicture(recipe)) {
    answer({ kind: 'lifted', request, pieces, steps: [] });
    return;
  }
  const work: PlateWork = {
    document,
    picture,
    load,
    progress,
  };
  const before = picture.background?.steps ?? [];
  const own = before[0]?.kind === 'behind' ? before[0] : { ...firstBehind, id: 'first' };
  const behind = await makeBehind(own, work, { piece: piece.id, alpha });
  const later = before.filter((step) => step.kind !== 'behind');
  progress.report('Keeping the result', 1);
  const first = await filesOf({ plate: behind.plate, x: 0, y: 0, changed: boundsOf(behind.hole) }, behind.share, true);
  const rest = await makeOn(later, { plate: behind.plate, x: 0, y: 0 }, work);
  for (const [k, shadow] of behind.shadows.entries()) {
    if (!shadow) continue;
    const { layer, bounds, lost } = shadow;
    pieces.push({ piece: behind.shadowPieces[k]!, cutout: await pngOf(layer), bounds, lost });
  }
  await stopIfCancelled(request);
  answer({ kind: 'lifted', request, pieces, steps: [first, ...rest] });
}
