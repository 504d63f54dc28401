import { emptyDocument, untouched, type Document } from '../document/document.ts';
import type { Edit } from './edit.ts';
import { liftOut } from './lift-edit.ts';
import type { PlateStep } from '../document/plate.ts';
import { addPicture, addPiece } from './project-edits.ts';

/** A file name such as those of stored files. */
export const hash = (digit: string): string => digit.repeat(64);

/** The step that a first lift makes. */
export const behindStep = (file: string, width = 1200, height = 800): PlateStep => ({
  kind: 'behind',
  id: `step-${file[0]}`,
  file,
  bounds: { x: 0, y: 0, width, height },
  seed: 1,
  takes: [],
  mix: [],
  guides: { from: [], never: [], lines: [] },
  onlySeen: false,
  photo: null,
});

/** A project with one picture lifted: piece in front, background behind, camera moving. */
export function liftedDocument(
  picture = { width: 1200, height: 800 },
  frame = { width: 1920, height: 1080, rate: 30 },
  bounds = { x: 500, y: 200, width: 200, height: 300 },
): Document {
  const edits: Edit[] = [
    addPicture({
      id: 'pic',
      name: 'Quay',
      original: hash('a'),
      file: hash('b'),
      ...picture,
      clip: null,
      background: null,
    }),
    addPiece({
      id: 'piece',
      picture: 'pic',
      name: 'Lantern',
      recipe: { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null },
      ...untouched,
    }),
    liftOut({
      pieces: [
        {
          piece: 'piece',
          cutout: { file: hash('c'), bounds },
          layer: 'front',
        },
      ],
      steps: [behindStep(hash('d'), picture.width, picture.height)],
      backgroundLayer: 'back',
    }),
  ];
  return edits.reduce((d, edit) => edit.apply(d), emptyDocument('Lantern Week', frame, 6, 'shot'));
}
