import { MaxFlow } from '../cut/max-flow.ts';

/** Numbers that describe a pixel, to be compared with another's. */
export const channels = 5;
/** Cost of an offset that leaves the known picture. */
export const forbidden = 1e5;

/** What offsets of a hole's pixels cost: what each costs by itself, and where two neighbours' offsets differ. */
export interface Arrangement {
  /** The hole's pixels, as indices into the picture. */
  pixels: Int32Array;
  /** For each pixel of the picture which of those it is, or -1. */
  node: Int32Array;
  width: number;
  /** Of each offset: how much further on its source lies. */
  shift: Int32Array;
  /** Colour and gradient of every pixel of the picture. */
  features: Float32Array;
  /** What each pixel's offsets cost by themselves, pixel after pixel. */
  unary: Float32Array;
}

/** Moves from one arrangement to a cheaper one. */
export interface Expander {
  /**
   * Every pixel may keep its offset or take `alpha`: the best such change is made.
   * @param label the offset of each pixel, which is changed  @param base added to the cost of each offset everywhere, if anything
   */
  expand(label: Int16Array, alpha: number, base: readonly number[] | null): void;
}

/** How unlike two pixels are: a metric, so that every expansion can be solved exactly. */
export function difference(features: Float32Array, a: number, b: number): number {
  let sum = 0;
  for (let c = 0; c < channels; c++) {
    const gap = features[a * channels + c]! - features[b * channels + c]!;
    sum += gap * gap;
  }
  return Math.sqrt(sum);
}

/** How unlike two offsets' sources of a pixel are; -1 where one of them leads out of the picture. */
function unlike({ shift, features, node }: Arrangement, p: number, a: number, b: number): number {
  const [pa, pb] = [p + shift[a]!, p + shift[b]!];
  if (Math.min(pa, pb) < 0 || Math.max(pa, pb) >= node.length) return -1;
  return difference(features, pa, pb);
}

/** What a seam costs between neighbours of which each is that unlike at both offsets. */
const joinedCost = (p: number, q: number): number => (p < 0 || q < 0 ? forbidden : p + q);

/** The same for neighbours p and q with offsets a and b. */
const seamCost = (arrangement: Arrangement, p: number, q: number, a: number, b: number): number =>
  a === b ? 0 : joinedCost(unlike(arrangement, p, a, b), unlike(arrangement, q, a, b));

/** What the offsets of all pixels cost together. */
export function costOfAll(arrangement: Arrangement, label: Int16Array): number {
  const { pixels, node, width, unary, shift } = arrangement;
  let sum = 0;
  for (let k = 0; k < pixels.length; k++) {
    const p = pixels[k]!;
    sum += unary[k * shift.length + label[k]!]!;
    for (const q of [p + 1, p + width])
      if (node[q]! >= 0) sum += seamCost(arrangement, p, q, label[k]!, label[node[q]!]!);
  }
  return sum;
}

/** Expansion moves (Boykov, Veksler & Zabih 2001), each by a minimum cut. */
export class PlainExpander implements Expander {
  constructor(private readonly arrangement: Arrangement) {}

  expand(label: Int16Array, alpha: number, base: readonly number[] | null): void {
    const { arrangement } = this;
    const { pixels, node, width, unary, shift } = arrangement;
    const graph = new MaxFlow(pixels.length, pixels.length * 2);
    const alone = (k: number, l: number): number => unary[k * shift.length + l]! + (base ? base[l]! : 0);
    // Where neighbours have the same offset, which is nearly everywhere, both ways to change it cost the same.
    const change = Float64Array.from(pixels, (p, k) =>
      label[k] === alpha ? 0 : unlike(arrangement, p, label[k]!, alpha),
    );
    for (let k = 0; k < pixels.length; k++) {
      const p = pixels[k]!;
      const mine = label[k]!;
      // x = 1 (the sink side) stands for taking alpha.
      graph.addTerminal(k, alone(k, alpha) - alone(k, mine), 0);
      for (const q of [p + 1, p + width]) {
        const other = node[q] ?? -1;
        if (other < 0) continue;
        const theirs = label[other]!;
        const same = mine === theirs;
        const keep = seamCost(arrangement, p, q, mine, theirs);
        const second = same ? joinedCost(change[k]!, change[other]!) : seamCost(arrangement, p, q, mine, alpha);
        const first = same ? second : seamCost(arrangement, p, q, alpha, theirs);
        graph.addTerminal(k, first - keep, 0);
        graph.addTerminal(other, -first, 0);
        graph.addEdge(k, other, Math.max(0, second + first - keep), 0);
      }
    }
    graph.solve();
    for (let k = 0; k < pixels.length; k++) if (!graph.inSource(k)) label[k] = alpha;
  }
}
