/**
 * Minimum s-t cut by augmenting paths with two search trees that are kept between augmentations.
 * Boykov & Kolmogorov 2004, "An Experimental Comparison of Min-Cut/Max-Flow Algorithms for Energy Minimization in Vision".
 *
 * Nodes are 0..n-1; every node has a signed terminal capacity (above 0: from the source, below 0: to the sink).
 * Build with addEdge, then call solve once; inSource tells the side of each node.
 */
export class MaxFlow {
  private readonly terminal: Float32Array;
  private readonly first: Int32Array;
  private readonly next: Int32Array;
  private readonly head: Int32Array;
  private readonly capacity: Float32Array;
  private arcs = 0;

  private readonly tree: Int8Array;
  private readonly parent: Int32Array;
  private readonly stamp: Int32Array;
  private readonly distance: Int32Array;
  private readonly queue: Int32Array;
  private readonly queued: Uint8Array;
  private queueHead = 0;
  private queueLength = 0;
  private orphans: number[] = [];
  private time = 0;

  /** @param nodes number of nodes  @param edges upper bound of addEdge calls */
  constructor(
    private readonly nodes: number,
    edges: number,
  ) {
    this.terminal = new Float32Array(nodes);
    this.first = new Int32Array(nodes).fill(-1);
    this.next = new Int32Array(edges * 2);
    this.head = new Int32Array(edges * 2);
    this.capacity = new Float32Array(edges * 2);
    this.tree = new Int8Array(nodes);
    this.parent = new Int32Array(nodes).fill(NONE);
    this.stamp = new Int32Array(nodes);
    this.distance = new Int32Array(nodes);
    this.queue = new Int32Array(nodes);
    this.queued = new Uint8Array(nodes);
  }

  /** Adds to the terminal capacity: `source` is the cost of ending on the sink side, `sink` of ending on the source side. */
  addTerminal(node: number, source: number, sink: number): void {
    this.terminal[node] = this.terminal[node]! + source - sink;
  }

  /** Adds an edge with a capacity of 0 or more; `back` is the capacity from b to a. */
  addEdge(a: number, b: number, capacity: number, back = capacity): void {
    this.addArc(a, b, capacity);
    this.addArc(b, a, back);
  }

  private addArc(from: number, to: number, capacity: number): void {
    const arc = this.arcs++;
    this.head[arc] = to;
    this.capacity[arc] = capacity;
    this.next[arc] = this.first[from]!;
    this.first[from] = arc;
  }

  /** Finds the minimum cut. Returns the flow through edges and terminals beyond what cancelled at the nodes themselves. */
  solve(): number {
    let flow = 0;
    for (let i = 0; i < this.nodes; i++) {
      const t = this.terminal[i]!;
      if (t === 0) continue;
      this.tree[i] = t > 0 ? SOURCE : SINK;
      this.parent[i] = TERMINAL;
      this.distance[i] = 1;
      this.activate(i);
    }
    for (let current = -1; ;) {
      let node = current;
      if (node < 0 || this.parent[node] === NONE) node = this.nextActive();
      if (node < 0) return flow;
      const arc = this.grow(node);
      this.time++;
      if (arc < 0) {
        current = -1;
        continue;
      }
      current = node;
      flow += this.augment(arc);
      while (this.orphans.length > 0) this.adopt(this.orphans.pop()!);
    }
  }

  /** After solve: whether the node is on the source side of the cut. */
  inSource(node: number): boolean {
    return this.tree[node] === SOURCE && this.parent[node] !== NONE;
  }

  private activate(node: number): void {
    if (this.queued[node]) return;
    this.queued[node] = 1;
    this.queue[(this.queueHead + this.queueLength++) % this.nodes] = node;
  }

  private nextActive(): number {
    while (this.queueLength > 0) {
      const node = this.queue[this.queueHead]!;
      this.queueHead = (this.queueHead + 1) % this.nodes;
      this.queueLength--;
      this.queued[node] = 0;
      if (this.parent[node] !== NONE) return node;
    }
    return -1;
  }

  /** Grows the tree of `node`; returns an arc from the source tree to the sink tree, or -1. */
  private grow(node: number): number {
    const { next, head, capacity, tree, parent, stamp, distance } = this;
    const mine = tree[node]!;
    for (let arc = this.first[node]!; arc >= 0; arc = next[arc]!) {
      if ((mine === SOURCE ? capacity[arc]! : capacity[arc ^ 1]!) <= 0) continue;
      const other = head[arc]!;
      if (parent[other] === NONE) {
        tree[other] = mine;
        parent[other] = arc ^ 1;
        stamp[other] = stamp[node]!;
        distance[other] = distance[node]! + 1;
        this.activate(other);
      } else if (tree[other] !== mine) {
        return mine === SOURCE ? arc : arc ^ 1;
      } else if (stamp[other]! <= stamp[node]! && distance[other]! > distance[node]!) {
        parent[other] = arc ^ 1;
        stamp[other] = stamp[node]!;
        distance[other] = distance[node]! + 1;
      }
    }
    return -1;
  }

