import { paintFrame } from '../../core/paint/painter.ts';
import type { Surface2D } from '../../core/paint/surface.ts';
import { evaluateProject } from '../../core/scene/sequence.ts';
import { exportFormats, type ExportFormat } from '../../core/formats/exports.ts';
import { writeGif } from './export/gif.ts';
import { writePoster } from './export/poster.ts';
import { writeMp4, writeWebm } from './export/video.ts';
import type { ExportWriter } from './export/writer.ts';
import { exportRequestSchema, type ExportAnswer, type ExportOrder } from './export-messages.ts';
import { loadMadeOf } from './drawings.ts';
import { ImageStore, type Picture } from './image-store.ts';

const writers: { [Format in ExportFormat]: ExportWriter } = {
  mp4: writeMp4,
  webm: writeWebm,
  gif: writeGif,
  png: writePoster,
};

const images = new ImageStore();
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

async function run(order: ExportOrder): Promise<void> {
  const { transparent } = exportFormats[order.format];
  const canvas = new OffscreenCanvas(order.width, order.height);
  const context = canvas.getContext('2d', {
    // Every format but the poster reads each frame back.
    willReadFrequently: !exportFormats[order.format].still,
    alpha: transparent,
  })!;
  const sourceRate = order.document.frame.rate;
  const total =
    order.only !== null ? 1 : Math.max(1, Math.round(((order.end - order.first) / sourceRate) * order.rate));
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
  await loadMadeOf(order.document);
  const report = (done: number): void => answer({ kind: 'progress', done, total });
  report(0);
  const data = await writers[order.format]({ canvas, context, order, total, paint, report });
  answer(data ? { kind: 'finished', data, frames: total } : { kind: 'cancelled' });
}
