import type { Easing } from '../motion/easing.ts';
import { withKey, withoutKey, withValueAt } from '../motion/keys.ts';
import { defineEdit } from './edit.ts';
import { shotIn } from './layer-edits.ts';
import type { Framing, Shot } from '../document/shot.ts';

export const setFraming = defineEdit(
  'Change framing',
  (draft, shotId: string, which: 'first' | 'last', framing: Framing) => {
    const size = Math.max(0.05, Math.min(4, framing.size));
    const focal = Math.max(8, Math.min(800, framing.focal));
    shotIn(draft, shotId).camera[which] = { ...framing, size, focal };
  },
);

export const swapFramings = defineEdit('Swap framings', (draft, shotId: string) => {
  const { camera } = shotIn(draft, shotId);
  [camera.first, camera.last] = [camera.last, camera.first];
});

export const setCameraEasing = defineEdit('Change camera easing', (draft, shotId: string, easing: Easing) => {
  shotIn(draft, shotId).camera.easing = easing;
});

/** Changes what a camera has beside its Framings; `name` is what the user did. */
export function setCamera(name: string, shotId: string, change: Partial<Omit<Shot['camera'], 'focus'>>) {
  return defineEdit(name, (draft) => {
    Object.assign(shotIn(draft, shotId).camera, change);
  })();
}

/** Sets what is sharp at a frame: for all of the shot, or by the key there once the focus has keys. */
export const setFocus = defineEdit('Change focus', (draft, shotId: string, frame: number, depth: number) => {
  const { camera } = shotIn(draft, shotId);
  camera.focus = withValueAt(camera.focus, frame, depth);
});

export const setFocusKey = defineEdit(
  'Focus keyframe',
  (draft, shotId: string, frame: number, depth: number | null) => {
    const { camera } = shotIn(draft, shotId);
    camera.focus = depth === null ? withoutKey(camera.focus, frame) : withKey(camera.focus, frame, depth);
  },
);
