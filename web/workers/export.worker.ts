import { paintFrame } from '../../core/paint/painter.ts';
import type { Surface2D } from '../../core/paint/surface.ts';
import { evaluateProject } from '../../core/scene/sequence.ts';
import { exportFormats, type ExportFormat } from '../../core/formats/exports.ts';
import { firstGifPlan, nextGifPlan, type GifPlan } from '../../core/formats/fit-gif.ts';
import { firstPlan, fittedSound, nextPlan, type VideoPlan } from '../../core/formats/fit-size.ts';
import { writeGif } from './export/gif.ts';
import { writeApng, writeFrames } from './export/pictures.ts';
import { writeJpeg, writePoster, writeWebp } from './export/poster.ts';
import { writeMp4, writeWebm } from './export/video.ts';
import type { ExportWriter } from './export/writer.ts';
import { exportRequestSchema, type ExportAnswer, type ExportOrder } from './export-messages.ts';
import { loadMadeOf } from './drawings.ts';
import { ImageStore, type Picture } from './image-store.ts';

const writers: { [Format in ExportFormat]: ExportWriter } = {
  mp4: writeMp4,
  webm: writeWebm,
  gif: writeGif,
  apng: writeApng,
  frames: writeFrames,
  png: writePoster,
  jpeg: writeJpeg,
  webp: writeWebp,
};

const images = new ImageStore(true);
let stop = false;

const answer = (message: ExportAnswer): void => self.postMessage(message);

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = exportRequestSchema.parse(data);
  if (message.kind === 'cancel') {
    stop = true;
    return;
  }
  stop = false;
  run(message).catch((error: unknown) => {
    answer({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
  });
};

type Plan = VideoPlan | GifPlan;

/** Passes in which a size is looked for before it is said that there is none. */
const mostPasses = 12;

async function run(order: ExportOrder): Promise<void> {
  await loadMadeOf(order.document);
  const { limit } = order;
  if (limit === null || !exportFormats[order.format].fits) return finish(order, await write(order, {}, 1));
  const seconds = (order.end - order.first) / order.document.frame.rate;
  // Sound takes its part of the limit first; what it takes does not depend on the frames.
  const soundBitrate = order.sound ? fittedSound(seconds, limit) : 0;
  const soundBytes = (soundBitrate * seconds) / 8;
  const next = (plan: Plan, bytes: number): Plan | null =>
    'hold' in plan
      ? nextGifPlan(plan, bytes, limit)
      : nextPlan(plan, Math.max(1, bytes - soundBytes), Math.max(1, limit - soundBytes));
  const { width, height, rate } = order;
  let plan: Plan | null =
    order.format === 'gif'
      ? firstGifPlan({ width, height, rate })
      : firstPlan({ width, height, rate }, seconds, Math.max(1, limit - soundBytes));
  for (let pass = 1; plan && pass <= mostPasses; pass++) {
    const now: ExportOrder = { ...order, width: plan.width, height: plan.height, rate: plan.rate };
    const data = await write(now, { ...plan, soundBitrate }, pass);
    if (!data || data.size <= limit) return finish(now, data);
    plan = next(plan, data.size);
  }
  throw new Error('This clip cannot be made as small as that. Allow more, or make it shorter.');
}

function finish(order: ExportOrder, data: Blob | null): void {
  const { width, height, rate } = order;
  answer(data ? { kind: 'finished', data, frames: framesOf(order), width, height, rate } : { kind: 'cancelled' });
}

const framesOf = ({ document, first, end, rate, only }: ExportOrder): number =>
  only !== null ? 1 : Math.max(1, Math.round(((end - first) / document.frame.rate) * rate));

/** Writes the file once. @param pass which time it is written, for the progress */
async function write(
  order: ExportOrder,
  plan: Partial<VideoPlan & GifPlan> & { soundBitrate?: number },
  pass: number,
): Promise<Blob | null> {
  const { transparent, still } = exportFormats[order.format];
  const canvas = new OffscreenCanvas(order.width, order.height);
  // Every format but the poster reads each frame back.
  const context = canvas.getContext('2d', { willReadFrequently: !still, alpha: transparent })!;
  const sourceRate = order.document.frame.rate;
  const total = framesOf(order);
  /** Paints frame `index` of the result; resolves to false when the export was cancelled. */
  const paint = async (index: number): Promise<boolean> => {
    const frame = order.only ?? Math.min(order.end - 1, order.first + Math.round((index * sourceRate) / order.rate));
    const evaluated = evaluateProject(order.document, frame);
    const scale = order.width / order.document.frame.width;
    const studio = await images.studioFor(evaluated, scale);
    const ground = transparent ? null : '#000000';
    paintFrame(context as unknown as Surface2D<Picture>, evaluated, studio, { scale, ground, size: order });
    return !stop;
  };
  const report = (done: number): void => answer({ kind: 'progress', pass, done, total });
  report(0);
  const { bitrate, soundBitrate, hold } = plan;
  return writers[order.format]({ canvas, context, order, bitrate, soundBitrate, hold, total, paint, report });
}
