import { bandRadius, estimateAlpha } from '../../core/cut/alpha.ts';
import { withCare } from '../../core/cut/edge-care.ts';
import { checkPiece, type Finding } from '../../core/cut/check.ts';
import { movedStroke } from '../../core/cut/strokes.ts';
import { cleanColours } from '../../core/cut/foreground-colours.ts';
import { CutSession } from '../../core/cut/subject.ts';
import { distanceHistogram, lumaHistogram } from '../../core/key/histogram.ts';
import { Cancelled } from '../../core/pixels/progress.ts';
import {
  alphaOf,
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  unionRect,
  type Bytes,
  type Rect,
  type Rgba,
} from '../../core/pixels/raster.ts';
import { cutPiece } from '../../core/rebuild/lift.ts';
import { colouredBy, keyed, maskOnPicture, standsInPicture } from '../../core/scene/cut-piece.ts';
import type { CutRecipe, SubjectRecipe } from '../../core/scene/document.ts';
import { makeBehind, type PlateWork } from '../../core/scene/make-plate.ts';
import { firstBehind } from '../../core/scene/plate.ts';
import { breathe, progressFor } from './cancelling.ts';
import { cutRequestSchema, type CutAnswer, type CutRequest } from './cut-messages.ts';
import { alphaBitmap, bitmapOf, fileUrlOf, loadPixels, pngOf } from './pixels.ts';
import { filesOf, makeOn } from './plate-files.ts';

/** One picture is open at a time; its session keeps what earlier requests found out. */
interface Open {
  picture: Rgba;
  session: CutSession;
  alpha: Bytes | null;
  /** What changed since alpha was last estimated. */
  stale: Rect | null;
  /** Whether what is shown is more than the subject's plain alpha, so that all of it has to be shown anew. */
  dressed: boolean;
  /** Alpha as it is shown now. */
  shown: Bytes | null;
}

let open: Open | null = null;
const cancelled = new Set<number>();
type Order = Exclude<CutRequest, { kind: 'cancel' }>;
const waiting: Order[] = [];
let busy = false;

const answer = (message: CutAnswer, transfer: Transferable[] = []): void => self.postMessage(message, { transfer });

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = cutRequestSchema.parse(data);
  if (message.kind === 'cancel') {
    cancelled.add(message.request);
    return;
  }
  waiting.push(message);
  void work();
};

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
        });
    }
    cancelled.delete(message.request);
  }
  busy = false;
}

async function handle(message: Order): Promise<void> {
  if (message.kind === 'open') {
    open = null;
    const picture = await loadPixels(message.url);
    open = { picture, session: new CutSession(picture), alpha: null, stale: null, dressed: false, shown: null };
    answer({ kind: 'opened', request: message.request, width: picture.width, height: picture.height });
    return;
  }
  if (!open) throw new Error('No picture is open.');
  // A newer solve makes an older one that has not begun pointless.
  if (message.kind === 'solve' && waiting.some((other) => other.kind === 'solve')) {
    answer({ kind: 'cancelled', request: message.request });
    return;
  }
  if (message.kind === 'solve') await solve(open, message);
  else if (message.kind === 'lift') await lift(open, message);
  else
    answer({ kind: 'checked', request: message.request, findings: open.shown ? checkPiece(open.shown).map(sent) : [] });
}

async function stopIfCancelled(request: number): Promise<void> {
  await breathe();
  if (cancelled.has(request)) throw new Cancelled();
}

/** Findings with points a message can carry. */
const sent = (finding: Finding) => ({
  ...finding,
  marks: finding.marks.map((mark) => ({ ...mark, stroke: movedStroke(mark.stroke, 0, 0) })),
});

type Solve = Extract<CutRequest, { kind: 'solve' }>;

const isPlain = ({ recipe, care, marks }: Solve): boolean =>
  recipe.kind === 'subject' && care.grow === 0 && care.soften === 0 && marks.length === 0;

