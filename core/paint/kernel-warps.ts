import { boundsOfBlocks } from '../depth/relief-bounds.ts';
import { raysOf, raysOverMap } from '../depth/relief.ts';
import { warpCode } from '../kernels/built/warp.ts';
import { Layout, type Kernel } from '../kernels/instance.ts';
import type { Rgba } from '../pixels/raster.ts';
import { mappedSize, type Warps } from './warps.ts';

/** What the kernel in core/kernels/assembly/warp exports; addresses are numbers. */
interface WarpExports extends Kernel {
  sway(...numbers: number[]): void;
  project(...numbers: number[]): void;
  relieve(...numbers: number[]): void;
}

/** Bytes up to which the kernel's memory is kept for the next frame: full-HD and 4K layers, not large photographs. */
const keptBytes = 160e6;
let kept: WarpExports | null = null;

export const canWarpByKernel = (): boolean => warpCode.runs;

interface Addresses {
  picture: number;
  lists: number[];
  out: number;
  /** Where one byte for each pixel is wanted as well; else 0. */
  front: number;
}

/** Runs one warp: lays out picture, numbers and result, and copies what was made into `out`. */
function run(
  picture: Rgba,
  lists: readonly (Float32Array | Float64Array)[],
  out: Rgba,
  warp: (kernel: WarpExports, at: Addresses) => void,
  front?: Uint8Array,
): void {
  const bytes = (picture.width + 2) * (picture.height + 2) * 4;
  const large = bytes + out.data.length > keptBytes;
  const kernel = large ? warpCode.instance<WarpExports>() : (kept ??= warpCode.instance());
  const layout = new Layout(kernel);
  const at = {
    picture: layout.take(bytes),
    lists: lists.map((list) => layout.take(list.byteLength)),
    out: layout.take(out.data.length),
    front: front ? layout.take(front.length) : 0,
  };
  layout.reserve();
  const memory = new Uint8Array(kernel.memory.buffer);
  putWithin(memory, at.picture, picture);
  lists.forEach((list, k) => memory.set(new Uint8Array(list.buffer, list.byteOffset, list.byteLength), at.lists[k]!));
  warp(kernel, at);
  out.data.set(memory.subarray(at.out, at.out + out.data.length));
  front?.set(memory.subarray(at.front, at.front + front.length));
}

/** The picture with one clear pixel all around. */
function putWithin(memory: Uint8Array, at: number, { width, height, data }: Rgba): void {
  const stride = (width + 2) * 4;
  memory.fill(0, at, at + stride);
  memory.fill(0, at + (height + 1) * stride, at + (height + 2) * stride);
  for (let y = 0; y < height; y++) {
    const row = at + (y + 1) * stride;
    memory.fill(0, row, row + 4);
    memory.set(data.subarray(y * width * 4, (y + 1) * width * 4), row + 4);
    memory.fill(0, row + stride - 4, row + stride);
  }
}

/** As `plainWarps`, in WebAssembly, four values at a time. */
export const kernelWarps: Warps = {
  sway(picture, { nodes, step, room }, out) {
    run(picture, [nodes], out, (kernel, at) =>
      kernel.sway(at.picture, picture.width, picture.height, at.lists[0]!, step, room, at.out, out.width, out.height),
    );
  },
  project(picture, map, out) {
    run(picture, [Float64Array.from(map)], out, (kernel, at) =>
      kernel.project(at.picture, picture.width, picture.height, at.lists[0]!, at.out, out.width, out.height),
    );
  },
  relieve(picture, map, view, out, { front, only } = {}) {
    const whole = mappedSize(picture);
    const rays = raysOf(view, { ...out, x: 0, y: 0 });
    const { start, along, down, camera, qNear, qFar } = rays;
    const numbers = Float32Array.of(
      ...[start[0], along[0], down[0], start[1], along[1], down[1]],
      ...[...camera, ...view.toPicture, qNear, qFar],
      ...[picture.x, picture.y, whole.width, whole.height],
    );
    const over = raysOverMap(rays, view.toPicture, [map.width / whole.width, map.height / whole.height]);
    const bounds = boundsOfBlocks(map, over, out, only);
    const relieve = (kernel: WarpExports, at: Addresses): void => {
      const [closeness, blocks, settings] = at.lists as [number, number, number];
      const maps = [closeness, map.width, map.height, blocks, settings];
      kernel.relieve(at.picture, picture.width, picture.height, ...maps, at.out, out.width, out.height, at.front);
    };
    run(picture, [map.data, bounds, numbers], out, relieve, front);
  },
};
