import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Browser } from 'playwright-core';
import type { Rgba } from '../core/pixels/raster.ts';

export interface ClipOrder {
  width: number;
  height: number;
  rate: number;
  frames: number;
  format: 'webm' | 'mp4';
  /** Bits a second. */
  bitrate: number;
  frame(index: number): Rgba;
  /** Degrees clockwise by which players turn it; as phones held upright write it. */
  rotation?: 0 | 90 | 180 | 270;
  /** When a frame begins, seconds; evenly where it is not said. */
  begins?(index: number): number;
}

/** A page nobody serves, on an address the browser trusts with its encoders. */
const studio = 'http://127.0.0.1:9/studio';

/** Encodes a clip of computed frames in a browser, which is where the encoders are. */
export async function recordClip(browser: Browser, order: ClipOrder): Promise<Buffer> {
  const { width, height, rate, frames, format, bitrate, rotation = 0 } = order;
  const begins = order.begins ?? ((k: number) => k / rate);
  const main = createRequire(import.meta.url).resolve('mediabunny');
  const library = await readFile(join(dirname(main), 'mediabunny.min.mjs'), 'utf8');
  const page = await browser.newPage();
  try {
    await page.route('**/studio', (route) => route.fulfill({ contentType: 'text/html', body: '<!doctype html>' }));
    await page.route('**/library.mjs', (route) => route.fulfill({ contentType: 'text/javascript', body: library }));
    await page.goto(studio);
    // tsx wraps named functions in a helper that the page does not have.
    await page.evaluate('globalThis.__name = (f) => f');
    await page.evaluate(startRecording, { width, height, rate, format, bitrate, rotation, even: !order.begins });
    for (let k = 0; k < frames; k++) {
      const data = Buffer.from(order.frame(k).data).toString('base64');
      const [at, lasts] = [begins(k), begins(k + 1) - begins(k)];
      await page.evaluate(([text, at, lasts]) => (globalThis as unknown as Recorder).addFrame(text, at, lasts), [
        data,
        at,
        lasts,
      ] as const);
    }
    const text = await page.evaluate(() => (globalThis as unknown as Recorder).finish());
    return Buffer.from(text, 'base64');
  } finally {
    await page.close();
  }
}

interface Recorder {
  addFrame(text: string, at: number, lasts: number): Promise<void>;
  finish(): Promise<string>;
}

/** Runs in the page. */
async function startRecording(
  order: Omit<ClipOrder, 'frame' | 'frames' | 'begins'> & { even: boolean },
): Promise<void> {
  const { width, height, rate, format, bitrate, rotation = 0 } = order;
  const address = '/library.mjs';
  const library = (await import(address)) as typeof import('mediabunny');
  const target = new library.BufferTarget();
  const container = format === 'mp4' ? new library.Mp4OutputFormat() : new library.WebMOutputFormat();
  const output = new library.Output({ format: container, target });
  const canvas = new OffscreenCanvas(width, height);
  const source = new library.CanvasSource(canvas, { codec: format === 'mp4' ? 'avc' : 'vp9', bitrate });
  output.addVideoTrack(source, { rotation, ...(order.even ? { frameRate: rate } : {}) });
  await output.start();
  const recorder: Recorder = {
    addFrame: async (text, at, lasts) => {
      const bytes = Uint8ClampedArray.from(atob(text), (c) => c.charCodeAt(0));
      canvas.getContext('2d')!.putImageData(new ImageData(bytes, width, height), 0, 0);
      await source.add(at, lasts);
    },
    finish: async () => {
      await output.finalize();
      const bytes = new Uint8Array(target.buffer!);
      let text = '';
      for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
      return btoa(text);
    },
  };
  Object.assign(globalThis, recorder);
}
