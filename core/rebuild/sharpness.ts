import type { FillLevel } from './fill-level.ts';

/** How a difference is seen: in the dark, where a level or two of noise is a large factor, less. */
export const seenOf = Float32Array.from({ length: 256 }, (_, v) => Math.log(v + 40));

/** Side in pixels of the blocks that are looked at as one. */
const block = 8;
/** Blocks each way within which the sharpest edge around a place is looked for: some 40 pixels. */
const reach = 5;

/**
 * How sharp a picture is around its places: the steepest step between known neighbours there, as it is seen, each the mean of
 * three by three pixels, so that noise is no edge. Only what is asked for is looked at, and once.
 */
export class Sharpness {
  private readonly columns: number;
  private readonly rows: number;
  /** The steepest step of each block, and of all blocks around each; -1 where that was not asked for yet. */
  private readonly within: Float32Array;
  private readonly around: Float32Array;

  constructor(private readonly level: Pick<FillLevel, 'width' | 'height' | 'pixels' | 'known'>) {
    this.columns = Math.ceil(level.width / block);
    this.rows = Math.ceil(level.height / block);
    this.within = new Float32Array(this.columns * this.rows).fill(-1);
    this.around = this.within.slice();
  }

  /** @param i index of a pixel  @returns 0 where nothing around is known, or all is even */
  at(i: number): number {
    const { width } = this.level;
    const bx = ((i % width) / block) | 0;
    const by = (i / width / block) | 0;
    const at = by * this.columns + bx;
    if (this.around[at]! < 0) this.around[at] = this.lookAround(bx, by);
    return this.around[at]!;
  }

  private lookAround(bx: number, by: number): number {
    let most = 0;
    for (let y = Math.max(0, by - reach); y <= Math.min(this.rows - 1, by + reach); y++) {
      for (let x = Math.max(0, bx - reach); x <= Math.min(this.columns - 1, bx + reach); x++) {
        const at = y * this.columns + x;
        if (this.within[at]! < 0) this.within[at] = this.lookInto(x, y);
        most = Math.max(most, this.within[at]!);
      }
    }
    return most;
  }

  private lookInto(bx: number, by: number): number {
    const { width, height } = this.level;
    let most = 0;
    const [left, top] = [Math.max(1, bx * block), Math.max(1, by * block)];
    for (let y = top; y < Math.min(height - 2, (by + 1) * block); y++) {
      for (let x = left; x < Math.min(width - 2, (bx + 1) * block); x++) {
        const i = y * width + x;
        if (!this.allKnown(i)) continue;
        if (this.allKnown(i + 1)) most = Math.max(most, this.step(i, 1, width));
        if (this.allKnown(i + width)) most = Math.max(most, this.step(i, width, 1));
      }
    }
    return most;
  }

  private allKnown(i: number): boolean {
    const { known, width } = this.level;
    for (let row = i - width; row <= i + width; row += width)
      if (!known[row - 1] || !known[row] || !known[row + 1]) return false;
    return true;
  }

  /** The step between the means around i and around the next pixel one way: what comes in less what is left behind. */
  private step(i: number, way: number, beside: number): number {
    const { pixels } = this.level;
    const [last, next] = [i - way, i + 2 * way];
    let most = 0;
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (let k = -beside; k <= beside; k += beside)
        sum += seenOf[pixels[(next + k) * 4 + c]!]! - seenOf[pixels[(last + k) * 4 + c]!]!;
      most = Math.max(most, Math.abs(sum) / 9);
    }
    return most;
  }
}
