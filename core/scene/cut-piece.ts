import { cleanColours } from '../cut/foreground-colours.ts';
import { chromaKey, type Keyed } from '../key/chroma.ts';
import { lumaKey, unveil } from '../key/light.ts';
import type { Bytes, Rgba } from '../pixels/raster.ts';
import { unitedAlpha } from '../rebuild/behind.ts';
import type { CutRecipe, Piece } from './document.ts';

/** Recipes that decide every pixel by its own colour. */
export type KeyRecipe = Exclude<CutRecipe, { kind: 'subject' | 'mask' }>;

/** Colours and alpha that a key recipe makes of a picture, before edge care. */
export function keyed(picture: Rgba, recipe: KeyRecipe): Keyed {
  if (recipe.kind === 'chroma') return chromaKey(picture, recipe);
  return recipe.kind === 'luma' ? lumaKey(picture, recipe) : unveil(picture, recipe.black);
}

/** Whether what lies behind a piece is worth rebuilding: a key's piece stood before a screen or on black. */
export const standsInPicture = (recipe: Piece['recipe']): boolean =>
  recipe.kind === 'subject' || recipe.kind === 'mask';

/** A stored alpha on the ground of its picture. */
export function maskOnPicture(mask: Bytes, x: number, y: number, picture: Rgba): Bytes {
  return unitedAlpha([{ alpha: mask, x, y }], picture.width, picture.height);
}

/**
 * Colours of a piece with its final alpha, after edge care and brushes. A key's own colours are kept where it saw the
 * piece; where the piece was grown or restored the picture's own show.
 * @param found what the recipe found: for the subject alpha alone
 */
export function colouredBy(picture: Rgba, found: { alpha: Bytes; colours: Rgba | null }, alpha: Bytes): Rgba {
  if (!found.colours) return cleanColours(picture, alpha);
  const colours: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  for (let i = 0; i < alpha.data.length; i++) {
    if (found.alpha.data[i]! > 0) for (let c = 0; c < 3; c++) colours.data[i * 4 + c] = found.colours.data[i * 4 + c]!;
    colours.data[i * 4 + 3] = alpha.data[i]!;
  }
  return colours;
}
