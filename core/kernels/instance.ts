import { bytesFromBase64 } from './base64.ts';

/** The part of WebAssembly's JavaScript interface that is used here: core knows no browser's and no Node's types. */
interface WebAssemblyApi {
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { exports: Record<string, unknown> };
  validate(bytes: Uint8Array): boolean;
}

const shared = globalThis as unknown as { WebAssembly?: WebAssemblyApi };

/** Every kernel exports its memory and these two. */
export interface Kernel {
  memory: { buffer: ArrayBuffer };
  /** Makes memory reach up to an address. @throws RuntimeError when there is not that much */
  reserve(bytes: number): void;
  /** Where free memory begins. */
  freeFrom(): number;
}

/** The code of a kernel, read and compiled when it is wanted first. */
export class KernelCode {
  private module: object | null | undefined;

  /** @param base64 the bytes of a WebAssembly module */
  constructor(private readonly base64: string) {}

  /** Null where this machine cannot run it: old ones lack its vector instructions. */
  private get compiled(): object | null {
    if (this.module === undefined) {
      const bytes = bytesFromBase64(this.base64);
      this.module = shared.WebAssembly?.validate(bytes) ? new shared.WebAssembly.Module(bytes) : null;
    }
    return this.module;
  }

  /** Whether this machine can run it. */
  get runs(): boolean {
    return this.compiled !== null;
  }

  /** A kernel ready to run, with memory of its own. @throws TypeError where it does not run */
  instance<T extends Kernel>(): T {
    const imports = { env: { abort: () => undefined } };
    return new shared.WebAssembly!.Instance(this.compiled!, imports).exports as unknown as T;
  }
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
