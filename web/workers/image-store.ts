import { halfOf, halvingsFor } from '../../core/paint/halvings.ts';
import { studioOf, type Studio, type Surface2D } from '../../core/paint/surface.ts';
import {
  everyDraw,
  everyImage,
  filesOfImage,
  type Draw,
  type EvaluatedFrame,
  type ImageContent,
} from '../../core/scene/draw.ts';
import { ClipStore } from './clip-store.ts';
import { loadFace } from './faces.ts';
import { loadBitmap } from './pixels.ts';

/** What can be drawn in a worker. */
export type Picture = ImageBitmap | OffscreenCanvas;

/** A file's pixels at full size and at half, quarter ... size, made when first needed. */
class Image {
  private readonly sizes: (ImageBitmap | Promise<ImageBitmap>)[];

  constructor(full: ImageBitmap) {
    this.sizes = [full];
  }

  /** The smallest size with at least one pixel for each pixel drawn, so that little is thrown away while drawing. */
  async at(shrink: number): Promise<ImageBitmap> {
    const full = this.sizes[0] as ImageBitmap;
    const step = halvingsFor(full, shrink);
    for (let k = 1; k <= step; k++) {
      this.sizes[k] ??= Promise.resolve(this.sizes[k - 1]!).then((larger) => {
        const [resizeWidth, resizeHeight] = halfOf(larger);
        return createImageBitmap(larger, { resizeWidth, resizeHeight, resizeQuality: 'medium' });
      });
      this.sizes[k] = await this.sizes[k]!;
    }
    return this.sizes[step]!;
  }

  close(): void {
    for (const size of this.sizes) void Promise.resolve(size).then((bitmap) => bitmap.close());
  }
}

/** Bytes of pixels that frames of clips may take at full size; smaller sizes of them come on top. */
const clipMemory = 360e6;

/** Loads the files of evaluated frames and keeps them; preview and export use it alike. */
export class ImageStore {
  private readonly images = new Map<string, Promise<Image>>();
  /** Frames of clips, the least recently drawn first. */
  private readonly clipFrames = new Map<string, Promise<Image>>();
  private readonly clips = new ClipStore();

  /**
   * @param readBack whether what is painted is read back as numbers: papers then lie where that costs little, instead of where
   * a graphics card could draw them
   */
  constructor(private readonly readBack = false) {}

  private readonly papers = studioOf<Picture>(
    (file) => this.current.get(file),
    (width, height) => {
      const canvas = new OffscreenCanvas(width, height);
      return {
        canvas,
        context: canvas.getContext('2d', { willReadFrequently: this.readBack })! as unknown as Surface2D<Picture>,
      };
    },
    ({ width, height }) => ({ width, height }),
  );
  private current = new Map<string, ImageBitmap>();

  /**
   * All a frame needs to be painted: the pixels of every file it draws, each at a size fit for it, and the faces of its
   * texts. It holds until the next frame is asked for.
   * @param scale surface pixels per frame pixel
   */
  async studioFor(frame: EvaluatedFrame, scale: number): Promise<Studio<Picture>> {
    const out = new Map<string, ImageBitmap>();
    const faces = [...everyDraw(frame.draws)].flatMap(({ content }) =>
      content.kind === 'text' ? [loadFace(content.text.face).catch(() => undefined)] : [],
    );
    const load = async (file: string, image: Promise<Image>, shrink: number): Promise<void> => {
      const found = await (await image).at(shrink);
      // A file drawn twice is there at the larger of the sizes.
      if (found.width > (out.get(file)?.width ?? 0)) out.set(file, found);
    };
    const images = [...everyImage(frame.draws)].flatMap(({ draw, image }) => {
      const [a, b, c, d] = draw.matrix;
      const shrink = scale * Math.max(Math.hypot(a, b), Math.hypot(c, d));
      const { drawn, maps } = filesOfImage(image);
      return [
        ...drawn.map((file) => load(file, file === image.file ? this.imageOf(draw, image) : this.image(file), shrink)),
        ...maps.map((file) => load(file, this.image(file), 1)),
      ];
    });
    await Promise.all([...images, ...faces]);
    this.current = out;
    return this.papers;
  }

  private imageOf(draw: Draw, { file, clip }: ImageContent): Promise<Image> {
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
