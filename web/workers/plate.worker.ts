import '../data/without-eval.ts';
import type { Document, Piece } from '../../core/document/document.ts';
import { movedStroke } from '../../core/cut/strokes.ts';
import { objectsOf } from '../../core/cut/objects.ts';
import { Cancelled, type Progress } from '../../core/pixels/progress.ts';
import { alphaOf, cropRgba, type Rgba } from '../../core/pixels/raster.ts';
import { findShadow } from '../../core/rebuild/find-shadow.ts';
import { unitedAlpha } from '../../core/rebuild/behind.ts';
import { loadedTouches } from '../../core/make/piece-touches.ts';
import { findsAnything, NothingHidden, retouch } from '../../core/rebuild/retouch.ts';
import { noPad, turned, widen } from '../../core/rebuild/widen.ts';
import type { PlateWork } from '../../core/make/make-plate.ts';
import { byKind } from './by-kind.ts';
import { makeAgain, makeFiles, plateBefore } from './plate-files.ts';
import { plateRequestSchema, type PlateAnswer, type PlateRequest } from './plate-messages.ts';
import { bitmapOf, fileUrlOf, loadPixels, pngOf } from './pixels.ts';
import { progressFor } from './cancelling.ts';

const cancelled = new Set<number>();
const underWay = new Set<number>();
type Order = Exclude<PlateRequest, { kind: 'cancel' }>;

const answer = (message: PlateAnswer, transfer: Transferable[] = []): void => self.postMessage(message, { transfer });

/** One order at a time; a page that wants several at once starts several of these. */
self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = plateRequestSchema.parse(data);
  if (message.kind === 'cancel') cancelled.add(message.request);
  else void work(message);
};

async function work(message: Order): Promise<void> {
  const { request } = message;
  underWay.add(request);
  try {
    await handle(message);
  } catch (error) {
    if (error instanceof Cancelled) answer({ kind: 'cancelled', request });
    else answer({ kind: 'failed', request, message: error instanceof Error ? error.message : String(error) });
  }
  cancelled.delete(request);
  underWay.delete(request);
}

const progressOf = (request: number): Progress =>
  progressFor(
    (doing, share) => answer({ kind: 'progress', request, doing, share }),
    () => cancelled.has(request),
  );

async function handle(message: Order): Promise<void> {
  const { request, document } = message;
  const picture = document.pictures.find((p) => p.id === message.picture);
  if (!picture) throw new Error('This picture is not in the project any more.');
  const progress = progressOf(request);
  const plateWork: PlateWork = {
    document,
    picture,
    load: (file) => loadPixels(fileUrlOf(file)),
    progress,
    preview: (shown) =>
      void bitmapOf(shown).then((bitmap) => {
        if (underWay.has(request)) answer({ kind: 'preview', request, picture: bitmap }, [bitmap]);
        else bitmap.close();
      }),
  };
  await byKind<Order, Promise<void>>(message, {
    make: async ({ order, index, whole }) => {
      const { file } = await makeFiles(order, await plateBefore(plateWork, index), plateWork, whole);
      answer({ kind: 'made', request, steps: [file] });
    },
    again: async ({ from }) => {
      const steps = await makeAgain(picture.background?.steps ?? [], from, plateWork);
      answer({ kind: 'made', request, steps });
    },
    shadow: (order) => lookForShadow(order, plateWork),
    split: (order) => split(order, plateWork),
    touch: (order) => touchUp(order, plateWork),
    level: (order) => level(order, plateWork),
  });
}

/** The cutout of a piece. @throws Error that says what it is needed for */
function cutoutIn({ pieces }: Document, id: string, wanted: string): NonNullable<Piece['cutout']> {
  const cutout = pieces.find((piece) => piece.id === id)?.cutout;
  if (!cutout) throw new Error(`Lift the piece out first; then ${wanted}.`);
  return cutout;
}

async function lookForShadow(
  { request, piece }: Extract<Order, { kind: 'shadow' }>,
  { document, picture, load, progress }: PlateWork,
): Promise<void> {
  const cutout = cutoutIn(document, piece, 'its shadow can be looked for');
  const pixels = await load(picture.file);
  const alpha = alphaOf(await load(cutout.file));
  const whole = unitedAlpha([{ alpha, ...cutout.bounds }], pixels.width, pixels.height);
  const found = await findShadow(pixels, whole, progress);
  answer({ kind: 'shadow', request, region: found && found.map((stroke) => movedStroke(stroke, 0, 0)) });
}

async function touchUp(
  { request, piece, touch: wanted }: Extract<Order, { kind: 'touch' }>,
  { document, load, progress }: PlateWork,
): Promise<void> {
  const cutout = cutoutIn(document, piece, 'it can be retouched');
  const pixels = await load(cutout.file);
  const [touch] = await loadedTouches([wanted], cutout.bounds, load);
  const inside = alphaOf(pixels);
  if (!findsAnything(touch!, inside)) throw new NothingHidden();
  const made = await retouch(pixels, touch!, inside, progress);
  answer({ kind: 'picture', request, picture: await pngOf(made), width: made.width, height: made.height });
}

async function level(
  { request, degrees }: Extract<Order, { kind: 'level' }>,
  { picture, load, progress, preview }: PlateWork,
): Promise<void> {
  const straight = turned(await load(picture.file), degrees);
  const whole = await widen({ picture: straight, pad: noPad, seed: 1 }, progress, preview);
  const { width, height } = whole;
  answer({ kind: 'picture', request, picture: await pngOf(whole), width, height });
}

/** Each thing with its colours and, for its recipe, its alpha alone. */
async function split(message: Extract<Order, { kind: 'split' }>, { document, load }: PlateWork): Promise<void> {
  const cutout = cutoutIn(document, message.piece, 'it can be split');
  const pixels = await load(cutout.file);
  const parts = await Promise.all(
    objectsOf(alphaOf(pixels)).map(async ({ alpha, bounds }) => {
      const colours = cropRgba(pixels, bounds);
      const white: Rgba = { ...colours, data: new Uint8ClampedArray(colours.data.length).fill(255) };
      for (let i = 0; i < alpha.data.length; i++) colours.data[i * 4 + 3] = white.data[i * 4 + 3] = alpha.data[i]!;
      const placed = { ...bounds, x: bounds.x + cutout.bounds.x, y: bounds.y + cutout.bounds.y };
      return { cutout: await pngOf(colours), alpha: await pngOf(white), bounds: placed };
    }),
  );
  answer({ kind: 'split', request: message.request, parts });
}
