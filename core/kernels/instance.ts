/** The part of WebAssembly's JavaScript interface that is used here: core knows no browser's and no Node's types. */
interface WebAssemblyApi {
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { exports: Record<string, unknown> };
  validate(bytes: Uint8Array): boolean;
}

const api = (globalThis as { WebAssembly?: WebAssemblyApi }).WebAssembly;

/** Every kernel exports its memory and these two. */
export interface Kernel {
  memory: { buffer: ArrayBuffer };
  /** Makes memory reach up to an address. @throws RuntimeError when there is not that much */
  reserve(bytes: number): void;
  /** Where free memory begins. */
  freeFrom(): number;
}

/** Whether this machine can run a kernel: old ones lack its vector instructions. */
export const canRun = (bytes: Uint8Array): boolean => api !== undefined && api.validate(bytes);

/** A kernel ready to run, with memory of its own. @throws CompileError where `canRun` says no */
export function instanceOf<T extends Kernel>(bytes: Uint8Array): T {
  const module = new api!.Module(bytes);
  const imports = { env: { abort: () => undefined } };
  return new api!.Instance(module, imports).exports as unknown as T;
}

/** Hands out parts of a kernel's memory, one after another. */
export class Layout {
  private next: number;

  constructor(private readonly kernel: Kernel) {
    this.next = kernel.freeFrom();
  }

  /** Address of `bytes` that nothing else uses, on a boundary of 16. */
  take(bytes: number): number {
    const at = this.next;
    this.next = (at + bytes + 31) & ~15;
    return at;
  }

  /** Makes all that was taken usable; views made before are void afterwards. */
  reserve(): void {
    // Vectors are read a little past the end of what is needed.
    this.kernel.reserve(this.next + 256);
  }
}
