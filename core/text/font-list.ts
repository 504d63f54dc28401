import { fallbackFiles, faceFiles, isShipped, type FaceName } from './faces.ts';
import { openFont, type Font } from './font.ts';

/*
 * The faces this process has read. Fonts are known by name or hash and never change, so which of them are there already
 * decides only when a text can be set, never how.
 */
const ready = new Map<FaceName, Font[]>();
const waiting = new Map<FaceName, Promise<Font[]>>();
let fallback: Promise<Font[]> | null = null;

/** Reads the bytes of a font: by the path of a shipped one within its packages, or of one's own by its hash. */
export interface FontReader {
  shipped(file: string): Promise<Uint8Array>;
  own(hash: string): Promise<Uint8Array>;
}

/** The fonts of a face, in the order letters are looked for in them; undefined until it was loaded. */
export const fontsOf = (face: FaceName): readonly Font[] | undefined => ready.get(face);

/** Loads a face once. @throws UnreadableFont, or what the reader throws; it may be tried again then */
export function loadFontsOf(face: FaceName, reader: FontReader): Promise<readonly Font[]> {
  const known = waiting.get(face);
  if (known) return known;
  const loading = readFonts(face, reader);
  waiting.set(face, loading);
  loading.catch(() => waiting.delete(face));
  return loading;
}

async function readFonts(face: FaceName, reader: FontReader): Promise<Font[]> {
  const open = async (bytes: Promise<Uint8Array>, name: string): Promise<Font> => openFont(await bytes, name);
  fallback ??= Promise.all(fallbackFiles.map((file) => open(reader.shipped(file), file)));
  fallback.catch(() => (fallback = null));
  const own = isShipped(face)
    ? faceFiles[face].map((file) => open(reader.shipped(file), face))
    : [open(reader.own(face), 'This font')];
  const fonts = [...(await Promise.all(own)), ...(await fallback)];
  ready.set(face, fonts);
  return fonts;
}
