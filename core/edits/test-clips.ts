import type { Picture } from '../document/document.ts';
import { hash } from './test-cards.ts';

/** A small clip with a picture's id; of its pixels nothing is needed. */
export const clipPicture = (frames: number, rate: number, id = 'crab'): Picture => ({
  id,
  name: 'Crab',
  original: hash('b'),
  file: hash('c'),
  width: 320,
  height: 180,
  clip: { frames, rate },
  background: null,
});
