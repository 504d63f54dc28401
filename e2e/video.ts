import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';

export interface DecodedVideo {
  width: number;
  height: number;
  /** Seconds. */
  duration: number;
  frames: number;
  /** Some frames as RGBA, with their time. */
  pictures: { time: number; data: Uint8Array }[];
}

/** Decodes a video in the browser with its own video element: another decoder than the one that wrote it. */
export async function decodeVideo(page: Page, path: string, times: number[]): Promise<DecodedVideo> {
  const text = (await readFile(path)).toString('base64');
  const result = await page.evaluate(
    async ({ text, times }) => {
      const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
      const video = document.createElement('video');
      video.muted = true;
      video.src = URL.createObjectURL(new Blob([bytes], { type: 'video/mp4' }));
      await new Promise((resolve, reject) => {
        video.onloadeddata = resolve;
        video.onerror = () => reject(new Error('the video cannot be decoded'));
      });
      const canvas = new OffscreenCanvas(video.videoWidth, video.videoHeight);
      const context = canvas.getContext('2d', { willReadFrequently: true })!;
      const pictures: { time: number; data: string }[] = [];
      for (const time of times) {
        const sought = new Promise((resolve) => (video.onseeked = resolve));
        video.currentTime = time;
        await sought;
        context.drawImage(video, 0, 0);
        const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
        let out = '';
        for (let i = 0; i < data.length; i += 32768) out += String.fromCharCode(...data.subarray(i, i + 32768));
        pictures.push({ time, data: btoa(out) });
      }
      return { width: video.videoWidth, height: video.videoHeight, duration: video.duration, pictures };
    },
    { text, times },
  );
  const pictures = result.pictures.map((p) => ({ time: p.time, data: new Uint8Array(Buffer.from(p.data, 'base64')) }));
  return { ...result, frames: countSamples(await readFile(path)), pictures };
}

/** The number of samples of the first track, from the stsz box (ISO/IEC 14496-12, 8.7.3.2). */
function countSamples(file: Buffer): number {
  const at = file.indexOf('stsz');
  if (at < 0) throw new Error('no sample sizes in this file');
  return file.readUInt32BE(at + 12);
}
