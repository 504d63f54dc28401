import { inputCount } from '../core/key/edge-inputs.ts';
import { layerSizes, weightBits, weightUnit } from '../core/key/edge-network.ts';
import { inputUnit } from '../core/key/edge-inputs.ts';
import { seededRandom } from '../core/pixels/random.ts';
import { TrainedNetwork } from './network.ts';
import { sampleLength, turnedSamples } from './samples.ts';

const batch = 256;
const firstRate = 0.003;
/** Difference of alpha below which it is no longer the same, however small, that counts. */
const smallDifference = 0.02;
/** Share of what a result beyond 0 or 1 is called back by. */
const calledBack = 0.02;

/** Samples that lie in several lists, as one. */
export class Samples {
  readonly count: number;
  private readonly starts: number[];

  constructor(private readonly lists: readonly Float32Array[]) {
    this.starts = [0];
    for (const { length } of lists) this.starts.push(this.starts.at(-1)! + length / sampleLength);
    this.count = this.starts.at(-1)!;
  }

  /** Copies one, turned. */
  read(index: number, turned: Int32Array, out: Float32Array): void {
    const list = this.starts.findLastIndex((start) => start <= index);
    const from = (index - this.starts[list]!) * sampleLength;
    const values = this.lists[list]!;
    for (let k = 0; k < sampleLength; k++) out[k] = values[from + turned[k]!]!;
  }
}

/** Sum of the differences of alpha over the four pixels, and the slope of each answer. */
export function lossOf(sample: Float32Array, answer: ArrayLike<number>, slopes: Float64Array): number {
  let loss = 0;
  for (let k = 0; k < 4; k++) {
    const alpha = sample[inputCount + k]! + answer[k]!;
    const kept = Math.max(0, Math.min(1, alpha));
    const off = kept - sample[inputCount + 4 + k]!;
    loss += Math.abs(off);
    const slope = Math.max(-1, Math.min(1, off / smallDifference));
    // What is clipped at the right end does no harm, but is called back, lest it is lost from there.
    const lost = (alpha < 0 && slope >= 0) || (alpha > 1 && slope <= 0);
    slopes[k] = lost ? calledBack * (alpha - kept) : slope;
  }
  return loss;
}

/** Samples that are answered together. */
class Batch {
  readonly slopes = new Float64Array(4 * batch);
  private readonly samples = Array.from({ length: batch }, () => new Float32Array(sampleLength));
  private readonly inputs = new Float32Array(batch * inputCount);
  /** Of all that was answered: the loss, and that of an even course from block to block. */
  private loss = 0;
  private even = 0;

  /** @param indexOf,turned for each of the batch which sample, and turned how */
  read(from: Samples, indexOf: (k: number) => number, turned: () => Int32Array): void {
    for (const [k, sample] of this.samples.entries()) {
      from.read(indexOf(k), turned(), sample);
      this.inputs.set(sample.subarray(0, inputCount), k * inputCount);
    }
  }

  answerBy(network: TrainedNetwork): void {
    const told = network.answer(this.inputs);
    for (const [k, sample] of this.samples.entries()) {
      const slopes = this.slopes.subarray(4 * k, 4 * k + 4);
      this.even += lossOf(sample, [0, 0, 0, 0], slopes);
      this.loss += lossOf(sample, told.subarray(4 * k, 4 * k + 4), slopes);
    }
  }

  /** The loss as a share of that of an even course, since this was asked last. */
  share(): number {
    const share = this.loss / this.even;
    [this.loss, this.even] = [0, 0];
    return share;
  }
}

/**
 * Trains the edge network.
 * @param held so many of the last samples are only measured, whole batches of them
 * @param say hears after every round the loss of both as a share of that of an even course
 */
export function trained(samples: Samples, held: number, rounds: number, say: (line: string) => void): TrainedNetwork {
  const network = new TrainedNetwork(layerSizes, batch, 11);
  const random = seededRandom(12);
  const learned = samples.count - held;
  const order = Int32Array.from({ length: learned }, (_, i) => i);
  const lot = new Batch();
  for (let round = 0; round < rounds; round++) {
    for (let i = learned - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      [order[i], order[j]] = [order[j]!, order[i]!];
    }
    for (let from = 0; from + batch <= learned; from += batch) {
      lot.read(
        samples,
        (k) => order[from + k]!,
        () => turnedSamples[Math.floor(random() * 8)]!,
      );
      lot.answerBy(network);
      network.learn(lot.slopes);
      const done = (round + from / learned) / rounds;
      network.step(firstRate * (0.51 + 0.5 * Math.cos(Math.PI * done)));
    }
    const share = lot.share();
    say(`round ${round + 1}: ${share.toFixed(4)}, held back ${heldShare(network, lot, samples, learned).toFixed(4)}`);
  }
  return network;
}

function heldShare(network: TrainedNetwork, lot: Batch, samples: Samples, learned: number): number {
  for (let from = learned; from + batch <= samples.count; from += batch) {
    lot.read(
      samples,
      (k) => from + k,
      () => turnedSamples[0]!,
    );
    lot.answerBy(network);
  }
  return lot.share();
}

/** The network in whole numbers, as `layersFrom` in core/key/edge-network.ts reads it. */
export function inWholeNumbers(network: TrainedNetwork): string {
  const parts = network.sizes.slice(1).flatMap((_, k) => {
    const places = network.placesOf(k);
    const valuesOf = (part: 'weights' | 'starts'): number[] =>
      places.filter((one) => one.part === part).map(({ place }) => network.part(k, part).values[place]!);
    const whole = Int16Array.from(valuesOf('weights'), (w) =>
      Math.max(-32768, Math.min(32767, Math.round(w * weightUnit))),
    );
    // Half of what is cut off below the last bit is put in beforehand: sums are rounded, not cut.
    const sums = Int32Array.from(
      valuesOf('starts'),
      (s) => Math.round(s * weightUnit * inputUnit) + (1 << (weightBits - 1)),
    );
    return [Buffer.from(whole.buffer), Buffer.from(sums.buffer)];
  });
  return Buffer.concat(parts).toString('base64');
}
