import { proposeStart } from '../../core/document/frame-proposal.ts';
import { cutTo } from '../../core/document/limits.ts';
import { addPictures } from '../../core/edits/project-edits.ts';
import { longestName } from '../../core/document/schema-parts.ts';
import type { Picture } from '../../core/document/document.ts';
import { isLayered } from './bring-in-layers.ts';
import { createProject, uploadClip, uploadPicture, uploadPixels } from './api.ts';
import { notify, notifyError } from './notices.ts';
import { packedSeries, seriesIn } from '../workers/picture-series.ts';
import { editProject, newId } from './project.ts';

/** Uploads pictures one after the other; each that cannot be taken is told in its own sentence. */
export async function bringIn(given: File[]): Promise<Picture[]> {
  const pictures: Picture[] = [];
  const series = seriesIn(given);
  const files = series ? [await packedSeries(series)] : given;
  if (series) notify('done', `${series.length} numbered pictures came in as one clip.`);
  for (const file of files) {
    if (file.type.startsWith('audio/')) {
      notify('problem', `"${file.name}" is a sound: it comes in by "Sound" under the timeline of the Stage.`);
      continue;
    }
    if (isLayered(file)) {
      notify('problem', `"${file.name}" is a picture in layers: on the Shelf it becomes a project of its own.`);
      continue;
    }
    try {
      const brought = (await isClip(file)) ? await bringInClip(file) : await bringInStill(file);
      pictures.push({ ...brought, id: newId('picture'), background: null });
    } catch (error) {
      notifyError(error);
    }
  }
  return pictures;
}

async function isClip(file: File): Promise<boolean> {
  if (file.type.startsWith('video/') || /\.(mp4|m4v|webm|mov|zip)$/i.test(file.name)) return true;
  if (!/\.(gif|webp|png|apng)$/i.test(file.name) && !['image/gif', 'image/webp', 'image/png'].includes(file.type))
    return false;
  const { isMoving } = await import('../workers/moving-picture.ts');
  return isMoving(file);
}

async function bringInStill(file: File): Promise<Omit<Picture, 'id' | 'background'>> {
  const { notice, ...picture } = await uploadPicture(file);
  if (notice) notify('problem', notice);
  return { ...picture, clip: null };
}

/** A clip is kept as it came; its first frame stands for it where a still is shown. */
async function bringInClip(file: File): Promise<Omit<Picture, 'id' | 'background'>> {
  // Only who brings in clips needs the decoder.
  const { openClip } = await import('../workers/open-clip.ts');
  const reader = await openClip(file, file.name);
  const { width, height, frames, rate, alpha, missing } = reader.facts;
  const canvas = new OffscreenCanvas(width, height);
  const first = await reader.frame(0);
  canvas.getContext('2d')!.drawImage(first, 0, 0);
  first.close();
  reader.close();
  const [original, poster] = await Promise.all([
    uploadClip(file),
    canvas.convertToBlob({ type: 'image/png' }).then(uploadPixels),
  ]);
  if (missing)
    notify('problem', `"${file.name}" was cut short: ${missing}. That part came in; copy it again for the rest.`);
  const plain = file.name
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  const name = cutTo(plain || 'Clip', longestName);
  return { name, original, file: poster, width, height, clip: { frames, rate, ...(alpha ? { alpha } : {}) } };
}

/** A new project around a first picture; resolves to null when none could be taken. */
export async function projectFromPictures(files: File[]): Promise<{ project: string; picture: string } | null> {
  const pictures = await bringIn(files);
  const first = pictures[0];
  if (!first) return null;
  const { frame, seconds } = proposeStart(first);
  const project = await createProject(first.name, frame, seconds);
  await editProject(project.id, addPictures(pictures));
  return { project: project.id, picture: first.id };
}
