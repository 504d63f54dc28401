import { makeBytes, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { doneAtOnce, type Steps } from '../pixels/steps.ts';

export interface MatteInput {
  picture: Rgba;
  /** 0/1; alpha of the pixels that are not unknown. */
  mask: Bytes;
  /** 1 where alpha is to be found. */
  unknown: Bytes;
  /** A first guess of alpha 0..1 and how far to trust it 0..1, size of the picture. */
  guess: Plane;
  certainty: Plane;
  /** Alpha 0..1 that holds where the guess is not to be trusted; null leaves such pixels to the Laplacian alone. */
  fallback: Plane | null;
}

/** Regularisation of the window covariance, colours 0..1: about the noise of a photograph. */
const epsilon = 2e-5;
/** Weight of a fully trusted colour guess against the matting Laplacian. */
const guessWeight = 0.08;

/** Weight of the fallback where the guess is worth nothing. */
const fallbackWeight = 2;

/** Offsets of the 24 neighbours that share a 3x3 window with a pixel. */
const reach = 5;
const centre = 12;

/**
 * Closed-form matting (Levin, Lischinski & Weiss 2008): minimises the matting Laplacian of 3x3 windows, the mask fixed
 * outside the unknown pixels, plus a data term that pulls towards a trusted colour guess (Wang & Cohen 2007). Solved by
 * conjugate gradients with diagonal preconditioning over the unknown pixels only.
 * @returns alpha 0..255
 */
export const solveMatte = (input: MatteInput): Bytes => doneAtOnce(matteInSteps(input));

export function* matteInSteps(input: MatteInput): Steps<Bytes> {
  const { picture, mask, unknown, guess, certainty, fallback } = input;
  const { width, height } = picture;
  const index = new Int32Array(width * height).fill(-1);
  const pixels: number[] = [];
  for (let i = 0; i < index.length; i++) {
    if (unknown.data[i]) {
      index[i] = pixels.length;
      pixels.push(i);
    }
  }
  const out = makeBytes(width, height);
  for (let i = 0; i < index.length; i++) out.data[i] = mask.data[i] ? 255 : 0;
  if (pixels.length === 0 || width < 3 || height < 3) return out;

  yield;
  const rows = laplacianRows(picture, index, pixels.length);
  yield;
  const system = assemble(rows, index, pixels, width, height, mask);
  const x = new Float32Array(pixels.length);
  for (let k = 0; k < pixels.length; k++) {
    const i = pixels[k]!;
    const trust = certainty.data[i]!;
    const w = guessWeight * trust ** 2;
    const v = fallback ? fallbackWeight * (1 - trust) ** 2 : 0;
    const edge = fallback ? fallback.data[i]! : mask.data[i]!;
    system.diagonal[k] = system.diagonal[k]! + w + v;
    system.right[k] = system.right[k]! + w * guess.data[i]! + v * edge;
    x[k] = trust * guess.data[i]! + (1 - trust) * edge;
  }
  yield* conjugateGradients(system, x, 70, 1e-3);
  for (let k = 0; k < pixels.length; k++) {
    // Alpha within 2 % of an end is that end: a veil of nearly nothing shows as dirt on a new ground.
    const a = (x[k]! - 0.02) / 0.96;
    out.data[pixels[k]!] = Math.max(0, Math.min(255, Math.round(a * 255)));
  }
  return out;
}

/** For every unknown pixel the 25 sums of window affinities w_ij to the pixels around it (row-major 5x5). */
function laplacianRows(picture: Rgba, index: Int32Array, count: number): Float32Array {
  const { width, height, data } = picture;
  const rows = new Float32Array(count * 25);
  const color = new Float32Array(27);
  const transformed = new Float32Array(27);
  const at = new Int32Array(9);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      let any = false;
      for (let k = 0; k < 9; k++) {
        const i = (y + ((k / 3) | 0) - 1) * width + x + (k % 3) - 1;
        at[k] = index[i]!;
        if (at[k]! >= 0) any = true;
      }
      if (!any) continue;
      for (let k = 0; k < 9; k++) {
        const p = ((y + ((k / 3) | 0) - 1) * width + x + (k % 3) - 1) * 4;
        color[k * 3] = data[p]! / 255;
        color[k * 3 + 1] = data[p + 1]! / 255;
        color[k * 3 + 2] = data[p + 2]! / 255;
      }
      whiten(color, transformed);
      for (let a = 0; a < 9; a++) {
        const row = at[a]!;
        if (row < 0) continue;
        const ax = a % 3;
        const ay = (a / 3) | 0;
        for (let b = 0; b < 9; b++) {
          if (a === b) continue;
          const dot =
            color[a * 3]! * transformed[b * 3]! +
            color[a * 3 + 1]! * transformed[b * 3 + 1]! +
            color[a * 3 + 2]! * transformed[b * 3 + 2]!;
          const slot = row * 25 + (((b / 3) | 0) - ay + 2) * reach + (b % 3) - ax + 2;
          rows[slot] = rows[slot]! + (1 + dot) / 9;
        }
      }
    }
  }
  return rows;
}

