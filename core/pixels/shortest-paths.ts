import { floatsAt } from '../kernels/shared.ts';
import { superpixelKernel } from './superpixel-kernel.ts';

/** The steps of a graph, of each node one after another: where they lead to, and how long they are. */
export interface Steps {
  /** Of each node, and one more: where its steps begin. */
  start: Int32Array;
  to: Int32Array;
  step: Float32Array;
}

/** Least of the waiting nodes first: a binary heap over typed arrays, each entry a distance and a node. */
class Waiting {
  private readonly keys: Float32Array;
  private readonly nodes: Int32Array;
  private count = 0;
  /** The distance of what was taken last. */
  key = 0;

  constructor(most: number) {
    this.keys = new Float32Array(most);
    this.nodes = new Int32Array(most);
  }

  add(key: number, node: number): void {
    const { keys, nodes } = this;
    let i = this.count++;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (keys[up]! <= key) break;
      keys[i] = keys[up]!;
      nodes[i] = nodes[up]!;
      i = up;
    }
    keys[i] = key;
    nodes[i] = node;
  }

  /** The nearest node, or -1. */
  take(): number {
    if (this.count === 0) return -1;
    const { keys, nodes } = this;
    const node = nodes[0]!;
    this.key = keys[0]!;
    const n = --this.count;
    const [key, last] = [keys[n]!, nodes[n]!];
    let i = 0;
    for (let child = 1; child < n; child = 2 * i + 1) {
      if (child + 1 < n && keys[child + 1]! < keys[child]!) child++;
      if (keys[child]! >= key) break;
      keys[i] = keys[child]!;
      nodes[i] = nodes[child]!;
      i = child;
    }
    keys[i] = key;
    nodes[i] = last;
    return node;
  }
}

/**
 * How long the shortest way between any two nodes is (Dijkstra 1959), from every one of them.
 * @returns count x count; Infinity where it is longer than `farthest`
 */
export function shortestPaths(steps: Steps, farthest: number): Float32Array {
  const { start, to, step } = steps;
  const count = start.length - 1;
  const room = [8 * to.length + 8, 4 * count * count];
  const made = superpixelKernel.within([start, to, step, ...room], (kernel, starts, tos, lengths, heap, out) => {
    kernel.shortestPaths(starts, tos, lengths, count, to.length, farthest, heap, out);
    return floatsAt(kernel, out, count * count);
  });
  return made ?? plainPaths(steps, farthest);
}

function plainPaths({ start, to, step }: Steps, farthest: number): Float32Array {
  const count = start.length - 1;
  const out = new Float32Array(count * count).fill(Infinity);
  const waiting = new Waiting(to.length + 1);
  for (let from = 0; from < count; from++) {
    const row = from * count;
    out[row + from] = 0;
    waiting.add(0, from);
    for (let a = waiting.take(); a >= 0; a = waiting.take()) {
      const here = out[row + a]!;
      // A longer way to a node that was reached on a shorter one meanwhile.
      if (waiting.key > here) continue;
      for (let k = start[a]!; k < start[a + 1]!; k++) {
        const d = Math.fround(here + step[k]!);
        const other = row + to[k]!;
        if (d > farthest || d >= out[other]!) continue;
        out[other] = d;
        waiting.add(d, to[k]!);
      }
    }
  }
  return out;
}
