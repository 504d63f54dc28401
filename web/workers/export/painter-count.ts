import type { Document } from '../../../core/document/document.ts';

/** A clip of fewer frames is done before further painters have begun. */
const fewestFrames = 12;
const mostPainters = 4;
/** Bytes that all painters together may hold. */
const mostBytes = 1.6e9;
/** Papers of the size of a frame that one painter works on. */
const papers = 8;

/**
 * How many workers paint the frames of an export side by side: as many as the machine has cores and memory for.
 * @param size of a frame in pixels  @param cores of the machine
 * @returns 1 where further ones are not worth it
 */
export function painterCount(
  { pictures }: Pick<Document, 'pictures'>,
  size: { width: number; height: number; frames: number },
  cores: number,
): number {
  // Each painter would have to decode every frame of a clip, those of the others too.
  if (size.frames < fewestFrames || pictures.some(({ clip }) => clip)) return 1;
  const pixels = pictures.reduce((sum, { width, height }) => sum + width * height, 0);
  // Each picture is there with its cutouts or its background, and at smaller sizes.
  const held = pixels * 4 * 2.5;
  const each = held + papers * size.width * size.height * 4;
  return Math.max(1, Math.min(mostPainters, cores, Math.floor(mostBytes / each)));
}
