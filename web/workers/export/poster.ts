import type { ExportWriter } from './writer.ts';

/** One frame as a still of a kind that the browser writes. */
const still =
  (type: string, quality?: number): ExportWriter =>
  async ({ canvas, paint }) => {
    if (!(await paint(0))) return null;
    const made = await canvas.convertToBlob({ type, quality });
    // A browser that does not write a kind gives a PNG instead, without a word.
    if (made.type !== type) throw new Error('This browser cannot write this kind of picture. Choose PNG instead.');
    return made;
  };

/** One frame as a PNG with what is transparent. */
export const writePoster = still('image/png');
export const writeJpeg = still('image/jpeg', 0.9);
export const writeWebp = still('image/webp', 0.86);
