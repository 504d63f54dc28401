import { Layout, type Kernel, type KernelCode } from './instance.ts';

type List = Uint8Array | Uint8ClampedArray | Int32Array | Float32Array | Float64Array;

/** Memory of a kernel that is kept for the next work. */
const keptBytes = 32e6;
/** What needs more is worked on without it: its memory ends at 4 GB. */
const mostBytes = 2e9;

/** One instance of a kernel for works that come one after another, each with all of its memory. */
export class SharedKernel<K extends Kernel> {
  private kept: K | null = null;
  private switchedOff = false;

  constructor(private readonly code: KernelCode) {}

  /**
   * Lays lists and room for bytes into the kernel's memory, where `work` uses them by their addresses.
   * @returns what `work` does, which holds nothing of that memory; null, and nothing was done, where the kernel cannot be used
   */
  within<T>(parts: readonly (List | number)[], work: (kernel: K, ...addresses: number[]) => T): T | null {
    const sizes = parts.map((part) => (typeof part === 'number' ? part : part.byteLength));
    const all = sizes.reduce((sum, size) => sum + size + 32, 0);
    if (this.switchedOff || !this.code.runs || all > mostBytes) return null;
    const kernel = (this.kept ??= this.code.instance<K>());
    const layout = new Layout(kernel);
    const addresses = sizes.map((size) => layout.take(size));
    layout.reserve();
    const memory = new Uint8Array(kernel.memory.buffer);
    parts.forEach((part, k) => {
      if (typeof part === 'number') return;
      memory.set(new Uint8Array(part.buffer, part.byteOffset, part.byteLength), addresses[k]!);
    });
    try {
      return work(kernel, ...addresses);
    } finally {
      if (all > keptBytes) this.kept = null;
    }
  }

  /** Works without it, as a machine does that cannot run it: for comparing both. */
  without<T>(work: () => T): T {
    this.switchedOff = true;
    try {
      return work();
    } finally {
      this.switchedOff = false;
    }
  }
}

/** A copy of floats that lie in a kernel's memory. */
export const floatsAt = ({ memory }: Kernel, address: number, count: number): Float32Array<ArrayBuffer> =>
  new Float32Array(memory.buffer, address, count).slice();
