import { patchesCode } from '../kernels/built/patches.ts';
import type { Kernel } from '../kernels/instance.ts';

/** What the kernel in core/kernels/assembly/patches exports; addresses are numbers. */
export interface PatchKernel extends Kernel {
  patchDistance(corner: number, other: number, stride: number, limit: number): number;
  sparseDistance(corner: number, other: number, stride: number, limit: number): number;
  sweepTargets(...numbers: (number | boolean)[]): number;
  matchKnown(...numbers: number[]): number;
  countSources(...numbers: number[]): void;
  enlargeMatches(...numbers: number[]): void;
  voteTargets(...numbers: (number | boolean)[]): void;
  takeOver(...numbers: number[]): void;
  heaviestInRows(...numbers: number[]): number;
  heaviestInColumns(...numbers: number[]): void;
  copyHeaviest(...numbers: number[]): void;
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

/** Room for lists that belong together, in the memory of a kernel where there is one; lists without end where there is none. */
export class Room {
  constructor(
    readonly kernel: PatchKernel | null = null,
    private next = 0,
    private readonly end = 0,
  ) {}

  /** All are 0 at first. */
  bytes(count: number): Uint8Array<ArrayBuffer> {
    return this.list(Uint8Array, count);
  }

  ints(count: number): Int32Array<ArrayBuffer> {
    return this.list(Int32Array, count);
  }

  floats(count: number): Float32Array<ArrayBuffer> {
    return this.list(Float32Array, count);
  }

  doubles(count: number): Float64Array<ArrayBuffer> {
    return this.list(Float64Array, count);
  }

  private list<T extends List>(kind: ListKind<T>, count: number): T {
    const room = roomFor(count * kind.BYTES_PER_ELEMENT);
    if (!this.kernel || this.next + room > this.end) return new kind(new ArrayBuffer(count * kind.BYTES_PER_ELEMENT));
    const list = new kind(this.kernel.memory.buffer, this.next, count);
    this.next += room;
    list.fill(0);
    return list;
  }
}

type List = (Uint8Array | Int32Array | Float32Array | Float64Array) & { buffer: ArrayBuffer };
interface ListKind<T extends List> {
  readonly BYTES_PER_ELEMENT: number;
  new (buffer: ArrayBuffer, from?: number, count?: number): T;
}

/** Memory for one rebuild, which has a kernel to itself. */
export class PatchMemory {
  private kernel: PatchKernel | null = null;
  private next = 0;
  private end = 0;

  /** Makes memory for rooms once, before any is taken. @param rooms bytes of each room that will be taken */
  reserve(rooms: readonly number[]): void {
    if (!patchesCode.runs || plainly) return;
    const kernel = idle ?? patchesCode.instance<PatchKernel>();
    idle = null;
    this.next = (kernel.freeFrom() + 15) & ~15;
    this.end = this.next + rooms.reduce((sum, bytes) => sum + roomFor(bytes), 0);
    kernel.reserve(this.end);
    this.kernel = kernel;
  }

  /** Room that nothing else uses; one outside of the kernel's memory where that is used up, or there is none. */
  room(bytes: number): Room {
    const from = this.next;
    if (!this.kernel || from + roomFor(bytes) > this.end) return new Room();
    this.next += roomFor(bytes);
    return new Room(this.kernel, from, this.next);
  }

  /** What was taken may not be used any more. */
  release(): void {
    if (this.kernel && this.kernel.memory.buffer.byteLength <= keptBytes) idle = this.kernel;
    this.kernel = null;
  }
}

/** What lists of so many bytes take up together, each with what lies between it and the next. */
export const roomFor = (...bytes: number[]): number => bytes.reduce((sum, each) => sum + ((each + 31) & ~15), 0);

/** The kernel that reaches all of these lists; null where one lies elsewhere. */
export const kernelOf = (
  room: Room | undefined,
  ...lists: readonly { buffer: ArrayBufferLike }[]
): PatchKernel | null =>
  room?.kernel && lists.every(({ buffer }) => buffer === room.kernel!.memory.buffer) ? room.kernel : null;
