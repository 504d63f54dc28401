import { expect } from 'chai';
import { GridLaplacian } from './grid-laplacian.ts';
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

describe('grid laplacian', () => {
  it('solves uneven bonds as elimination on the dense matrix does', async () => {
    const random = seededRandom(8);
    const [w, h] = [13, 11];
    const some = (): Float32Array => Float32Array.from({ length: w * h }, () => 0.05 + random());
    const [right, down, b] = [some(), some(), some()];
    const anchor = Float32Array.from({ length: w * h }, () => (random() < 0.1 ? 1 : 0));
    const x = await (await GridLaplacian.over(w, h, right, down, anchor)).solve(b, undefined, 1e-6, 200);
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
    const x = await (await GridLaplacian.over(size, size, right, down, anchor)).solve(b, undefined, 1e-4, 25);
    for (let y = 0; y < size; y += 7)
      for (let k = 0; k < size; k += 7) if (inside(k, y)) expect(x[y * size + k]).to.be.closeTo(harmonic(k, y), 2e-3);
  });

  it('leaves pixels without bonds at zero', async () => {
    const zero = new Float32Array(9);
    const x = await (await GridLaplacian.over(3, 3, zero, zero, zero)).solve(new Float32Array(9).fill(1));
    expect([...x]).to.deep.equal([...zero]);
  });
});
