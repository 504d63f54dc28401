import { z } from 'zod';
import { makeRgba, pasteRgba, type Rgba } from '../../core/pixels/raster.ts';
import { pixelsOfBitmap } from './pixels.ts';

/*
 * Cuts that were solved before, kept by this browser so that a piece opens at once. A cut is a function of the picture, the
 * recipe and this version of the program: under their hash it is found again, and never under another.
 */

const prefix = 'cuts of ';
/** Kept together with the program that made it: its file is named after its contents, so another version has another name. */
const store = prefix + new URL(import.meta.url).pathname;
const most = 60;
const bytesForm = z.instanceof(Blob);
const placeForm = z.object({
  x: z.coerce.number().int().min(0),
  y: z.coerce.number().int().min(0),
  width: z.coerce.number().int().min(1),
  height: z.coerce.number().int().min(1),
});

/** A cut, trimmed to what there is of it: a PNG file, where it lies in the picture, and how large that is. */
export interface KeptCut {
  file: Blob;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** What a cut follows from, as text. */
export type CutKey = string;

export const keyOf = async (...parts: unknown[]): Promise<CutKey> => {
  const bytes = new TextEncoder().encode(JSON.stringify(parts));
  const hash = await crypto.subtle.digest('SHA-256', bytes);
  return `/kept-cuts/${[...new Uint8Array(hash)].map((byte) => byte.toString(16).padStart(2, '0')).join('')}`;
};

/** A cut that was kept, with its alpha; null where none was, or where this browser keeps nothing. */
export async function keptCut(key: CutKey): Promise<Rgba | null> {
  const found = await open()
    ?.then((cache) => cache.match(key))
    .catch(() => undefined);
  if (!found) return null;
  const bitmap = await createImageBitmap(bytesForm.parse(await found.blob()), { premultiplyAlpha: 'none' }).catch(
    () => null,
  );
  if (!bitmap) return null;
  const { x, y, width, height } = placeForm.parse(Object.fromEntries(found.headers));
  const whole = makeRgba(width, height);
  pasteRgba(whole, pixelsOfBitmap(bitmap), x, y);
  bitmap.close();
  return whole;
}

/** Keeps a cut; the oldest go when there are many. A browser that has no room keeps nothing, which only costs time later. */
export async function keepCut(key: CutKey, { file, ...place }: KeptCut): Promise<void> {
  try {
    const cache = await open();
    if (!cache || (await cache.match(key))) return;
    const headers = Object.entries(place).map(([name, value]): [string, string] => [name, String(value)]);
    await cache.put(key, new Response(file, { headers }));
    const known = await cache.keys();
    for (const old of known.slice(0, Math.max(0, known.length - most))) await cache.delete(old);
  } catch (error) {
    if (!(error instanceof DOMException)) throw error;
  }
}

let opened: Promise<Cache> | null = null;

/** The store of this version; those of others are thrown away. */
function open(): Promise<Cache> | null {
  if (!('caches' in self)) return null;
  opened ??= (async () => {
    for (const name of await caches.keys()) if (name.startsWith(prefix) && name !== store) await caches.delete(name);
    return caches.open(store);
  })();
  return opened;
}
