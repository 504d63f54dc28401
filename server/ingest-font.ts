import { readFile } from 'node:fs/promises';
import decompress from 'woff2-encoder/decompress';
import { cutTo } from '../core/document/limits.ts';
import { longestName } from '../core/document/schema-parts.ts';
import { openFont, UnreadableFont } from '../core/text/font.ts';
import { UserError } from './errors.ts';
import type { FileStore, ReceivedFile } from './store/files.ts';

export const largestFont = 30 * 1024 * 1024;

export interface IngestedFont {
  file: string;
  name: string;
}

/**
 * Takes in a font: everything is read before anything is stored, so a file that cannot be used leaves nothing behind.
 * WOFF2 is kept unpacked: a page that allows no code but its own has nothing to unpack it with.
 * @throws UserError with a sentence naming the file
 */
export async function ingestFont(files: FileStore, file: ReceivedFile, fileName: string): Promise<IngestedFont> {
  const quoted = `"${fileName}"`;
  try {
    if (file.bytes === 0) throw new UserError(400, `${quoted} is empty.`);
    const bytes = await unpacked(await readFile(file.path), quoted);
    const font = await openFont(bytes, quoted);
    const { hash } = await files.add(bytes, 'font/sfnt');
    const name = font.name === quoted ? fileName.replace(/\.\w+$/, '') : font.name;
    return { file: hash, name: cutTo(name, longestName) || 'Font' };
  } catch (error) {
    if (error instanceof UnreadableFont) throw new UserError(415, error.message);
    throw error;
  } finally {
    await file.discard();
  }
}

async function unpacked(bytes: Uint8Array, name: string): Promise<Uint8Array> {
  const signature = String.fromCharCode(...bytes.subarray(0, 4));
  if (signature !== 'wOF2') return bytes;
  try {
    return await decompress(bytes);
  } catch {
    throw new UnreadableFont(name);
  }
}
