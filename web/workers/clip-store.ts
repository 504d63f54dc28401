import { findByFile, findPiece, finished } from '../../core/make/cut-piece.ts';
import type { Piece } from '../../core/document/document.ts';
import type { ClipFrame } from '../../core/scene/source-pixels.ts';
import type { Rgba } from '../../core/pixels/raster.ts';
import { ClipReader } from './clip-reader.ts';
import { bitmapOf, fileUrlOf, loadFile, loadPixels, pixelsOfBitmap } from './pixels.ts';

/** Frames of clips as pictures, whole or with the piece that is cut out of them. */
export class ClipStore {
  private readonly readers = new Map<string, Promise<ClipReader>>();
  private readonly stills = new Map<string, Promise<Rgba>>();

  reader(file: string): Promise<ClipReader> {
    let reader = this.readers.get(file);
    if (!reader) {
      reader = loadFile(fileUrlOf(file)).then((blob) => ClipReader.open(blob, 'The clip'));
      reader.catch(() => this.readers.delete(file));
      this.readers.set(file, reader);
    }
    return reader;
  }

  async frame({ file, index, piece }: ClipFrame): Promise<ImageBitmap> {
    const bitmap = await (await this.reader(file)).frame(index);
    return piece ? this.cut(bitmap, piece) : bitmap;
  }

  /** Lets go of clips that are not in use any more. */
  keepOnly(files: ReadonlySet<string>): void {
    for (const [file, reader] of this.readers) {
      if (files.has(file)) continue;
      this.readers.delete(file);
      void reader.then((unused) => unused.close());
    }
    for (const file of this.stills.keys()) if (!files.has(file)) this.stills.delete(file);
  }

  private async cut(bitmap: ImageBitmap, piece: Piece): Promise<ImageBitmap> {
    const picture = pixelsOfBitmap(bitmap);
    bitmap.close();
    if (piece.recipe.kind === 'shadow') throw new Error('A shadow is lifted from still pictures only.');
    const found = await findPiece(picture, piece.recipe, (step) =>
      findByFile(picture, step, (file) => this.still(file)),
    );
    return bitmapOf(finished(picture, found, piece).colours);
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
