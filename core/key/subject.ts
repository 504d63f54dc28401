import { cellBlocks, cellOf, type Blocks } from './blocks.ts';
import { addToCell, continued, emptyCells, settle, type Cells } from './cells.ts';

/** What is known of the subject before its edge is solved. */
export interface SubjectColours {
  /** Its colour in every cell, continued from where it is seen; null where nothing of it is. */
  colours: Cells | null;
  /** 1 in cells that are near enough to the screen for their colours to be mixed with it. */
  nearScreen: Uint8Array;
}

/** Cells from the screen within which a colour may be mixed with it: a blurred edge, or one moved while it was taken. */
export const mixingReach = 2;
/** Coverage from which on a block says anything, and from which on it, and all around it, is the subject's own colour. */
const [leastCover, sureCover] = [0.3, 0.9];
/** Weight of a block with nothing sure around it, like a strand: only where there is nothing better. */
const faintWeight = 0.002;

/**
 * The subject's colours near its edge, from the blocks that lie far from the screen's colour; those with others like them all
 * around count most, or the edge's own mixtures would be taken for the subject.
 * @param distance of every block to the screen  @param core,edge distances up to which all is screen, and from which on subject
 * @param strength of the screen, see `strengthOf`: on a weak one what stands alone has to be farther off to count
 */
export function measureSubject(
  blocks: Blocks,
  distance: Float32Array,
  core: number,
  edge: number,
  strength: number,
): SubjectColours {
  const { width, height } = blocks;
  const columns = Math.ceil(width / cellBlocks);
  const rows = Math.ceil(height / cellBlocks);
  const cells = emptyCells(columns, rows);
  const screen = new Uint8Array(columns * rows);
  for (let i = 0; i < distance.length; i++) if (distance[i]! < edge) screen[cellOf(blocks, i)] = 1;
  const nearScreen = grown(screen, columns, rows, mixingReach);
  const cover = distance.map((d) => Math.max(0, Math.min(1, (d - core) / Math.max(1, edge - core))));
  for (let i = 0; i < cover.length; i++) {
    const cell = cellOf(blocks, i);
    if (cover[i]! < leastCover || !nearScreen[cell]) continue;
    const alone = Math.max(0, Math.min(1, (distance[i]! - core / strength) / Math.max(1, (edge - core) / strength)));
    const weight = faintWeight * alone ** 12 + (sureAround(cover, i, width, height) ? 1 : 0);
    if (weight === 0) continue;
    addToCell(cells, cell, weight, blocks.luma[i]!, blocks.blue[i]!, blocks.red[i]!);
  }
  const seen = settle(cells, cellBlocks);
  return { colours: seen ? continued(cells) : null, nearScreen };
}

function sureAround(cover: Float32Array, i: number, width: number, height: number): boolean {
  const x = i % width;
  const y = (i / width) | 0;
  for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
    for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++)
      if (cover[v * width + u]! <= sureCover) return false;
  return true;
}

/** Set wherever a set cell lies within `reach` cells, in a square. */
export function grown(cells: Uint8Array, width: number, height: number, reach: number): Uint8Array {
  const rows = new Uint8Array(cells.length);
  const out = new Uint8Array(cells.length);
  for (let y = 0; y < height; y++) growLine(cells, rows, y * width, 1, width, reach);
  for (let x = 0; x < width; x++) growLine(rows, out, x, width, height, reach);
  return out;
}

/** Sets what lies within `reach` steps behind a set cell of one line, going forth and then back. */
function growLine(from: Uint8Array, to: Uint8Array, start: number, step: number, length: number, reach: number): void {
  const end = start + length * step;
  let since = reach + 1;
  for (let i = start; i < end; i += step) {
    since = from[i] ? 0 : since + 1;
    if (since <= reach) to[i] = 1;
  }
  since = reach + 1;
  for (let i = end - step; i >= start; i -= step) {
    since = from[i] ? 0 : since + 1;
    if (since <= reach) to[i] = 1;
  }
}