  private augment(middle: number): number {
    const { head, capacity, parent, terminal } = this;
    let bottleneck = capacity[middle]!;
    let node = head[middle ^ 1]!;
    for (let arc = parent[node]!; arc !== TERMINAL; arc = parent[node]!) {
      bottleneck = Math.min(bottleneck, capacity[arc ^ 1]!);
      node = head[arc]!;
    }
    bottleneck = Math.min(bottleneck, terminal[node]!);
    node = head[middle]!;
    for (let arc = parent[node]!; arc !== TERMINAL; arc = parent[node]!) {
      bottleneck = Math.min(bottleneck, capacity[arc]!);
      node = head[arc]!;
    }
    bottleneck = Math.min(bottleneck, -terminal[node]!);

    capacity[middle] = capacity[middle]! - bottleneck;
    capacity[middle ^ 1] = capacity[middle ^ 1]! + bottleneck;
    node = head[middle ^ 1]!;
    for (let arc = parent[node]!; arc !== TERMINAL; arc = parent[node]!) {
      const up = head[arc]!;
      capacity[arc] = capacity[arc]! + bottleneck;
      capacity[arc ^ 1] = capacity[arc ^ 1]! - bottleneck;
      if (capacity[arc ^ 1]! <= 0) this.orphan(node);
      node = up;
    }
    terminal[node] = terminal[node]! - bottleneck;
    if (terminal[node]! <= 0) this.orphan(node);
    node = head[middle]!;
    for (let arc = parent[node]!; arc !== TERMINAL; arc = parent[node]!) {
      const up = head[arc]!;
      capacity[arc ^ 1] = capacity[arc ^ 1]! + bottleneck;
      capacity[arc] = capacity[arc]! - bottleneck;
      if (capacity[arc]! <= 0) this.orphan(node);
      node = up;
    }
    terminal[node] = terminal[node]! + bottleneck;
    if (terminal[node]! >= 0) this.orphan(node);
    return bottleneck;
  }

  private orphan(node: number): void {
    this.parent[node] = ORPHAN;
    this.orphans.push(node);
  }

  /** Distance of `node` to its terminal, or -1 when its path ends at an orphan. Marks the path with the current time. */
  private originDistance(node: number): number {
    const { parent, head, stamp, distance } = this;
    let steps = 0;
    let j = node;
    for (;;) {
      if (stamp[j] === this.time) {
        steps += distance[j]!;
        break;
      }
      const arc = parent[j]!;
      steps++;
      if (arc === TERMINAL) {
        stamp[j] = this.time;
        distance[j] = 1;
        break;
      }
      if (arc === ORPHAN || arc === NONE) return -1;
      j = head[arc]!;
    }
    const total = steps;
    for (j = node; stamp[j] !== this.time; j = head[parent[j]!]!) {
      stamp[j] = this.time;
      distance[j] = steps--;
    }
    return total;
  }

  private adopt(node: number): void {
    const { next, head, capacity, tree, parent } = this;
    const mine = tree[node]!;
    let best = -1;
    let bestDistance = Infinity;
    for (let arc = this.first[node]!; arc >= 0; arc = next[arc]!) {
      if ((mine === SOURCE ? capacity[arc ^ 1]! : capacity[arc]!) <= 0) continue;
      const other = head[arc]!;
      if (tree[other] !== mine || parent[other] === NONE || parent[other] === ORPHAN) continue;
      const d = this.originDistance(other);
      if (d >= 0 && d < bestDistance) {
        best = arc;
        bestDistance = d;
      }
    }
    if (best >= 0) {
      parent[node] = best;
      this.stamp[node] = this.time;
      this.distance[node] = bestDistance + 1;
      return;
    }
    parent[node] = NONE;
    for (let arc = this.first[node]!; arc >= 0; arc = next[arc]!) {
      const other = head[arc]!;
      if (tree[other] !== mine || parent[other] === NONE) continue;
      if ((mine === SOURCE ? capacity[arc ^ 1]! : capacity[arc]!) > 0) this.activate(other);
      const up = parent[other]!;
      if (up >= 0 && head[up] === node) this.orphan(other);
    }
    tree[node] = 0;
  }
}

const SOURCE = 1;
const SINK = 2;
/** Parent marks below zero; other values are the arc towards the parent. */
const NONE = -1;
const TERMINAL = -2;
const ORPHAN = -3;
