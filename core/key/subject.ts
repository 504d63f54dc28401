import { cellBlocks, cellOf, rgbOf, type Blocks } from './blocks.ts';
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
 * Share of the greatest distance to the screen around from which on a colour counts in full: the subject's own colour lies
 * farther off than its mixtures with the screen do.
 */
const wholeShare = 0.9;

/**
 * The subject's colours near its edge, from the blocks that lie far from the screen's colour; those with others like them all
 * around count most, and of all those as far off as any nearby, or mixtures with the screen would be taken for the subject.
 * @param distance of every block to the screen  @param core,edge distances up to which all is screen, and from which on subject
 * @param screenColours of every cell  @param strength of the screen, see `strengthOf`: on a weak one what stands alone has to be farther off to count
 */
export function measureSubject(
  blocks: Blocks,
  distance: Float32Array,
  core: number,
  edge: number,
  strength: number,
  screenColours: Cells,
): SubjectColours {
  const { width, height } = blocks;
  const columns = Math.ceil(width / cellBlocks);
  const rows = Math.ceil(height / cellBlocks);
  const cells = emptyCells(columns, rows);
  const screen = new Uint8Array(columns * rows);
  for (let i = 0; i < distance.length; i++) if (distance[i]! < edge) screen[cellOf(blocks, i)] = 1;
  const nearScreen = grown(screen, columns, rows, mixingReach);
  const cover = distance.map((d) => Math.max(0, Math.min(1, (d - core) / Math.max(1, edge - core))));
  const farthest = farthestAround(blocks, distance, columns, rows);
  for (let i = 0; i < cover.length; i++) {
    const cell = cellOf(blocks, i);
    if (cover[i]! < leastCover || !nearScreen[cell]) continue;
    const alone = Math.max(0, Math.min(1, (distance[i]! - core / strength) / Math.max(1, (edge - core) / strength)));
    const share = Math.min(1, distance[i]! / (wholeShare * farthest[cell]!));
    const weight = (faintWeight * alone ** 12 + (sureAround(cover, i, width, height) ? 1 : 0)) * share ** 8;
    if (weight === 0) continue;
    addToCell(cells, cell, weight, blocks.luma[i]!, blocks.blue[i]!, blocks.red[i]!);
  }
  const seen = settle(cells, cellBlocks);
  const deep = deepColours(blocks, distance, edge, nearScreen);
  const colours = seen ? continued(cells) : deep;
  if (seen && deep) preferDeep(colours!, deep, screenColours);
  return { colours, nearScreen };
}

/** The greatest distance to the screen in every cell and those around it. */
function farthestAround(blocks: Blocks, distance: Float32Array, columns: number, rows: number): Float32Array {
  const farthest = new Float32Array(columns * rows);
  for (let i = 0; i < distance.length; i++) {
    const [x, y] = [cellOf(blocks, i) % columns, Math.floor(cellOf(blocks, i) / columns)];
    for (let v = Math.max(0, y - 1); v <= Math.min(rows - 1, y + 1); v++)
      for (let u = Math.max(0, x - 1); u <= Math.min(columns - 1, x + 1); u++)
        farthest[v * columns + u] = Math.max(farthest[v * columns + u]!, distance[i]!);
  }
  return farthest;
}

/** Cells further in than a colour can be mixed from which the subject's own colour is taken. */
export const deepReach = 4;

/** The subject's colours where it lies too deep for any to be mixed with the screen, continued towards its edge. */
function deepColours(blocks: Blocks, distance: Float32Array, edge: number, near: Uint8Array): Cells | null {
  const columns = Math.ceil(blocks.width / cellBlocks);
  const cells = emptyCells(columns, near.length / columns);
  const wanted = grown(near, columns, near.length / columns, deepReach);
  for (let i = 0; i < distance.length; i++) {
    const cell = cellOf(blocks, i);
    if (near[cell] || !wanted[cell] || distance[i]! < edge) continue;
    addToCell(cells, cell, 1, blocks.luma[i]!, blocks.blue[i]!, blocks.red[i]!);
  }
  return settle(cells, cellBlocks) ? continued(cells) : null;
}

/** How far a colour near the edge may lie beside the way from the screen to a deeper one and still be a mixture, bytes. */
const besideTheWay = 10;

/**
 * A colour near the edge that lies on the way from the screen to the colour deeper in is no colour of the subject, but a wide
 * blurred edge, and gives way to the deeper one, in place. One that lies beside it, or beyond, is a part of its own.
 */
function preferDeep(colours: Cells, deep: Cells, screen: Cells): void {
  for (let o = 0; o < colours.values.length; o += 4) {
    const at = ({ values }: Cells): [number, number, number] => rgbOf(values[o]!, values[o + 1]!, values[o + 2]!);
    const [behind, near, far] = [at(screen), at(colours), at(deep)];
    let [square, along, length] = [0, 0, 0];
    for (let c = 0; c < 3; c++) {
      const [p, w] = [near[c]! - behind[c]!, far[c]! - behind[c]!];
      square += p * p;
      along += p * w;
      length += w * w;
    }
    const share = along / Math.max(1, length);
    const beside = Math.sqrt(Math.max(0, square - share * share * length));
    const own = share >= 1 || share <= 0 ? 1 : Math.max(0, Math.min(1, (beside - besideTheWay) / besideTheWay));
    for (let c = 0; c < 4; c++)
      colours.values[o + c] = deep.values[o + c]! + own * (colours.values[o + c]! - deep.values[o + c]!);
  }
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
