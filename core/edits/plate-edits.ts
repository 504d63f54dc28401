import type { Document, Picture } from '../document/document.ts';
import { defineEdit, find, type Edit } from './edit.ts';
import { cutTo } from '../document/limits.ts';
import { longestName } from '../document/schema-parts.ts';
import { showBackground } from './lift-edit.ts';
import { dropLayers } from './project-edits.ts';
import { currentPlate, type PlateStep, type PlateTake } from '../document/plate.ts';

/** Puts new steps in place of a picture's plate; `name` is what the user did. A plate without steps is the picture again. */
export function setPlate(name: string, pictureId: string, steps: PlateStep[], backgroundLayer: string): Edit {
  return defineEdit(name, (draft: Document) => {
    const picture = find(draft.pictures, 'picture', pictureId);
    picture.background = steps.length > 0 ? { steps } : null;
    if (steps.length > 0) showBackground(draft, picture, backgroundLayer);
  })();
}

/** Keeps a further result of a step; what is chosen does not change. */
export const addTake = defineEdit('Keep take', (draft, pictureId: string, stepId: string, take: PlateTake) => {
  const step = stepOf(draft, pictureId, stepId);
  if (!('takes' in step)) return;
  step.takes = [...step.takes.filter((t) => t.seed !== take.seed), take].sort((a, b) => a.seed - b.seed);
});

function stepOf(document: Document, pictureId: string, stepId: string): PlateStep {
  return find(find(document.pictures, 'picture', pictureId).background?.steps ?? [], 'step', stepId);
}

/**
 * Makes a picture of a background as it stands, to cut things out of it: what reached the border of the old one goes on in a
 * widened one. Where nothing was lifted before, the background leaves the Stage; it comes back with what is lifted.
 */
export const pictureOfBackground = defineEdit('Cut from the background', (draft, pictureId: string, id: string) => {
  const { name, background } = find(draft.pictures, 'picture', pictureId);
  if (!background) return;
  const { file, bounds } = currentPlate(background);
  const { width, height } = bounds;
  draft.pictures.push({
    id,
    name: `${cutTo(name, longestName - 7)} remade`,
    original: file,
    file,
    width,
    height,
    clip: null,
    background: null,
  });
  if (draft.pieces.some(({ picture, cutout }) => picture === pictureId && cutout)) return;
  dropLayers(draft, ({ source }) => source.kind === 'background' && source.picture === pictureId);
});

/** Another working picture in place of the present one, as after levelling; only while nothing was cut out of it. */
export const replaceWorkingPicture = defineEdit(
  'Level picture',
  (draft, pictureId: string, made: Pick<Picture, 'file' | 'width' | 'height'>) => {
    Object.assign(find(draft.pictures, 'picture', pictureId), made);
  },
);
