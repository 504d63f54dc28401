import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { loadFontsOf } from './font-list.ts';
import type { Font } from './font.ts';
import type { TextSetting } from './text-setting.ts';

const require = createRequire(import.meta.url);

/** A font file as it ships. */
export const fontFile = (file: string): Promise<Uint8Array> => readFile(require.resolve(`@fontsource/${file}`));

/** Loads faces from disk for tests. */
export async function loadTestFaces(...faces: string[]): Promise<(readonly Font[])[]> {
  const reader = { shipped: fontFile, own: () => Promise.reject(new Error('Tests have no fonts of their own.')) };
  return Promise.all(faces.map((face) => loadFontsOf(face, reader)));
}

/** Plain words of 100 pixels. */
export const plainText: TextSetting = {
  text: 'Quay',
  face: 'condensed',
  size: 100,
  align: 'left',
  leading: 1.2,
  tracking: 0,
  stroke: null,
};
