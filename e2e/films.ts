import type { Browser } from 'playwright-core';
import { filmFrame, type Film } from '../demo/clips/film.ts';
import { recordClip } from '../scripts/record-clip.ts';
import type { Rgba } from '../core/pixels/raster.ts';

/* Films as clips. Drawing a frame takes long, so each is drawn once for all tests. */

const drawn = new Map<string, Rgba>();

function frameOf(film: Film, index: number): Rgba {
  const name = `${film.name} ${index}`;
  const frame = drawn.get(name) ?? filmFrame(film, index).picture;
  drawn.set(name, frame);
  return frame;
}

/** So many frames of a film as an MP4. @param bitrate bits a second */
export const filmed = (browser: Browser, film: Film, frames: number, bitrate: number): Promise<Buffer> =>
  recordClip(browser, { ...film, frames, format: 'mp4', bitrate, frame: (index) => frameOf(film, index) });
