import type { Plane } from '../pixels/raster.ts';
import { solvePositive } from '../pixels/solve.ts';
import { sampled } from './cutting.ts';
import type { Point } from './flow.ts';

/** How a patch lies in a picture: its middle, and the vector its unit across has become: turned and sized. */
export interface Pose {
  at: Point;
  across: Point;
}

const mostRounds = 20;

/** A square patch of a picture that is looked for again in others, whatever their exposure. */
export class Patch {
  private readonly size: number;
  private readonly values: Float64Array;
  private readonly descent: Float64Array;
  private readonly normal = new Float64Array(16);

  /**
   * @param at its middle, pixels of the picture with their middles at whole numbers
   * @param radius half its side, pixels
   */
  constructor(
    picture: Plane,
    at: Point,
    private readonly radius: number,
  ) {
    this.size = 2 * radius + 1;
    this.values = normalised(this.cut(picture, { at, across: [1, 0] }));
    this.descent = this.steepest();
  }

  /** Gradients of the patch along its four freedoms, and what they have in common. */
  private steepest(): Float64Array {
    const { size, radius, values } = this;
    const descent = new Float64Array(size * size * 4);
    for (let i = 0; i < size * size; i++) {
      const [x, y] = [i % size, Math.floor(i / size)];
      const [l, r] = [Math.max(0, x - 1), Math.min(size - 1, x + 1)];
      const [t, b] = [Math.max(0, y - 1), Math.min(size - 1, y + 1)];
      const gx = (values[y * size + r]! - values[y * size + l]!) / Math.max(1, r - l);
      const gy = (values[b * size + x]! - values[t * size + x]!) / Math.max(1, b - t);
      const [u, v] = [x - radius, y - radius];
      descent.set([gx * u + gy * v, gy * u - gx * v, gx, gy], i * 4);
      for (let j = 0; j < 4; j++)
        for (let k = 0; k < 4; k++) this.normal[j * 4 + k]! += descent[i * 4 + j]! * descent[i * 4 + k]!;
    }
    return descent;
  }

  private cut(picture: Plane, { at, across: [a, b] }: Pose): Float64Array {
    const { size, radius } = this;
    const out = new Float64Array(size * size);
    for (let v = -radius, i = 0; v <= radius; v++)
      for (let u = -radius; u <= radius; u++, i++)
        out[i] = sampled(picture, at[0] + a * u - b * v, at[1] + b * u + a * v);
    return out;
  }

  /** Correlation of the patch with what lies there, -1..1. */
  likeness(picture: Plane, pose: Pose): number {
    const found = normalised(this.cut(picture, pose));
    let sum = 0;
    for (let i = 0; i < found.length; i++) sum += found[i]! * this.values[i]!;
    return sum / found.length;
  }

  /**
   * The pose near another in which a picture shows the patch best: inverse compositional alignment over place, turn and
   * size (Baker & Matthews 2004), on values freed of brightness and contrast.
   */
  refined(picture: Plane, start: Pose): Pose {
    let pose = start;
    const right = new Float64Array(4);
    for (let round = 0; round < mostRounds; round++) {
      const found = normalised(this.cut(picture, pose));
      right.fill(0);
      for (let i = 0; i < found.length; i++) {
        const residual = found[i]! - this.values[i]!;
        for (let k = 0; k < 4; k++) right[k]! += this.descent[i * 4 + k]! * residual;
      }
      const [p, q, tx, ty] = solvePositive(this.normal, right) as unknown as [number, number, number, number];
      pose = composed(pose, p, q, tx, ty);
      if (Math.hypot(tx, ty) + this.radius * Math.hypot(p, q) < 0.005) break;
    }
    return pose;
  }

  /**
   * Where in a picture the patch lies, looked for at every place of its half size.
   * @returns the best place and its likeness
   */
  searched(picture: Plane, across: Point): { at: Point; likeness: number } {
    const inner = this.radius;
    let best = { at: [picture.width / 2, picture.height / 2] as Point, likeness: -1 };
    for (let y = inner; y < picture.height - inner; y += 2)
      for (let x = inner; x < picture.width - inner; x += 2) {
        const likeness = this.sparseLikeness(picture, { at: [x, y], across });
        if (likeness > best.likeness) best = { at: [x, y], likeness };
      }
    return best;
  }

  /** Correlation from every third pixel across and down. */
  private sparseLikeness(picture: Plane, { at, across: [a, b] }: Pose): number {
    const { size, radius } = this;
    let [n, sum, squares, both, own, ownSquares] = [0, 0, 0, 0, 0, 0];
    for (let v = -radius; v <= radius; v += 3)
      for (let u = -radius; u <= radius; u += 3) {
        const x = Math.round(at[0] + a * u - b * v);
        const y = Math.round(at[1] + b * u + a * v);
        if (x < 0 || y < 0 || x >= picture.width || y >= picture.height) continue;
        const value = picture.data[y * picture.width + x]!;
        const mine = this.values[(v + radius) * size + u + radius]!;
        n++;
        sum += value;
        squares += value * value;
        both += value * mine;
        own += mine;
        ownSquares += mine * mine;
      }
    const variance = (squares - (sum * sum) / n) * (ownSquares - (own * own) / n);
    return n < 9 || variance < 1e-6 ? -1 : (both - (sum * own) / n) / Math.sqrt(variance);
  }
}

/** A pose followed by the inverse of a small step in the patch's own pixels. */
function composed({ at, across: [a, b] }: Pose, p: number, q: number, tx: number, ty: number): Pose {
  // The step maps u to (1 + p) u - q v + tx, ...; its inverse is a similarity too.
  const scale = (1 + p) ** 2 + q * q;
  const [c, s] = [(1 + p) / scale, -q / scale];
  const [ix, iy] = [-(c * tx - s * ty), -(s * tx + c * ty)];
  return { at: [at[0] + a * ix - b * iy, at[1] + b * ix + a * iy], across: [a * c - b * s, a * s + b * c] };
}

/** Values with mean 0 and deviation 1; all 0 where they are flat. */
function normalised(values: Float64Array): Float64Array {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  let square = 0;
  for (const v of values) square += (v - mean) ** 2;
  const deviation = Math.sqrt(square / values.length);
  return values.map((v) => (deviation < 0.5 ? 0 : (v - mean) / deviation));
}
