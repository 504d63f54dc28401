import type { FrameReader } from './frame-reader.ts';

/** Bytes of pixels that are kept at once. */
const room = 160e6;

/**
 * Frames of a clip in either direction. Clips are decoded forwards from a key frame only, so going backwards a stretch of
 * frames is decoded at once and kept.
 */
export class FrameWindow {
  private readonly kept = new Map<number, ImageBitmap>();
  private last = -1;

  constructor(private readonly reader: FrameReader) {}

  /** A frame that stays valid until the next one is asked for. */
  async frame(index: number): Promise<ImageBitmap> {
    const known = this.kept.get(index);
    if (known) {
      this.last = index;
      return known;
    }
    const { width, height } = this.reader.facts;
    const most = Math.max(2, Math.floor(room / (width * height * 4)));
    const backwards = index < this.last;
    this.letGo();
    for (let k = backwards ? Math.max(0, index - most + 1) : index; k <= index; k++)
      this.kept.set(k, await this.reader.frame(k));
    this.last = index;
    return this.kept.get(index)!;
  }

  letGo(): void {
    for (const bitmap of this.kept.values()) bitmap.close();
    this.kept.clear();
  }
}
