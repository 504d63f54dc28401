import { paintFrame } from '../../core/paint/painter.ts';
import { studioOf, type Studio, type Surface2D } from '../../core/paint/surface.ts';
import { emptyDocument, type Document } from '../../core/document/document.ts';
import { plainLayer, type Layer } from '../../core/document/layer.ts';
import { evaluateFrame } from '../../core/scene/evaluate.ts';

type Picture = ImageBitmap | OffscreenCanvas;

const [width, height] = [1920, 1080];
const frames = 24;

function documentWith(layers: number): Document {
  const document = emptyDocument('Bench', { width, height, rate: 30 }, 2, 'shot');
  const hash = (k: number): string => k.toString(16).padStart(64, '0');
  for (let k = 0; k < layers; k++) {
    document.pictures.push({
      id: `p${k}`,
      name: `Picture ${k}`,
      original: hash(k),
      file: hash(k),
      width,
      height,
      clip: null,
      background: null,
    });
    const layer: Layer = {
      ...plainLayer,
      id: `l${k}`,
      name: `Layer ${k}`,
      source: { kind: 'picture', picture: `p${k}` },
      depth: { value: 1 + k },
      pivot: { value: [width / 2, height / 2] },
      position: { value: [0, 0] },
      rotation: {
        keys: [
          { frame: 0, value: -3 - k, easing: 'linear' },
          { frame: 59, value: 3 + k, easing: 'linear' },
        ],
      },
      opacity: { value: 0.9 },
    };
    document.shots[0]!.layers.push(layer);
  }
  return document;
}

type Run = { context: OffscreenCanvasRenderingContext2D; studio: Studio<Picture>; images: Map<string, ImageBitmap> };

async function prepared(document: Document): Promise<Run> {
  const images = new Map<string, ImageBitmap>();
  for (const picture of document.pictures) {
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d')!;
    context.fillStyle = `hsl(${images.size * 40} 40% 50%)`;
    context.fillRect(0, 0, width, height);
    images.set(picture.file, await createImageBitmap(canvas));
  }
  const studio = studioOf<Picture>(
    (file) => images.get(file),
    (w, h) => {
      const canvas = new OffscreenCanvas(w, h);
      return {
        canvas,
        context: canvas.getContext('2d', { willReadFrequently: true })! as unknown as Surface2D<Picture>,
      };
    },
    ({ width: w, height: h }) => ({ width: w, height: h }),
  );
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  return { context, studio, images };
}

function timed(context: OffscreenCanvasRenderingContext2D, work: () => void): number {
  const started = performance.now();
  work();
  // Read back, so that nothing is left to be drawn later.
  context.getImageData(0, 0, 1, 1);
  return performance.now() - started;
}

function paint({ context, studio }: Run, document: Document, frame: number): number {
  return timed(context, () => {
    const evaluated = evaluateFrame(document, document.shots[0]!, frame);
    paintFrame(context as unknown as Surface2D<Picture>, evaluated, studio, { scale: 1, ground: '#000000' });
  });
}

/** Milliseconds a frame with the painter, and with nothing but the drawImage calls it comes down to, taken in turns. */
export async function run(layers: number): Promise<{ ours: number[]; bare: number[] }> {
  const document = documentWith(layers);
  const prepare = await prepared(document);
  const { context, images } = prepare;
  const ours: number[] = [];
  const bare: number[] = [];
  for (let frame = 0; frame < frames; frame++) {
    const { draws } = evaluateFrame(document, document.shots[0]!, frame);
    bare.push(
      timed(context, () => {
        context.imageSmoothingQuality = 'low';
        for (const draw of draws) {
          context.setTransform(...(draw.matrix as [number, number, number, number, number, number]));
          context.globalAlpha = draw.opacity;
          if (draw.content.kind === 'image')
            context.drawImage(images.get(draw.content.file)!, 0, 0, draw.width, draw.height);
        }
      }),
    );
    ours.push(paint(prepare, document, frame));
  }
  return { ours, bare };
}

/** What one full-HD layer more costs with each of the dearer things, beside a plain one; milliseconds a frame. */
export async function effects(): Promise<Record<string, number[]>> {
  const sway = { id: 's', phase: 0, like: null, region: null, soft: 0, direction: 90, size: 300, strength: 20 };
  const window = { to: 'l0', how: 'inside', by: 'alpha', free: null } as const;
  const changes: Record<string, Partial<Layer>> = {
    plain: {},
    'blur of 4 px': { blur: { value: 4 } },
    'blur of 40 px': { blur: { value: 40 } },
    'seen through a window': { window },
    'four corners': { corners: { value: [90, 40, -60, 10, 30, -50, -20, 60] } },
    'sway of all of it': {
      sways: [{ ...sway, period: 30, pinned: 'left', shade: 0.5, loops: true }],
    },
  };
  const out: Record<string, number[]> = {};
  for (const [name, change] of Object.entries(changes)) {
    const document = documentWith(2);
    Object.assign(document.shots[0]!.layers[1]!, change);
    const prepare = await prepared(document);
    out[name] = Array.from({ length: 12 }, (_, frame) => paint(prepare, document, frame));
  }
  return out;
}

Object.assign(globalThis, { paintBench: { run, effects } });