/** Centres the nine colours on their mean and writes (covariance + epsilon)^-1 times each into `transformed`. */
function whiten(color: Float32Array, transformed: Float32Array): void {
  let mr = 0;
  let mg = 0;
  let mb = 0;
  for (let k = 0; k < 27; k += 3) {
    mr += color[k]! / 9;
    mg += color[k + 1]! / 9;
    mb += color[k + 2]! / 9;
  }
  let a = epsilon;
  let b = 0;
  let c = 0;
  let d = epsilon;
  let e = 0;
  let f = epsilon;
  for (let k = 0; k < 27; k += 3) {
    const r = (color[k] = color[k]! - mr);
    const g = (color[k + 1] = color[k + 1]! - mg);
    const u = (color[k + 2] = color[k + 2]! - mb);
    a += (r * r) / 9;
    b += (r * g) / 9;
    c += (r * u) / 9;
    d += (g * g) / 9;
    e += (g * u) / 9;
    f += (u * u) / 9;
  }
  const i0 = d * f - e * e;
  const i1 = c * e - b * f;
  const i2 = b * e - c * d;
  const inverse = 1 / (a * i0 + b * i1 + c * i2);
  const i3 = a * f - c * c;
  const i4 = b * c - a * e;
  const i5 = a * d - b * b;
  for (let k = 0; k < 27; k += 3) {
    const r = color[k]! * inverse;
    const g = color[k + 1]! * inverse;
    const u = color[k + 2]! * inverse;
    transformed[k] = i0 * r + i1 * g + i2 * u;
    transformed[k + 1] = i1 * r + i3 * g + i4 * u;
    transformed[k + 2] = i2 * r + i4 * g + i5 * u;
  }
}

interface SparseSystem {
  diagonal: Float32Array;
  /** Per unknown 24 off-diagonal entries and the unknown each belongs to. */
  entries: Float32Array;
  columns: Int32Array;
  right: Float32Array;
}

function assemble(
  rows: Float32Array,
  index: Int32Array,
  pixels: number[],
  width: number,
  height: number,
  mask: Bytes,
): SparseSystem {
  const n = pixels.length;
  const diagonal = new Float32Array(n);
  const right = new Float32Array(n);
  const entries = new Float32Array(n * 24);
  const columns = new Int32Array(n * 24);
  for (let k = 0; k < n; k++) {
    const i = pixels[k]!;
    const x = i % width;
    const y = (i / width) | 0;
    let sum = 0;
    let slot = k * 24;
    for (let o = 0; o < 25; o++) {
      if (o === centre) continue;
      const w = rows[k * 25 + o]!;
      const nx = x + (o % reach) - 2;
      const ny = y + ((o / reach) | 0) - 2;
      columns[slot] = k;
      if (w !== 0 && nx >= 0 && ny >= 0 && nx < width && ny < height) {
        sum += w;
        const j = ny * width + nx;
        if (index[j]! >= 0) {
          entries[slot] = -w;
          columns[slot] = index[j]!;
        } else if (mask.data[j]) {
          right[k] = right[k]! + w;
        }
      }
      slot++;
    }
    diagonal[k] = sum + 1e-6;
  }
  return { diagonal, entries, columns, right };
}

function multiply(system: SparseSystem, x: Float32Array, out: Float32Array): void {
  const { diagonal, entries, columns } = system;
  for (let k = 0; k < x.length; k++) {
    let sum = diagonal[k]! * x[k]!;
    const end = k * 24 + 24;
    for (let e = k * 24; e < end; e++) sum += entries[e]! * x[columns[e]!]!;
    out[k] = sum;
  }
}

/** Rounds in one step. */
const stepRounds = 8;

/** Preconditioned conjugate gradients (Hestenes & Stiefel 1952), in place in `x`. */
function* conjugateGradients(system: SparseSystem, x: Float32Array, rounds: number, tolerance: number): Steps<void> {
  const n = x.length;
  const r = new Float32Array(n);
  const p = new Float32Array(n);
  const q = new Float32Array(n);
  multiply(system, x, q);
  let rz = 0;
  for (let k = 0; k < n; k++) {
    r[k] = system.right[k]! - q[k]!;
    p[k] = r[k]! / system.diagonal[k]!;
    rz += r[k]! * p[k]!;
  }
  const stop = rz * tolerance * tolerance;
  for (let round = 0; round < rounds && rz > stop && rz > 1e-12; round++) {
    if (round % stepRounds === 0) yield;
    multiply(system, p, q);
    let pq = 0;
    for (let k = 0; k < n; k++) pq += p[k]! * q[k]!;
    const step = rz / pq;
    let next = 0;
    for (let k = 0; k < n; k++) {
      x[k] = x[k]! + step * p[k]!;
      r[k] = r[k]! - step * q[k]!;
      next += (r[k]! * r[k]!) / system.diagonal[k]!;
    }
    const beta = next / rz;
    rz = next;
    for (let k = 0; k < n; k++) p[k] = r[k]! / system.diagonal[k]! + beta * p[k]!;
  }
}
