import { bytesFromBase64 } from '../kernels/base64.ts';
import { inputCount, inputUnit } from './edge-inputs.ts';
import { edgeWeights } from './edge-weights.ts';

/** One layer: every output is a weighted sum of all inputs and a start. */
export interface WholeLayer {
  /** A row of weights for each output, in units of `weightUnit`. */
  weights: Int16Array;
  /** In units of `weightUnit` times `inputUnit`. */
  starts: Int32Array;
}

/** Neurons of each layer, from what is seen of a block to its four pixels. */
export const layerSizes = [inputCount, 128, 64, 64, 4] as const;
/** Whole steps in one of a weight, and how many bits those are. */
export const weightBits = 11;
export const weightUnit = 1 << weightBits;
/** Most that a neuron tells the next, so that no sum leaves 32 bits. */
export const mostTold = 16 * inputUnit - 1;

/** @param base64 of each layer its weights, 16 bits, then its starts, 32 bits, least byte first */
export function layersFrom(base64: string): WholeLayer[] {
  const view = new DataView(bytesFromBase64(base64).buffer);
  let at = 0;
  return layerSizes.slice(1).map((outputs, k) => {
    const weights = Int16Array.from({ length: outputs * layerSizes[k]! }, (_, i) => view.getInt16(at + 2 * i, true));
    at += weights.length * 2;
    const starts = Int32Array.from({ length: outputs }, (_, i) => view.getInt32(at + 4 * i, true));
    at += starts.length * 4;
    return { weights, starts };
  });
}

let read: WholeLayer[] | null = null;
/** The network that was trained by `npm run train`, see docs/training.md. */
export const edgeLayers = (): WholeLayer[] => (read ??= layersFrom(edgeWeights));

/**
 * How much alpha each of a block's four pixels has beyond what an even course from block to block gives it; whole numbers in
 * units of `inputUnit`. A small network of four layers with rectified sums (Nair & Hinton 2010), all in whole numbers, so that
 * every machine gives the same answer.
 * @param input from `gatherInputs`
 */
export function beyondCourse(input: Int16Array, layers: readonly WholeLayer[] = edgeLayers()): Int32Array {
  let told: Int32Array = Int32Array.from(input);
  for (let k = 0; k < layers.length; k++) told = toldBy(layers[k]!, told, k + 1 === layers.length);
  return told;
}

function toldBy({ weights, starts }: WholeLayer, inputs: Int32Array, last: boolean): Int32Array {
  const { length } = inputs;
  const told = new Int32Array(starts.length);
  for (let j = 0, o = 0; j < told.length; j++) {
    let sum = starts[j]!;
    for (let i = 0; i < length; i++, o++) sum += weights[o]! * inputs[i]!;
    const shifted = sum >> weightBits;
    told[j] = last ? shifted : Math.max(0, Math.min(mostTold, shifted));
  }
  return told;
}
