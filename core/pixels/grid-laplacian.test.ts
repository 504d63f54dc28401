import { expect } from 'chai';
import { bondsWithin, GridLaplacian, solvingPlainly } from './grid-laplacian.ts';
import { seededRandom } from './random.ts';

/** Solves the dense system by elimination: the same equations written out and solved another way. */
function dense(
  width: number,
  height: number,
  right: Float32Array,
  down: Float32Array,
  anchor: Float32Array,
  b: Float32Array,
): number[] {
  const n = width * height;
  const rows = Array.from({ length: n }, (_, i) => Array.from({ length: n + 1 }, (_, j) => (j === n ? b[i]! : 0)));
  const bond = (i: number, j: number, w: number): void => {
    rows[i]![i]! += w;
    rows[j]![j]! += w;
    rows[i]![j]! -= w;
    rows[j]![i]! -= w;
  };
  for (let i = 0; i < n; i++) {
    rows[i]![i]! += anchor[i]!;
    if ((i % width) + 1 < width) bond(i, i + 1, right[i]!);
    if (i + width < n) bond(i, i + width, down[i]!);
  }
  for (let k = 0; k < n; k++) {
    const pivot = rows[k]![k]!;
    for (let j = k; j <= n; j++) rows[k]![j]! /= pivot;
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const f = rows[i]![k]!;
      if (f !== 0) for (let j = k; j <= n; j++) rows[i]![j]! -= f * rows[k]![j]!;
    }
  }
  return rows.map((row) => row[n]!);
}

type Bonds = Record<'right' | 'down' | 'anchor', Float32Array>;

async function solvedHere(
  width: number,
  height: number,
  { right, down, anchor }: Bonds,
  b: Float32Array,
  tolerance?: number,
  rounds?: number,
  start?: Float32Array,
): Promise<Float32Array> {
  const grid = await GridLaplacian.over(width, height, right, down, anchor);
  const x = await grid.solve(b, start, tolerance, rounds);
  grid.release();
  return x;
}

const plainlySolved: typeof solvedHere = (...given) => solvingPlainly(() => solvedHere(...given));

for (const [name, solved] of [
  ['by the kernel', solvedHere],
  ['without it', plainlySolved],
] as const) {
  describe(`grid laplacian ${name}`, () => {
    it('solves uneven bonds as elimination on the dense matrix does', async () => {
      const random = seededRandom(8);
      const [w, h] = [13, 11];
      const some = (): Float32Array => Float32Array.from({ length: w * h }, () => 0.05 + random());
      const [right, down, b] = [some(), some(), some()];
      const anchor = Float32Array.from({ length: w * h }, () => (random() < 0.1 ? 1 : 0));
      const x = await solved(w, h, { right, down, anchor }, b, 1e-6, 200);
      dense(w, h, right, down, anchor, b).forEach((v, i) => expect(x[i]).to.be.closeTo(v, 2e-3 * (1 + Math.abs(v))));
    });

    it('finds the harmonic function of a disc from its rim, and needs few rounds for it', async () => {
      const size = 161;
      const inside = (x: number, y: number): boolean => Math.hypot(x - 80, y - 80) < 70;
      const harmonic = (x: number, y: number): number => ((x - 80) ** 2 - (y - 80) ** 2) / 4900;
      const right = new Float32Array(size * size);
      const down = new Float32Array(size * size);
      const anchor = new Float32Array(size * size);
      const b = new Float32Array(size * size);
      for (let y = 1; y + 1 < size; y++) {
        for (let x = 1; x + 1 < size; x++) {
          const i = y * size + x;
          if (!inside(x, y)) continue;
          right[i] = inside(x + 1, y) ? 1 : 0;
          down[i] = inside(x, y + 1) ? 1 : 0;
          for (const [dx, dy] of [
            [1, 0],
            [-1, 0],
            [0, 1],
            [0, -1],
          ] as const) {
            if (inside(x + dx, y + dy)) continue;
            anchor[i]! += 1;
            b[i]! += harmonic(x + dx, y + dy);
          }
        }
      }
      const x = await solved(size, size, { right, down, anchor }, b, 1e-4, 25);
      for (let y = 0; y < size; y += 7)
        for (let k = 0; k < size; k += 7) if (inside(k, y)) expect(x[y * size + k]).to.be.closeTo(harmonic(k, y), 2e-3);
    });

    it('leaves pixels without bonds at zero', async () => {
      const zero = new Float32Array(9);
      const x = await solved(3, 3, { right: zero, down: zero, anchor: zero }, new Float32Array(9).fill(1));
      expect([...x]).to.deep.equal([...zero]);
    });
  });
}

describe('grid laplacian of both ways', () => {
  const random = seededRandom(5);
  /** Uneven bonds, some of them missing, up to the borders. */
  const uneven = (width: number, height: number): Bonds & { b: Float32Array } => {
    const some = (share: number): Float32Array =>
      Float32Array.from({ length: width * height }, () => (random() < share ? random() : 0));
    return { right: some(0.8), down: some(0.8), anchor: some(0.9), b: some(0.5) };
  };

  it('take the same steps, whatever the size and in whatever memory', async () => {
    for (const [w, h] of [
      [64, 48],
      [63, 48],
      [64, 47],
      [7, 90],
      [90, 7],
      [1, 30],
      [30, 1],
      [301, 211],
      [50, 50],
    ] as const) {
      const { b, ...bonds } = uneven(w, h);
      const copy = { right: bonds.right.slice(), down: bonds.down.slice(), anchor: bonds.anchor };
      const [fast, slow] = [await solvedHere(w, h, bonds, b, 0, 3), await plainlySolved(w, h, copy, b, 0, 3)];
      const apart = slow.map((v, i) => Math.abs(fast[i]! - v) / (1 + Math.abs(v)));
      expect(Math.max(...apart), `${w} x ${h}`).to.be.below(2e-4);
      expect(Math.max(...slow), `${w} x ${h}`).to.be.above(0.5);
    }
  });

  it('go on from a first guess: from the answer in no step', async () => {
    const [w, h] = [40, 31];
    const mask = { width: w, height: h, data: new Uint8Array(w * h).fill(1) };
    const { right, down } = bondsWithin(mask);
    const anchor = new Float32Array(w * h).fill(0.1);
    const b = Float32Array.from({ length: w * h }, () => random());
    for (const solved of [solvedHere, plainlySolved]) {
      const answer = await solved(w, h, { right, down, anchor }, b, 1e-6, 100);
      const again = await solved(w, h, { right, down, anchor }, b, 1e-3, 1, answer);
      expect([...again]).to.deep.equal([...answer]);
    }
  });
});
