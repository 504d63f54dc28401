import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { parse, type Font } from 'opentype.js';
import type { Path } from '../path/path.ts';
import type { TextSource } from '../scene/draw.ts';
import { setText } from '../text/outlines.ts';
import { studioOf, type Studio, type Surface2D } from './surface.ts';

export const contextOf = (canvas: Canvas): Surface2D<Canvas> => canvas.getContext('2d') as unknown as Surface2D<Canvas>;

let font: Font | null = null;

/** One face is enough for tests. */
export function testFont(): Font {
  const file = createRequire(import.meta.url).resolve('@fontsource/oswald/files/oswald-latin-500-normal.woff');
  const bytes = readFileSync(file);
  font ??= parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
  return font;
}

const outlinesOf = (text: TextSource): Path[] => setText(text, testFont()).outlines;

/** A studio on the canvas that Node has. */
export const testStudio = (images: Record<string, Canvas>): Studio<Canvas> =>
  studioOf<Canvas>(
    (file) => images[file],
    (width, height) => {
      const canvas = createCanvas(width, height);
      return { canvas, context: contextOf(canvas) };
    },
    ({ width, height }) => ({ width, height }),
    outlinesOf,
  );
