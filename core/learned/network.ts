import { networkCode } from '../kernels/built/network.ts';
import { Layout, type Kernel } from '../kernels/instance.ts';
import type { FlowShape, NetworkLayer, NetworkModel, Weights } from './model-file.ts';

/** The kernel that networks are evaluated in. Of places of side 1, `convolve` is a product of matrices and a start for each column. */
export interface NetworkKernel extends Kernel {
  rectify(from: number, to: number, count: number): void;
  hardSwish(from: number, to: number, count: number): void;
  logistic(from: number, to: number, count: number): void;
  addInPlace(a: number, b: number, to: number, count: number): void;
  scaleChannels(from: number, factors: number, to: number, places: number, channels: number): void;
  mean(from: number, to: number, places: number, channels: number): void;
  convolve(...numbers: number[]): void;
  convolveDepthwise(...numbers: number[]): void;
  convolveTransposed(...numbers: number[]): void;
  resizeBilinear(...numbers: number[]): void;
}

/** Whether networks can be evaluated on this machine. */
export const canEvaluate = (): boolean => networkCode.runs;

const countOf = ([height, width, channels]: FlowShape): number => height * width * channels;

/**
 * A network ready to be evaluated, with all its weights in the kernel's memory. Sums are in single precision and always in the
 * same order, so that every machine gives the same answer.
 */
export class Network {
  private readonly kernel = networkCode.instance<NetworkKernel>();
  private readonly places = new Map<number, number>();
  private readonly steps: (() => void)[];
  readonly inputShape: FlowShape;
  readonly outputShape: FlowShape;

  constructor(private readonly model: NetworkModel) {
    this.inputShape = model.shapes.get(model.input)!;
    this.outputShape = model.shapes.get(model.output)!;
    const layout = new Layout(this.kernel);
    const weights = new Map<NetworkLayer, { weights: number; bias: number }>();
    for (const layer of model.layers) {
      if (!('weights' in layer.step)) continue;
      const { values } = layer.step.weights;
      weights.set(layer, { weights: layout.take(values.length * 4), bias: layout.take(layer.step.bias.length * 4) });
    }
    this.layOutFlows(layout);
    layout.reserve();
    for (const [{ step }, at] of weights) {
      if (!('weights' in step)) continue;
      this.put(at.weights, step.kind === 'convolve' ? outsLast(step.weights) : step.weights.values);
      this.put(at.bias, step.bias);
    }
    this.steps = model.layers.map((layer) => this.stepOf(layer, weights.get(layer)));
  }

  /**
   * @param values rows of places with their channels, as `inputShape` says
   * @returns a copy of what comes out, as `outputShape` says
   */
  evaluate(values: Float32Array): Float32Array {
    this.put(this.places.get(this.model.input)!, values);
    for (const step of this.steps) step();
    const at = this.places.get(this.model.output)!;
    return new Float32Array(this.kernel.memory.buffer, at, countOf(this.outputShape)).slice();
  }

  private put(at: number, values: Float32Array): void {
    new Float32Array(this.kernel.memory.buffer, at, values.length).set(values);
  }

  /** Gives every flow a place; what is not needed any more makes room for what comes later. */
  private layOutFlows(layout: Layout): void {
    const { layers, shapes, input, output } = this.model;
    const lastUse = new Map<number, number>([[output, layers.length]]);
    layers.forEach((layer, k) =>
      layer.inputs.forEach((flow) => lastUse.set(flow, Math.max(k, lastUse.get(flow) ?? 0))),
    );
    const free: { at: number; bytes: number }[] = [];
    const place = (flow: number): void => {
      // Vectors are written whole.
      const bytes = (countOf(shapes.get(flow)!) * 4 + 31) & ~15;
      const k = free.findIndex((part) => part.bytes === bytes);
      this.places.set(flow, k >= 0 ? free.splice(k, 1)[0]!.at : layout.take(bytes));
    };
    place(input);
    layers.forEach((layer, k) => {
      place(layer.output);
      for (const flow of new Set(layer.inputs)) {
        if (lastUse.get(flow) !== k) continue;
        free.push({ at: this.places.get(flow)!, bytes: (countOf(shapes.get(flow)!) * 4 + 31) & ~15 });
      }
    });
  }

  private stepOf(layer: NetworkLayer, at: { weights: number; bias: number } | undefined): () => void {
    const { kernel } = this;
    const { step } = layer;
    const shapes = layer.inputs.map((flow) => this.model.shapes.get(flow)!);
    const [from, second] = layer.inputs.map((flow) => this.places.get(flow)!) as [number, number];
    const to = this.places.get(layer.output)!;
    const [height, width, channels] = shapes[0]!;
    const out = this.model.shapes.get(layer.output)!;
    const count = countOf(out);
    switch (step.kind) {
      case 'convolve':
      case 'depthwise': {
        const side = step.weights.shape[1]!;
        const top = step.padded ? before(height, out[0], side, step.stride) : 0;
        const left = step.padded ? before(width, out[1], side, step.stride) : 0;
        const window = [side, step.stride, top, left, out[0], out[1]];
        const place = [from, at!.weights, at!.bias, to, height, width, channels];
        if (step.kind === 'depthwise') return () => kernel.convolveDepthwise(...place, ...window);
        return () => kernel.convolve(...place, out[2], ...window);
      }
      case 'transposed': {
        const side = step.weights.shape[1]!;
        return () => kernel.convolveTransposed(from, at!.weights, at!.bias, to, height, width, channels, side);
      }
      case 'rectify':
        return () => kernel.rectify(from, to, count);
      case 'hard-swish':
        return () => kernel.hardSwish(from, to, count);
      case 'logistic':
        return () => kernel.logistic(from, to, count);
      case 'mean':
        return () => kernel.mean(from, to, height * width, channels);
      case 'resize':
        return () => kernel.resizeBilinear(from, to, height, width, channels, out[0], out[1]);
      case 'add':
        return () => kernel.addInPlace(from, second, to, count);
      case 'multiply':
        return () => kernel.scaleChannels(from, second, to, height * width, channels);
    }
  }
}

/** Places before the first that a window over padded ground begins at. */
const before = (size: number, out: number, side: number, stride: number): number =>
  Math.max(0, (out - 1) * stride + side - size) >> 1;

/** [outs][taps][ins] as [taps][ins][outs]. */
function outsLast({ shape, values }: Weights): Float32Array {
  const [outs, high, wide, ins] = shape as [number, number, number, number];
  const rest = high * wide * ins;
  const turned = new Float32Array(values.length);
  for (let o = 0; o < outs; o++) for (let k = 0; k < rest; k++) turned[k * outs + o] = values[o * rest + k]!;
  return turned;
}
