import { seededRandom } from '../core/pixels/random.ts';

interface Layer {
  weights: Float32Array;
  starts: Float32Array;
}

/** What Adam remembers of a list of numbers. */
interface Memory {
  values: Float32Array;
  slope: Float32Array;
  mean: Float32Array;
  square: Float32Array;
}

const [meanKept, squareKept] = [0.9, 0.999];

/** A small network of rectified sums that learns by gradients (Rumelhart, Hinton & Williams 1986; Adam, Kingma & Ba 2015). */
export class TrainedNetwork {
  readonly layers: Layer[];
  private readonly memories: Memory[];
  private readonly told: Float32Array[];
  private readonly blame: Float32Array[];
  private steps = 0;

  /** @param sizes neurons of each layer, inputs first */
  constructor(
    readonly sizes: readonly number[],
    seed: number,
  ) {
    const random = seededRandom(seed);
    const last = sizes.length - 2;
    this.layers = sizes.slice(1).map((outputs, k) => {
      // He et al. 2015; what is told at last begins near nothing.
      const spread = (k === last ? 0.3 : 1) * Math.sqrt(2 / sizes[k]!) * 2;
      const weight = (): number => spread * (random() + random() + random() - 1.5);
      return { weights: Float32Array.from({ length: outputs * sizes[k]! }, weight), starts: new Float32Array(outputs) };
    });
    this.memories = this.layers.flatMap(({ weights, starts }) => [memoryOf(weights), memoryOf(starts)]);
    this.told = sizes.slice(1).map((n) => new Float32Array(n));
    this.blame = sizes.map((n) => new Float32Array(n));
  }

  /** @returns the last layer's sums, in a list that the next call writes over */
  answer(inputs: Float32Array): Float32Array {
    let from = inputs;
    for (const [k, { weights, starts }] of this.layers.entries()) {
      const to = this.told[k]!;
      const { length } = from;
      const rectified = k + 1 < this.layers.length;
      for (let j = 0; j < to.length; j++) {
        let sum = starts[j]!;
        for (let i = 0, o = j * length; i < length; i++, o++) sum += weights[o]! * from[i]!;
        to[j] = rectified && sum < 0 ? 0 : sum;
      }
      from = to;
    }
    return from;
  }

  /** Adds up what the last answer's loss owes to every weight. @param slopes of the loss by each output */
  learn(inputs: Float32Array, slopes: ArrayLike<number>): void {
    this.blame.at(-1)!.set(slopes);
    for (let k = this.layers.length - 1; k >= 0; k--) {
      const from = k > 0 ? this.told[k - 1]! : inputs;
      this.learnLayer(k, from);
      if (k === 0) return;
      const down = this.blame[k]!;
      for (let i = 0; i < down.length; i++) if (from[i] === 0) down[i] = 0;
    }
  }

  private learnLayer(k: number, from: Float32Array): void {
    const { weights } = this.layers[k]!;
    const [ofWeights, ofStarts] = [this.memories[2 * k]!.slope, this.memories[2 * k + 1]!.slope];
    const [up, down] = [this.blame[k + 1]!, this.blame[k]!];
    const { length } = from;
    if (k > 0) down.fill(0);
    for (let j = 0; j < up.length; j++) {
      const owed = up[j]!;
      if (owed === 0) continue;
      ofStarts[j] = ofStarts[j]! + owed;
      const row = j * length;
      for (let i = 0; i < length; i++) ofWeights[row + i] = ofWeights[row + i]! + owed * from[i]!;
      if (k > 0) for (let i = 0; i < length; i++) down[i] = down[i]! + owed * weights[row + i]!;
    }
  }

  /** Takes one step against the slopes of a batch and forgets them. */
  step(batch: number, rate: number): void {
    this.steps++;
    const [ofMean, ofSquare] = [1 - meanKept ** this.steps, 1 - squareKept ** this.steps];
    for (const { values, slope, mean, square } of this.memories) {
      for (let i = 0; i < values.length; i++) {
        const g = slope[i]! / batch;
        mean[i] = meanKept * mean[i]! + (1 - meanKept) * g;
        square[i] = squareKept * square[i]! + (1 - squareKept) * g * g;
        values[i] = values[i]! - (rate * (mean[i]! / ofMean)) / (Math.sqrt(square[i]! / ofSquare) + 1e-8);
        slope[i] = 0;
      }
    }
  }

  /** What a batch owes so far to the weights of a layer, and to its starts. */
  slopesOf(k: number): { weights: Float32Array; starts: Float32Array } {
    return { weights: this.memories[2 * k]!.slope, starts: this.memories[2 * k + 1]!.slope };
  }
}

const memoryOf = (values: Float32Array): Memory => ({
  values,
  slope: new Float32Array(values.length),
  mean: new Float32Array(values.length),
  square: new Float32Array(values.length),
});
