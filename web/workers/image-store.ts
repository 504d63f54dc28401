import type { EvaluatedFrame } from '../../core/scene/evaluate.ts';
import { loadBitmap } from './pixels.ts';

/** A file's pixels at full size and at half, quarter ... size, made when first needed. */
class Image {
  private readonly sizes: (ImageBitmap | Promise<ImageBitmap>)[];

  constructor(full: ImageBitmap) {
    this.sizes = [full];
  }

  /** The smallest size with at least one pixel for each pixel drawn, so that little is thrown away while drawing. */
  async at(shrink: number): Promise<ImageBitmap> {
    const full = this.sizes[0] as ImageBitmap;
    let step = 0;
    while (shrink <= 0.5 ** (step + 1) && Math.min(full.width, full.height) >> (step + 1) > 32) step++;
    for (let k = 1; k <= step; k++) {
      this.sizes[k] ??= Promise.resolve(this.sizes[k - 1]!).then((larger) =>
        createImageBitmap(larger, {
          resizeWidth: Math.max(1, larger.width >> 1),
          resizeHeight: Math.max(1, larger.height >> 1),
          resizeQuality: 'medium',
        }),
      );
      this.sizes[k] = await this.sizes[k]!;
    }
    return this.sizes[step]!;
  }

  close(): void {
    for (const size of this.sizes) void Promise.resolve(size).then((bitmap) => bitmap.close());
  }
}

/** Loads the files of evaluated frames and keeps them; preview and export use it alike. */
export class ImageStore {
  private readonly images = new Map<string, Promise<Image>>();

  /**
   * The pixels of every file a frame draws, each at a size fit for it.
   * @param scale surface pixels per frame pixel
   */
  async forFrame(frame: EvaluatedFrame, scale: number): Promise<Map<string, ImageBitmap>> {
    const out = new Map<string, ImageBitmap>();
    await Promise.all(
      frame.draws.map(async (draw) => {
        const [a, b, c, d] = draw.matrix;
        const shrink = scale * Math.max(Math.hypot(a, b), Math.hypot(c, d));
        out.set(draw.file, await (await this.image(draw.file)).at(shrink));
      }),
    );
    return out;
  }

  private image(file: string): Promise<Image> {
    let image = this.images.get(file);
    if (!image) {
      image = loadBitmap(`/api/files/${file}`).then((bitmap) => new Image(bitmap));
      // A failed load may succeed the next time it is asked for.
      image.catch(() => this.images.delete(file));
      this.images.set(file, image);
    }
    return image;
  }

  /** Lets go of files that are not in use any more. */
  keepOnly(files: ReadonlySet<string>): void {
    for (const [file, image] of this.images) {
      if (files.has(file)) continue;
      this.images.delete(file);
      void image.then((found) => found.close());
    }
  }
}
