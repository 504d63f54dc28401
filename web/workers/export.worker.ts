import { applyPalette, GIFEncoder, quantize } from 'gifenc';
import {
  BufferTarget,
  CanvasSource,
  getFirstEncodableVideoCodec,
  Mp4OutputFormat,
  Output,
  QUALITY_HIGH,
  QUALITY_MEDIUM,
  WebMOutputFormat,
} from 'mediabunny';
import { paintFrame } from '../../core/paint/painter.ts';
import type { Surface2D } from '../../core/paint/surface.ts';
import { evaluateProject } from '../../core/scene/sequence.ts';
import { exportRequestSchema, type ExportAnswer, type ExportOrder } from './export-messages.ts';
import { ImageStore, type Picture } from './image-store.ts';

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
  const canvas = new OffscreenCanvas(order.width, order.height);
  const context = canvas.getContext('2d', {
    willReadFrequently: order.format === 'gif',
    alpha: order.format === 'png',
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
    const ground = order.format === 'png' ? null : '#000000';
    paintFrame(context as unknown as Surface2D<Picture>, evaluated, studio, { scale, ground, size: order });
    return !stop;
  };
  const report = (done: number): void => answer({ kind: 'progress', done, total });
  report(0);
  const data =
    order.format === 'png'
      ? await makePoster(canvas, paint)
      : order.format === 'gif'
        ? await makeGif(context, order, total, paint, report)
        : await makeVideo(canvas, order, total, paint, report);
  answer(data ? { kind: 'finished', data, frames: total } : { kind: 'cancelled' });
}

type Paint = (index: number) => Promise<boolean>;
type Report = (done: number) => void;

async function makePoster(canvas: OffscreenCanvas, paint: Paint): Promise<Blob | null> {
  return (await paint(0)) ? canvas.convertToBlob({ type: 'image/png' }) : null;
}

async function makeVideo(
  canvas: OffscreenCanvas,
  order: ExportOrder,
  total: number,
  paint: Paint,
  report: Report,
): Promise<Blob | null> {
  const mp4 = order.format === 'mp4';
  const size = { width: order.width, height: order.height };
  const codec = await getFirstEncodableVideoCodec([mp4 ? 'avc' : 'vp9'], size);
  if (!codec) {
    throw new Error(
      `This browser cannot write ${mp4 ? 'MP4 (H.264)' : 'WebM (VP9)'} at ${size.width} x ${size.height}. Choose a smaller size or the other format.`,
    );
  }
  const target = new BufferTarget();
  const output = new Output({
    format: mp4 ? new Mp4OutputFormat({ fastStart: 'in-memory' }) : new WebMOutputFormat(),
    target,
  });
  // VP9 needs about half the bits of H.264 for the same look.
  const source = new CanvasSource(canvas, {
    codec,
    bitrate: mp4 ? QUALITY_HIGH : QUALITY_MEDIUM,
    latencyMode: mp4 ? 'quality' : 'realtime',
  });
  output.addVideoTrack(source, { frameRate: order.rate });
  await output.start();
  for (let index = 0; index < total; index++) {
    if (!(await paint(index))) {
      await output.cancel();
      return null;
    }
    await source.add(index / order.rate, 1 / order.rate);
    report(index + 1);
  }
  await output.finalize();
  return new Blob([target.buffer!], { type: mp4 ? 'video/mp4' : 'video/webm' });
}

async function makeGif(
  context: OffscreenCanvasRenderingContext2D,
  order: ExportOrder,
  total: number,
  paint: Paint,
  report: Report,
): Promise<Blob | null> {
  const gif = GIFEncoder();
  const pixels = (): Uint8ClampedArray => context.getImageData(0, 0, order.width, order.height).data;
  // One palette for the whole clip, from frames spread over it: a palette for each frame would flicker.
  const sampled: number[] = [];
  for (let k = 0; k < Math.min(5, total); k++) {
    if (!(await paint(Math.round((k * (total - 1)) / 4)))) return null;
    const data = pixels();
    for (let i = 0; i < data.length; i += 4 * 7) sampled.push(data[i]!, data[i + 1]!, data[i + 2]!, 255);
  }
  const palette = quantize(Uint8Array.from(sampled), 256);
  for (let index = 0; index < total; index++) {
    if (!(await paint(index))) return null;
    const indexed = applyPalette(new Uint8Array(pixels().buffer), palette);
    // Delays are whole hundredths of a second; rounding the moments and not the delays keeps the length right.
    const moment = (n: number): number => Math.round((n * 100) / order.rate) * 10;
    gif.writeFrame(indexed, order.width, order.height, {
      palette: index === 0 ? palette : undefined,
      delay: moment(index + 1) - moment(index),
      repeat: 0,
    });
    report(index + 1);
    await new Promise((resolve) => setTimeout(resolve));
  }
  gif.finish();
  return new Blob([gif.bytes() as Uint8Array<ArrayBuffer>], { type: 'image/gif' });
}
