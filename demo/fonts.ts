import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type * as opentype from 'opentype.js';
import type { Face } from '../core/text/faces.ts';

// Node finds the package's UMD build, whose names an import statement cannot see.
const require = createRequire(import.meta.url);
const { parse } = require('opentype.js') as typeof opentype;

const files: Partial<Record<Face, string>> = {
  stencil: '@fontsource/stardos-stencil/files/stardos-stencil-latin-700-normal.woff',
  condensed: '@fontsource/oswald/files/oswald-latin-500-normal.woff',
};

/** A face as it ships with the application, read from disk; the demo uses two of them. */
export async function loadFont(face: Face): Promise<opentype.Font> {
  const file = files[face];
  if (!file) throw new Error(`The demo has no face "${face}".`);
  const bytes = await readFile(require.resolve(file));
  return parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
}
