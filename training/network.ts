import { networkCode } from '../core/kernels/built/network.ts';
import { Layout } from '../core/kernels/instance.ts';
import type { NetworkKernel } from '../core/learned/network.ts';
import { seededRandom } from '../core/pixels/random.ts';

/** Numbers in the kernel's memory: where they lie there, and themselves. */
interface Numbers {
  at: number;
  values: Float32Array;
}

/** What is learned, and what Adam remembers of it. */
interface Learned extends Numbers {
  slopes: Numbers;
  mean: Float32Array;
  square: Float32Array;
}

interface Layer {
  ins: number;
  /** Neurons, rounded up to whole vectors of the kernel: those that were added tell nothing and learn nothing. */
  outs: number;
  /** A row for each input. */
  weights: Learned;
  starts: Learned;
  told: Numbers;
  /** Of the loss by what was told. */
  slopes: Numbers;
}

const [meanKept, squareKept] = [0.9, 0.999];
const wholeVectors = (neurons: number): number => Math.ceil(neurons / 8) * 8;

/**
 * A small network of rectified sums that learns by gradients (Rumelhart, Hinton & Williams 1986; Adam, Kingma & Ba 2015), many
 * samples at a time.
 */
export class TrainedNetwork {
  private readonly kernel = networkCode.instance<NetworkKernel>();
  private readonly layers: Layer[];
  private readonly inputs: Numbers;
  private readonly nothing: Numbers;
  /** Room for a matrix with its rows and columns swapped. */
  private readonly swapped: Numbers;
  private steps = 0;

  /**
   * @param sizes neurons of each layer, inputs first  @param batch samples at a time
   */
  constructor(
    readonly sizes: readonly number[],
    readonly batch: number,
    seed: number,
  ) {
    const shapes = sizes.slice(1).map((outs, k) => ({
      ins: k > 0 ? wholeVectors(sizes[k]!) : sizes[0]!,
      outs: wholeVectors(outs),
    }));
    const widest = Math.max(...shapes.flatMap(({ ins, outs }) => [ins, outs]));
    const lists = this.lists([
      ...[batch * sizes[0]!, widest, widest * Math.max(batch, widest)],
      ...shapes.flatMap(({ ins, outs }) => [ins * outs, ins * outs, outs, outs, batch * outs, batch * outs]),
    ]);
    [this.inputs, this.nothing, this.swapped] = [lists[0]!, lists[1]!, lists[2]!];
    this.layers = shapes.map((shape, k) => {
      const [weights, ofWeights, starts, ofStarts, told, slopes] = lists.slice(3 + 6 * k);
      return {
        ...shape,
        ...{ weights: learned(weights!, ofWeights!), starts: learned(starts!, ofStarts!) },
        ...{ told: told!, slopes: slopes! },
      };
    });
    this.begin(seededRandom(seed));
  }

  private lists(counts: readonly number[]): Numbers[] {
    const layout = new Layout(this.kernel);
    const places = counts.map((count) => layout.take(count * 4));
    layout.reserve();
    return places.map((at, k) => ({ at, values: new Float32Array(this.kernel.memory.buffer, at, counts[k]) }));
  }

  private begin(random: () => number): void {
    for (const [k, { ins, outs, weights }] of this.layers.entries()) {
      // He et al. 2015; what is told at last begins near nothing.
      const spread = (k + 1 === this.layers.length ? 0.3 : 1) * Math.sqrt(2 / this.sizes[k]!) * 2;
      for (let i = 0; i < Math.min(ins, this.sizes[k]!); i++)
        for (let j = 0; j < this.sizes[k + 1]!; j++)
          weights.values[i * outs + j] = spread * (random() + random() + random() - 1.5);
    }
  }

  /** Sums of products of rows of `from` and columns of `by`, with a start for each column. */
  private multiply(
    from: Numbers,
    by: Numbers,
    start: Numbers,
    to: Numbers,
    rows: number,
    ins: number,
    outs: number,
  ): void {
    this.kernel.convolve(from.at, by.at, start.at, to.at, 1, rows, ins, outs, 1, 1, 0, 0, 1, rows);
  }

  private swap({ values }: Numbers, rows: number, columns: number): Numbers {
    const out = this.swapped.values;
    for (let i = 0, o = 0; i < rows; i++) for (let j = 0; j < columns; j++, o++) out[j * rows + i] = values[o]!;
    return this.swapped;
  }