async function solve(state: Open, message: Solve): Promise<void> {
  const { request, recipe } = message;
  const started = performance.now();
  if (!state.alpha) answer({ kind: 'progress', request, doing: 'Finding the subject', share: 0.1 });
  if (recipe.kind !== 'subject') return sendDressed(state, message, await foundBy(state, request, recipe), started);
  const { mask, changed } = state.session.solve(recipe);
  state.stale = unionRect(state.stale, changed);
  if (!isPlain(message)) {
    const alpha = await currentAlpha(state, request, recipe);
    return sendDressed(state, message, { alpha, colours: null }, started);
  }
  if (state.dressed) state.stale = { x: 0, y: 0, width: mask.width, height: mask.height };
  state.dressed = false;
  if (state.stale) {
    const { x, y } = state.stale;
    await sendPart(request, 'mask', x, y, binaryAlpha(cropBytes(mask, state.stale)), null, started);
  }
  await stopIfCancelled(request);
  if (overtaken(request)) return;
  await sendAlpha(state, request, mask, started);
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

/** A key, or a subject with edge care and brushes: its alpha at once, its colours when they are known. */
async function sendDressed(
  state: Open,
  message: Solve,
  found: { alpha: Bytes; colours: Rgba | null },
  started: number,
): Promise<void> {
  const { request, recipe } = message;
  state.dressed = true;
  const alpha = withCare(found.alpha, message.care, message.marks);
  state.shown = alpha;
  await sendPart(request, 'mask', 0, 0, alpha, null, started);
  await stopIfCancelled(request);
  if (overtaken(request)) return;
  const bounds = boundsOf(alpha);
  if (bounds) {
    const area = growRect(bounds, 4, alpha.width, alpha.height);
    const crop = { alpha: cropBytes(found.alpha, area), colours: found.colours && cropRgba(found.colours, area) };
    const part = cropBytes(alpha, area);
    const colours = colouredBy(cropRgba(state.picture, area), crop, part);
    await sendPart(request, 'alpha', area.x, area.y, part, colours, started);
  }
  const facts = keyFacts(state.picture, recipe);
  answer({ kind: 'solved', request, bounds, share: shareOf(alpha), ...facts });
}

function keyFacts(picture: Rgba, recipe: CutRecipe) {
  if (recipe.kind === 'chroma') {
    const { screen, ...histogram } = distanceHistogram(picture, recipe.colours);
    return { histogram, screen: [screen[0], screen[1], screen[2]] as [number, number, number] };
  }
  const byLight = recipe.kind === 'luma' || recipe.kind === 'unveil';
  return { histogram: byLight ? lumaHistogram(picture) : null, screen: null };
}

const shareOf = (alpha: Bytes): number => alpha.data.reduce((sum, a) => sum + a, 0) / 255 / alpha.data.length;

const binaryAlpha = (mask: Bytes): Bytes => ({ ...mask, data: mask.data.map((v) => v * 255) });

async function sendAlpha(state: Open, request: number, mask: Bytes, started: number): Promise<void> {
  const { picture } = state;
  if (state.stale) {
    const margin = bandRadius(picture.width, picture.height) * 5;
    const area = growRect(state.stale, margin, picture.width, picture.height);
    state.alpha = estimateAlpha(picture, mask, area, state.alpha ?? undefined);
    const part = cropBytes(state.alpha, area);
    state.stale = null;
    await sendPart(request, 'alpha', area.x, area.y, part, cleanColours(cropRgba(picture, area), part), started);
  }
  const alpha = state.alpha!;
  state.shown = alpha;
  answer({ kind: 'solved', request, bounds: boundsOf(alpha), share: shareOf(alpha), histogram: null, screen: null });
}

async function lift(state: Open, message: Extract<CutRequest, { kind: 'lift' }>): Promise<void> {
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
  const found = await foundBy(state, request, recipe);
  const alpha = withCare(found.alpha, piece.care, piece.marks);
  const colours = colouredBy(state.picture, found, alpha);
  const cut = await cutPiece({ picture: state.picture, alpha, colours, touches: piece.touches }, progress);
  const pieces = [{ piece: piece.id, cutout: await pngOf(cut.cutout), bounds: cut.bounds }];
  if (!standsInPicture(recipe)) {
    answer({ kind: 'lifted', request, pieces, steps: [] });
    return;
  }
  const work: PlateWork = {
    document,
    picture,
    load: (file) => (file === picture.file ? Promise.resolve(state.picture) : loadPixels(fileUrlOf(file))),
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
    pieces.push({ piece: behind.shadowPieces[k]!, cutout: await pngOf(shadow.layer), bounds: shadow.bounds });
  }
  await stopIfCancelled(request);
  answer({ kind: 'lifted', request, pieces, steps: [first, ...rest] });
}

/** What a recipe finds, before edge care. */
async function foundBy(
  state: Open,
  request: number,
  recipe: CutRecipe,
): Promise<{ alpha: Bytes; colours: Rgba | null }> {
  if (recipe.kind === 'subject') return { alpha: await currentAlpha(state, request, recipe), colours: null };
  if (recipe.kind !== 'mask') return keyed(state.picture, recipe);
  const mask = alphaOf(await loadPixels(fileUrlOf(recipe.file)));
  return { alpha: maskOnPicture(mask, recipe.x, recipe.y, state.picture), colours: null };
}

async function currentAlpha(state: Open, request: number, recipe: SubjectRecipe): Promise<Bytes> {
  const { mask, changed } = state.session.solve(recipe);
  state.stale = unionRect(state.stale, changed);
  if (state.stale || !state.alpha)
    state.alpha = estimateAlpha(state.picture, mask, state.stale ?? undefined, state.alpha ?? undefined);
  state.stale = null;
  await stopIfCancelled(request);
  return state.alpha;
}
