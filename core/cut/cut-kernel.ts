import { cutCode } from '../kernels/built/cut.ts';
import { Layout, type Kernel } from '../kernels/instance.ts';
import type { Plane, Rgba } from '../pixels/raster.ts';
import { numbersEach, type ClusterWork, type PlaneThrough, type Samples } from './colour-clusters.ts';
import type { GraphCutInput } from './graph-cut.ts';

/** What the kernel in core/kernels/assembly/cut exports; addresses are numbers. */
interface CutKernel extends Kernel {
  minimumCut(cut: number): void;
  colourDistances(
    rgba: number,
    distances: number,
    width: number,
    height: number,
    rounds: number,
    spatial: number,
    free: number,
  ): void;
  sumClusters(colours: number, weights: number, labels: number, count: number, sums: number, clusters: number): void;
  splitCluster(colours: number, labels: number, count: number, from: number, to: number, plane: number): void;
  assignSamples(colours: number, labels: number, count: number, parameters: number, components: number): void;
}

/** The kernel of the last cut, and up to how much memory it is kept. */
let kept: CutKernel | null = null;
const keptBytes = 96e6;

let plainly = false;

const kernelOfCuts = (): CutKernel | null =>
  cutCode.runs && !plainly ? (kept ??= cutCode.instance<CutKernel>()) : null;

/** Cuts without the kernel, as a machine does that cannot run it: for comparing both. */
export function cuttingPlainly<T>(work: () => T): T {
  plainly = true;
  try {
    return work();
  } finally {
    plainly = false;
  }
}

/** Bytes of the numbers that describe a cut, before its addresses. */
const numbersOfCut = 32;
/** Bytes a node of any graph that is cut takes in a kernel: for terminal, capacities and neighbours, parent, stamp, distance, queue and orphans, trees and queued. */
export const roomOfNode = [4, 32, 32, 4, 4, 4, 4, 4, 1, 1];

/**
 * Decides the active pixels of a mask. False where no kernel can run: nothing was done then.
 * @param terminals what speaks for each of them (above 0) or against it  @param fading what is left of smoothness between colours, by steps
 */
export function cutByKernel(input: GraphCutInput, terminals: Float32Array, fading: Float32Array): boolean {
  const kernel = kernelOfCuts();
  if (!kernel) return false;
  const { picture, mask, active, smoothness, beta } = input;
  const { width, height, data } = picture;
  const layout = new Layout(kernel);
  const own = layout.take(numbersOfCut + 6 * 4);
  const flow = layout.take(roomOfNode.length * 4);
  const [rgba, sides] = [layout.take(data.length), layout.take(mask.data.length)];
  const [chosen, nodes, faded] = [active.byteLength, 4 * width * height, fading.byteLength].map((b) => layout.take(b));
  const parts = roomOfNode.map((bytes) => layout.take(bytes * active.length));
  layout.reserve();
  const { buffer } = kernel.memory;
  new Int32Array(buffer, own).set([width, height, active.length]);
  new Float64Array(buffer, own + 16).set([beta * 128, smoothness]);
  new Uint32Array(buffer, own + numbersOfCut).set([rgba, sides, chosen!, nodes!, faded!, flow]);
  new Uint32Array(buffer, flow).set(parts);
  new Uint8Array(buffer).set(data, rgba);
  new Uint8Array(buffer).set(mask.data, sides);
  new Int32Array(buffer, chosen).set(active);
  new Float32Array(buffer, faded).set(fading);
  new Float32Array(buffer, parts[0]).set(terminals);
  kernel.minimumCut(own);
  mask.data.set(new Uint8Array(buffer, sides, mask.data.length));
  if (buffer.byteLength > keptBytes) kept = null;
  return true;
}

/**
 * Finds how far each pixel is in colour. False where no kernel can run: nothing was done then.
 * @param distances 0 where ways begin, infinity elsewhere; then their lengths
 */
export function distancesByKernel(
  { data }: Rgba,
  distances: Plane,
  { rounds, spatial, free }: { rounds: number; spatial: number; free: number },
): boolean {
  const kernel = kernelOfCuts();
  if (!kernel) return false;
  const layout = new Layout(kernel);
  const [rgba, found] = [layout.take(data.length), layout.take(distances.data.byteLength)];
  layout.reserve();
  const { buffer } = kernel.memory;
  new Uint8Array(buffer).set(data, rgba);
  new Float32Array(buffer, found).set(distances.data);
  kernel.colourDistances(rgba, found, distances.width, distances.height, rounds, spatial, free);
  distances.data.set(new Float32Array(buffer, found, distances.data.length));
  if (buffer.byteLength > keptBytes) kept = null;
  return true;
}

/** More clusters than anybody asks for. */
const mostClusters = 16;

/** Clusters in the memory of the kernel, which nothing else may use while they are. */
export class KernelClusters implements ClusterWork {
  private readonly colours: number;
  private readonly weights: number;
  private readonly labels: number;
  /** What goes to the kernel and comes from it. */
  private readonly numbers: number;
  private readonly count: number;

  /** Null where no kernel can run. */
  static of(samples: Samples): KernelClusters | null {
    const kernel = kernelOfCuts();
    return kernel && new KernelClusters(kernel, samples);
  }

  private constructor(
    private readonly kernel: CutKernel,
    { colours, weights }: Samples,
  ) {
    this.count = weights.length;
    const layout = new Layout(kernel);
    this.numbers = layout.take(mostClusters * numbersEach * 8);
    this.colours = layout.take(colours.byteLength);
    this.weights = layout.take(weights.byteLength);
    this.labels = layout.take(this.count);
    layout.reserve();
    const { buffer } = kernel.memory;
    new Float32Array(buffer, this.colours).set(colours);
    new Float32Array(buffer, this.weights).set(weights);
    new Uint8Array(buffer, this.labels, this.count).fill(0);
  }

  private get exchanged(): Float64Array {
    return new Float64Array(this.kernel.memory.buffer, this.numbers, mostClusters * numbersEach);
  }

  sums(clusters: number): Float64Array {
    this.kernel.sumClusters(this.colours, this.weights, this.labels, this.count, this.numbers, clusters);
    return this.exchanged.slice(0, clusters * numbersEach);
  }

  split(from: number, to: number, plane: PlaneThrough): void {
    this.exchanged.set(plane);
    this.kernel.splitCluster(this.colours, this.labels, this.count, from, to, this.numbers);
  }

  assign(parameters: Float64Array): void {
    this.exchanged.set(parameters);
    const components = parameters.length / numbersEach;
    this.kernel.assignSamples(this.colours, this.labels, this.count, this.numbers, components);
  }
}
