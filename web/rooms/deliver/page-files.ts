import { zip } from 'fflate';
import { pageHtml, type PageClip } from '../../../core/formats/page.ts';

/**
 * The first picture of a video: what players show that do not start by themselves.
 * @param clear whether something can be seen through it: then a PNG, else a JPEG
 */
export async function firstPicture(url: string, clear: boolean): Promise<Blob> {
  const video = document.createElement('video');
  video.muted = true;
  video.preload = 'auto';
  await new Promise<void>((resolve, reject) => {
    video.onloadeddata = () => resolve();
    video.onerror = () => reject(new Error('This browser cannot show the clip, so it has no poster.'));
    video.src = url;
  });
  const canvas = new OffscreenCanvas(video.videoWidth, video.videoHeight);
  canvas.getContext('2d')!.drawImage(video, 0, 0);
  video.removeAttribute('src');
  video.load();
  return canvas.convertToBlob(clear ? { type: 'image/png' } : { type: 'image/jpeg', quality: 0.88 });
}

/** Page, clip and poster in one ZIP. */
export async function pageZip(clip: PageClip, url: string, poster: Blob): Promise<Blob> {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error('The clip could not be read any more. Export it again.');
  const files = {
    'index.html': new TextEncoder().encode(pageHtml(clip)),
    [clip.clip]: new Uint8Array(await answer.arrayBuffer()),
    [clip.poster]: new Uint8Array(await poster.arrayBuffer()),
  };
  // Clips and pictures are packed already.
  return new Promise((resolve, reject) =>
    zip(files, { level: 0 }, (error, bytes) =>
      error ? reject(error) : resolve(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/zip' })),
    ),
  );
}
