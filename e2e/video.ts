import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';
import sharp from 'sharp';

export interface DecodedVideo {
  width: number;
  height: number;
  /** Seconds. */
  duration: number;
  /** Of MP4; 0 for others. */
  frames: number;
  /** As the decoder understands the file. */
  colours: { primaries: string; transfer: string; matrix: string; fullRange: boolean };
  /** Some frames as RGBA, with their time. */
  pictures: { time: number; data: Uint8Array }[];
}

/**
 * Decodes a video in the browser with its own video element: another decoder than the one that wrote it.
 * @param shown how large its pictures are given, where that is not their own size
 */
export async function decodeVideo(
  page: Page,
  path: string,
  times: number[],
  shown?: { width: number; height: number },
): Promise<DecodedVideo> {
  const file = await readFile(path);
  // EBML begins with these four bytes.
  const webm = file.readUInt32BE(0) === 0x1a45dfa3;
  const frames = webm ? 0 : countSamples(file);
  const text = file.toString('base64');
  const result = await page.evaluate(
    async ({ text, times, type, frames }) => {
      const bytes = Uint8Array.fromBase64(text);
      const video = document.createElement('video');
      video.muted = true;
      video.src = URL.createObjectURL(new Blob([bytes], { type }));
      await new Promise((resolve, reject) => {
        video.onloadeddata = resolve;
        video.onerror = () => reject(new Error('the video cannot be decoded'));
      });
      const { videoWidth: width, videoHeight: height } = video;
      const apart = frames > 0 ? video.duration / frames : 0.1;
      const canvas = new OffscreenCanvas(width, height);
      const context = canvas.getContext('2d', { willReadFrequently: true })!;
      const pictures: { time: number; data: string }[] = [];
      let colours: VideoColorSpaceInit = {};
      for (const time of times) {
        const sought = new Promise((resolve) => (video.onseeked = resolve));
        video.currentTime = time;
        await sought;
        // On a busy machine what is shown may still be nothing, or the frame from before, although this one was sought.
        for (let shown = false; !shown;) {
          await new Promise((resolve) => requestAnimationFrame(resolve));
          let frame: VideoFrame;
          try {
            frame = new VideoFrame(video);
          } catch {
            continue;
          }
          const late = time - frame.timestamp / 1e6;
          shown = late > -0.002 && late < 1.05 * apart;
          context.clearRect(0, 0, width, height);
          context.drawImage(frame, 0, 0);
          colours = frame.colorSpace.toJSON();
          frame.close();
        }
        // What a page hands over it hands over as text: a PNG is a fifth of the pixels.
        const reader = new FileReader();
        const read = new Promise((resolve) => (reader.onload = resolve));
        reader.readAsDataURL(await canvas.convertToBlob());
        await read;
        pictures.push({ time, data: (reader.result as string).split(',')[1]! });
      }
      return { colours, width, height, duration: video.duration, pictures };
    },
    { text, times, type: webm ? 'video/webm' : 'video/mp4', frames },
  );
  const { width, height } = shown ?? result;
  const pictures = await Promise.all(
    result.pictures.map(async ({ time, data: text }) => {
      const picture = sharp(Buffer.from(text, 'base64')).ensureAlpha();
      // Enlarged here, where no page has to hand over that much more.
      if (shown) picture.resize({ ...shown, ...stretched });
      return { time, data: new Uint8Array(await picture.raw().toBuffer()) };
    }),
  );
  return { ...result, colours: result.colours as DecodedVideo['colours'], width, height, frames, pictures };
}

const stretched = { fit: 'fill', kernel: 'linear' } as const;

/** The number of samples of the first track, from the stsz box (ISO/IEC 14496-12, 8.7.3.2). */
function countSamples(file: Buffer): number {
  const at = file.indexOf('stsz');
  if (at < 0) throw new Error('no sample sizes in this file');
  return file.readUInt32BE(at + 12);
}
