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
import { clipMemory } from './clip-memory.ts';
import { ClipStore } from './clip-store.ts';
import { loadFace } from './faces.ts';
import { loadBitmap } from './pixels.ts';

/** What can be drawn in a worker. */
export type Picture = ImageBitmap | OffscreenCanvas;

/** A file's pixels at full size and at half, quarter ... size, made when first needed. */
class Image {
  private readonly sizes: (ImageBitmap | Promise<ImageBitmap>)[];

  /** How much smaller the largest size is that there is. */
  private readonly shrunk: number;

  /** @param width of the full size, of which no more than a half, a quarter ... may be there */
  constructor(largest: ImageBitmap, width = largest.width) {
    this.sizes = [largest];
    this.shrunk = 2 ** Math.round(Math.log2(width / largest.width));
  }

  /**
   * The smallest size with at least one pixel for each pixel drawn, so that little is thrown away while drawing; the largest where
   * there is none.
   * @param shrink pixels drawn for each pixel of the full size
   */
  async at(shrink: number): Promise<ImageBitmap> {
    const largest = this.sizes[0] as ImageBitmap;
    const step = halvingsFor(largest, shrink * this.shrunk);
    for (let k = 1; k <= step; k++) {
      this.sizes[k] ??= Promise.resolve(this.sizes[k - 1]!).then((larger) => {
        const [resizeWidth, resizeHeight] = halfOf(larger);
        return createImageBitmap(larger, { resizeWidth, resizeHeight, resizeQuality: 'medium' });
      });
      this.sizes[k] = await this.sizes[k]!;
    }
    return this.sizes[step]!;
  }

  /** Of its largest size. */
  get bytes(): number {
    const { width, height } = this.sizes[0] as ImageBitmap;
    return 4 * width * height;
  }

  close(): void {
    for (const size of this.sizes) void Promise.resolve(size).then((bitmap) => bitmap.close());
  }
}

/** So many are kept in any case: those of one frame must not take each other's place. */
const leastKept = 4;

/** Loads the files of evaluated frames and keeps them; preview and export use it alike. */
export class ImageStore {
  private readonly images = new Map<string, Promise<Image>>();
  /** Frames of clips by what they are and how often they were halved, the least recently drawn first. */
  private readonly clipFrames = new Map<string, { image: Promise<Image>; bytes: number }>();
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
   * @param scale surface pixels per frame pixel  @param coarse whether frames of clips may be read and cut as small as they are drawn,
   * which is far quicker and a little less exact
   */
  async studioFor(frame: EvaluatedFrame, scale: number, coarse = false): Promise<Studio<Picture>> {
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
        ...drawn.map((file) =>
          load(file, file === image.file ? this.imageOf(draw, image, coarse ? shrink : 1) : this.image(file), shrink),
        ),
        ...maps.map((file) => load(file, this.image(file), 1)),
      ];
    });
    await Promise.all([...images, ...faces]);
    this.current = out;
    return this.papers;
  }

  /** @param shrink pixels drawn for each of the image, for which it may be made */
  private imageOf(draw: Draw, { file, clip }: ImageContent, shrink: number): Promise<Image> {
    if (!clip) return this.image(file);
    // Whole frames are read at half their size at least; pieces are cut at any.
    const most = clip.piece ? Infinity : 1;
    const halvings = this.clipFrames.has(file) ? 0 : Math.min(most, halvingsFor(draw, shrink));
    const key = halvings > 0 ? `${file} halved ${halvings}` : file;
    const known = this.clipFrames.get(key)?.image;
    const image = known ?? this.clips.frame(clip, halvings).then((bitmap) => new Image(bitmap, draw.width));
    this.clipFrames.delete(key);
    const kept = { image, bytes: 4 * draw.width * draw.height };
    this.clipFrames.set(key, kept);
    image.then(
      (made) => (kept.bytes = made.bytes),
      () => this.clipFrames.delete(key),
    );
    this.forgetOldFrames();
    return image;
  }

  /** A played range stays in memory as far as there is room for it, and then plays at full rate. */
  private forgetOldFrames(): void {
    let bytes = 0;
    for (const frame of this.clipFrames.values()) bytes += frame.bytes;
    for (const [key, frame] of this.clipFrames) {
      if (bytes <= clipMemory || this.clipFrames.size <= leastKept) return;
      bytes -= frame.bytes;
      this.clipFrames.delete(key);
      void frame.image.then((found) => found.close());
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
    for (const [key, { image }] of this.clipFrames) {
      if (files.has(key.slice(0, key.indexOf('@')))) continue;
      this.clipFrames.delete(key);
      void image.then((found) => found.close());
    }
  }
}
