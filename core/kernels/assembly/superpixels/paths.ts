/* Shortest ways between all nodes of a graph (Dijkstra 1959), as core/pixels/shortest-paths.ts finds them. */

// @ts-ignore: a decorator of the compiler
@inline
function at(base: usize, index: i32): usize {
  return base + (<usize>index << 2);
}

/** Nodes that wait, the nearest first: a binary heap of f32 distances and i32 nodes. */
let distances: usize = 0;
let nodes: usize = 0;
let waiting: i32 = 0;

function put(distance: f32, node: i32): void {
  let i = waiting;
  waiting = i + 1;
  while (i > 0) {
    const up = (i - 1) >> 1;
    if (load<f32>(at(distances, up)) <= distance) break;
    store<f32>(at(distances, i), load<f32>(at(distances, up)));
    store<i32>(at(nodes, i), load<i32>(at(nodes, up)));
    i = up;
  }
  store<f32>(at(distances, i), distance);
  store<i32>(at(nodes, i), node);
}

/** Takes the first away. */
function drop(): void {
  const n = waiting - 1;
  waiting = n;
  const distance = load<f32>(at(distances, n));
  const node = load<i32>(at(nodes, n));
  let i = 0;
  for (let child = 1; child < n; child = 2 * i + 1) {
    if (child + 1 < n && load<f32>(at(distances, child + 1)) < load<f32>(at(distances, child))) child++;
    if (load<f32>(at(distances, child)) >= distance) break;
    store<f32>(at(distances, i), load<f32>(at(distances, child)));
    store<i32>(at(nodes, i), load<i32>(at(nodes, child)));
    i = child;
  }
  store<f32>(at(distances, i), distance);
  store<i32>(at(nodes, i), node);
}

/**
 * @param start i32 of each node, and one more: where its steps begin  @param to, step i32 and f32 of each step
 * @param farthest what is farther is not reached  @param heap memory for 8 bytes a step, and 8 more
 * @param out f32, count x count
 */
export function shortestPaths(start: usize, to: usize, step: usize, count: i32, steps: i32, farthest: f32, heap: usize, out: usize): void {
  distances = heap;
  nodes = at(heap, steps + 1);
  for (let i = 0; i < count * count; i++) store<f32>(at(out, i), Infinity);
  for (let from = 0; from < count; from++) {
    const row = at(out, from * count);
    store<f32>(at(row, from), 0);
    waiting = 0;
    put(0, from);
    while (waiting > 0) {
      const key = load<f32>(distances);
      const a = load<i32>(nodes);
      drop();
      const here = load<f32>(at(row, a));
      // A longer way to a node that was reached on a shorter one meanwhile.
      if (key > here) continue;
      const end = load<i32>(at(start, a + 1));
      for (let k = load<i32>(at(start, a)); k < end; k++) {
        const distance = here + load<f32>(at(step, k));
        const other = load<i32>(at(to, k));
        if (distance > farthest || distance >= load<f32>(at(row, other))) continue;
        store<f32>(at(row, other), distance);
        put(distance, other);
      }
    }
  }
}
