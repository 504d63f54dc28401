import '../data/without-eval.ts';
import { filesOf } from '../../core/document/document.ts';
import { loopLength } from '../../core/scene/loop.ts';
import { exportFormats, type ExportFormat } from '../../core/formats/exports.ts';
import { firstGifPlan, nextGifPlan, type GifPlan } from '../../core/formats/fit-gif.ts';
import type { Draw } from '../../core/scene/draw.ts';
import { estimatedBytes, probesOf, type Probe } from '../../core/formats/estimate.ts';
import { lengthOf } from '../../core/sound/samples.ts';
import { firstPlan, fittedSound, nextPlan, plentifulSound, type VideoPlan } from '../../core/formats/fit-size.ts';
import { byKind } from './by-kind.ts';
import { writeGif } from './export/gif.ts';
import { writeApng, writeFrames } from './export/pictures.ts';
import { writeLayers, writeOpenRaster } from './export/layers.ts';
import { writeJpeg, writePoster, writeWebp } from './export/poster.ts';
import { writeAlphaWebm } from './export/alpha-video.ts';
import { writeAv1, writeMp4, writeWebm } from './export/video.ts';
import type { ExportWriter, LayerToPaint } from './export/writer.ts';
import { exportRequestSchema, type ExportAnswer, type ExportOrder } from './export-messages.ts';
import { loadMadeOf } from './drawings.ts';
import { FrameHelper } from './export/frame-helper.ts';
import { FramePainter } from './export/frame-painter.ts';
import { Frames } from './export/frames.ts';
import { painterCount } from './export/painter-count.ts';
import { framesOrderOf } from './frame-messages.ts';
import { ImageStore } from './image-store.ts';

const writers: { [Format in ExportFormat]: ExportWriter } = {
  mp4: writeMp4,
  webm: writeWebm,
  'webm-alpha': writeAlphaWebm,
  av1: writeAv1,
  gif: writeGif,
  apng: writeApng,
  frames: writeFrames,
  png: writePoster,
  jpeg: writeJpeg,
  webp: writeWebp,
  ora: writeOpenRaster,
  layers: writeLayers,
};

const images = new ImageStore(true);
let stop = false;

const answer = (message: ExportAnswer): void => self.postMessage(message);

self.onmessage = ({ data }: MessageEvent<unknown>) =>
  byKind(exportRequestSchema.parse(data), {
    export: (order) => begin(run, order),
    estimate: (order) => begin(estimate, order),
    cancel: () => {
      stop = true;
    },
    forget: () => images.keepOnly(new Set()),
  });

function begin(work: (order: ExportOrder) => Promise<void>, order: ExportOrder): void {
  // It may have made something of an earlier document before, which was cancelled too late.
  stop = false;
  images.keepOnly(new Set(filesOf(order.document)));
  work(order).catch((error: unknown) => {
    answer({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
  });
}

type Plan = VideoPlan | GifPlan;

/** Passes in which a size is looked for before it is said that there is none. */
const mostPasses = 12;

async function run(order: ExportOrder): Promise<void> {
  await loadMadeOf(order.document);
  const { limit } = order;
  if (limit === null || !exportFormats[order.format].fits) return finish(order, await write(order, {}, 1));
  const seconds = loopLength(order.document, order) / order.document.frame.rate;
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

const framesOf = (order: ExportOrder): number =>
  order.only !== null
    ? 1
    : Math.max(1, Math.round((loopLength(order.document, order) / order.document.frame.rate) * order.rate));

/** Seconds after which the writers of videos make a frame whole again, and frames until they keep their rate. */
const secondsBetweenKeys = 5;
const settles: Partial<Record<ExportFormat, number>> = { mp4: 8, webm: 34, av1: 34, 'webm-alpha': 34 };

/** Tells how large a file will be, by writing a few stretches of it. */
async function estimate(order: ExportOrder): Promise<void> {
  await loadMadeOf(order.document);
  const { rate, sound, format } = order;
  const isVideo = exportFormats[format].mediaType.startsWith('video/');
  const pace = {
    keyEvery: isVideo ? secondsBetweenKeys * rate : Infinity,
    settles: settles[format] ?? 0,
  };
  const total = framesOf(order);
  const stretches: number[][] = [];
  for (const probe of probesOf(total, pace)) {
    const sizes = await sizesIn({ ...order, sound: null }, probe, isVideo);
    if (!sizes) return answer({ kind: 'cancelled' });
    stretches.push(sizes);
  }
  const heard = sound ? (plentifulSound / 8) * (lengthOf(sound) / sound.rate) : 0;
  answer({ kind: 'estimated', bytes: estimatedBytes(total, pace, stretches) + Math.round(heard) });
}

/** Bytes of the frames of a stretch; where the writer does not tell, the first by itself and the others alike. */
async function sizesIn(order: ExportOrder, probe: Probe, told: boolean): Promise<number[] | null> {
  const sizes: number[] = [];
  const all = await write(order, {}, 0, probe, (bytes) => sizes.push(bytes));
  if (!all || told || probe.count === 1) return all && (told ? sizes : [all.size]);
  const first = await write(order, {}, 0, { ...probe, count: 1 });
  const further = first ? (all.size - first.size) / (probe.count - 1) : 0;
  return first && [first.size, ...Array<number>(probe.count - 1).fill(further)];
}

/**
 * Writes the file once, or a stretch of it.
 * @param pass which time it is written, for the progress; 0 to tell nothing
 */
async function write(
  order: ExportOrder,
  plan: Partial<VideoPlan & GifPlan> & { soundBitrate?: number },
  pass: number,
  { first, count }: Probe = { first: 0, count: framesOf(order) },
  wrote?: (bytes: number) => void,
): Promise<Blob | null> {
  const wanted = framesOrderOf(order, first);
  const painter = new FramePainter(images, wanted);
  const paintOn = (painted: Promise<void>): Promise<boolean> => painted.then(() => !stop);
  const layers = (): LayerToPaint[] => {
    const evaluated = painter.evaluated(0);
    const named = new Map(order.document.shots.flatMap((shot) => shot.layers.map((one) => [one.id, one.name])));
    // What only changes what is behind it has nothing of its own to show.
    const own = evaluated.draws.filter(({ content }) => content.kind !== 'grade').reverse();
    const alone = (draw: Draw): LayerToPaint => {
      const { layer, opacity, blend } = draw;
      const shown: Draw = { ...draw, opacity: 1, blend: 'normal' };
      const paint = (): Promise<boolean> => paintOn(painter.put({ ...evaluated, draws: [shown] }));
      return { name: named.get(layer) ?? layer, opacity, blend, paint };
    };
    return own.map(alone);
  };
  const report = (done: number): void => {
    if (pass > 0) answer({ kind: 'progress', pass, done, total: count });
  };
  report(0);
  const { bitrate, soundBitrate, hold } = plan;
  const { canvas, context } = painter;
  // An estimate, which nobody asked for, leaves the machine to what was.
  const size = { width: order.width, height: order.height, frames: count };
  const painters = pass > 0 ? painterCount(order.document, size, navigator.hardwareConcurrency) : 1;
  const helpers = painters < 2 ? [] : Array.from({ length: painters }, () => new FrameHelper(wanted));
  const frames = new Frames(painter, helpers, () => stop);
  try {
    return await writers[order.format]({
      canvas,
      context,
      order,
      bitrate,
      soundBitrate,
      hold,
      total: count,
      paint: (index) => paintOn(painter.paint(index)),
      each: (indices, as, take) => frames.each(indices, as, take),
      layers,
      report,
      wrote,
    });
  } finally {
    frames.close();
  }
}
