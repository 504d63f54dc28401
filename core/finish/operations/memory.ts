import { finishCode } from '../../kernels/built/finish.ts';
import type { Kernel } from '../../kernels/instance.ts';
import type { Plane } from '../../pixels/raster.ts';
import type { FinishPixels } from '../finish.ts';

type Numbers = (...numbers: number[]) => void;

/** What the kernel in core/kernels/assembly/finish exports; addresses are numbers. */
export interface FinishKernel extends Kernel {
  throughTables: Numbers;
  throughMatrix: Numbers;
  byLight: Numbers;
  moments: Numbers;
  turnHues: Numbers;
  recolour: Numbers;
  blur: Numbers;
  halve: Numbers;
  enlarge: Numbers;
  alphaOf: Numbers;
  shift: Numbers;
  throughTable: Numbers;
  difference: Numbers;
  band: Numbers;
  mixThree: Numbers;
  ellipse: Numbers;
  layUnder: Numbers;
  layOver: Numbers;
  layAtop: Numbers;
  addPremultiplied: Numbers;
  brightParts: Numbers;
  halveBrightParts: Numbers;
  halvePremultiplied: Numbers;
  shine: Numbers;
  wrap: Numbers;
  writeStraight: Numbers;
  writeEnlarged: Numbers;
  writeColours: Numbers;
  toFine: Numbers;
  seenPart: Numbers;
  toPairs: Numbers;
  toFours: Numbers;
  seenBlocks: Numbers;
  layRings: Numbers;
  fromRings: Numbers;
  layFan: Numbers;
  fromFan: Numbers;
  fromFine: Numbers;
  slide: Numbers;
  edgeDistance: Numbers;
  lightsOf: Numbers;
  flatten: Numbers;
  inkOver: Numbers;
  grain: Numbers;
  addNoise: Numbers;
  lightSurface: Numbers;
  halftone: Numbers;
  evenOut: Numbers;
  pullApart: Numbers;
  mixBack: Numbers;
}

/** Bytes a pixel for pixels and everything laid beside them: memory that is never written to is never taken. */
const beside = 72;
/** Bytes for what does not grow with the pixels: lines, tables, cells. */
const linesBytes = 8e6;
/** Larger pictures are worked on without the kernel: its memory ends at 4 GB. */
const mostPixels = 30e6;
/** Memory of a kernel that is kept for the next frame. */
const keptBytes = 420e6;

export const canFinishByKernel = (): boolean => finishCode.runs;

let kept: FinishKernel | null = null;
let switchedOff = false;

/** What is worked on now: finishes never work within one another. */
let bench: { kernel: FinishKernel; next: number; end: number } | null = null;

/** Works without the kernel, as a machine does that cannot run it: for comparing both. */
export function withoutKernel<T>(work: () => T): T {
  switchedOff = true;
  try {
    return work();
  } finally {
    switchedOff = false;
  }
}

/** A change of pixels in place, by what lies behind them. */
type Step = (pixels: FinishPixels, behind: FinishPixels | null) => void;

/**
 * Works step by step on a copy of pixels in the kernel's memory, where it does every operation, and copies the result back.
 * Where the kernel cannot be used, the pixels themselves are worked on, by the plain operations.
 * @param from what it begins with instead of what the pixels hold, as many; it stays as it is
 */
export function inKernel(
  pixels: FinishPixels,
  behind: FinishPixels | null,
  steps: readonly Step[],
  from: Uint8ClampedArray = pixels.data,
): void {
  const count = pixels.width * pixels.height;
  if (!canFinishByKernel() || switchedOff || bench || count === 0 || count > mostPixels) {
    if (from !== pixels.data) pixels.data.set(from);
    return steps.forEach((step) => step(pixels, behind));
  }
  const kernel = (kept ??= finishCode.instance<FinishKernel>());
  const start = (kernel.freeFrom() + 15) & ~15;
  const end = start + count * beside + linesBytes;
  kernel.reserve(end + 256);
  bench = { kernel, next: start, end };
  try {
    const [own, beyond] = [copied({ ...pixels, data: from }), behind && copied(behind)];
    const free = bench.next;
    for (const step of steps) {
      bench.next = free;
      step(own, beyond);
    }
    pixels.data.set(own.data);
  } finally {
    bench = null;
    if (end > keptBytes) kept = null;
  }
}

/** Address of bytes that nothing else uses, with room for a vector behind them; null where there are not that many. */
function take(bytes: number): number | null {
  if (!bench) return null;
  const at = bench.next;
  const next = (at + bytes + 31) & ~15;
  if (next > bench.end) return null;
  bench.next = next;
  return at;
}

function copied({ data, width, height }: FinishPixels): FinishPixels {
  const at = take(data.length);
  if (at === null) return { data: data.slice(), width, height };
  const own = new Uint8ClampedArray(bench!.kernel.memory.buffer, at, data.length);
  own.set(data);
  return { data: own, width, height };
}

/** The kernel, if all of these lie in its memory: only then can it work on them. */
export function kernelOf(...arrays: readonly { buffer: ArrayBufferLike }[]): FinishKernel | null {
  if (!bench) return null;
  const { buffer } = bench.kernel.memory;
  return arrays.every((array) => array.buffer === buffer) ? bench.kernel : null;
}

/** Floats as many as a picture's pixels times `channels`, in the kernel's memory if the picture is; they may hold anything. */
export function floatsLike({ data, width, height }: FinishPixels, channels = 1): Plane {
  const count = width * height * channels;
  const at = kernelOf(data) && take(count * 4);
  if (at === null) return { width, height, data: new Float32Array(count) };
  return { width, height, data: new Float32Array(bench!.kernel.memory.buffer, at, count) };
}

/** The same, all 0. */
export function zerosLike(pixels: FinishPixels, channels = 1): Plane {
  const plane = floatsLike(pixels, channels);
  plane.data.fill(0);
  return plane;
}

/** Straight pixels, in the kernel's memory if a picture is; they may hold anything. */
export function pixelsLike({ data }: FinishPixels, width: number, height: number): FinishPixels {
  const at = kernelOf(data) && take(width * height * 4);
  if (at === null) return { width, height, data: new Uint8ClampedArray(width * height * 4) };
  return { width, height, data: new Uint8ClampedArray(bench!.kernel.memory.buffer, at, width * height * 4) };
}

type List = Uint8ClampedArray | Uint8Array | Int32Array | Float32Array | Float64Array;

/**
 * Lays lists and room for bytes into the kernel's memory for as long as `work` lasts, which is given their addresses.
 * @returns false, and nothing was done, where there is no room for them
 */
export function laid(parts: readonly (List | number)[], work: (...addresses: number[]) => void): boolean {
  if (!bench) return false;
  const before = bench.next;
  const addresses = parts.map((part) => take(typeof part === 'number' ? part : part.byteLength));
  const fit = addresses.every((at) => at !== null);
  if (fit) {
    const memory = new Uint8Array(bench.kernel.memory.buffer);
    parts.forEach((part, k) => {
      if (typeof part === 'number') return;
      memory.set(new Uint8Array(part.buffer, part.byteOffset, part.byteLength), addresses[k]!);
    });
    work(...(addresses as number[]));
  }
  bench.next = before;
  return fit;
}

/** The same for little that always fits beside what is worked on. @throws RangeError where it does not */
export function laidSurely(parts: readonly (List | number)[], work: (...addresses: number[]) => void): void {
  if (!laid(parts, work)) throw new RangeError('There is no room beside the picture that is worked on.');
}
