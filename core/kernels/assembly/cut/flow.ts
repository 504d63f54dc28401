/*
 * Minimum s-t cut by augmenting paths with two search trees, as in core/cut/max-flow.ts (Boykov & Kolmogorov 2004), for graphs
 * whose nodes have up to eight neighbours. Arcs are numbered node * 8 + direction; the way back of a direction is 7 less it.
 */

export const DIRECTIONS: i32 = 8;
export const SOURCE: i32 = 1;
const SINK: i32 = 2;

/** Marks of a parent; other values are the arc towards it. */
const NONE: i32 = -1;
const TERMINAL: i32 = -2;
const ORPHAN: i32 = -3;

/** Addresses, laid down by the caller in this order. f32: terminal, capacity (8 a node). i32: all others, but trees and queued (bytes). */
@unmanaged
export class Flow {
  terminal: usize;
  capacity: usize;
  neighbour: usize;
  parent: usize;
  stamp: usize;
  distance: usize;
  queue: usize;
  orphans: usize;
  tree: usize;
  queued: usize;

  // @ts-ignore: a decorator of the compiler
  @inline
  treeOf(node: i32): i32 {
    return <i32>load<u8>(this.tree + node);
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  parentOf(node: i32): i32 {
    return load<i32>(this.parent + (<usize>node << 2));
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  setParent(node: i32, parent: i32): void {
    store<i32>(this.parent + (<usize>node << 2), parent);
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  stampOf(node: i32): i32 {
    return load<i32>(this.stamp + (<usize>node << 2));
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  distanceOf(node: i32): i32 {
    return load<i32>(this.distance + (<usize>node << 2));
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  place(node: i32, stamp: i32, distance: i32): void {
    store<i32>(this.stamp + (<usize>node << 2), stamp);
    store<i32>(this.distance + (<usize>node << 2), distance);
  }

  /** Where an arc leads to, or -1. */
  // @ts-ignore: a decorator of the compiler
  @inline
  headOf(arc: i32): i32 {
    return load<i32>(this.neighbour + (<usize>arc << 2));
  }

  /** The same arc, the other way. */
  // @ts-ignore: a decorator of the compiler
  @inline
  backOf(arc: i32): i32 {
    return (this.headOf(arc) << 3) | (7 - (arc & 7));
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  capacityOf(arc: i32): f32 {
    return load<f32>(this.capacity + (<usize>arc << 2));
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  addCapacity(arc: i32, more: f32): f32 {
    const sum = this.capacityOf(arc) + more;
    store<f32>(this.capacity + (<usize>arc << 2), sum);
    return sum;
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  terminalOf(node: i32): f32 {
    return load<f32>(this.terminal + (<usize>node << 2));
  }

  // @ts-ignore: a decorator of the compiler
  @inline
  addTerminal(node: i32, more: f32): f32 {
    const sum = this.terminalOf(node) + more;
    store<f32>(this.terminal + (<usize>node << 2), sum);
    return sum;
  }

  /** After solve: the tree a node hangs in, 0 for none. */
  sideOf(node: i32): i32 {
    return this.parentOf(node) == NONE ? 0 : this.treeOf(node);
  }
}

let nodes: i32 = 0;
let queueHead: i32 = 0;
let queueLength: i32 = 0;
let orphanCount: i32 = 0;
let time: i32 = 0;

/** Forgets what lay here before; terminals stay. */
export function prepare(flow: Flow, count: i32): void {
  const size = <usize>count;
  memory.fill(flow.capacity, 0, size << 5);
  memory.fill(flow.neighbour, 0xff, size << 5);
  memory.fill(flow.parent, 0xff, size << 2);
  memory.fill(flow.stamp, 0, size << 2);
  memory.fill(flow.distance, 0, size << 2);
  memory.fill(flow.tree, 0, size);
  memory.fill(flow.queued, 0, size);
  nodes = count;
  queueHead = 0;
  queueLength = 0;
  orphanCount = 0;
  time = 0;
}

function activate(flow: Flow, node: i32): void {
  if (load<u8>(flow.queued + node)) return;
  store<u8>(flow.queued + node, 1);
  let at = queueHead + queueLength++;
  if (at >= nodes) at -= nodes;
  store<i32>(flow.queue + (<usize>at << 2), node);
}

function nextActive(flow: Flow): i32 {
  while (queueLength > 0) {
    const node = load<i32>(flow.queue + (<usize>queueHead << 2));
    if (++queueHead == nodes) queueHead = 0;
    queueLength--;
    store<u8>(flow.queued + node, 0);
    if (flow.parentOf(node) != NONE) return node;
  }
  return -1;
}

/** Finds the minimum cut. */
export function solve(flow: Flow, count: i32): void {
  for (let i = 0; i < count; i++) {
    const terminal = flow.terminalOf(i);
    if (terminal == 0) continue;
    store<u8>(flow.tree + i, terminal > 0 ? SOURCE : SINK);
    flow.setParent(i, TERMINAL);
    flow.place(i, 0, 1);
    activate(flow, i);
  }
  let current: i32 = -1;
  while (true) {
    let node = current;
    if (node < 0 || flow.parentOf(node) == NONE) node = nextActive(flow);
    if (node < 0) return;
    const arc = grow(flow, node);
    time++;
    if (arc < 0) {
      current = -1;
      continue;
    }
    current = node;
    augment(flow, arc);
    while (orphanCount > 0) {
      orphanCount--;
      adopt(flow, load<i32>(flow.orphans + (<usize>orphanCount << 2)));
    }
  }
}

/** Grows the tree of `node`; returns an arc from the source tree to the sink tree, or -1. */
function grow(flow: Flow, node: i32): i32 {
  const mine = flow.treeOf(node);
  const first = node << 3;
  for (let arc = first; arc < first + 8; arc++) {
    const other = flow.headOf(arc);
    if (other < 0) continue;
    const back = (other << 3) | (7 - (arc & 7));
    if (flow.capacityOf(mine == SOURCE ? arc : back) <= 0) continue;
    if (flow.parentOf(other) == NONE) {
      store<u8>(flow.tree + other, mine);
      flow.setParent(other, back);
      flow.place(other, flow.stampOf(node), flow.distanceOf(node) + 1);
      activate(flow, other);
    } else if (flow.treeOf(other) != mine) {
      return mine == SOURCE ? arc : back;
    } else if (flow.stampOf(other) <= flow.stampOf(node) && flow.distanceOf(other) > flow.distanceOf(node)) {
      flow.setParent(other, back);
      flow.place(other, flow.stampOf(node), flow.distanceOf(node) + 1);
    }
  }
  return -1;
}

/** Sends what it can carry along the path through an arc from the source tree to the sink tree. */
function augment(flow: Flow, middle: i32): void {
  const inSink = flow.headOf(middle);
  const inSource = middle >> 3;
  let bottleneck = flow.capacityOf(middle);
  let node = inSource;
  for (let arc = flow.parentOf(node); arc != TERMINAL; arc = flow.parentOf(node)) {
    bottleneck = min<f32>(bottleneck, flow.capacityOf(flow.backOf(arc)));
    node = flow.headOf(arc);
  }
  bottleneck = min<f32>(bottleneck, flow.terminalOf(node));
  node = inSink;
  for (let arc = flow.parentOf(node); arc != TERMINAL; arc = flow.parentOf(node)) {
    bottleneck = min<f32>(bottleneck, flow.capacityOf(arc));
    node = flow.headOf(arc);
  }
  bottleneck = min<f32>(bottleneck, -flow.terminalOf(node));

  flow.addCapacity(middle, -bottleneck);
  flow.addCapacity(flow.backOf(middle), bottleneck);
  node = inSource;
  for (let arc = flow.parentOf(node); arc != TERMINAL; arc = flow.parentOf(node)) {
    const up = flow.headOf(arc);
    flow.addCapacity(arc, bottleneck);
    if (flow.addCapacity(flow.backOf(arc), -bottleneck) <= 0) orphan(flow, node);
    node = up;
  }
  if (flow.addTerminal(node, -bottleneck) <= 0) orphan(flow, node);
  node = inSink;
  for (let arc = flow.parentOf(node); arc != TERMINAL; arc = flow.parentOf(node)) {
    const up = flow.headOf(arc);
    flow.addCapacity(flow.backOf(arc), bottleneck);
    if (flow.addCapacity(arc, -bottleneck) <= 0) orphan(flow, node);
    node = up;
  }
  if (flow.addTerminal(node, bottleneck) >= 0) orphan(flow, node);
}

function orphan(flow: Flow, node: i32): void {
  flow.setParent(node, ORPHAN);
  store<i32>(flow.orphans + (<usize>orphanCount << 2), node);
  orphanCount++;
}

/** Distance of `node` to its terminal, or -1 when its path ends at an orphan. Marks the path with the current time. */
function originDistance(flow: Flow, node: i32): i32 {
  let steps: i32 = 0;
  let j = node;
  while (true) {
    if (flow.stampOf(j) == time) {
      steps += flow.distanceOf(j);
      break;
    }
    const arc = flow.parentOf(j);
    steps++;
    if (arc == TERMINAL) {
      flow.place(j, time, 1);
      break;
    }
    if (arc < 0) return -1;
    j = flow.headOf(arc);
  }
  const total = steps;
  for (j = node; flow.stampOf(j) != time; j = flow.headOf(flow.parentOf(j))) flow.place(j, time, steps--);
  return total;
}

/** Finds a new parent for a node that lost its own, or sets it free. */
function adopt(flow: Flow, node: i32): void {
  const mine = flow.treeOf(node);
  const first = node << 3;
  let best: i32 = -1;
  let bestDistance: i32 = i32.MAX_VALUE;
  for (let arc = first; arc < first + 8; arc++) {
    const other = flow.headOf(arc);
    if (other < 0 || flow.treeOf(other) != mine) continue;
    const parent = flow.parentOf(other);
    if (parent == NONE || parent == ORPHAN) continue;
    const back = (other << 3) | (7 - (arc & 7));
    if (flow.capacityOf(mine == SOURCE ? back : arc) <= 0) continue;
    const d = originDistance(flow, other);
    if (d >= 0 && d < bestDistance) {
      best = arc;
      bestDistance = d;
    }
  }
  if (best >= 0) {
    flow.setParent(node, best);
    flow.place(node, time, bestDistance + 1);
    return;
  }
  flow.setParent(node, NONE);
  for (let arc = first; arc < first + 8; arc++) {
    const other = flow.headOf(arc);
    if (other < 0 || flow.treeOf(other) != mine) continue;
    const parent = flow.parentOf(other);
    if (parent == NONE) continue;
    const back = (other << 3) | (7 - (arc & 7));
    if (flow.capacityOf(mine == SOURCE ? back : arc) > 0) activate(flow, other);
    if (parent >= 0 && flow.headOf(parent) == node) orphan(flow, other);
  }
  store<u8>(flow.tree + node, 0);
}
