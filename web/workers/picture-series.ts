import { unzipSync, zipSync } from 'fflate';
import { workedSize, type ClipFacts, type FrameReader } from './frame-reader.ts';
import { seenThrough } from './moving-picture.ts';

/** Frames a second of numbered pictures, which do not say how fast they are shown. */
export const seriesRate = 30;

/** Numbered pictures as a clip: PNG files in a ZIP, in the order of their names. */
export class PictureSeries implements FrameReader {
  private constructor(
    private readonly pictures: readonly Blob[],
    readonly facts: ClipFacts,
  ) {}

  static async open(blob: Blob): Promise<PictureSeries> {
    const entries = Object.entries(unzipSync(new Uint8Array(await blob.arrayBuffer())));
    const pictures = entries
      .sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }))
      .map(([, data]) => new Blob([data as Uint8Array<ArrayBuffer>], { type: 'image/png' }));
    const first = await createImageBitmap(pictures[0]!);
    const size = workedSize(first.width, first.height);
    const alpha = seenThrough(first);
    first.close();
    return new PictureSeries(pictures, { ...size, frames: pictures.length, rate: seriesRate, alpha, missing: null });
  }

  async frame(index: number): Promise<ImageBitmap> {
    const { width, height } = this.facts;
    const picture = await createImageBitmap(this.pictures[Math.min(index, this.pictures.length - 1)]!, {
      colorSpaceConversion: 'none',
    });
    if (picture.width === width && picture.height === height) return picture;
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.drawImage(picture, 0, 0, width, height);
    picture.close();
    return canvas.transferToImageBitmap();
  }

  close(): void {
    // Nothing is held beside the files themselves.
  }
}

/** Files that are numbered pictures of one clip, in their order; null where they are not. */
export function seriesIn<F extends { name: string }>(files: readonly F[]): F[] | null {
  if (files.length < fewest) return null;
  const numbered = files.map((file) => ({ file, parts: /^(.*?)(\d+)\.png$/i.exec(file.name) }));
  const [first] = numbered;
  if (!numbered.every(({ parts }) => parts && parts[1] === first!.parts?.[1])) return null;
  const sorted = numbered.sort((a, b) => Number(a.parts![2]) - Number(b.parts![2]));
  const numbers = sorted.map(({ parts }) => Number(parts![2]));
  const inOrder = numbers.every((n, k) => k === 0 || n === numbers[k - 1]! + 1);
  return inOrder ? sorted.map(({ file }) => file) : null;
}

/** Fewer pictures whose names are numbered are taken as pictures. */
const fewest = 8;

/** Numbered pictures as the one file they are kept as. */
export async function packedSeries(files: readonly File[]): Promise<File> {
  const entries: Record<string, [Uint8Array, { level: 0 }]> = {};
  for (const [k, file] of files.entries())
    entries[`${String(k).padStart(5, '0')}.png`] = [new Uint8Array(await file.arrayBuffer()), { level: 0 }];
  const name = files[0]!.name.replace(/[\s_-]*\d+\.png$/i, '') || 'Series';
  return new File([zipSync(entries) as Uint8Array<ArrayBuffer>], `${name}.zip`, { type: 'application/zip' });
}
