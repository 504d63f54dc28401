import { DIRECTIONS, Flow, prepare, solve, SOURCE } from './flow';

/* The minimum cut of core/cut/graph-cut.ts: pixels to decide are nodes, each tied to its eight neighbours. */

/** Addresses of what a cut is made from, and of room to work in, laid down by the caller in this order. */
@unmanaged
class Cut {
  width: i32;
  height: i32;
  /** How many pixels are to be decided. */
  count: i32;
  /** How many steps of the fading table a squared difference of colour takes. */
  steps: f64;
  smoothness: f64;
  /** Four bytes a pixel. */
  rgba: usize;
  /** One byte a pixel, 0 or 1: of pixels that are not decided, the side they are on; written for those that are. */
  mask: usize;
  /** Indices of the pixels to decide, i32. */
  active: usize;
  /** Room for an i32 a pixel. */
  nodes: usize;
  /** f32: share of the smoothness between colours so many steps apart. */
  fading: usize;
  /** Where the graph lies; its terminals are given. */
  flow: Flow;
}

const fadingSteps: f64 = 1024;

/** Difference of colour of two pixels as a bond, before smoothness. */
// @ts-ignore: a decorator of the compiler
@inline
function alike(cut: Cut, p: usize, q: usize): f64 {
  const r = <i32>load<u8>(p) - <i32>load<u8>(q);
  const g = <i32>load<u8>(p, 1) - <i32>load<u8>(q, 1);
  const b = <i32>load<u8>(p, 2) - <i32>load<u8>(q, 2);
  const at = <f64>(r * r + g * g + b * b) * cut.steps;
  const fades = at < fadingSteps ? <f64>load<f32>(cut.fading + (<usize>at << 2)) : 0;
  return 0.04 + fades;
}

/** Ties a node to one of its neighbours: an edge where that is a node too, else a pull towards the side it is on. */
// @ts-ignore: a decorator of the compiler
@inline
function tie(cut: Cut, k: i32, i: i32, x: i32, y: i32, direction: i32, dx: i32, dy: i32): void {
  const u = x + dx;
  const v = y + dy;
  if (u < 0 || v < 0 || u >= cut.width || v >= cut.height) return;
  const j = v * cut.width + u;
  const other = load<i32>(cut.nodes + (<usize>j << 2));
  // An edge is laid down once, from the node above or to the left of the other.
  if (other >= 0 && direction > 3) return;
  const share = alike(cut, cut.rgba + (<usize>i << 2), cut.rgba + (<usize>j << 2));
  const weight = cut.smoothness * share * (dx != 0 && dy != 0 ? Math.SQRT1_2 : 1);
  const flow = cut.flow;
  if (other < 0) {
    const terminal = flow.terminal + (<usize>k << 2);
    const own = <f64>load<f32>(terminal);
    store<f32>(terminal, <f32>(load<u8>(cut.mask + j) ? own + weight : own - weight));
    return;
  }
  const arc = k * DIRECTIONS + direction;
  const back = other * DIRECTIONS + 7 - direction;
  store<i32>(flow.neighbour + (<usize>arc << 2), other);
  store<i32>(flow.neighbour + (<usize>back << 2), k);
  store<f32>(flow.capacity + (<usize>arc << 2), <f32>weight);
  store<f32>(flow.capacity + (<usize>back << 2), <f32>weight);
}

/** Decides the active pixels. */
export function minimumCut(at: usize): void {
  const cut = changetype<Cut>(at);
  const count = cut.count;
  memory.fill(cut.nodes, 0xff, <usize>(cut.width * cut.height) << 2);
  for (let k = 0; k < count; k++) {
    const i = load<i32>(cut.active + (<usize>k << 2));
    store<i32>(cut.nodes + (<usize>i << 2), k);
  }
  prepare(cut.flow, count);
  for (let k = 0; k < count; k++) {
    const i = load<i32>(cut.active + (<usize>k << 2));
    const y = i / cut.width;
    const x = i - y * cut.width;
    // Opposite directions add up to seven.
    tie(cut, k, i, x, y, 0, 1, 0);
    tie(cut, k, i, x, y, 1, 0, 1);
    tie(cut, k, i, x, y, 2, 1, 1);
    tie(cut, k, i, x, y, 3, -1, 1);
    tie(cut, k, i, x, y, 7, -1, 0);
    tie(cut, k, i, x, y, 6, 0, -1);
    tie(cut, k, i, x, y, 5, -1, -1);
    tie(cut, k, i, x, y, 4, 1, -1);
  }
  solve(cut.flow, count);
  for (let k = 0; k < count; k++) {
    const i = load<i32>(cut.active + (<usize>k << 2));
    store<u8>(cut.mask + i, cut.flow.sideOf(k) == SOURCE ? 1 : 0);
  }
}
