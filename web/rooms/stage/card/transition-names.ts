import type { Transition } from '../../../../core/document/shot.ts';

/** How the ways from one shot into the next are called. */
export const transitionNames: Record<Transition['kind'], string> = {
  cut: 'Cut',
  crossfade: 'Crossfade',
  wipe: 'Wipe',
  'pose-match': 'Travelling',
};
