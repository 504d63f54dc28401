import '../data/without-eval.ts';
import type { Document } from '../../core/document/document.ts';
import { paintFrame } from '../../core/paint/painter.ts';
import type { Surface2D } from '../../core/paint/surface.ts';
import { evaluateFrame } from '../../core/scene/evaluate.ts';
import { byKind } from './by-kind.ts';
import { breathe } from './cancelling.ts';
import { loadMadeOf } from './drawings.ts';
import { FollowedDocument } from './followed-document.ts';
import { ImageStore, type Picture } from './image-store.ts';
import { stillRequestSchema, type StillAnswer, type StillOrder } from './still-messages.ts';

const images = new ImageStore();
const followed = new FollowedDocument();
/** Orders that wait or are painted, and are still wanted. */
const wanted = new Set<number>();
let last: Promise<void> = Promise.resolve();

self.onmessage = ({ data }: MessageEvent<unknown>) =>
  byKind(stillRequestSchema.parse(data), {
    // One after the other: each holds the images of its own frame.
    paint: (order) => {
      wanted.add(order.request);
      // Also where it will be forgotten: the next one is told of by what is different.
      const document = followed.follow(order.news);
      last = last.then(() => answer(order, document));
    },
    forget: ({ requests }) => {
      for (const request of requests) wanted.delete(request);
    },
  });

async function answer(order: StillOrder, document: Document): Promise<void> {
  // A moment for what came meanwhile: it may be that nobody waits for this any more.
  await breathe();
  if (!wanted.delete(order.request)) return;
  const picture = await paint(order, document).catch(() => null);
  const message: StillAnswer = { request: order.request, picture };
  self.postMessage(message, picture ? { transfer: [picture] } : undefined);
}

async function paint(order: StillOrder, document: Document): Promise<ImageBitmap | null> {
  const { frame, width, height, scale, x, y } = order;
  const shot = document.shots.find((s) => s.id === order.shot);
  if (!shot) return null;
  await loadMadeOf(document);
  const evaluated = evaluateFrame(document, shot, frame);
  const studio = await images.studioFor(evaluated, scale);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')! as unknown as Surface2D<Picture>;
  const size = { width, height };
  paintFrame(context, evaluated, studio, { scale, x, y, ground: '#000000', size });
  return canvas.transferToImageBitmap();
}
