import type { Server } from 'node:http';
import { createRequire } from 'node:module';
import type { AddressInfo } from 'node:net';
import { dirname, join } from 'node:path';
import express from 'express';
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

/**
 * Encodes a clip of computed frames in a browser, which is where the encoders are. The page fetches the frames from a server of
 * its own and brings the clip there: that takes a tenth of the time that handing them over as text takes.
 */
export async function recordClip(browser: Browser, order: ClipOrder): Promise<Buffer> {
  const { width, height, rate, frames, format, bitrate, rotation = 0, begins } = order;
  const times = Array.from({ length: frames + 1 }, (_, k) => (begins ? begins(k) : k / rate));
  const studio = await openStudio(order.frame);
  const page = await browser.newPage();
  try {
    await page.goto(studio.url);
    // tsx wraps named functions in a helper that the page does not have.
    await page.evaluate('globalThis.__name = (f) => f');
    await page.evaluate(record, { width, height, rate, format, bitrate, rotation, times, even: !begins });
    return studio.clip();
  } finally {
    await page.close();
    studio.close();
  }
}

interface Studio {
  url: string;
  /** What the page has recorded and brought. */
  clip(): Buffer;
  close(): void;
}

/** Serves an empty page, the library and the frames, and takes the clip; on this machine's own address, which a browser trusts. */
async function openStudio(frame: (index: number) => Rgba): Promise<Studio> {
  const main = createRequire(import.meta.url).resolve('mediabunny');
  let clip: Buffer | null = null;
  const app = express();
  app.get('/', (_request, response) => void response.send('<!doctype html>'));
  app.get('/library.mjs', (_request, response) => response.sendFile(join(dirname(main), 'mediabunny.min.mjs')));
  app.get('/frames/:index', (request, response) => {
    const { buffer, byteOffset, byteLength } = frame(Number(request.params.index)).data;
    response.type('bin').send(Buffer.from(buffer, byteOffset, byteLength));
  });
  app.post('/clip', express.raw({ type: () => true, limit: '1gb' }), (request, response) => {
    clip = request.body as Buffer;
    response.end();
  });
  const server = await new Promise<Server>((resolve) => {
    const listening = app.listen(0, '127.0.0.1', () => resolve(listening));
  });
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const close = (): void => {
    server.closeAllConnections();
    server.close();
  };
  return { url, clip: () => clip!, close };
}

/** Runs in the page. @param times when each frame begins, and when the last one ends, seconds */
async function record(
  order: Pick<ClipOrder, 'width' | 'height' | 'rate' | 'format' | 'bitrate'> & {
    rotation: NonNullable<ClipOrder['rotation']>;
    times: number[];
    even: boolean;
  },
): Promise<void> {
  const { width, height, rate, format, bitrate, rotation, times } = order;
  const address = '/library.mjs';
  const library = (await import(address)) as typeof import('mediabunny');
  const target = new library.BufferTarget();
  const container = format === 'mp4' ? new library.Mp4OutputFormat() : new library.WebMOutputFormat();
  const output = new library.Output({ format: container, target });
  const canvas = new OffscreenCanvas(width, height);
  const source = new library.CanvasSource(canvas, { codec: format === 'mp4' ? 'avc' : 'vp9', bitrate });
  output.addVideoTrack(source, { rotation, ...(order.even ? { frameRate: rate } : {}) });
  await output.start();
  for (let k = 0; k < times.length - 1; k++) {
    const response = await fetch(`/frames/${k}`);
    if (!response.ok) throw new Error(`frame ${k} could not be drawn`);
    const pixels = new Uint8ClampedArray(await response.arrayBuffer());
    canvas.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
    await source.add(times[k]!, times[k + 1]! - times[k]!);
  }
  await output.finalize();
  const brought = await fetch('/clip', { method: 'POST', body: target.buffer! });
  if (!brought.ok) throw new Error('the clip could not be brought');
}
