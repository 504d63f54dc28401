import { readFile } from 'node:fs/promises';
import { cutTo } from '../core/document/limits.ts';
import { longestName } from '../core/document/schema-parts.ts';
import { openFont, UnreadableFont } from '../core/text/font.ts';
import { UserError } from './errors.ts';
import type { ReceivedFile } from './store/files.ts';

export const largestFont = 30 * 1024 * 1024;

export interface IngestedFont {
  file: string;
  name: string;
}

/**
 * Takes in a font: everything is read before anything is stored, so a file that cannot be used leaves nothing behind.
 * @throws UserError with a sentence naming the file
 */
export async function ingestFont(file: ReceivedFile, fileName: string): Promise<IngestedFont> {
  try {
    if (file.bytes === 0) throw new UserError(400, `"${fileName}" is empty.`);
    const font = await openFont(await readFile(file.path), `"${fileName}"`);
    const { hash } = await file.keep('font/sfnt');
    const name = font.name.startsWith('"') ? fileName.replace(/\.\w+$/, '') : font.name;
    return { file: hash, name: cutTo(name, longestName) || 'Font' };
  } catch (error) {
    await file.discard();
    if (error instanceof UnreadableFont) throw new UserError(415, error.message);
    throw error;
  }
}
