import type { ExportWriter } from './writer.ts';

/** One frame as a PNG with what is transparent. */
export const writePoster: ExportWriter = async ({ canvas, paint }) =>
  (await paint(0)) ? canvas.convertToBlob({ type: 'image/png' }) : null;
