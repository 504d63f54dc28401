import { bandRadius, estimateAlpha } from '../../core/cut/alpha.ts';
import { cleanColours } from '../../core/cut/foreground-colours.ts';
import { CutSession } from '../../core/cut/subject.ts';
import { Cancelled } from '../../core/pixels/progress.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  unionRect,
  type Bytes,
  type Rect,
  type Rgba,
} from '../../core/pixels/raster.ts';
import { liftPiece } from '../../core/rebuild/lift.ts';
import type { Recipe } from '../../core/scene/document.ts';
import { cutRequestSchema, type CutAnswer, type CutRequest } from './cut-messages.ts';
import { alphaBitmap, alphaOf, bitmapOf, loadPixels, pngOf } from './pixels.ts';

/** One picture is open at a time; its session keeps what earlier requests found out. */
interface Open {
  picture: Rgba;
  session: CutSession;
  alpha: Bytes | null;
  /** What changed since alpha was last estimated. */
  stale: Rect | null;
}

let open: Open | null = null;
const cancelled = new Set<number>();
type Order = Exclude<CutRequest, { kind: 'cancel' }>;
const waiting: Order[] = [];
let busy = false;

const answer = (message: CutAnswer, transfer: Transferable[] = []): void => self.postMessage(message, { transfer });

/** Lets messages that arrived meanwhile be read. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      channel.port1.close();
      resolve();
    };
    channel.port2.postMessage(null);
  });

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
    open = { picture, session: new CutSession(picture), alpha: null, stale: null };
    answer({ kind: 'opened', request: message.request, width: picture.width, height: picture.height });
    return;
  }
  if (!open) throw new Error('No picture is open.');
  // A newer solve makes an older one that has not begun pointless.
  if (message.kind === 'solve' && waiting.some((other) => other.kind === 'solve')) {
    answer({ kind: 'cancelled', request: message.request });
    return;
  }
  if (message.kind === 'solve') await solve(open, message.request, message.recipe);
  else await lift(open, message);
}

async function stopIfCancelled(request: number): Promise<void> {
  await breathe();
  if (cancelled.has(request)) throw new Cancelled();
}

async function solve(state: Open, request: number, recipe: Recipe): Promise<void> {
  const started = performance.now();
  if (!state.alpha) answer({ kind: 'progress', request, doing: 'Finding the subject', share: 0.1 });
  const { mask, changed } = state.session.solve(recipe);
  state.stale = unionRect(state.stale, changed);
  if (state.stale) {
    const shown = await alphaBitmap(binaryAlpha(cropBytes(mask, state.stale)));
    const { x, y } = state.stale;
    answer(
      {
        kind: 'part',
        request,
        stage: 'mask',
        x,
        y,
        alpha: shown,
        cutout: null,
        milliseconds: performance.now() - started,
      },
      [shown],
    );
  }
  await stopIfCancelled(request);
  if (waiting.some((other) => other.kind === 'solve')) {
    answer({ kind: 'cancelled', request });
    return;
  }
  await sendAlpha(state, request, mask, started);
}

const binaryAlpha = (mask: Bytes): Bytes => ({ ...mask, data: mask.data.map((v) => v * 255) });

async function sendAlpha(state: Open, request: number, mask: Bytes, started: number): Promise<void> {
  const { picture } = state;
  if (state.stale) {
    const margin = bandRadius(picture.width, picture.height) * 5;
    const area = growRect(state.stale, margin, picture.width, picture.height);
    state.alpha = estimateAlpha(picture, mask, area, state.alpha ?? undefined);
    const part = cropBytes(state.alpha, area);
    const cutout = await bitmapOf(cleanColours(cropRgba(picture, area), part));
    const alpha = await alphaBitmap(part);
    state.stale = null;
    const { x, y } = area;
    answer({ kind: 'part', request, stage: 'alpha', x, y, alpha, cutout, milliseconds: performance.now() - started }, [
      alpha,
      cutout,
    ]);
  }
  const alpha = state.alpha!;
  let sum = 0;
  for (const a of alpha.data) sum += a;
  answer({ kind: 'solved', request, bounds: boundsOf(alpha), share: sum / 255 / alpha.data.length });
}

async function lift(state: Open, message: Extract<CutRequest, { kind: 'lift' }>): Promise<void> {
  const { request, recipe, others, seed } = message;
  let last = performance.now();
  const progress = {
    report: (doing: string, share: number) => answer({ kind: 'progress', request, doing, share }),
    cancelled: async () => {
      if (performance.now() - last > 25) {
        await breathe();
        last = performance.now();
      }
      return cancelled.has(request);
    },
  };
  progress.report('Cutting', 0);
  await stopIfCancelled(request);
  const { mask, changed } = state.session.solve(recipe);
  state.stale = unionRect(state.stale, changed);
  if (state.stale || !state.alpha)
    state.alpha = estimateAlpha(state.picture, mask, state.stale ?? undefined, state.alpha ?? undefined);
  state.stale = null;
  await stopIfCancelled(request);
  const lifted = await liftPiece(
    {
      picture: state.picture,
      alpha: state.alpha,
      others: await Promise.all(others.map(async ({ url, x, y }) => ({ alpha: alphaOf(await loadPixels(url)), x, y }))),
      seed,
    },
    progress,
    (picture) =>
      void bitmapOf(picture).then((bitmap) => answer({ kind: 'preview', request, picture: bitmap }, [bitmap])),
  );
  progress.report('Keeping the result', 1);
  const [cutout, background] = await Promise.all([pngOf(lifted.cutout), pngOf(lifted.background)]);
  await stopIfCancelled(request);
  answer({ kind: 'lifted', request, cutout, bounds: lifted.bounds, background });
}
