import { readFile } from 'node:fs/promises';
import { readDrawing } from '../../core/formats/svg/read-drawing.ts';
import { writeDrawing } from '../../core/formats/svg/write-drawing.ts';
import { openFont } from '../../core/text/font.ts';
import { largestDrawing } from '../ingest-drawing.ts';
import { largestFont } from '../ingest-font.ts';
import { pictureTypeOf } from '../ingest.ts';
import type { ReceivedFile } from '../store/files.ts';
import { typeByHead } from '../type-by-head.ts';

type Received = Pick<ReceivedFile, 'path' | 'bytes' | 'head'>;

/**
 * The type of a file that came with a stranger's bundle, by what is in it and not by what is said of it; null where it is
 * nothing a project may hold. A drawing must be written as Clyvo writes it, so that nothing else in it is ever opened.
 */
export async function kindOfFile(file: Received): Promise<string | null> {
  const type = typeByHead(file.head);
  if (type === 'text/plain') return (await isOwnDrawing(file)) ? type : null;
  if (type === 'font/sfnt') return (await isFont(file)) ? type : null;
  // What says it is a picture must be one within the limits.
  return type?.startsWith('image/') ? pictureTypeOf(file.path) : type;
}

async function isFont({ path, bytes }: Received): Promise<boolean> {
  if (bytes > largestFont) return false;
  return openFont(await readFile(path), 'font').then(
    () => true,
    () => false,
  );
}

async function isOwnDrawing({ path, bytes }: Received): Promise<boolean> {
  if (bytes > largestDrawing) return false;
  const text = await readFile(path, 'utf8');
  try {
    const { root, width, height } = readDrawing(text);
    return writeDrawing(root, width, height) === text;
  } catch {
    return false;
  }
}
