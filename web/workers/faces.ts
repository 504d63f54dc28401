import { facesOf, type Document } from '../../core/document/document.ts';
import type { FaceName } from '../../core/text/faces.ts';
import type { Font } from '../../core/text/font.ts';
import { loadFontsOf, type FontReader } from '../../core/text/font-list.ts';
import { lettersOf } from '../../core/text/lettering.ts';
import type { SetText } from '../../core/text/set-text.ts';
import type { TextSetting } from '../../core/text/text-setting.ts';

/** The files of the faces that ship, by their paths within the packages. */
const shipped: Record<string, string> = import.meta.glob(
  [
    '/../node_modules/@fontsource/hanken-grotesk/files/hanken-grotesk-{latin,latin-ext}-600-normal.woff',
    '/../node_modules/@fontsource/archivo-black/files/archivo-black-{latin,latin-ext}-400-normal.woff',
    '/../node_modules/@fontsource/libre-baskerville/files/libre-baskerville-{latin,latin-ext}-{400,700}-normal.woff',
    '/../node_modules/@fontsource/zilla-slab/files/zilla-slab-{latin,latin-ext}-600-normal.woff',
    '/../node_modules/@fontsource/oswald/files/oswald-{latin,latin-ext}-500-normal.woff',
    '/../node_modules/@fontsource/nunito/files/nunito-{latin,latin-ext}-800-normal.woff',
    '/../node_modules/@fontsource/pacifico/files/pacifico-{latin,latin-ext}-400-normal.woff',
    '/../node_modules/@fontsource/caveat/files/caveat-{latin,latin-ext}-600-normal.woff',
    '/../node_modules/@fontsource/bangers/files/bangers-{latin,latin-ext}-400-normal.woff',
    '/../node_modules/@fontsource/stardos-stencil/files/stardos-stencil-latin-700-normal.woff',
    '/../node_modules/@fontsource/jetbrains-mono/files/jetbrains-mono-{latin,latin-ext}-500-normal.woff',
    '/../node_modules/@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-500-normal.woff',
    '/../node_modules/@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-500-normal.woff',
  ],
  { query: '?url', import: 'default', eager: true },
);
const addresses = new Map(Object.entries(shipped).map(([path, url]) => [path.split('@fontsource/')[1]!, url]));

const reader: FontReader = {
  shipped: (file) => fetchBytes(addresses.get(file)!),
  own: (hash) => fetchBytes(`/api/files/${hash}`),
};

async function fetchBytes(address: string): Promise<Uint8Array> {
  const response = await fetch(address);
  if (!response.ok) throw new Error('A font could not be loaded. Reload the page and try again.');
  return new Uint8Array(await response.arrayBuffer());
}

/** A face, read when it is first used. */
export const loadFace = (face: FaceName): Promise<readonly Font[]> => loadFontsOf(face, reader);

/** Loads all faces of a document, so that its words can be set; one that cannot be read does not keep the others. */
export const loadFacesOf = (document: Document): Promise<unknown> =>
  Promise.all(facesOf(document).map((face) => loadFace(face).catch(() => undefined)));

/** The room a text takes; undefined while its face was not loaded. */
export function measuredNow(setting: TextSetting): Pick<SetText, 'width' | 'height'> | undefined {
  const set = lettersOf(setting);
  return set && { width: set.width, height: set.height };
}

/** The same, once its face is there. */
export async function measured(setting: TextSetting): Promise<Pick<SetText, 'width' | 'height'>> {
  await loadFace(setting.face);
  return measuredNow(setting)!;
}
