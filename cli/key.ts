import { parseArgs } from 'node:util';
import { defaultChroma } from '../core/key/keyed.ts';
import { defaultLuma } from '../core/key/light.ts';
import { findScreenColour, type Rgb } from '../core/key/screen.ts';
import { asMuchAsThere, withColoursGoingOn } from '../core/pixels/emptiness.ts';
import { boundsOf, cropRgba } from '../core/pixels/raster.ts';
import { colouredBy, keyed, type KeyRecipe } from '../core/make/cut-piece.ts';
import { readPicture, UsageError, writePng } from './pictures.ts';

function readColour(text: string): Rgb {
  const hex = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(text);
  if (!hex) throw new UsageError(`--color takes a colour like #2fa84f, not "${text}".`);
  return [parseInt(hex[1]!, 16), parseInt(hex[2]!, 16), parseInt(hex[3]!, 16)];
}

const hexOf = (colour: Rgb): string => `#${colour.map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;

/** `clyvo key`: a piece by colour or brightness, as a PNG with alpha. */
export async function key(args: string[]): Promise<Record<string, unknown>> {
  const { values } = parseArgs({
    args,
    options: {
      in: { type: 'string' },
      out: { type: 'string' },
      kind: { type: 'string', default: 'chroma' },
      color: { type: 'string' },
      trim: { type: 'boolean', default: false },
    },
  });
  if (!values.in || !values.out) throw new UsageError('key needs --in picture and --out piece.png.');
  const { kind } = values;
  if (kind !== 'chroma' && kind !== 'luma' && kind !== 'unveil')
    throw new UsageError(`--kind is chroma, luma or unveil, not "${kind}".`);
  const colour = values.color === undefined ? null : readColour(values.color);
  const picture = await readPicture(values.in);
  const screen = colour ?? findScreenColour(picture);
  const recipes: Record<typeof kind, KeyRecipe> = {
    chroma: { kind: 'chroma', ...defaultChroma, colours: [[screen[0], screen[1], screen[2]]] },
    luma: { kind: 'luma', ...defaultLuma },
    unveil: { kind: 'unveil', black: 8 },
  };
  const started = performance.now();
  const found = keyed(withColoursGoingOn(picture), recipes[kind]);
  const alpha = asMuchAsThere(found.alpha, picture);
  const colours = colouredBy(picture, found, alpha);
  const milliseconds = Math.round(performance.now() - started);
  const bounds = boundsOf(alpha);
  if (!bounds) throw new UsageError(`Nothing is left of "${values.in}" with this key.`);
  await writePng(values.out, values.trim ? cropRgba(colours, bounds) : colours);
  const covered = alpha.data.reduce((sum, a) => sum + a, 0) / 255 / alpha.data.length;
  const facts = { width: picture.width, height: picture.height, kind, covered: Number(covered.toFixed(4)), bounds };
  return { ...facts, ...(kind === 'chroma' ? { screen: hexOf(screen) } : {}), milliseconds };
}
