import { filtersKernelBytes } from '../kernels/built/filters.ts';
import { canRun, instanceOf, Layout, type Kernel } from '../kernels/instance.ts';

type Numbers = (...numbers: number[]) => void;

/** What the kernel in core/kernels/assembly/filters exports; addresses are numbers. */
export interface FilterKernel extends Kernel {
  boxMean: Numbers;
  boxCounts: Numbers;
  averaged: Numbers;
  halve: Numbers;
  brightness: Numbers;
  slopes: Numbers;
}

type List = Uint8Array | Uint8ClampedArray | Int32Array | Float32Array | Float64Array;

/** A kernel that took more memory than this is not kept. */
const keptBytes = 128e6;
/** What needs more is worked on without it: its memory ends at 4 GB. */
const mostBytes = 2e9;

const canFilter = canRun(filtersKernelBytes);

let kept: FilterKernel | null = null;
let switchedOff = false;

/** Works without the kernel, as a machine does that cannot run it: for comparing both. */
export function withoutFilterKernel<T>(work: () => T): T {
  switchedOff = true;
  try {
    return work();
  } finally {
    switchedOff = false;
  }
}

/**
 * Lays lists and room for bytes into the kernel's memory, where `work` uses them by their addresses.
 * @returns what `work` does, which holds nothing of that memory; null, and nothing was done, where the kernel cannot be used
 */
export function inFilterKernel<T>(
  parts: readonly (List | number)[],
  work: (kernel: FilterKernel, ...addresses: number[]) => T,
): T | null {
  const bytes = parts.reduce<number>((sum, part) => sum + 32 + (typeof part === 'number' ? part : part.byteLength), 0);
  if (!canFilter || switchedOff || bytes > mostBytes) return null;
  const kernel = (kept ??= instanceOf<FilterKernel>(filtersKernelBytes));
  const layout = new Layout(kernel);
  const addresses = parts.map((part) => layout.take(typeof part === 'number' ? part : part.byteLength));
  layout.reserve();
  const memory = new Uint8Array(kernel.memory.buffer);
  parts.forEach((part, k) => {
    if (typeof part !== 'number')
      memory.set(new Uint8Array(part.buffer, part.byteOffset, part.byteLength), addresses[k]!);
  });
  try {
    return work(kernel, ...addresses);
  } finally {
    if (bytes > keptBytes) kept = null;
  }
}

/** A copy of floats that lie in the kernel's memory. */
export const floatsAt = (kernel: FilterKernel, address: number, count: number): Float32Array<ArrayBuffer> =>
  new Float32Array(kernel.memory.buffer, address, count).slice();
