import type { Draw, EvaluatedFrame } from '../../core/scene/evaluate.ts';
import { ClipStore } from './clip-store.ts';
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

/** Bytes of pixels that frames of clips may take. */
const clipMemory = 600e6;

/** Loads the files of evaluated frames and keeps them; preview and export use it alike. */
export class ImageStore {
  private readonly images = new Map<string, Promise<Image>>();
  /** Frames of clips, the least recently drawn first. */
  private readonly clipFrames = new Map<string, Promise<Image>>();
  private readonly clips = new ClipStore();

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
        out.set(draw.file, await (await this.imageOf(draw)).at(shrink));
      }),
    );
    return out;
  }

  private imageOf(draw: Draw): Promise<Image> {
    const { file, clip } = draw;
    if (!clip) return this.image(file);
    const image = this.clipFrames.get(file) ?? this.clips.frame(clip).then((bitmap) => new Image(bitmap));
    image.catch(() => this.clipFrames.delete(file));
    this.clipFrames.delete(file);
    this.clipFrames.set(file, image);
    this.forgetOldFrames(draw.width * draw.height);
    return image;
  }

  /** A played range stays in memory as far as there is room for it, and then plays at full rate. */
  private forgetOldFrames(pixels: number): void {
    const most = Math.max(4, Math.floor(clipMemory / (pixels * 4)));
    for (const [file, image] of this.clipFrames) {
      if (this.clipFrames.size <= most) return;
      this.clipFrames.delete(file);
      void image.then((found) => found.close());
    }
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
    this.clips.keepOnly(files);
    for (const [file, image] of this.clipFrames) {
      if (files.has(file.slice(0, file.indexOf('@')))) continue;
      this.clipFrames.delete(file);
      void image.then((found) => found.close());
    }
  }
}
