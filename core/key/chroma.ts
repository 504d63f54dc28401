import type { Rgba } from '../pixels/raster.ts';
import { chromaKeyByKernel, hasChromaKernel } from './chroma-kernel.ts';
import type { ChromaSettings, Keyed } from './keyed.ts';
import { chromaKeyPlain } from './plain-chroma.ts';

/**
 * Chroma key: colour difference to a screen that is measured from the picture itself; see `chromaKeyPlain` for the steps.
 * @returns straight colours of the subject and its alpha, size of the picture
 */
export function chromaKey(picture: Rgba, settings: ChromaSettings): Keyed {
  return hasChromaKernel() ? chromaKeyByKernel(picture, settings) : chromaKeyPlain(picture, settings);
}
