import { labOf } from './color.ts';
import type { Rgba } from './raster.ts';
import { superpixelKernel } from './superpixel-kernel.ts';

export interface Superpixels {
  width: number;
  height: number;
  /** Label 0..count-1 of each pixel. */
  labels: Int32Array;
  count: number;
  /** Per superpixel. */
  size: Float32Array;
  /** Mean CIELAB, three a superpixel. */
  lab: Float32Array;
  /** Centre in pixels, two a superpixel. */
  centre: Float32Array;
}

/**
 * SLIC superpixels (Achanta et al. 2012): k-means in Lab + position, each centre searching only around itself.
 * Pieces cut off from their superpixel are left with it: the graph built on top does not need connectedness.
 * @param target wanted number of superpixels  @param compactness weight of distance against colour, Lab units
 */
export function superpixelsOf(picture: Rgba, target: number, compactness = 12): Superpixels {
  const { width, height } = picture;
  const pixelLab = labOf(picture);
  const step = Math.max(2, Math.sqrt((width * height) / target));
  const columns = Math.max(1, Math.round(width / step));
  const rows = Math.max(1, Math.round(height / step));
  const count = columns * rows;
  const centre = new Float32Array(count * 2);
  const lab = new Float32Array(count * 3);
  for (let k = 0; k < count; k++) {
    const x = ((k % columns) + 0.5) * (width / columns);
    const y = (Math.floor(k / columns) + 0.5) * (height / rows);
    centre.set([x, y], k * 2);
    const i = Math.floor(y) * width + Math.floor(x);
    lab.set(pixelLab.subarray(i * 3, i * 3 + 3), k * 3);
  }
  const labels = new Int32Array(width * height);
  const size = new Float32Array(count);
  const made = { width, height, labels, count, size, lab, centre };
  if (clusteredByKernel(made, pixelLab, step, compactness)) return made;
  for (let round = 0; round < rounds; round++) {
    assign(pixelLab, width, height, centre, lab, labels, step, compactness);
    recentre(pixelLab, width, labels, count, centre, lab, size);
  }
  return made;
}

const rounds = 6;

/** @returns false, and nothing was done, where the kernel cannot be used */
function clusteredByKernel(made: Superpixels, pixelLab: Float32Array, step: number, compactness: number): boolean {
  const { width, height, labels, count, size, lab, centre } = made;
  const planes = new Float32Array(pixelLab.length);
  for (let i = 0, n = labels.length; i < n; i++) {
    planes[i] = pixelLab[3 * i]!;
    planes[n + i] = pixelLab[3 * i + 1]!;
    planes[2 * n + i] = pixelLab[3 * i + 2]!;
  }
  const room = [size.byteLength, labels.byteLength, labels.byteLength, 40 * count];
  const spatial = (compactness / step) ** 2;
  return (
    superpixelKernel.within([planes, centre, lab, ...room], (kernel, ...addresses) => {
      const [colours, centres, labs, sizes, best, found, sums] = addresses as Addresses;
      const about = [sizes, step, spatial, rounds, best, found, sums];
      kernel.clusters(colours, width, height, count, centres, labs, ...about);
      const { buffer } = kernel.memory;
      labels.set(new Int32Array(buffer, found, labels.length));
      for (const [list, address] of [
        [size, sizes],
        [lab, labs],
        [centre, centres],
      ] as const)
        list.set(new Float32Array(buffer, address, list.length));
      return true;
    }) ?? false
  );
}

type Addresses = [number, number, number, number, number, number, number];

function assign(
  pixelLab: Float32Array,
  width: number,
  height: number,
  centre: Float32Array,
  lab: Float32Array,
  labels: Int32Array,
  step: number,
  compactness: number,
): void {
  const best = new Float32Array(width * height).fill(Infinity);
  const spatial = (compactness / step) ** 2;
  for (let k = 0; k < lab.length / 3; k++) {
    const cx = centre[k * 2]!;
    const cy = centre[k * 2 + 1]!;
    const L = lab[k * 3]!;
    const A = lab[k * 3 + 1]!;
    const B = lab[k * 3 + 2]!;
    const x0 = Math.max(0, Math.floor(cx - step * 1.5));
    const x1 = Math.min(width - 1, Math.ceil(cx + step * 1.5));
    const y1 = Math.min(height - 1, Math.ceil(cy + step * 1.5));
    for (let y = Math.max(0, Math.floor(cy - step * 1.5)); y <= y1; y++) {
      const dy = y - cy;
      for (let x = x0; x <= x1; x++) {
        const i = y * width + x;
        const dx = x - cx;
        const dl = pixelLab[i * 3]! - L;
        const da = pixelLab[i * 3 + 1]! - A;
        const db = pixelLab[i * 3 + 2]! - B;
        const d = dl * dl + da * da + db * db + (dx * dx + dy * dy) * spatial;
        if (d < best[i]!) {
          best[i] = d;
          labels[i] = k;
        }
      }
    }
  }
}

function recentre(
  pixelLab: Float32Array,
  width: number,
  labels: Int32Array,
  count: number,
  centre: Float32Array,
  lab: Float32Array,
  size: Float32Array,
): void {
  const sums = new Float64Array(count * 5);
  size.fill(0);
  for (let i = 0; i < labels.length; i++) {
    const k = labels[i]!;
    size[k]!++;
    sums[k * 5]! += pixelLab[i * 3]!;
    sums[k * 5 + 1]! += pixelLab[i * 3 + 1]!;
    sums[k * 5 + 2]! += pixelLab[i * 3 + 2]!;
    sums[k * 5 + 3]! += i % width;
    sums[k * 5 + 4]! += (i / width) | 0;
  }
  for (let k = 0; k < count; k++) {
    const n = size[k]!;
    if (n === 0) continue;
    for (let c = 0; c < 3; c++) lab[k * 3 + c] = sums[k * 5 + c]! / n;
    centre[k * 2] = sums[k * 5 + 3]! / n;
    centre[k * 2 + 1] = sums[k * 5 + 4]! / n;
  }
}

/** Which superpixels lie side by side: count x count, 1 where two touch. */
export function touchesOf({ count, width, labels }: Superpixels): Uint8Array {
  const touching = new Uint8Array(count * count);
  const touch = (a: number, b: number): void => {
    touching[a * count + b] = 1;
    touching[b * count + a] = 1;
  };
  for (let i = 0; i < labels.length; i++) {
    const a = labels[i]!;
    const right = (i + 1) % width !== 0 ? labels[i + 1]! : a;
    const below = i + width < labels.length ? labels[i + width]! : a;
    if (right !== a) touch(a, right);
    if (below !== a) touch(a, below);
  }
  return touching;
}
