import type { Plane, Rgba } from '../pixels/raster.ts';

/** Side of a tile in which colours are counted, pixels; those around it count too. */
const tile = 36;
const bins = 12;
const cells = bins ** 3;

/**
 * How likely the colours of the figure and of its ground are around a place, from counts in the frame before: the local
 * classifiers of Bai et al. (2009) on a fixed grid, with counts smoothed over neighbouring colours instead of mixtures.
 */
export class LocalColours {
  private readonly columns: number;
  private readonly rows: number;
  private readonly counts: [Map<number, Float32Array>, Map<number, Float32Array>] = [new Map(), new Map()];
  private readonly made: [Map<number, Float32Array>, Map<number, Float32Array>] = [new Map(), new Map()];

  constructor(width: number, height: number) {
    this.columns = Math.ceil(width / tile);
    this.rows = Math.ceil(height / tile);
  }

  /** Counts a frame's pixels that surely are of the figure, or of the ground. @param alpha 0..1 */
  learn(picture: Rgba, alpha: Plane): void {
    const { width, height, data } = picture;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        const side = alpha.data[i]! > 0.9 ? 0 : alpha.data[i]! < 0.1 ? 1 : null;
        if (side === null) continue;
        const at = Math.floor(y / tile) * this.columns + Math.floor(x / tile);
        let counts = this.counts[side].get(at);
        if (!counts) this.counts[side].set(at, (counts = new Float32Array(cells)));
        counts[binOf(data, i)]!++;
      }
  }

  /** log p(figure) - log p(ground) of a pixel's colour where it lies, bounded; 0 where nothing was counted there. */
  ratio(picture: Rgba, i: number): number {
    const x = i % picture.width;
    const at = Math.floor((i - x) / picture.width / tile) * this.columns + Math.floor(x / tile);
    const bin = binOf(picture.data, i);
    const figure = this.smoothed(0, at);
    const ground = this.smoothed(1, at);
    const [p, q] = [figure[bin]! / Math.max(20, figure[cells]!), ground[bin]! / Math.max(20, ground[cells]!)];
    // As likely as anything where neither was met.
    return Math.max(-5, Math.min(5, Math.log((p + 2e-5) / (q + 2e-5))));
  }

  /** Counts of a tile and those around it, smoothed over colours; the sum of all behind the last. */
  private smoothed(side: 0 | 1, at: number): Float32Array {
    const known = this.made[side].get(at);
    if (known) return known;
    const sum = new Float32Array(cells + 1);
    const [row, column] = [Math.floor(at / this.columns), at % this.columns];
    for (let r = Math.max(0, row - 1); r <= Math.min(this.rows - 1, row + 1); r++)
      for (let c = Math.max(0, column - 1); c <= Math.min(this.columns - 1, column + 1); c++) {
        const counts = this.counts[side].get(r * this.columns + c);
        if (counts) for (let k = 0; k < cells; k++) sum[k]! += counts[k]!;
      }
    smoothColours(sum);
    for (let k = 0; k < cells; k++) sum[cells]! += sum[k]!;
    this.made[side].set(at, sum);
    return sum;
  }
}

const binOfLevel = Uint8Array.from({ length: 256 }, (_, level) => Math.floor((level * bins) / 256));

const binOf = (data: Uint8ClampedArray, i: number): number =>
  (binOfLevel[data[i * 4]!]! * bins + binOfLevel[data[i * 4 + 1]!]!) * bins + binOfLevel[data[i * 4 + 2]!]!;

/** (1 2 1) / 4 along each of the three colours. */
function smoothColours(counts: Float32Array): void {
  for (const step of [1, bins, bins * bins]) {
    const before = counts.slice(0, cells);
    for (let k = 0; k < cells; k++) {
      const place = Math.floor(k / step) % bins;
      const left = place > 0 ? before[k - step]! : before[k]!;
      const right = place < bins - 1 ? before[k + step]! : before[k]!;
      counts[k] = (left + 2 * before[k]! + right) / 4;
    }
  }
}
