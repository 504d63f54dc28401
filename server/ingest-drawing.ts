import { readFile } from 'node:fs/promises';
import { cutTo } from '../core/document/limits.ts';
import { longestName } from '../core/document/schema-parts.ts';
import { boundsOfNode } from '../core/formats/svg/drawing.ts';
import { readDrawing } from '../core/formats/svg/read-drawing.ts';
import { svgLimits, UnreadableSvg } from '../core/formats/svg/tree.ts';
import { writeDrawing } from '../core/formats/svg/write-drawing.ts';
import { UserError } from './errors.ts';
import type { FileStore, ReceivedFile } from './store/files.ts';

export const largestDrawing = svgLimits.bytes;

export interface IngestedDrawing {
  file: string;
  name: string;
  box: { x: number; y: number; width: number; height: number };
  /** What the file has that is not shown, in words. */
  left: string[];
}

/**
 * Takes in an SVG drawing. What is stored is written anew from what was understood of it, so nothing else of a stranger's
 * file is ever opened again; as text, so that no browser runs it as a page.
 * @throws UserError with a sentence naming the file
 */
export async function ingestDrawing(files: FileStore, file: ReceivedFile, fileName: string): Promise<IngestedDrawing> {
  try {
    if (file.bytes === 0) throw new UserError(400, `"${fileName}" is empty.`);
    const drawing = readDrawing(await readFile(file.path, 'utf8'));
    const { width, height, root, left } = drawing;
    const { hash } = await files.add(new TextEncoder().encode(writeDrawing(root, width, height)), 'text/plain');
    const name = cutTo(fileName.replace(/\.\w+$/, ''), longestName) || 'Drawing';
    return { file: hash, name, box: boundsOfNode(root) ?? { x: 0, y: 0, width, height }, left };
  } catch (error) {
    if (error instanceof UnreadableSvg) throw new UserError(415, `"${fileName}": ${error.message}`);
    throw error;
  } finally {
    await file.discard();
  }
}
