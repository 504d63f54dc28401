import { Room, roomFor } from './patch-memory.ts';

/** Half side of a patch: patches are 7 x 7 pixels. */
export const patchRadius = 3;

/**
 * One level of the pyramid, padded by patchRadius on all sides so that no patch ever leaves the arrays.
 * `known` and `source` are 0/1.
 */
export interface FillLevel {
  width: number;
  height: number;
  /** RGBA bytes; alpha is not used. */
  pixels: Uint8Array;
  /** Where its lists lie, if they lie together. */
  room?: Room;
  /** 1 where the picture is given, 0 in the hole. */
  known: Uint8Array;
  /** Centres whose whole patch may be copied from. */
  sources: Int32Array;
  isSource: Uint8Array;
  /** Centres of all patches that overlap the hole, in scan order. */
  targets: Int32Array;
  /** Lines that must run through the hole; `at` holds for each target 1 + the index of its line, 0 for none. */
  lines?: { all: LevelLine[]; at: Uint8Array } | null;
  /** Lists for what is worked out on it; its field lies in them, so there is one at a time. */
  lists?: LevelLists;
}

/** A number for each pixel of a level: its field, and room for whoever works on it and holds nothing there for long. */
export interface LevelLists {
  match: Int32Array<ArrayBuffer>;
  cost: Float32Array<ArrayBuffer>;
  weight: Float32Array<ArrayBuffer>;
  found: Int32Array<ArrayBuffer>;
  inRow: Int32Array<ArrayBuffer>;
  origin: Int32Array<ArrayBuffer>;
  /** Of blocks of the level. */
  shares: Float32Array<ArrayBuffer>;
  /** Five numbers for each line. */
  lines: Float64Array<ArrayBuffer>;
}

/** The lists of a level; new ones where it has none. */
export const listsOf = (level: FillLevel): LevelLists => level.lists ?? newLists(new Room(), level.width, level.height);

/** Lines that a level can have, as they are numbered by bytes. */
export const mostLines = 255;

/** Sources are counted in blocks of this many pixels a side. */
export const usageBlock = 4;

export const blocksAcross = (pixels: number): number => Math.ceil(pixels / usageBlock);

export function newLists(room: Room, width: number, height: number): LevelLists {
  const count = width * height;
  return {
    match: room.ints(count),
    cost: room.floats(count),
    weight: room.floats(count),
    found: room.ints(count),
    inRow: room.ints(count),
    origin: room.ints(count),
    shares: room.floats(blocksAcross(width) * blocksAcross(height)),
    lines: room.doubles(5 * mostLines),
  };
}

/** What they take up, in bytes. */
export const listBytes = (width: number, height: number): number =>
  roomFor(...Array<number>(6).fill(width * height * 4), blocksAcross(width) * blocksAcross(height) * 4, mostLines * 40);

/** A straight line from (x, y) in the unit direction (dx, dy). It rules over its length; sources may lie beyond. */
export interface LevelLine {
  x: number;
  y: number;
  dx: number;
  dy: number;
  length: number;
}

/** Signed distance of a point from a line. */
export const besideLine = (line: LevelLine, x: number, y: number): number =>
  (x - line.x) * line.dy - (y - line.y) * line.dx;

/** Targets in a kernel's memory: some that lie elsewhere are copied into a list of it. */
export function inReach(targets: Int32Array, list: Int32Array<ArrayBuffer>): Int32Array {
  if (targets.buffer === list.buffer) return targets;
  list.set(targets);
  return list.subarray(0, targets.length);
}
