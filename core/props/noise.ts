import { hashOf } from '../pixels/random.ts';

const smooth = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** A lattice of seeded numbers that repeats: the table that noise is read from. */
export interface Lattice {
  values: Float32Array;
  x: number;
  y: number;
  z: number;
}

/** @param x, y, z cells after which the lattice repeats, each way */
export function latticeOf(seed: number, x: number, y: number, z: number): Lattice {
  const values = new Float32Array(x * y * z);
  for (let i = 0; i < values.length; i++) values[i] = hashOf(seed, i);
  return { values, x, y, z };
}

/**
 * Value noise, 0..1: numbers of a lattice, smoothly mixed (quintic fade of Perlin 2002). It repeats with its lattice, so
 * that what wanders over it for whole rounds comes back to where it was.
 */
export function noiseAt(lattice: Lattice, x: number, y: number, z: number): number {
  // Plain variables: this runs some millions of times for a frame.
  const { values, x: nx, y: ny, z: nz } = lattice;
  const fx = Math.floor(x);
  const fy = Math.floor(y);
  const fz = Math.floor(z);
  const u = smooth(x - fx);
  const v = smooth(y - fy);
  const w = smooth(z - fz);
  const x0 = ((fx % nx) + nx) % nx;
  const y0 = ((fy % ny) + ny) % ny;
  const z0 = ((fz % nz) + nz) % nz;
  const x1 = x0 + 1 === nx ? 0 : x0 + 1;
  const near = planeAt(values, x0, x1, y0, ny, nx, z0, u, v);
  if (w === 0) return near;
  return near + (planeAt(values, x0, x1, y0, ny, nx, z0 + 1 === nz ? 0 : z0 + 1, u, v) - near) * w;
}

/** Noise within one plane of a lattice. */
function planeAt(
  values: Float32Array,
  x0: number,
  x1: number,
  y0: number,
  ny: number,
  nx: number,
  z: number,
  u: number,
  v: number,
): number {
  const upper = (z * ny + y0) * nx;
  const lower = (z * ny + (y0 + 1 === ny ? 0 : y0 + 1)) * nx;
  const a = values[upper + x0]!;
  const b = values[lower + x0]!;
  const top = a + (values[upper + x1]! - a) * u;
  const bottom = b + (values[lower + x1]! - b) * u;
  return top + (bottom - top) * v;
}

/** Noise at several sizes, each half as large and half as strong as the one before (fractional Brownian motion), 0..1. */
export function cloudAt(lattices: readonly Lattice[], x: number, y: number, z: number): number {
  let sum = 0;
  let weight = 1;
  let total = 0;
  let scale = 1;
  for (let k = 0; k < lattices.length; k++) {
    sum += weight * noiseAt(lattices[k]!, x * scale, y * scale, z);
    total += weight;
    weight *= 0.5;
    scale *= 2;
  }
  return sum / total;
}

const made = new Map<string, Lattice[]>();

/** Lattices for `cloudAt` whose sizes repeat together; the last ones made are kept, as every frame asks for the same. */
export function cloudLattices(seed: number, x: number, y: number, z: number, octaves: number): Lattice[] {
  const key = [seed, x, y, z, octaves].join();
  const found =
    made.get(key) ?? Array.from({ length: octaves }, (_, k) => latticeOf(seed + 101 * k, x * 2 ** k, y * 2 ** k, z));
  made.set(key, found);
  if (made.size > 24) made.delete(made.keys().next().value!);
  return found;
}

/** Cells of time that pass: with a loop a whole number of them, at least two, as between one and itself nothing changes. */
export function passedCells(frame: number, perFrame: number, loop: number | null): { at: number; cells: number } {
  if (loop === null) return { at: frame * perFrame, cells: 64 };
  const cells = Math.max(2, Math.round(loop * perFrame));
  return { at: (frame / loop) * cells, cells };
}
