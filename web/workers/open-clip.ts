import { UnreadableClip, type FrameReader } from './frame-reader.ts';
import { MovingPicture, movingTypeOf } from './moving-picture.ts';
import { PictureSeries } from './picture-series.ts';

const damaged = 'is damaged or was cut short. Copy it again from where it came and retry.';

/**
 * Opens a clip by what its first bytes say it is: a video, an animated GIF, WebP or PNG, or numbered pictures in a ZIP.
 * @throws UnreadableClip
 */
export async function openClip(blob: Blob, name: string): Promise<FrameReader> {
  try {
    const type = movingTypeOf(new Uint8Array(await blob.slice(0, 12).arrayBuffer()));
    if (type === 'zip') return await PictureSeries.open(blob);
    if (type) return await MovingPicture.open(blob, type);
    // The reader of videos is large, and most projects have none.
    const { ClipReader } = await import('./clip-reader.ts');
    return await ClipReader.open(blob, name);
  } catch (error) {
    throw error instanceof UnreadableClip ? error : new UnreadableClip(name, damaged);
  }
}
