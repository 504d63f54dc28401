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
}

/** A page nobody serves, on an address the browser trusts with its encoders. */
const studio = 'http://127.0.0.1:9/studio';

/** Encodes a clip of computed frames in a browser, which is where the encoders are. */
export async function recordClip(browser: Browser, order: ClipOrder): Promise<Buffer> {
  const { width, height, rate, frames, format, bitrate } = order;
  const main = createRequire(import.meta.url).resolve('mediabunny');
  const library = await readFile(join(dirname(main), 'mediabunny.min.mjs'), 'utf8');
  const page = await browser.newPage();
  try {
    await page.route('**/studio', (route) => route.fulfill({ contentType: 'text/html', body: '<!doctype html>' }));
    await page.route('**/library.mjs', (route) => route.fulfill({ contentType: 'text/javascript', body: library }));
    await page.goto(studio);
    // tsx wraps named functions in a helper that the page does not have.
    await page.evaluate('globalThis.__name = (f) => f');
    await page.evaluate(startRecording, { width, height, rate, format, bitrate });
    for (let k = 0; k < frames; k++) {
      const data = Buffer.from(order.frame(k).data).toString('base64');
      await page.evaluate((text) => (globalThis as unknown as Recorder).addFrame(text), data);
    }
    const text = await page.evaluate(() => (globalThis as unknown as Recorder).finish());
    return Buffer.from(text, 'base64');
  } finally {
    await page.close();
  }
}

interface Recorder {
  addFrame(text: string): Promise<void>;
  finish(): Promise<string>;
}

/** Runs in the page. */
async function startRecording(order: Omit<ClipOrder, 'frame' | 'frames'>): Promise<void> {
  const { width, height, rate, format, bitrate } = order;
  const address = '/library.mjs';
  const library = (await import(address)) as typeof import('mediabunny');
  const target = new library.BufferTarget();
  const container = format === 'mp4' ? new library.Mp4OutputFormat() : new library.WebMOutputFormat();
  const output = new library.Output({ format: container, target });
  const canvas = new OffscreenCanvas(width, height);
  const source = new library.CanvasSource(canvas, { codec: format === 'mp4' ? 'avc' : 'vp9', bitrate });
  output.addVideoTrack(source, { frameRate: rate });
  await output.start();
  let index = 0;
  const recorder: Recorder = {
    addFrame: async (text) => {
      const bytes = Uint8ClampedArray.from(atob(text), (c) => c.charCodeAt(0));
      canvas.getContext('2d')!.putImageData(new ImageData(bytes, width, height), 0, 0);
      await source.add(index++ / rate, 1 / rate);
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
