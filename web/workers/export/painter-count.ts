import type { Document, Piece } from '../../../core/document/document.ts';
import { clipMemory } from '../clip-memory.ts';

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
  { pictures, pieces }: Pick<Document, 'pictures'> & { pieces: readonly Pick<Piece, 'picture' | 'cutout'>[] },
  size: { width: number; height: number; frames: number },
  cores: number,
): number {
  // Each painter has to decode every frame of a clip, those of the others too: that is worth it where pieces are cut out of them.
  const isCut = (id: string): boolean => pieces.some(({ picture, cutout }) => picture === id && cutout);
  if (size.frames < fewestFrames || pictures.some(({ id, clip }) => clip && !isCut(id))) return 1;
  const pixels = pictures.reduce((sum, { width, height }) => sum + width * height, 0);
  // Each picture is there with its cutouts or its background, and at smaller sizes; of clips so many frames.
  const held = pixels * 4 * 2.5 + (pictures.some(({ clip }) => clip) ? clipMemory : 0);
  const each = held + papers * size.width * size.height * 4;
  return Math.max(1, Math.min(mostPainters, cores, Math.floor(mostBytes / each)));
}
