import { basename, extname } from 'node:path';
import sharp from 'sharp';
import { UserError } from './errors.ts';
import type { FileStore } from './store/files.ts';

export const largestUpload = 80 * 1024 * 1024;
export const largestClip = 400 * 1024 * 1024;
const mostPixels = 60_000_000;
/** The working picture is at most this long; the original is kept as it came. */
export const longestWorkingEdge = 4096;

const types: Record<string, string> = {
  jpeg: 'image/jpeg',
  png: 'image/png',
  webp: 'image/webp',
  heif: 'image/avif',
  gif: 'image/gif',
  tiff: 'image/tiff',
};

export interface IngestedPicture {
  name: string;
  original: string;
  file: string;
  width: number;
  height: number;
}

/**
 * Takes in a picture: keeps the original and stores a working copy that is upright, in sRGB, 8 bits, alpha kept.
 * Everything is decoded before anything is stored, so a damaged file leaves nothing behind.
 * @throws UserError with a sentence naming the file
 */
export async function ingestPicture(files: FileStore, bytes: Buffer, fileName: string): Promise<IngestedPicture> {
  const readable = 'JPEG, PNG, WebP, AVIF, GIF or TIFF';
  if (bytes.length === 0) throw new UserError(400, `"${fileName}" is empty.`);
  const open = () => sharp(bytes, { failOn: 'truncated', limitInputPixels: false, pages: 1 });
  const facts = await open()
    .metadata()
    .catch(() => {
      throw new UserError(415, `"${fileName}" is not a picture Clyvo can read. Bring in ${readable}.`);
    });
  const type = types[facts.format ?? ''];
  if (!type)
    throw new UserError(
      415,
      `"${fileName}" is a ${facts.format ?? 'file'} that Clyvo cannot read. Bring in ${readable}.`,
    );
  const pixels = facts.width * facts.height;
  if (pixels > mostPixels) {
    const millions = Math.round(pixels / 1e6);
    throw new UserError(
      413,
      `"${fileName}" has ${millions} megapixels; at most 60 can be brought in. Make it smaller and try again.`,
    );
  }
  const damaged = new UserError(
    422,
    `"${fileName}" is damaged or was cut short. Copy it again from where it came and retry.`,
  );
  const upright = (facts.orientation ?? 1) === 1;
  const plain =
    upright &&
    ['jpeg', 'png', 'webp'].includes(facts.format!) &&
    facts.depth === 'uchar' &&
    facts.space === 'srgb' &&
    !facts.icc;
  const fits = Math.max(facts.width, facts.height) <= longestWorkingEdge;
  const pipeline = open()
    .rotate()
    .toColourspace('srgb')
    .resize({ width: longestWorkingEdge, height: longestWorkingEdge, fit: 'inside', withoutEnlargement: true });
  if (plain && fits) {
    // Decoded only to be sure that all of it is there.
    await pipeline
      .raw()
      .toBuffer()
      .catch(() => {
        throw damaged;
      });
    const original = await files.add(bytes, type);
    return {
      name: nameOf(fileName),
      original: original.hash,
      file: original.hash,
      width: facts.width,
      height: facts.height,
    };
  }
  const working = await pipeline
    .png({ compressionLevel: 3 })
    .toBuffer({ resolveWithObject: true })
    .catch(() => {
      throw damaged;
    });
  const original = await files.add(bytes, type);
  const file = await files.add(working.data, 'image/png');
  return {
    name: nameOf(fileName),
    original: original.hash,
    file: file.hash,
    width: working.info.width,
    height: working.info.height,
  };
}

/** The type of a clip by its first bytes (ISO 14496-12 file type box, EBML header); null for anything else. */
export function clipTypeOf(bytes: Buffer): string | null {
  if (bytes.length < 12) return null;
  if (bytes.readUInt32BE(0) === 0x1a45dfa3) return 'video/webm';
  if (bytes.toString('latin1', 4, 8) !== 'ftyp') return null;
  return bytes.toString('latin1', 8, 12) === 'qt  ' ? 'video/quicktime' : 'video/mp4';
}

function nameOf(fileName: string): string {
  const plain = basename(fileName, extname(fileName)).replace(/[_-]+/g, ' ').trim();
  return (plain || 'Picture').slice(0, 80);
}
