import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { loadFontsOf } from '../core/text/font-list.ts';
import { lettersOf } from '../core/text/lettering.ts';
import type { SetText } from '../core/text/set-text.ts';
import type { TextSetting } from '../core/text/text-setting.ts';

const require = createRequire(import.meta.url);

/** A text set in a face as it ships with the application, read from disk. */
export async function setWords(setting: TextSetting): Promise<SetText> {
  await loadFontsOf(setting.face, {
    shipped: (file) => readFile(require.resolve(`@fontsource/${file}`)),
    own: () => Promise.reject(new Error('The demo has no fonts of its own.')),
  });
  return lettersOf(setting)!;
}
