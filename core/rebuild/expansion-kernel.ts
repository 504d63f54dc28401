import { roomOfNode } from '../cut/cut-kernel.ts';
import { shiftsCode } from '../kernels/built/shifts.ts';
import { Layout, type Kernel } from '../kernels/instance.ts';
import type { Arrangement, Expander } from './expansion.ts';

/** What the kernel in core/kernels/assembly/shifts exports; addresses are numbers. */
interface ShiftsKernel extends Kernel {
  expand(expansion: number): void;
}

/** Where an expansion's alpha stands among its numbers; whether it is biased follows. */
const alphaAt = 4;

/** Expansion moves in a kernel of its own: others may be working between two of them. */
export class KernelExpander implements Expander {
  private readonly numbers: number;
  private readonly base: number;
  private readonly label: number;

  /** Null where no kernel can run. */
  static of(arrangement: Arrangement): KernelExpander | null {
    return shiftsCode.runs ? new KernelExpander(shiftsCode.instance<ShiftsKernel>(), arrangement) : null;
  }

  private constructor(
    private readonly kernel: ShiftsKernel,
    { pixels, node, width, shift, features, unary }: Arrangement,
  ) {
    const count = pixels.length;
    const layout = new Layout(kernel);
    const take = (...bytes: number[]): number[] => bytes.map((room) => layout.take(room));
    const [numbers, flow] = take(15 * 4, roomOfNode.length * 4) as [number, number];
    const given = take(...[pixels, node, shift, features, unary].map(({ byteLength }) => byteLength));
    const [base, label, change] = take(8 * shift.length, 2 * count, 8 * count) as [number, number, number];
    const parts = take(...roomOfNode.map((bytes) => bytes * count));
    layout.reserve();
    const { buffer } = kernel.memory;
    new Int32Array(buffer, numbers).set([width, count, shift.length, node.length, 0, 0]);
    new Uint32Array(buffer, numbers + 24).set([...given, base, label, change, flow]);
    new Uint32Array(buffer, flow).set(parts);
    for (const [k, values] of [pixels, node, shift].entries()) new Int32Array(buffer, given[k]).set(values);
    for (const [k, values] of [features, unary].entries()) new Float32Array(buffer, given[3 + k]).set(values);
    [this.numbers, this.base, this.label] = [numbers, base, label];
  }

  expand(label: Int16Array, alpha: number, base: readonly number[] | null): void {
    const { buffer } = this.kernel.memory;
    new Int32Array(buffer, this.numbers + 4 * alphaAt).set([alpha, base ? 1 : 0]);
    if (base) new Float64Array(buffer, this.base).set(base);
    const labels = new Int16Array(buffer, this.label, label.length);
    labels.set(label);
    this.kernel.expand(this.numbers);
    label.set(labels);
  }
}
