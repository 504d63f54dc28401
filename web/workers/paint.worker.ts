import { paintFrame } from '../../core/paint/painter.ts';
import type { Surface2D } from '../../core/paint/surface.ts';
import { filesOf, type Document } from '../../core/scene/document.ts';
import { evaluateFrame } from '../../core/scene/evaluate.ts';
import { ImageStore } from './image-store.ts';
import { paintRequestSchema, type PaintAnswer, type PaintRequest } from './paint-messages.ts';

/** The colour outside the frame; look.md's neutral field. */
const field = '#777b7c';

const images = new ImageStore();
let canvas: OffscreenCanvas | null = null;
let document: Document | null = null;
let shot = '';

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const message = paintRequestSchema.parse(data);
  if (message.kind === 'canvas') canvas = message.canvas;
  else if (message.kind === 'document') {
    document = message.document;
    shot = message.shot;
    images.keepOnly(new Set(filesOf(document)));
  } else void paint(message);
};

async function paint(message: Extract<PaintRequest, { kind: 'paint' }>): Promise<void> {
  const started = performance.now();
  let problem: string | null = null;
  try {
    await paintOn(message);
  } catch (error) {
    problem = error instanceof Error ? error.message : String(error);
  }
  const answer: PaintAnswer = {
    kind: 'painted',
    request: message.request,
    frame: message.frame,
    milliseconds: performance.now() - started,
    problem,
  };
  self.postMessage(answer);
}

async function paintOn({
  frame,
  width,
  height,
  scale,
  x,
  y,
  atRest,
}: Extract<PaintRequest, { kind: 'paint' }>): Promise<void> {
  const found = document?.shots.find((s) => s.id === shot);
  if (!canvas || !document || !found) return;
  const evaluated = atRest
    ? evaluateFrame(document, found, frame, { x: 0, y: 0, z: 0 })
    : evaluateFrame(document, found, frame);
  const pixels = await images.forFrame(evaluated, scale);
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  const context = canvas.getContext('2d')!;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.fillStyle = field;
  context.fillRect(0, 0, width, height);
  paintFrame(context as unknown as Surface2D<ImageBitmap>, evaluated, (file) => pixels.get(file), {
    scale,
    x,
    y,
    ground: '#000000',
  });
  // What reaches beyond the frame is covered again, so that the frame's border is seen as in the export.
  if (!atRest) coverOutside(context, x, y, evaluated.width * scale, evaluated.height * scale);
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
  context.fillRect(0, y, x, height);
  context.fillRect(x + width, y, w - x - width, height);
}
