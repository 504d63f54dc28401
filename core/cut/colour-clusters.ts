/** Numbers that are summed for a cluster: weight, three colours, six products. As many describe a component of a model. */
export const numbersEach = 10;

/** Colours a model is fitted to. */
export interface Samples {
  /** RGB bytes, three a sample. */
  colours: Float32Array;
  /** One a sample, above 0. */
  weights: Float32Array;
}

/** Samples that are gathered one after another. */
export class Gathered implements Samples {
  private readonly roomForColours: Float32Array;
  private readonly roomForWeights: Float32Array;
  private count = 0;

  /** @param most that will be added */
  constructor(most: number) {
    this.roomForColours = new Float32Array(most * 3);
    this.roomForWeights = new Float32Array(most);
  }

  get colours(): Float32Array {
    return this.roomForColours.subarray(0, this.count * 3);
  }

  get weights(): Float32Array {
    return this.roomForWeights.subarray(0, this.count);
  }

  get isEmpty(): boolean {
    return this.count === 0;
  }

  add(r: number, g: number, b: number, weight: number): void {
    const at = this.count * 3;
    this.roomForColours[at] = r;
    this.roomForColours[at + 1] = g;
    this.roomForColours[at + 2] = b;
    this.roomForWeights[this.count++] = weight;
  }
}

/** A point of a plane, and its direction. */
export type PlaneThrough = readonly [number, number, number, number, number, number];

/** Samples that are parted into clusters: at first all of them are of one. */
export interface ClusterWork {
  /** What is summed for each of so many clusters. */
  sums(clusters: number): Float64Array;
  /** Of the samples of one cluster those beyond a plane become another's. */
  split(from: number, to: number, plane: PlaneThrough): void;
  /** Each sample goes to the component that it is likeliest of. */
  assign(parameters: Float64Array): void;
}

/** The same without a kernel. */
export class PlainClusters implements ClusterWork {
  private readonly labels: Uint8Array;

  constructor(private readonly samples: Samples) {
    this.labels = new Uint8Array(samples.weights.length);
  }

  sums(clusters: number): Float64Array {
    const { colours, weights } = this.samples;
    const sums = new Float64Array(clusters * numbersEach);
    for (let i = 0; i < weights.length; i++) {
      const at = this.labels[i]! * numbersEach;
      const k = weights[i]!;
      const x = colours[i * 3]!;
      const y = colours[i * 3 + 1]!;
      const z = colours[i * 3 + 2]!;
      const own = [k, k * x, k * y, k * z, k * x * x, k * x * y, k * x * z, k * y * y, k * y * z, k * z * z];
      for (let n = 0; n < numbersEach; n++) sums[at + n]! += own[n]!;
    }
    return sums;
  }

  split(from: number, to: number, [mx, my, mz, ax, ay, az]: PlaneThrough): void {
    const { labels } = this;
    const { colours } = this.samples;
    for (let i = 0; i < labels.length; i++) {
      if (labels[i] !== from) continue;
      const side = (colours[i * 3]! - mx) * ax + (colours[i * 3 + 1]! - my) * ay + (colours[i * 3 + 2]! - mz) * az;
      if (side > 0) labels[i] = to;
    }
  }

  assign(parameters: Float64Array): void {
    const { colours } = this.samples;
    for (let i = 0; i < this.labels.length; i++) {
      let best = -Infinity;
      for (let at = 0; at < parameters.length; at += numbersEach) {
        const v = componentLog(parameters, at, colours[i * 3]!, colours[i * 3 + 1]!, colours[i * 3 + 2]!);
        if (v <= best) continue;
        best = v;
        this.labels[i] = at / numbersEach;
      }
    }
  }
}

/** How likely a colour is of the component whose parameters begin at a place: a logarithm, up to a constant. */
export function componentLog(p: Float64Array, at: number, r: number, g: number, b: number): number {
  const x = r - p[at]!;
  const y = g - p[at + 1]!;
  const z = b - p[at + 2]!;
  return (
    p[at + 9]! -
    0.5 *
      (x * (p[at + 3]! * x + 2 * (p[at + 4]! * y + p[at + 5]! * z)) +
        y * (p[at + 6]! * y + 2 * p[at + 7]! * z) +
        z * z * p[at + 8]!)
  );
}
