import { findByFile, findPiece, finishedFrame } from '../../core/make/cut-piece.ts';
import type { Piece } from '../../core/document/document.ts';
import type { ClipFrame } from '../../core/scene/source-pixels.ts';
import type { Rgba } from '../../core/pixels/raster.ts';
import { openClip } from './open-clip.ts';
import type { FrameReader } from './frame-reader.ts';
import { bitmapOf, fileUrlOf, loadFile, loadPixels, pixelsOfBitmap } from './pixels.ts';

const secondReader = ' second';

/** Frames of clips as pictures, whole or with the piece that is cut out of them. */
export class ClipStore {
  private readonly readers = new Map<string, Promise<FrameReader>>();
  private readonly stills = new Map<string, Promise<Rgba>>();

  /** @param second for the other frame of two that are blended: each reader then goes forwards through its own */
  reader(file: string, second = false): Promise<FrameReader> {
    const key = second ? file + secondReader : file;
    let reader = this.readers.get(key);
    if (!reader) {
      reader = loadFile(fileUrlOf(file)).then((blob) => openClip(blob, 'The clip'));
      reader.catch(() => this.readers.delete(key));
      this.readers.set(key, reader);
    }
    return reader;
  }

  async frame({ file, index, mix, piece }: ClipFrame): Promise<ImageBitmap> {
    const bitmap = await (await this.reader(file)).frame(index);
    const shown = mix ? await this.blended(bitmap, file, mix) : bitmap;
    return piece ? this.cut(shown, piece, index) : shown;
  }

  private async blended(
    first: ImageBitmap,
    file: string,
    { index, share }: NonNullable<ClipFrame['mix']>,
  ): Promise<ImageBitmap> {
    const second = await (await this.reader(file, true)).frame(index);
    const canvas = new OffscreenCanvas(first.width, first.height);
    const context = canvas.getContext('2d')!;
    context.drawImage(first, 0, 0);
    context.globalAlpha = share;
    context.drawImage(second, 0, 0);
    first.close();
    second.close();
    return canvas.transferToImageBitmap();
  }

  /** Lets go of clips that are not in use any more. */
  keepOnly(files: ReadonlySet<string>): void {
    for (const [file, reader] of this.readers) {
      if (files.has(file.replace(secondReader, ''))) continue;
      this.readers.delete(file);
      void reader.then((unused) => unused.close());
    }
    for (const file of this.stills.keys()) if (!files.has(file)) this.stills.delete(file);
  }

  private async cut(bitmap: ImageBitmap, piece: Piece, index: number): Promise<ImageBitmap> {
    const picture = pixelsOfBitmap(bitmap);
    bitmap.close();
    if (piece.recipe.kind === 'shadow') throw new Error('A shadow is lifted from still pictures only.');
    const found = await findPiece(picture, piece.recipe, (step) =>
      // Alphas of single frames are looked at once; what all frames share is kept.
      findByFile(
        picture,
        step,
        (file) => (step.recipe.kind === 'figure' ? loadPixels(fileUrlOf(file)) : this.still(file)),
        index,
      ),
    );
    return bitmapOf(finishedFrame(picture, found, piece));
  }

  private still(file: string): Promise<Rgba> {
    let still = this.stills.get(file);
    if (!still) {
      still = loadPixels(fileUrlOf(file));
      still.catch(() => this.stills.delete(file));
      this.stills.set(file, still);
    }
    return still;
  }
}
