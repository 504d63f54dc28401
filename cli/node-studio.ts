import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { createCanvas, loadImage, type Canvas, type Image } from '@napi-rs/canvas';
import sharp from 'sharp';
import { drawingsOf, facesOf, type Document } from '../core/document/document.ts';
import { loadDrawing } from '../core/formats/svg/drawing-list.ts';
import { halfOf, halvingsFor } from '../core/paint/halvings.ts';
import { studioOf, type Studio, type Surface2D } from '../core/paint/surface.ts';
import { everyImage, filesOfImage, type EvaluatedFrame } from '../core/scene/draw.ts';
import { loadFontsOf, type FontReader } from '../core/text/font-list.ts';

export type Picture = Canvas | Image;

export const contextOf = (canvas: Canvas): Surface2D<Picture> =>
  canvas.getContext('2d') as unknown as Surface2D<Picture>;

const require = createRequire(import.meta.url);

/** Thrown for what only a browser has the decoders for. */
export class NeedsBrowser extends Error {}

/** What painting needs, on the canvas that Node has; files are read from where `pathOf` says they lie. */
export class NodeStudio {
  /** Each file at full size, at half, quarter ... size. */
  private readonly images = new Map<string, Picture[]>();
  private current = new Map<string, Picture>();

  constructor(private readonly pathOf: (file: string) => string) {}

  private readonly papers = studioOf<Picture>(
    (file) => this.current.get(file),
    (width, height) => {
      const canvas = createCanvas(width, height);
      return { canvas, context: contextOf(canvas) };
    },
    ({ width, height }) => ({ width, height }),
  );

  /** Loads the faces and drawings of a document, which evaluation cannot wait for. */
  async load(document: Document): Promise<void> {
    const reader: FontReader = {
      shipped: (file) => readFile(require.resolve(`@fontsource/${file}`)),
      own: (hash) => readFile(this.pathOf(hash)),
    };
    await Promise.all(facesOf(document).map((face) => loadFontsOf(face, reader)));
    await Promise.all(
      drawingsOf(document).map((file) => loadDrawing(file, (hash) => readFile(this.pathOf(hash), 'utf8'))),
    );
  }

  /**
   * The pixels of every file a frame draws, each at a size fit for it.
   * @param scale surface pixels per frame pixel  @throws NeedsBrowser for frames of clips
   */
  async studioFor(frame: EvaluatedFrame, scale: number): Promise<Studio<Picture>> {
    const out = new Map<string, Picture>();
    for (const { draw, image } of everyImage(frame.draws)) {
      if (image.clip) throw new NeedsBrowser('frames of clips');
      const [a, b, c, d] = draw.matrix;
      const { drawn, maps } = filesOfImage(image);
      for (const file of drawn) {
        const found = await this.at(file, scale * Math.max(Math.hypot(a, b), Math.hypot(c, d)));
        if (found.width > (out.get(file)?.width ?? 0)) out.set(file, found);
      }
      for (const file of maps) out.set(file, await this.at(file, 1));
    }
    this.current = out;
    return this.papers;
  }

  /** The smallest size with at least one pixel for each pixel drawn. */
  private async at(file: string, shrink: number): Promise<Picture> {
    const sizes = this.images.get(file) ?? [await this.read(file)];
    this.images.set(file, sizes);
    const step = halvingsFor(sizes[0]!, shrink);
    for (let k = sizes.length; k <= step; k++) {
      const larger = sizes[k - 1]!;
      const [w, h] = halfOf(larger);
      const canvas = createCanvas(w, h);
      const context = canvas.getContext('2d');
      context.imageSmoothingQuality = 'medium';
      context.drawImage(larger, 0, 0, w, h);
      sizes.push(canvas);
    }
    return sizes[step]!;
  }

  private async read(file: string): Promise<Picture> {
    // Decoded by the same library as everywhere on the server, so that every format that came in is read.
    const png = await sharp(this.pathOf(file)).png({ compressionLevel: 0 }).toBuffer();
    return loadImage(png);
  }
}
