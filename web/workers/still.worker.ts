import { paintFrame } from '../../core/paint/painter.ts';
import type { Surface2D } from '../../core/paint/surface.ts';
import { evaluateFrame } from '../../core/scene/evaluate.ts';
import { loadMadeOf } from './drawings.ts';
import { ImageStore, type Picture } from './image-store.ts';
import { stillRequestSchema, type StillAnswer, type StillRequest } from './still-messages.ts';

const images = new ImageStore();
let last: Promise<void> = Promise.resolve();

// One after the other: each holds the images of its own frame.
self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const request = stillRequestSchema.parse(data);
  last = last.then(() => answer(request));
};

async function answer(request: StillRequest): Promise<void> {
  const picture = await paint(request).catch(() => null);
  const message: StillAnswer = { request: request.request, picture };
  self.postMessage(message, picture ? { transfer: [picture] } : undefined);
}

async function paint(order: StillRequest): Promise<ImageBitmap | null> {
  const { document, frame, width, height, scale, x, y } = order;
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
