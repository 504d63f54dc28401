import { findByFile, findPiece, finishedFrame } from '../../core/make/cut-piece.ts';
import { coarserPiece } from '../../core/make/coarser-piece.ts';
import type { Piece } from '../../core/document/document.ts';
import type { ClipFrame } from '../../core/scene/source-pixels.ts';
import type { Rgba } from '../../core/pixels/raster.ts';
import { halfOf } from '../../core/paint/halvings.ts';
import { averagedTo } from '../../core/pixels/resample.ts';
import { openClip } from './open-clip.ts';
import type { FrameReader } from './frame-reader.ts';
import { bitmapOf, fileUrlOf, loadFile, loadPixels, pixelsAt, pixelsOfBitmap } from './pixels.ts';

const secondReader = ' second';

/** Frames of clips as pictures, whole or with the piece that is cut out of them. */
export class ClipStore {
  private readonly readers = new Map<string, Promise<FrameReader>>();
  /** By file and width. */
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

  /** @param halvings how often a frame may be halved; a piece is cut out of it then, where `coarserPiece` can be */
  async frame({ file, index, mix, piece }: ClipFrame, halvings = 0): Promise<ImageBitmap> {
    const reader = await this.reader(file);
    const coarser = piece && halvings > 0 ? coarserPiece(piece, 0.5 ** halvings) : null;
    const halved = piece ? coarser !== null : halvings > 0;
    const bitmap = await reader.frame(index, halved);
    const shown = mix ? await this.blended(bitmap, file, mix, halved) : bitmap;
    if (!piece) return shown;
    if (!coarser) return this.cut(shown, piece, index);
    let [width, height] = [reader.facts.width, reader.facts.height];
    for (let step = 0; step < halvings; step++) [width, height] = halfOf({ width, height });
    return this.cut(shown, coarser, index, { width, height });
  }

  private async blended(
    first: ImageBitmap,
    file: string,
    { index, share }: NonNullable<ClipFrame['mix']>,
    halved: boolean,
  ): Promise<ImageBitmap> {
    const second = await (await this.reader(file, true)).frame(index, halved);
    const canvas = new OffscreenCanvas(first.width, first.height);
    const context = canvas.getContext('2d')!;
    context.drawImage(first, 0, 0);
    context.globalAlpha = share;
    context.drawImage(second, 0, 0, first.width, first.height);
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
    for (const key of this.stills.keys()) if (!files.has(key.slice(0, key.indexOf(' ')))) this.stills.delete(key);
  }

  /** @param size that the piece is cut at, where it is less than that of the clip */
  private async cut(
    bitmap: ImageBitmap,
    piece: Piece,
    index: number,
    size: { width: number; height: number } | null = null,
  ): Promise<ImageBitmap> {
    const picture = size ? pixelsAt(bitmap, size) : pixelsOfBitmap(bitmap);
    bitmap.close();
    if (piece.recipe.kind === 'shadow') throw new Error('A shadow is lifted from still pictures only.');
    const atItsSize = async (file: string): Promise<Rgba> => {
      const pixels = await loadPixels(fileUrlOf(file));
      return size ? averagedTo(pixels, size.width, size.height) : pixels;
    };
    const found = await findPiece(picture, piece.recipe, (step) =>
      // Alphas of single frames are looked at once; what all frames share is kept.
      findByFile(
        picture,
        step,
        (file) =>
          step.recipe.kind === 'figure'
            ? atItsSize(file)
            : this.still(`${file} ${picture.width}`, () => atItsSize(file)),
        index,
      ),
    );
    return bitmapOf(finishedFrame(picture, found, piece));
  }

  private still(key: string, load: () => Promise<Rgba>): Promise<Rgba> {
    let still = this.stills.get(key);
    if (!still) {
      still = load();
      still.catch(() => this.stills.delete(key));
      this.stills.set(key, still);
    }
    return still;
  }
}