  /**
   * @param inputs of a whole batch, sample after sample
   * @returns what the last layer tells of each
   */
  answer(inputs: Float32Array): Float32Array {
    this.inputs.values.set(inputs);
    let from = this.inputs;
    for (const [k, { ins, outs, weights, starts, told }] of this.layers.entries()) {
      this.multiply(from, weights, starts, told, this.batch, ins, outs);
      const { values } = told;
      if (k + 1 < this.layers.length) for (let i = 0; i < values.length; i++) if (values[i]! < 0) values[i] = 0;
      from = told;
    }
    return this.told();
  }

  private told(): Float32Array {
    const { outs, told } = this.layers.at(-1)!;
    const count = this.sizes.at(-1)!;
    return Float32Array.from(
      { length: this.batch * count },
      (_, i) => told.values[Math.floor(i / count) * outs + (i % count)]!,
    );
  }

  /** Finds what the last answer's loss owes to every weight. @param slopes of the loss by what was told */
  learn(slopes: ArrayLike<number>): void {
    const last = this.layers.at(-1)!;
    const count = this.sizes.at(-1)!;
    for (let i = 0; i < slopes.length; i++)
      last.slopes.values[Math.floor(i / count) * last.outs + (i % count)] = slopes[i]!;
    for (let k = this.layers.length - 1; k >= 0; k--) {
      const layer = this.layers[k]!;
      const { ins, outs } = layer;
      const before = this.layers[k - 1];
      sumRows(layer.slopes.values, outs, layer.starts.slopes.values);
      const from = this.swap(before?.told ?? this.inputs, this.batch, ins);
      this.multiply(from, layer.slopes, this.nothing, layer.weights.slopes, ins, this.batch, outs);
      if (!before) return;
      const back = this.swap(layer.weights, ins, outs);
      this.multiply(layer.slopes, back, this.nothing, before.slopes, this.batch, outs, ins);
      for (let i = 0; i < before.told.values.length; i++) if (before.told.values[i] === 0) before.slopes.values[i] = 0;
    }
  }

  /** Takes one step against the slopes that were found. */
  step(rate: number): void {
    this.steps++;
    const [ofMean, ofSquare] = [1 - meanKept ** this.steps, 1 - squareKept ** this.steps];
    for (const { weights, starts } of this.layers) {
      for (const { values, slopes, mean, square } of [weights, starts]) {
        for (let i = 0; i < values.length; i++) {
          const g = slopes.values[i]! / this.batch;
          mean[i] = meanKept * mean[i]! + (1 - meanKept) * g;
          square[i] = squareKept * square[i]! + (1 - squareKept) * g * g;
          values[i] = values[i]! - (rate * (mean[i]! / ofMean)) / (Math.sqrt(square[i]! / ofSquare) + 1e-8);
        }
      }
    }
  }

  /** Each weight of a layer, a row for each neuron, by its place among those that `part` gives. */
  placesOf(k: number): { part: 'weights' | 'starts'; place: number }[] {
    const { outs } = this.layers[k]!;
    const neurons = Array.from({ length: this.sizes[k + 1]! }, (_, j) => j);
    return [
      ...neurons.flatMap((j) =>
        Array.from({ length: this.sizes[k]! }, (_, i) => ({ part: 'weights' as const, place: i * outs + j })),
      ),
      ...neurons.map((j) => ({ part: 'starts' as const, place: j })),
    ];
  }

  /** What is learned in a layer, and what the last batch owes to it, to be read by `placesOf`. */
  part(k: number, part: 'weights' | 'starts'): { values: Float32Array; slopes: Float32Array } {
    const { values, slopes } = this.layers[k]![part];
    return { values, slopes: slopes.values };
  }
}

const learned = (numbers: Numbers, slopes: Numbers): Learned => ({
  ...numbers,
  slopes,
  mean: new Float32Array(numbers.values.length),
  square: new Float32Array(numbers.values.length),
});

function sumRows(values: Float32Array, columns: number, to: Float32Array): void {
  to.fill(0);
  for (let i = 0, j = 0; i < values.length; i++, j = j + 1 === columns ? 0 : j + 1) to[j] = to[j]! + values[i]!;
}
