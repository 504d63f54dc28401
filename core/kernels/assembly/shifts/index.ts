import { DIRECTIONS, Flow, prepare, solve, SOURCE } from '../cut/flow';

export { reserve, freeFrom } from '../memory';

/* The expansion move of core/rebuild/expansion.ts: every pixel of a hole may keep its offset or take another one. */

/** Addresses of what is arranged, laid down by the caller in this order. */
@unmanaged
class Expansion {
  width: i32;
  /** How many pixels the hole has. */
  count: i32;
  /** How many offsets there are. */
  offsets: i32;
  /** How many pixels the picture has. */
  total: i32;
  /** The offset that is offered. */
  alpha: i32;
  /** Whether `base` counts. */
  biased: i32;
  /** Indices of the hole's pixels, i32. */
  pixels: usize;
  /** i32 a pixel of the picture: which of the hole's it is, or -1. */
  nodes: usize;
  /** i32 an offset: how much further on its source lies. */
  shift: usize;
  /** f32, five a pixel of the picture. */
  features: usize;
  /** f32: what each pixel's offsets cost by themselves, pixel after pixel. */
  unary: usize;
  /** f64 an offset, added to that. */
  base: usize;
  /** i16 a pixel of the hole: its offset. */
  label: usize;
  /** Room for an f64 a pixel of the hole. */
  change: usize;
  flow: Flow;
}

const FORBIDDEN: f64 = 1e5;
const DOWN: i32 = 0;
const RIGHT: i32 = 1;

// @ts-ignore: a decorator of the compiler
@inline
function number(at: usize, index: i32): i32 {
  return load<i32>(at + (<usize>index << 2));
}

// @ts-ignore: a decorator of the compiler
@inline
function labelOf(e: Expansion, k: i32): i32 {
  return <i32>load<i16>(e.label + (<usize>k << 1));
}

/** How unlike two offsets' sources of a pixel are; -1 where one of them leads out of the picture. */
function unlike(e: Expansion, p: i32, a: i32, b: i32): f64 {
  const pa = p + number(e.shift, a);
  const pb = p + number(e.shift, b);
  if (min(pa, pb) < 0 || max(pa, pb) >= e.total) return -1;
  const one = e.features + <usize>(pa * 20);
  const other = e.features + <usize>(pb * 20);
  let sum: f64 = 0;
  for (let c: usize = 0; c < 20; c += 4) {
    const gap = <f64>load<f32>(one + c) - <f64>load<f32>(other + c);
    sum += gap * gap;
  }
  return Math.sqrt(sum);
}

// @ts-ignore: a decorator of the compiler
@inline
function joined(p: f64, q: f64): f64 {
  return p < 0 || q < 0 ? FORBIDDEN : p + q;
}

// @ts-ignore: a decorator of the compiler
@inline
function seam(e: Expansion, p: i32, q: i32, a: i32, b: i32): f64 {
  return a == b ? 0 : joined(unlike(e, p, a, b), unlike(e, q, a, b));
}

// @ts-ignore: a decorator of the compiler
@inline
function alone(e: Expansion, k: i32, l: i32): f64 {
  const own = <f64>load<f32>(e.unary + (<usize>(k * e.offsets + l) << 2));
  return e.biased ? own + load<f64>(e.base + (<usize>l << 3)) : own;
}

// @ts-ignore: a decorator of the compiler
@inline
function addTerminal(flow: Flow, node: i32, more: f64): void {
  const at = flow.terminal + (<usize>node << 2);
  store<f32>(at, <f32>(<f64>load<f32>(at) + more));
}

// @ts-ignore: a decorator of the compiler
@inline
function changeOf(e: Expansion, k: i32): f64 {
  return load<f64>(e.change + (<usize>k << 3));
}

/** Ties a pixel to the one beside it: what it costs where only one of them changes. */
function tie(e: Expansion, k: i32, p: i32, q: i32, direction: i32): void {
  if (q >= e.total) return;
  const other = number(e.nodes, q);
  if (other < 0) return;
  const mine = labelOf(e, k);
  const theirs = labelOf(e, other);
  const same = mine == theirs;
  const keep = seam(e, p, q, mine, theirs);
  // Where neighbours have the same offset, which is nearly everywhere, both ways to change it cost the same.
  const second = same ? joined(changeOf(e, k), changeOf(e, other)) : seam(e, p, q, mine, e.alpha);
  const first = same ? second : seam(e, p, q, e.alpha, theirs);
  const flow = e.flow;
  addTerminal(flow, k, first - keep);
  addTerminal(flow, other, -first);
  const arc = k * DIRECTIONS + direction;
  const back = other * DIRECTIONS + 7 - direction;
  store<i32>(flow.neighbour + (<usize>arc << 2), other);
  store<i32>(flow.neighbour + (<usize>back << 2), k);
  store<f32>(flow.capacity + (<usize>arc << 2), <f32>max<f64>(0, second + first - keep));
}

/** One expansion move: the best such change is made. */
export function expand(at: usize): void {
  const e = changetype<Expansion>(at);
  const flow = e.flow;
  const count = e.count;
  const alpha = e.alpha;
  memory.fill(flow.terminal, 0, <usize>count << 2);
  prepare(flow, count);
  for (let k = 0; k < count; k++) {
    const mine = labelOf(e, k);
    const cost = mine == alpha ? 0 : unlike(e, number(e.pixels, k), mine, alpha);
    store<f64>(e.change + (<usize>k << 3), cost);
  }
  for (let k = 0; k < count; k++) {
    const p = number(e.pixels, k);
    // The sink's side stands for taking it.
    addTerminal(flow, k, alone(e, k, alpha) - alone(e, k, labelOf(e, k)));
    tie(e, k, p, p + 1, RIGHT);
    tie(e, k, p, p + e.width, DOWN);
  }
  solve(flow, count);
  for (let k = 0; k < count; k++)
    if (flow.sideOf(k) != SOURCE) store<i16>(e.label + (<usize>k << 1), <i16>alpha);
}
