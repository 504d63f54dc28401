import type { NavigateFunction } from 'react-router';
import { bundleEntries } from '../../../core/formats/bundle.ts';
import { openBundle } from '../../data/api.ts';
import { notify } from '../../data/notices.ts';

/** So much of the end of a ZIP holds the names of its first files, or of all where they are few. */
const tail = 4 * 1024 * 1024;

/** Whether a file is a bundle of a project, by the names in it; numbered pictures in a ZIP are none. */
export async function isBundle(file: File): Promise<boolean> {
  if (!/\.zip$/i.test(file.name) && file.type !== 'application/zip') return false;
  const parts = [file.slice(0, 64), file.slice(Math.max(0, file.size - tail))];
  const texts = await Promise.all(
    parts.map(async (part) => new TextDecoder('latin1').decode(await part.arrayBuffer())),
  );
  return texts[0]!.startsWith('PK') && texts.some((text) => text.includes(bundleEntries.manifest));
}

/** Brings in a bundle; its project lies on the Shelf then. @throws what the server says of it */
export async function takeBundle(file: File, navigate: NavigateFunction): Promise<void> {
  const { id, document } = await openBundle(file);
  const room = document.shots[0]!.layers.length > 0 ? 'stage' : 'pictures';
  const open = (): void => void navigate(`/project/${id}/${room}`);
  notify('done', `"${document.name}" came in and lies on the Shelf.`, { label: 'Open', run: open });
}
