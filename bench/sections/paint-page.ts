import { paintFrame } from '../../core/paint/painter.ts';
import { studioOf, type Surface2D } from '../../core/paint/surface.ts';
import { emptyDocument, type Document } from '../../core/scene/document.ts';
import { plainLayer, type Layer } from '../../core/scene/layer.ts';
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

/** Milliseconds a frame with the painter, and with nothing but the drawImage calls it comes down to, taken in turns. */
export async function run(layers: number): Promise<{ ours: number[]; bare: number[] }> {
  const document = documentWith(layers);
  const shot = document.shots[0]!;
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
      return { canvas, context: canvas.getContext('2d')! as unknown as Surface2D<Picture> };
    },
    (image) => image,
  );
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  const timed = (work: () => void): number => {
    const started = performance.now();
    work();
    context.getImageData(0, 0, 1, 1);
    return performance.now() - started;
  };
  const ours: number[] = [];
  const bare: number[] = [];
  for (let frame = 0; frame < frames; frame++) {
    const { draws } = evaluateFrame(document, shot, frame);
    bare.push(
      timed(() => {
        context.imageSmoothingQuality = 'low';
        for (const draw of draws) {
          context.setTransform(...(draw.matrix as [number, number, number, number, number, number]));
          context.globalAlpha = draw.opacity;
          if (draw.content.kind === 'image')
            context.drawImage(images.get(draw.content.file)!, 0, 0, draw.width, draw.height);
        }
      }),
    );
    ours.push(
      timed(() => {
        const evaluated = evaluateFrame(document, shot, frame);
        paintFrame(context as unknown as Surface2D<Picture>, evaluated, studio, {
          scale: 1,
          ground: '#000000',
        });
      }),
    );
  }
  return { ours, bare };
}
