import type * as HarfBuzz from 'harfbuzzjs';
import type { Path } from '../path/path.ts';
import { pathsOf } from './glyph-paths.ts';
import { unpackedWoff, woffSignature } from './woff.ts';

/** A font whose bytes were read; lengths in its own units. */
export interface Font {
  /** For the shaping engine only. */
  handle: HarfBuzz.Font;
  unitsPerEm: number;
  ascent: number;
  /** Below the baseline, positive. */
  descent: number;
  /** As the font calls itself. */
  name: string;
  has(codePoint: number): boolean;
  /** Outlines of a glyph in em, y downwards, its pen place at (0, 0). */
  outlineOf(glyph: number): readonly Path[];
}

/** Thrown when bytes are not a font that can be used. */
export class UnreadableFont extends Error {
  constructor(name: string) {
    super(`${name} is not a font that can be read. Take a TTF, OTF, WOFF or WOFF2 file.`);
    this.name = 'UnreadableFont';
  }
}

let engine: typeof HarfBuzz | null = null;

/** The shaping engine; only there once a font was opened. */
export const shaper = (): typeof HarfBuzz => engine!;

/** TrueType, TrueType as Apple names it, and OpenType with cubic outlines. */
const sfnt = [0x00010000, 0x74727565, 0x4f54544f];

/**
 * Reads a font: TrueType or OpenType (ISO/IEC 14496-22), or either as WOFF (W3C).
 * @param name by which it is called where it cannot be read
 * @throws UnreadableFont
 */
export async function openFont(bytes: Uint8Array, name: string): Promise<Font> {
  const harfbuzz = (engine ??= await import('harfbuzzjs'));
  const plain = plainBytes(bytes, name);
  const face = new harfbuzz.Face(new harfbuzz.Blob(plain));
  const handle = new harfbuzz.Font(face);
  const unitsPerEm = face.upem;
  const known = face.collectUnicodes();
  // A file that only looks like a font gives a face without letters.
  if (known.length === 0 || unitsPerEm < 16) throw new UnreadableFont(name);
  const { ascender, descender } = handle.hExtents();
  const letters = new Set(known);
  const outlines = new Map<number, readonly Path[]>();
  return {
    handle,
    unitsPerEm,
    ascent: ascender || unitsPerEm * 0.8,
    descent: -descender || unitsPerEm * 0.2,
    name: face.getName(1, 'en') || name,
    has: (codePoint) => letters.has(codePoint),
    outlineOf(glyph) {
      const made = outlines.get(glyph) ?? pathsOf(handle.glyphToJson(glyph), 1 / unitsPerEm);
      outlines.set(glyph, made);
      return made;
    },
  };
}

function plainBytes(bytes: Uint8Array, name: string): Uint8Array {
  if (bytes.length < 48) throw new UnreadableFont(name);
  const signature = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0);
  if (sfnt.includes(signature)) return bytes;
  if (signature !== woffSignature) throw new UnreadableFont(name);
  try {
    return unpackedWoff(bytes);
  } catch {
    throw new UnreadableFont(name);
  }
}
