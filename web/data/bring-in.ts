import { proposeFrame } from '../../core/scene/frame-proposal.ts';
import { addPicture } from '../../core/scene/project-edits.ts';
import type { Picture } from '../../core/scene/document.ts';
import { changeProject, createProject, uploadPicture, type IngestedPicture } from './api.ts';
import { notify, sentenceOf } from './notices.ts';
import { newId } from './project.ts';

const pictureOf = (brought: IngestedPicture): Picture => ({ ...brought, id: newId('picture'), background: null });

/** Uploads pictures one after the other; each that cannot be taken is told in its own sentence. */
export async function bringIn(files: File[]): Promise<Picture[]> {
  const pictures: Picture[] = [];
  for (const file of files) {
    try {
      pictures.push(pictureOf(await uploadPicture(file)));
    } catch (error) {
      notify('problem', sentenceOf(error));
    }
  }
  return pictures;
}

/** A new project around a first picture; resolves to null when none could be taken. */
export async function projectFromPictures(files: File[]): Promise<{ project: string; picture: string } | null> {
  const pictures = await bringIn(files);
  const first = pictures[0];
  if (!first) return null;
  const project = await createProject(first.name, proposeFrame(first.width, first.height), 6);
  const to = pictures.reduce((document, picture) => addPicture(picture).apply(document), project.document);
  await changeProject({
    id: project.id,
    revision: project.revision,
    name: 'Bring in picture',
    from: project.document,
    to,
  });
  return { project: project.id, picture: first.id };
}
