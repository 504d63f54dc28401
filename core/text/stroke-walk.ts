import type { Mask } from './thinning.ts';

/** A line of neighbouring pixels between two nodes: ends or crossings. */
interface Branch {
  pixels: number[];
  from: number;
  to: number;
}

/**
 * Walks along a thinned mask as a hand would: every stroke begins at the end that lies furthest to the left, goes straight
 * on at crossings, and what is small and stands alone comes last. Ends shorter than the thing is wide there are left out:
 * they are corners, not strokes.
 * @returns strokes as indices of pixels
 */
export function walkStrokes(mask: Mask, radiusAt: (pixel: number) => number): number[][] {
  const { branches, alone } = branchesOf(mask);
  const left = withoutSpurs(branches, radiusAt);
  const strokes: number[][] = [];
  const free = new Set(left);
  while (free.size > 0) {
    const start = firstOf(free, mask.width);
    strokes.push(walk(start, free, mask.width));
  }
  const parts = [...strokes, ...alone.map((pixel) => [pixel])];
  // Dots and marks of other letters than the widest part are set when the rest stands.
  const longest = Math.max(...parts.map((line) => line.length));
  const isMark = (line: number[]): boolean => line.length < longest * 0.3 && !touches(line, parts, mask.width);
  return [...parts.filter((line) => !isMark(line)), ...parts.filter(isMark)];
}

const neighbours = (width: number): number[] => [-width, 1, width, -1, 1 - width, width + 1, width - 1, -width - 1];

function branchesOf({ data, width }: Mask): { branches: Branch[]; alone: number[] } {
  const steps = neighbours(width);
  const linked = (i: number): number[] =>
    steps
      .map((step) => i + step)
      // Diagonal ways round a corner that is filled are no ways of their own.
      .filter(
        (n, k) =>
          data[n] && (k < 4 || !(data[i + (n - i > 0 ? width : -width)] || data[i + diagonalSide(n - i, width)])),
      );
  const pixels = [...data.keys()].filter((i) => data[i]);
  const nodes = new Set(pixels.filter((i) => linked(i).length !== 2));
  const alone = pixels.filter((i) => linked(i).length === 0);
  const branches: Branch[] = [];
  const seen = new Set<string>();
  const follow = (from: number, next: number): void => {
    const line = [from, next];
    while (!nodes.has(line.at(-1)!)) {
      const on = linked(line.at(-1)!).find((n) => n !== line.at(-2));
      if (on === undefined || on === from) break;
      line.push(on);
    }
    const to = line.at(-1)!;
    const name = [from, next, to, line.at(-2)!].join();
    const back = [to, line.at(-2)!, from, next].join();
    if (seen.has(back) || seen.has(name)) return;
    seen.add(name);
    branches.push({ pixels: line, from, to });
  };
  for (const node of nodes) for (const next of linked(node)) follow(node, next);
  // Rings have neither end nor crossing: they begin at their top.
  const reached = new Set(branches.flatMap((branch) => branch.pixels));
  for (const i of pixels) {
    if (reached.has(i) || nodes.has(i)) continue;
    const [next] = linked(i);
    const line = [i, next!];
    while (line.at(-1) !== i) {
      const on = linked(line.at(-1)!).find((n) => n !== line.at(-2));
      if (on === undefined) break;
      line.push(on);
    }
    line.forEach((pixel) => reached.add(pixel));
    branches.push({ pixels: line, from: i, to: i });
  }
  return { branches, alone };
}

const diagonalSide = (step: number, width: number): number => (step === 1 - width || step === width + 1 ? 1 : -1);

function withoutSpurs(branches: readonly Branch[], radiusAt: (pixel: number) => number): Branch[] {
  const count = new Map<number, number>();
  for (const { from, to } of branches) for (const node of [from, to]) count.set(node, (count.get(node) ?? 0) + 1);
  const isEnd = (node: number): boolean => count.get(node) === 1;
  const spur = ({ pixels, from, to }: Branch): boolean => {
    if (isEnd(from) === isEnd(to)) return false;
    return pixels.length < 1.1 * radiusAt(isEnd(from) ? to : from);
  };
  const kept = branches.filter((branch) => !spur(branch));
  return kept.length > 0 ? kept : [...branches];
}

/** Where a hand would begin: at a free end, as far to the left as there is, rather above than below. */
function firstOf(free: ReadonlySet<Branch>, width: number): { branch: Branch; reversed: boolean } {
  const ends = new Map<number, number>();
  for (const { from, to } of free) for (const node of [from, to]) ends.set(node, (ends.get(node) ?? 0) + 1);
  let best: { branch: Branch; reversed: boolean } | null = null;
  let least = Infinity;
  for (const branch of free)
    for (const reversed of [false, true]) {
      const node = reversed ? branch.to : branch.from;
      const alone = ends.get(node) === 1 ? 0 : 1e6;
      const cost = alone + (node % width) + 0.4 * Math.floor(node / width);
      if (cost < least) {
        least = cost;
        best = { branch, reversed };
      }
    }
  return best!;
}

/** Goes on from branch to branch, always the straightest, until there is none left to go on with. */
function walk(start: { branch: Branch; reversed: boolean }, free: Set<Branch>, width: number): number[] {
  let line = start.reversed ? [...start.branch.pixels].reverse() : [...start.branch.pixels];
  free.delete(start.branch);
  for (;;) {
    const node = line.at(-1)!;
    const way = direction(line, width);
    let best: number[] | null = null;
    let used: Branch | null = null;
    let straightest = -0.5;
    for (const branch of free) {
      for (const pixels of [branch.pixels, [...branch.pixels].reverse()]) {
        if (pixels[0] !== node) continue;
        const on = direction([...pixels].slice(0, 9).reverse(), width).map((v) => -v);
        const straight = way[0]! * on[0]! + way[1]! * on[1]!;
        if (straight > straightest) [straightest, best, used] = [straight, pixels, branch];
      }
    }
    if (!best || !used) return line;
    free.delete(used);
    line = line.concat(best.slice(1));
  }
}

/** The direction of the last pixels of a line, unit length. */
function direction(line: readonly number[], width: number): [number, number] {
  const [a, b] = [line[Math.max(0, line.length - 9)]!, line.at(-1)!];
  const [dx, dy] = [(b % width) - (a % width), Math.floor(b / width) - Math.floor(a / width)];
  const length = Math.hypot(dx, dy) || 1;
  return [dx / length, dy / length];
}

function touches(line: readonly number[], all: readonly number[][], width: number): boolean {
  const near = new Set(line.flatMap((i) => [i, ...neighbours(width).map((step) => i + step)]));
  return all.some((other) => other !== line && other.some((i) => near.has(i)));
}
