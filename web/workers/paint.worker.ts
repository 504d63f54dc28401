import '../data/without-eval.ts';
import { paintFrame } from '../../core/paint/painter.ts';
import type { Surface2D } from '../../core/paint/surface.ts';
import { filesOf, type Document } from '../../core/document/document.ts';
import { lightened, type Draw, type EvaluatedFrame } from '../../core/scene/draw.ts';
import { evaluateFrame } from '../../core/scene/evaluate.ts';
import { evaluateLoop } from '../../core/scene/loop.ts';
import type { Shot } from '../../core/document/shot.ts';
import { byKind } from './by-kind.ts';
import { loadMadeOf } from './drawings.ts';
import { FollowedDocument } from './followed-document.ts';
import { ImageStore, type Picture } from './image-store.ts';
import { paintRequestSchema, type PaintAnswer, type PaintRequest } from './paint-messages.ts';
import { PaintQuality } from './paint-quality.ts';

type Order = Extract<PaintRequest, { kind: 'paint' }>;

/** The colour outside the frame; look.md's neutral field. */
const field = '#777b7c';
/** Bytes of painted frames that are kept, so that a range that was played once plays at full rate. */
const keptMemory = 400e6;
/** Frames shown before and after the present one, and how far apart. */
const skins = [-2, -1, 1, 2];

const images = new ImageStore();
let quality = new PaintQuality();
/** Painted frames of the present document, by what was asked for. */
const kept = new Map<string, ImageBitmap>();
let canvas: OffscreenCanvas | null = null;
const followed = new FollowedDocument();
let shot = '';
let last: Promise<void> = Promise.resolve();
/** Runs out when it has waited for a canvas for long. */
let resting: ReturnType<typeof setTimeout> | undefined;

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  byKind(paintRequestSchema.parse(data), {
    canvas: (given) => {
      clearTimeout(resting);
      canvas = given.canvas;
      quality = new PaintQuality();
    },
    rest: () => {
      canvas = null;
      forgetFrames();
      // From room to room a picture is not read again; who stays away needs the memory.
      resting = setTimeout(() => images.keepOnly(new Set()), 1000);
    },
    document: (told) => {
      shot = told.shot;
      images.keepOnly(new Set(filesOf(followed.follow(told.news))));
      forgetFrames();
    },
    // One after the other, each on the canvas that was there when it was asked for.
    paint: (order) => {
      const surface = canvas;
      last = last.then(() => paint(order, surface));
    },
  });
};

function forgetFrames(): void {
  for (const frame of kept.values()) frame.close();
  kept.clear();
}

async function paint(message: Order, surface: OffscreenCanvas | null): Promise<void> {
  const started = performance.now();
  const share = message.playing ? quality.share : 1;
  let problem: string | null = null;
  try {
    await paintOrRecall(message, share, surface);
  } catch (error) {
    problem = error instanceof Error ? error.message : String(error);
  }
  const milliseconds = performance.now() - started;
  const { document } = followed;
  if (message.playing && document) quality.learn(milliseconds, 1000 / document.frame.rate);
  const { request, frame } = message;
  const answer: PaintAnswer = { kind: 'painted', request, frame, milliseconds, quality: share, problem };
  self.postMessage(answer);
}

async function paintOrRecall(order: Order, share: number, surface: OffscreenCanvas | null): Promise<void> {
  // Where letters stand decides where what follows them is. Only then is it looked what is to be painted: a newer document
  // may have come meanwhile.
  if (followed.document) await loadMadeOf(followed.document);
  const now = followed.document;
  const found = now?.shots.find((s) => s.id === shot);
  // Nobody sees that of a room that was left.
  if (!surface || surface !== canvas || !now || !found) return;
  const [width, height] = [Math.max(1, Math.round(order.width * share)), Math.max(1, Math.round(order.height * share))];
  if (surface.width !== width || surface.height !== height) {
    surface.width = width;
    surface.height = height;
  }
  const context = surface.getContext('2d')!;
  const { frame, scale, x, y, atRest, light, loop } = order;
  const key = [shot, frame, width, height, scale, x, y, atRest, light, loop?.first, loop?.end].join(' ');
  const known = order.playing ? kept.get(key) : undefined;
  if (known) {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalCompositeOperation = 'copy';
    context.drawImage(known, 0, 0);
    context.globalCompositeOperation = 'source-over';
    return;
  }
  await paintOn(context, now, found, {
    ...order,
    width,
    height,
    scale: scale * share,
    x: x * share,
    y: y * share,
  });
  if (order.playing && now === followed.document) await keep(key, surface);
}

async function keep(key: string, surface: OffscreenCanvas): Promise<void> {
  if ((kept.size + 1) * surface.width * surface.height * 4 > keptMemory) return;
  kept.set(key, await createImageBitmap(surface));
}

async function paintOn(
  context: OffscreenCanvasRenderingContext2D,
  from: Document,
  found: Shot,
  order: Order,
): Promise<void> {
  const { frame, width, height, scale, x, y, atRest, light, onion, loop } = order;
  const evaluated = loop
    ? evaluateLoop(from, loop, frame)
    : atRest
      ? evaluateFrame(from, found, frame, { x: 0, y: 0, z: 0 })
      : evaluateFrame(from, found, frame);
  const shown = withSkins(light ? lightened(evaluated) : evaluated, from, found, frame, onion);
  const studio = await images.studioFor(shown, scale, order.playing);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = 1;
  context.fillStyle = field;
  context.fillRect(0, 0, width, height);
  paintFrame(context as unknown as Surface2D<Picture>, shown, studio, {
    scale,
    x,
    y,
    ground: '#000000',
    size: { width, height },
  });
  // What reaches beyond the frame is covered again, so that the frame's border is seen as in the export.
  if (!atRest) coverOutside(context, x, y, evaluated.width * scale, evaluated.height * scale);
}

/** The frame with faint pictures of some layers as they are a little earlier and later. */
function withSkins(
  frame: EvaluatedFrame,
  from: Document,
  found: Shot,
  at: number,
  layers: readonly string[],
): EvaluatedFrame {
  if (layers.length === 0) return frame;
  const step = Math.max(1, Math.round(from.frame.rate / 6));
  const faint = skins.flatMap((n): Draw[] => {
    const other = at + n * step;
    if (other < 0 || other >= found.length) return [];
    const { draws } = evaluateFrame(from, found, other);
    return draws
      .filter((draw) => layers.includes(draw.layer))
      .map((draw) => ({ ...draw, opacity: draw.opacity * (Math.abs(n) === 1 ? 0.34 : 0.18), opaque: false }));
  });
  return { ...frame, draws: [...frame.draws, ...faint] };
}

function coverOutside(
  context: OffscreenCanvasRenderingContext2D,
  x: number,
  y: number,
  width: number,
  height: number,
): void {
  const { width: w, height: h } = context.canvas;
  context.fillStyle = field;
  context.fillRect(0, 0, w, y);
  context.fillRect(0, y + height, w, h - y - height);
  // Over their whole height: where bars end inside a pixel, what lies under them would show.
  context.fillRect(0, 0, x, h);
  context.fillRect(x + width, 0, w - x - width, h);
}
