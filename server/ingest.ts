import { basename, extname } from 'node:path';
import { Readable } from 'node:stream';
import sharp, { type Metadata, type Sharp } from 'sharp';
import { cutTo } from '../core/document/limits.ts';
import { longestName } from '../core/document/schema-parts.ts';
import { UserError } from './errors.ts';
import { pngWithProfile } from './png-profile.ts';
import type { FileStore, ReceivedFile } from './store/files.ts';
import { Turns } from './turns.ts';
import { typeByHead } from './type-by-head.ts';

export const largestUpload = 80 * 1024 * 1024;
export const largestClip = 400 * 1024 * 1024;
export const largestSound = 200 * 1024 * 1024;
const mostPixels = 60_000_000;
const longestSide = 20_000;
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
const readable = 'JPEG, PNG, WebP, AVIF, GIF or TIFF';

/** Pictures are decoded one after the other while together they would take too much memory; the measure is pixels. */
export const decoding = new Turns(mostPixels);
// Nothing is decoded twice soon, and what sharp would keep for that is memory.
sharp.cache(false);

export interface IngestedPicture {
  name: string;
  original: string;
  file: string;
  width: number;
  height: number;
  /** A sentence for the user where something about it is not as it should be. */
  notice: string | null;
}

/**
 * Takes in a picture: keeps the original and stores a working copy that is upright, in sRGB, 8 bits, alpha kept.
 * Everything is decoded before anything is stored, so a file that cannot be read leaves nothing behind. One that is
 * damaged but can be read is taken with a notice.
 * @throws UserError with a sentence naming the file
 */
export async function ingestPicture(files: FileStore, file: ReceivedFile, fileName: string): Promise<IngestedPicture> {
  try {
    if (file.bytes === 0) throw new UserError(400, `"${fileName}" is empty.`);
    const facts = await factsOf(file, fileName);
    return await decoding.take(facts.width * facts.height, () => takeIn(files, file, fileName, facts));
  } finally {
    await file.discard();
  }
}

/** The same for bytes that are in memory. */
export async function ingestBytes(files: FileStore, bytes: Buffer, fileName: string): Promise<IngestedPicture> {
  const stream = Readable.from([bytes]);
  const file = await files.receive(stream, bytes.length, largestUpload, () => tooLarge(fileName));
  return ingestPicture(files, file, fileName);
}

export const tooLarge = (fileName: string, most = largestUpload): UserError =>
  new UserError(413, `"${fileName}" is larger than ${most / 1024 / 1024} MB. Make it smaller and try again.`);

const damaged = (fileName: string): UserError =>
  new UserError(422, `"${fileName}" is damaged or was cut short. Copy it again from where it came and retry.`);

async function factsOf(file: ReceivedFile, fileName: string): Promise<Metadata> {
  const facts = await opened(file.path, 'none')
    .metadata()
    .catch(() => {
      if (typeByHead(file.head)?.startsWith('image/')) throw damaged(fileName);
      throw new UserError(415, `"${fileName}" is not a picture Clyvo can read. Bring in ${readable}.`);
    });
  if (!types[facts.format ?? '']) {
    const what = facts.format ?? 'file';
    throw new UserError(415, `"${fileName}" is a ${what} that Clyvo cannot read. Bring in ${readable}.`);
  }
  const smaller = 'Make it smaller and try again.';
  if (facts.width * facts.height > mostPixels) {
    const millions = Math.round((facts.width * facts.height) / 1e6);
    throw new UserError(413, `"${fileName}" has ${millions} megapixels; at most 60 can be brought in. ${smaller}`);
  }
  if (Math.max(facts.width, facts.height) > longestSide) {
    const side = Math.max(facts.width, facts.height).toLocaleString('en');
    throw new UserError(413, `"${fileName}" is ${side} pixels long; at most 20,000 can be brought in. ${smaller}`);
  }
  return facts;
}

/** The type of a picture within the limits, by what is in it; null for anything else. */
export async function pictureTypeOf(path: string): Promise<string | null> {
  const facts = await opened(path, 'none')
    .metadata()
    .catch(() => null);
  const fits = facts && facts.width * facts.height <= mostPixels && Math.max(facts.width, facts.height) <= longestSide;
  return fits ? (types[facts.format ?? ''] ?? null) : null;
}

type Strictness = 'none' | 'truncated' | 'warning';
const openOptions = { limitInputPixels: false, pages: 1, sequentialRead: true } as const;
const opened = (path: string, failOn: Strictness): Sharp => sharp(path, { ...openOptions, failOn });

async function takeIn(
  files: FileStore,
  file: ReceivedFile,
  fileName: string,
  facts: Metadata,
): Promise<IngestedPicture> {
  const type = types[facts.format!]!;
  const name = nameOf(fileName, 'Picture');
  if (isPlain(facts) && (await decodes(file.path))) {
    const { hash } = await file.keep(type);
    return { name, original: hash, file: hash, width: facts.width, height: facts.height, notice: null };
  }
  const whole = isPlain(facts) ? null : await workingCopy(file.path, facts, 'warning').catch(() => null);
  const working = whole ?? (await workingCopy(file.path, facts, 'truncated').catch(() => null));
  if (!working) throw damaged(fileName);
  const notice = whole ? null : `"${fileName}" is damaged. It was brought in as far as it can be read; look it over.`;
  const original = await file.keep(type);
  const made = await files.add(working.data, 'image/png');
  const { width, height } = working.info;
  return { name, original: original.hash, file: made.hash, width, height, notice };
}

/** Whether all of a picture can be decoded without a complaint. One channel is kept meanwhile, as that is least. */
const decodes = (path: string): Promise<boolean> =>
  opened(path, 'warning')
    .extractChannel(0)
    .raw()
    .toBuffer()
    .then(
      () => true,
      () => false,
    );

/** Whether a picture can be worked on as it came. */
function isPlain(facts: Metadata): boolean {
  return (
    (facts.orientation ?? 1) === 1 &&
    ['jpeg', 'png', 'webp'].includes(facts.format!) &&
    facts.depth === 'uchar' &&
    facts.space === 'srgb' &&
    !facts.icc &&
    Math.max(facts.width, facts.height) <= longestWorkingEdge
  );
}

/** Upright, in sRGB by the profile it carries, 8 bits, not too large. */
async function workingCopy(path: string, facts: Metadata, strictness: Strictness) {
  const deep = facts.depth === 'ushort' && facts.icc;
  const source = deep ? sharp(await inEightBits(path, deep, strictness)) : opened(path, strictness).rotate();
  return source
    .toColourspace('srgb')
    .resize({ width: longestWorkingEdge, height: longestWorkingEdge, fit: 'inside', withoutEnlargement: true })
    .png({ compressionLevel: 3 })
    .toBuffer({ resolveWithObject: true });
}

/**
 * A picture of 16 bits with its profile in 8 bits, its numbers as they are. Colours are converted from these: 16 bits would
 * go through a wider space and a coarse table on the way, which is off by up to 48 of 255.
 */
async function inEightBits(path: string, profile: Buffer, strictness: Strictness): Promise<Buffer> {
  const png = await sharp(path, { ...openOptions, failOn: strictness, ignoreIcc: true })
    .rotate()
    .toColourspace('srgb')
    .png({ compressionLevel: 1 })
    .toBuffer();
  return pngWithProfile(png, profile);
}

/** A file's name as the name of what it holds. */
function nameOf(fileName: string, otherwise: string): string {
  const plain = basename(fileName, extname(fileName)).replace(/[_-]+/g, ' ').trim();
  return cutTo(plain || otherwise, longestName);
}
