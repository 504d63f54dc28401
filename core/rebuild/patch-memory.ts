import { patchesCode } from '../kernels/built/patches.ts';
import type { Kernel } from '../kernels/instance.ts';

/** What the kernel in core/kernels/assembly/patches exports; addresses are numbers. */
export interface PatchKernel extends Kernel {
  patchDistance(corner: number, other: number, stride: number, limit: number): number;
  sparseDistance(corner: number, other: number, stride: number, limit: number): number;
}

/** A kernel that waits for the next rebuild, and up to how much memory it is kept. */
let idle: PatchKernel | null = null;
const keptBytes = 96e6;

let plainly = false;

/** Compares patches without the kernel, as a machine does that cannot run it: for comparing both. */
export async function comparingPlainly<T>(work: () => Promise<T>): Promise<T> {
  plainly = true;
  try {
    return await work();
  } finally {
    plainly = false;
  }
}

/** Pixels in the memory of a kernel, where it can compare them. */
export interface PlacedPixels {
  kernel: PatchKernel;
  at: number;
  pixels: Uint8Array;
}

/** Memory for the pixels of one rebuild, which has a kernel to itself. */
export class PatchMemory {
  private kernel: PatchKernel | null = null;
  private next = 0;
  private end = 0;

  /** Makes room once, before anything is taken. @param parts bytes of each part that will be taken */
  reserve(parts: readonly number[]): void {
    if (!patchesCode.runs || plainly) return;
    this.kernel = idle ?? patchesCode.instance<PatchKernel>();
    idle = null;
    this.next = this.kernel.freeFrom();
    this.end = this.next + parts.reduce((sum, bytes) => sum + roomFor(bytes), 0);
    this.kernel.reserve(this.end);
  }

  /** Room that nothing else uses, all 0; null where there is none. */
  take(bytes: number): PlacedPixels | null {
    const at = this.next;
    if (!this.kernel || at + roomFor(bytes) > this.end) return null;
    this.next += roomFor(bytes);
    const pixels = new Uint8Array(this.kernel.memory.buffer, at, bytes);
    pixels.fill(0);
    return { kernel: this.kernel, at, pixels };
  }

  /** What was taken may not be used any more. */
  release(): void {
    if (this.kernel && this.kernel.memory.buffer.byteLength <= keptBytes) idle = this.kernel;
    this.kernel = null;
  }
}

const roomFor = (bytes: number): number => (bytes + 31) & ~15;
