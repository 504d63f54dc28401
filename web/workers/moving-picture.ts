import { workedSize, type ClipFacts, type FrameReader } from './frame-reader.ts';

/** Frames a second a moving picture is read with at most. */
const mostRate = 50;
/** Microseconds a frame without a time of its own lasts, as browsers have it. */
const usualTime = 100_000;

/** An animated GIF, WebP or PNG as a clip. Each of its pictures has a time of its own; the clip's even frames show what is due. */
export class MovingPicture implements FrameReader {
  private constructor(
    private readonly decoder: ImageDecoder,
    /** When each picture ends, microseconds. */
    private readonly ends: readonly number[],
    readonly facts: ClipFacts,
  ) {}

  static async open(blob: Blob, type: string): Promise<MovingPicture> {
    const decoder = new ImageDecoder({ data: await blob.arrayBuffer(), type });
    await decoder.tracks.ready;
    await decoder.completed;
    const count = decoder.tracks.selectedTrack!.frameCount;
    const ends: number[] = [];
    let [width, height, alpha, shortest] = [0, 0, false, Infinity];
    for (let k = 0; k < count; k++) {
      const { image } = await decoder.decode({ frameIndex: k });
      const time = image.duration || usualTime;
      ends.push((ends[k - 1] ?? 0) + time);
      shortest = Math.min(shortest, time);
      [width, height] = [image.displayWidth, image.displayHeight];
      alpha ||= /A/.test(image.format ?? 'RGBA') && seenThrough(image);
      image.close();
    }
    const rate = Math.min(mostRate, Math.round((1e6 / shortest) * 1000) / 1000);
    const frames = Math.max(1, Math.round((ends.at(-1)! / 1e6) * rate));
    return new MovingPicture(decoder, ends, { ...workedSize(width, height), frames, rate, alpha, missing: null });
  }

  async frame(index: number): Promise<ImageBitmap> {
    const { width, height, rate, frames } = this.facts;
    const time = ((Math.min(index, frames - 1) + 0.5) / rate) * 1e6;
    const due = this.ends.findIndex((end) => end > time);
    const { image } = await this.decoder.decode({ frameIndex: due < 0 ? this.ends.length - 1 : due });
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d')!.drawImage(image, 0, 0, width, height);
    image.close();
    return canvas.transferToImageBitmap();
  }

  close(): void {
    this.decoder.close();
  }
}

/** Whether a picture has more than one frame; what cannot be told is taken as a still. */
export async function isMoving(file: Blob): Promise<boolean> {
  const type = movingTypeOf(new Uint8Array(await file.slice(0, 12).arrayBuffer()));
  if (!type || type === 'zip' || typeof ImageDecoder === 'undefined') return false;
  const decoder = new ImageDecoder({ data: file.stream() as ReadableStream<Uint8Array<ArrayBuffer>>, type });
  try {
    await decoder.tracks.ready;
    const track = decoder.tracks.selectedTrack;
    if (!track?.animated) return false;
    await decoder.completed;
    return track.frameCount > 1;
  } catch {
    // Whoever takes it in as a still says what is wrong with it.
    return false;
  } finally {
    decoder.close();
  }
}

/** What a file that may move is by its first bytes; null for anything else. */
export function movingTypeOf(head: Uint8Array): 'image/gif' | 'image/webp' | 'image/png' | 'zip' | null {
  const text = String.fromCharCode(...head);
  if (text.startsWith('GIF8')) return 'image/gif';
  if (text.startsWith('RIFF') && text.slice(8, 12) === 'WEBP') return 'image/webp';
  if (text.startsWith('\x89PNG')) return 'image/png';
  return text.startsWith('PK\x03\x04') ? 'zip' : null;
}

/** Whether anything shows through a picture; looked for at a small size. */
export function seenThrough(image: CanvasImageSource): boolean {
  const side = 64;
  const context = new OffscreenCanvas(side, side).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(image, 0, 0, side, side);
  const { data } = context.getImageData(0, 0, side, side);
  for (let i = 3; i < data.length; i += 4) if (data[i]! < 250) return true;
  return false;
}
