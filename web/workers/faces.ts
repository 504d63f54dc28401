import archivoBlack from '@fontsource/archivo-black/files/archivo-black-latin-400-normal.woff?url';
import bangers from '@fontsource/bangers/files/bangers-latin-400-normal.woff?url';
import caveat from '@fontsource/caveat/files/caveat-latin-600-normal.woff?url';
import hankenGrotesk from '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff?url';
import jetbrainsMono from '@fontsource/jetbrains-mono/files/jetbrains-mono-latin-500-normal.woff?url';
import libreBaskerville from '@fontsource/libre-baskerville/files/libre-baskerville-latin-400-normal.woff?url';
import libreBaskervilleBold from '@fontsource/libre-baskerville/files/libre-baskerville-latin-700-normal.woff?url';
import nunito from '@fontsource/nunito/files/nunito-latin-800-normal.woff?url';
import oswald from '@fontsource/oswald/files/oswald-latin-500-normal.woff?url';
import pacifico from '@fontsource/pacifico/files/pacifico-latin-400-normal.woff?url';
import stardosStencil from '@fontsource/stardos-stencil/files/stardos-stencil-latin-700-normal.woff?url';
import zillaSlab from '@fontsource/zilla-slab/files/zilla-slab-latin-600-normal.woff?url';
import type { Font } from 'opentype.js';
import type { Path } from '../../core/path/path.ts';
import type { Face } from '../../core/text/faces.ts';
import { setText, type SetText, type TextSetting } from '../../core/text/outlines.ts';

const files: Record<Face, string> = {
  grotesque: hankenGrotesk,
  'grotesque heavy': archivoBlack,
  serif: libreBaskerville,
  'serif bold': libreBaskervilleBold,
  slab: zillaSlab,
  condensed: oswald,
  rounded: nunito,
  script: pacifico,
  hand: caveat,
  comic: bangers,
  stencil: stardosStencil,
  mono: jetbrainsMono,
};

const fonts = new Map<Face, Promise<Font>>();
const ready = new Map<Face, Font>();

/** A face that ships with the application, read when it is first used. */
export function loadFace(face: Face): Promise<Font> {
  let font = fonts.get(face);
  if (!font) {
    font = read(face);
    font = font.then((found) => {
      ready.set(face, found);
      return found;
    });
    font.catch(() => fonts.delete(face));
    fonts.set(face, font);
  }
  return font;
}

async function read(face: Face): Promise<Font> {
  const [{ parse }, response] = await Promise.all([import('opentype.js'), fetch(files[face])]);
  if (!response.ok) throw new Error(`The face "${face}" could not be loaded. Reload the page and try again.`);
  return parse(await response.arrayBuffer());
}

/** Text as outlines; undefined while its face was not loaded. */
export function outlinesOf(setting: TextSetting & { face: Face }): Path[] | undefined {
  const font = ready.get(setting.face);
  return font && setText(setting, font).outlines;
}

/** The room a text takes; undefined while its face was not loaded. */
export function measuredNow(setting: TextSetting & { face: Face }): Pick<SetText, 'width' | 'height'> | undefined {
  const font = ready.get(setting.face);
  if (!font) return undefined;
  const { width, height } = setText(setting, font);
  return { width, height };
}

/** The same, once its face is there. */
export async function measured(setting: TextSetting & { face: Face }): Promise<Pick<SetText, 'width' | 'height'>> {
  await loadFace(setting.face);
  return measuredNow(setting)!;
}
