import { unzipSync } from 'fflate';
import type { Picture } from '../../core/document/document.ts';
import { cutTo } from '../../core/document/limits.ts';
import { longestName } from '../../core/document/schema-parts.ts';
import { limits } from '../../core/document/shot.ts';
import { hangStack } from '../../core/edits/stack-edit.ts';
import { openRaster, readStack, UnreadableStack } from '../../core/formats/openraster.ts';
import { createProject, uploadPicture } from './api.ts';
import { notify } from './notices.ts';
import { editProject, newId } from './project.ts';

/** More bytes than these, unpacked, no picture in layers has. */
const largest = 600 * 1024 * 1024;

export const isLayered = (file: File): boolean => /\.ora$/i.test(file.name) || file.type === openRaster.type;

/**
 * A new project of a picture in layers: each becomes a picture that hangs where it lay, with its name, opacity and blend mode,
 * a step further away than the one before it. At rest it looks as it did.
 * @throws with a sentence
 */
export async function projectFromLayers(file: File): Promise<string> {
  const entries = await unpacked(file);
  const stack = readStack(new TextDecoder().decode(entries[openRaster.stack] ?? new Uint8Array()));
  const layers = [];
  for (const layer of stack.layers) {
    const png = entries[layer.src];
    if (!png) throw new UnreadableStack();
    const name = cutTo(layer.name, longestName);
    const upload = new File([png as Uint8Array<ArrayBuffer>], `${name}.png`, { type: 'image/png' });
    const { notice, ...brought } = await uploadPicture(upload);
    if (notice) notify('problem', notice);
    const picture: Picture = { ...brought, name, id: newId('picture'), clip: null, background: null };
    layers.push({ ...layer, ...sizeOfPng(png), name, picture, id: newId('layer') });
  }
  const fit = Math.min(1, limits.edge / Math.max(stack.width, stack.height));
  const frame = { width: Math.round(stack.width * fit), height: Math.round(stack.height * fit), rate: 30 };
  const plain = cutTo(file.name.replace(/\.[^.]*$/, '').trim() || 'Layers', longestName);
  const project = await createProject(plain, frame, 6);
  await editProject(project.id, hangStack(project.document.shots[0]!.id, layers, stack));
  return project.id;
}

/** The size a PNG says it has (W3C PNG, IHDR): what is brought in may be kept smaller. */
function sizeOfPng(png: Uint8Array): { width: number; height: number } {
  const header = new DataView(png.buffer, png.byteOffset, png.byteLength);
  if (png.length < 24 || header.getUint32(0) !== 0x89504e47) throw new UnreadableStack();
  return { width: header.getUint32(16), height: header.getUint32(20) };
}

async function unpacked(file: File): Promise<Record<string, Uint8Array>> {
  let bytes = 0;
  try {
    return unzipSync(new Uint8Array(await file.arrayBuffer()), {
      filter: ({ originalSize }) => {
        bytes += originalSize;
        if (bytes > largest) throw new UnreadableStack();
        return true;
      },
    });
  } catch {
    throw new UnreadableStack();
  }
}
