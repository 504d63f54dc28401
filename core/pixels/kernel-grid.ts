import { gridCode } from '../kernels/built/grid.ts';
import { Layout, type Kernel } from '../kernels/instance.ts';
import { coarsest, coarsestSweeps, type Bonds, type GridWork } from './grid-cycles.ts';

/** What the kernel in core/kernels/assembly/grid exports; addresses are numbers. */
interface GridKernel extends Kernel {
  relax(grid: number, first: number): void;
  multiply(grid: number, values: number, out: number): void;
  residual(grid: number, values: number, b: number, out: number): void;
  restrictResidual(grid: number, next: number, scratch: number): void;
  addFound(grid: number, next: number): void;
  sumBonds(grid: number): void;
  coarsen(grid: number, next: number): void;
  dot(a: number, b: number, count: number): number;
  mix(to: number, own: number, other: number, share: number, count: number): void;
  clear(at: number, count: number): void;
}

/** More than this, and a kernel's memory does not reach. */
const mostBytes = 3.5e9;
/** A kernel that waits for the next grid, and up to how much memory it is kept. */
let idle: GridKernel | null = null;
const keptBytes = 64e6;

const parts = ['right', 'down', 'anchor', 'diagonal', 'x', 'b'] as const;

/** Where a grid lies: as the kernel's own description of it, and numbers with room for a row and more on both sides. */
interface Placed {
  at: number;
  width: number;
  height: number;
  stride: number;
  /** Numbers from its first place to its last. */
  count: number;
  room: Record<(typeof parts)[number], number>;
}

/** The grids of core/pixels/grid-laplacian.ts in the memory of a kernel. */
export class KernelGrid implements GridWork {
  private readonly solved: number;
  private readonly direction: number;
  private readonly grids: Placed[];

  /** Null where no kernel can run, or not with as much. The bonds are copied. */
  static of(bonds: Bonds): KernelGrid | null {
    if (!gridCode.runs || (bonds.width + 2) * (bonds.height + 8) * 4 * 10.7 > mostBytes) return null;
    const kernel = idle ?? gridCode.instance<GridKernel>();
    idle = null;
    return new KernelGrid(kernel, bonds);
  }

  private constructor(
    private readonly kernel: GridKernel,
    bonds: Bonds,
  ) {
    const layout = new Layout(kernel);
    this.grids = [placed(layout, bonds.width, bonds.height)];
    for (let grid = this.grids[0]!; grid.width * grid.height > coarsest; this.grids.push(grid))
      grid = placed(layout, (grid.width + 1) >> 1, (grid.height + 1) >> 1);
    const fine = this.grids[0]!;
    [this.solved, this.direction] = [roomFor(layout, fine), roomFor(layout, fine)];
    layout.reserve();
    // What was here before is forgotten, also around the grids.
    new Uint8Array(kernel.memory.buffer).fill(0, kernel.freeFrom());
    for (const grid of this.grids) this.describe(grid);
    for (const part of ['right', 'down', 'anchor'] as const) this.write(bonds[part], fine.room[part]);
    this.cutBorders(fine);
    kernel.sumBonds(fine.at);
    for (let k = 1; k < this.grids.length; k++) kernel.coarsen(this.grids[k - 1]!.at, this.grids[k]!.at);
  }

  private describe({ at, width, height, stride, room }: Placed): void {
    const numbers = [width, height, stride, ...parts.map((part) => room[part])];
    new Uint32Array(this.kernel.memory.buffer, at, numbers.length).set(numbers);
  }

  /** Bonds that would leave the grid are none. */
  private cutBorders({ width, height, stride, room }: Placed): void {
    const numbers = new Float32Array(this.kernel.memory.buffer);
    for (let y = 0; y < height; y++) numbers[room.right / 4 + y * stride + width - 1] = 0;
    numbers.fill(0, room.down / 4 + (height - 1) * stride, room.down / 4 + height * stride);
  }

  private write(from: Float32Array, to: number): void {
    const { width, height, stride } = this.grids[0]!;
    const numbers = new Float32Array(this.kernel.memory.buffer, to, height * stride);
    for (let y = 0; y < height; y++) numbers.set(from.subarray(y * width, (y + 1) * width), y * stride);
  }

  begin(b: Float32Array, start: Float32Array | undefined): number {
    const { kernel, solved, direction } = this;
    const fine = this.grids[0]!;
    if (start) this.write(start, solved);
    else kernel.clear(solved, fine.count);
    kernel.clear(direction, fine.count);
    // What a V-cycle is to solve is what is missing: it is kept where the cycle looks for it.
    this.write(b, fine.room.b);
    const square = kernel.dot(fine.room.b, fine.room.b, fine.count);
    kernel.residual(fine.at, solved, fine.room.b, fine.room.b);
    return square;
  }

  missing(): number {
    const { count, room } = this.grids[0]!;
    return this.kernel.dot(room.b, room.b, count);
  }

  precondition(): number {
    this.cycle(0);
    const { count, room } = this.grids[0]!;
    return this.kernel.dot(room.b, room.x, count);
  }

  turn(share: number): number {
    const { at, count, room } = this.grids[0]!;
    this.kernel.mix(this.direction, share, room.x, 1, count);
    // The anchors are in the diagonal by now, and so are those of the coarser grids: their room is free.
    this.kernel.multiply(at, this.direction, room.anchor);
    return this.kernel.dot(this.direction, room.anchor, count);
  }

  advance(step: number): void {
    const { count, room } = this.grids[0]!;
    this.kernel.mix(this.solved, 1, this.direction, step, count);
    this.kernel.mix(room.b, 1, room.anchor, -step, count);
  }

  solution(): Float32Array {
    const { width, height, stride } = this.grids[0]!;
    const numbers = new Float32Array(this.kernel.memory.buffer, this.solved, height * stride);
    const out = new Float32Array(width * height);
    for (let y = 0; y < height; y++) out.set(numbers.subarray(y * stride, y * stride + width), y * width);
    return out;
  }

  private cycle(level: number): void {
    const { kernel } = this;
    const grid = this.grids[level]!;
    kernel.clear(grid.room.x, grid.count);
    const next = this.grids[level + 1];
    if (!next) {
      for (let k = 0; k < coarsestSweeps; k++) kernel.relax(grid.at, k & 1);
      return;
    }
    kernel.relax(grid.at, 0);
    kernel.restrictResidual(grid.at, next.at, grid.room.anchor);
    this.cycle(level + 1);
    kernel.addFound(grid.at, next.at);
    kernel.relax(grid.at, 1);
  }

  /** The grid may not be used any more; its memory is somebody else's. */
  release(): void {
    if (this.kernel.memory.buffer.byteLength <= keptBytes) idle = this.kernel;
  }
}

/** Room for a grid; rows have an odd number of places, at least one more than the grid is wide. */
function placed(layout: Layout, width: number, height: number): Placed {
  const stride = width + 1 + (width & 1);
  const shape = { width, height, stride, count: stride * height };
  const room = Object.fromEntries(parts.map((part) => [part, roomFor(layout, shape)])) as Placed['room'];
  return { ...shape, room, at: layout.take((3 + parts.length) * 4) };
}

/** Numbers of a grid with a row and eight more before and after, all of them 0. */
function roomFor(layout: Layout, { stride, count }: Pick<Placed, 'stride' | 'count'>): number {
  const beyond = ((stride + 8) * 4 + 15) & ~15;
  return layout.take(count * 4 + 2 * beyond) + beyond;
}
