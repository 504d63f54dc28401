import type { Bytes } from '../pixels/raster.ts';

export interface Parts {
  /** 0 outside, otherwise the number of a pixel's part: from 1, in the order of their first pixels. */
  label: Int32Array;
  /** Pixels of each part. */
  sizes: number[];
}

/** Pixels of a row that hang together, from..to - 1; `joined` is an earlier run they belong with, or the run itself. */
interface Runs {
  from: number[];
  to: number[];
  joined: number[];
}

/**
 * Parts of a mask (0/1) that hang together over sides and corners: runs of rows, joined where they touch (Rosenfeld & Pfaltz 1966,
 * with union-find).
 */
export function partsOf({ width, height, data }: Bytes): Parts {
  const runs: Runs = { from: [], to: [], joined: [] };
  let [above, aboveEnd] = [0, 0];
  for (let y = 0; y < height; y++) {
    const start = runs.from.length;
    for (let i = y * width, end = i + width; i < end; i++) {
      if (data[i] === 0) continue;
      const from = i;
      while (i < end && data[i] !== 0) i++;
      const run = runs.from.push(from) - 1;
      runs.to.push(i);
      runs.joined.push(run);
      // Runs of the row above that end before this one begins are behind for the rest of the row too.
      while (above < aboveEnd && runs.to[above]! < from - width) above++;
      for (let k = above; k < aboveEnd && runs.from[k]! <= i - width; k++) join(runs.joined, k, run);
    }
    [above, aboveEnd] = [start, runs.from.length];
  }
  return labelled(runs, data.length);
}

function rootOf(joined: number[], run: number): number {
  let root = run;
  while (joined[root] !== root) root = joined[root]!;
  for (let k = run; joined[k] !== root;) [k, joined[k]] = [joined[k]!, root];
  return root;
}

/** The earlier of two roots is the root of both. */
function join(joined: number[], one: number, other: number): void {
  const [a, b] = [rootOf(joined, one), rootOf(joined, other)];
  joined[Math.max(a, b)] = Math.min(a, b);
}

function labelled({ from, to, joined }: Runs, count: number): Parts {
  const label = new Int32Array(count);
  const sizes: number[] = [];
  const number = new Int32Array(from.length);
  for (let run = 0; run < from.length; run++) {
    const root = rootOf(joined, run);
    if (root === run) number[run] = sizes.push(0);
    const own = number[root]!;
    label.fill(own, from[run], to[run]);
    sizes[own - 1]! += to[run]! - from[run]!;
  }
  return { label, sizes };
}
