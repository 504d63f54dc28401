/** A mask of single bytes: 1 is inside. */
export interface Mask {
  data: Uint8Array;
  width: number;
  height: number;
}

/**
 * Thins a mask to lines one pixel wide that lie in its middle, in place (Zhang & Suen 1984). The mask needs a free border
 * of one pixel.
 */
export function thin(mask: Mask): void {
  const { data, width, height } = mask;
  const around = [-width, 1 - width, 1, width + 1, width, width - 1, -1, -width - 1];
  for (let changed = true; changed;) {
    changed = false;
    for (const pass of [0, 1]) {
      const gone: number[] = [];
      for (let y = 1; y < height - 1; y++)
        for (let x = 1; x < width - 1; x++) {
          const i = y * width + x;
          if (data[i] && mayGo(data, i, around, pass)) gone.push(i);
        }
      for (const i of gone) data[i] = 0;
      changed ||= gone.length > 0;
    }
  }
}

/** Whether a pixel lies on the border of its thing and is neither an end nor a bridge. */
function mayGo(data: Uint8Array, i: number, around: readonly number[], pass: number): boolean {
  const p = around.map((step) => data[i + step]!);
  const count = p.reduce((sum, v) => sum + v, 0);
  if (count < 2 || count > 6) return false;
  let turns = 0;
  for (let k = 0; k < 8; k++) if (!p[k] && p[(k + 1) % 8]) turns++;
  if (turns !== 1) return false;
  const [north, , east, , south, , west] = p as [number, number, number, number, number, number, number];
  return pass === 0
    ? north * east * south === 0 && east * south * west === 0
    : north * east * west === 0 && north * south * west === 0;
}
