import { videoCode } from '../kernels/built/video.ts';
import { Layout, type Kernel } from '../kernels/instance.ts';

/** What the kernel in core/kernels/assembly/video exports; addresses are numbers. */
interface VideoExports extends Kernel {
  toPlanes(rgba: number, width: number, height: number, weights: number, out: number): void;
}

export const canConvertByKernel = (): boolean => videoCode.runs;
let kept: VideoExports | null = null;

/** RGBA to limited-range 4:2:0 planes; `width` at least 4. @param weights nine whole numbers, as the kernel takes them */
export function convertByKernel(
  data: Uint8ClampedArray,
  width: number,
  height: number,
  weights: Int32Array,
  out: Uint8Array,
): void {
  const kernel = (kept ??= videoCode.instance<VideoExports>());
  const layout = new Layout(kernel);
  const at = { rgba: layout.take(data.length), weights: layout.take(weights.byteLength), out: layout.take(out.length) };
  layout.reserve();
  const memory = new Uint8Array(kernel.memory.buffer);
  memory.set(data, at.rgba);
  new Int32Array(kernel.memory.buffer).set(weights, at.weights / 4);
  kernel.toPlanes(at.rgba, width, height, at.weights, at.out);
  out.set(memory.subarray(at.out, at.out + out.length));
}
