import { type Color } from './flat-scenes.ts';

/** A point in widths of the picture, across and down. */
export type Point = readonly [u: number, v: number];

export interface Strand {
  /** The points of a quadratic Bezier curve: where it starts, what it bends towards, where it ends. */
  curve: readonly [Point, Point, Point];
  /** Width at its root and at its tip, pixels: hair does not grow with the picture. */
  width: readonly [number, number];
  /** Share of the light behind it that it stops, at its root and at its tip, 0..1. */
  opacity: readonly [number, number];
  /** Colour at a share of its length. */
  colour(along: number): Color;
}

const clamp = (v: number): number => Math.max(0, Math.min(1, v));

/** Share of a pixel, one wide, that lies within a stripe. @param distance from its middle  @param width of it, pixels */
const coverOfStripe = (distance: number, width: number): number =>
  clamp(distance + width / 2 + 0.5) - clamp(distance - width / 2 + 0.5);

/** What stands before a screen: its colours times its alpha, and its alpha, put together one thing over another. */
export class Standing {
  readonly height: number;
  /** Red, green and blue times alpha, bytes that are not rounded. */
  readonly own: Float32Array;
  /** 0..1 */
  readonly alpha: Float32Array;

  constructor(readonly width: number) {
    this.height = Math.round((width * 2) / 3);
    this.own = new Float32Array(width * this.height * 3);
    this.alpha = new Float32Array(width * this.height);
  }

  /**
   * A thing with a hard edge, as sharp as pixels are.
   * @param edge signed distance to its outline in widths of the picture, negative inside
   */
  add(edge: (u: number, v: number) => number, colour: (u: number, v: number) => Color): void {
    const { width, height } = this;
    for (let i = 0; i < width * height; i++) {
      const [u, v] = [((i % width) + 0.5) / width, (Math.floor(i / width) + 0.5) / width];
      const cover = clamp(0.5 - edge(u, v) * width);
      if (cover > 0) this.lay(i, cover, colour(u, v));
    }
  }

  addStrand({ curve, width, opacity, colour }: Strand): void {
    // A pixel that several pieces of the curve cross is covered by the one that covers it most.
    const covers = new Map<number, readonly [cover: number, along: number]>();
    const points = pointsOf(curve, this.width);
    for (let k = 0; k + 1 < points.length; k++) {
      const [a, b] = [points[k]!, points[k + 1]!];
      const reach = Math.max(...width) / 2 + 1;
      for (let y = Math.floor(Math.min(a[1], b[1]) - reach); y <= Math.max(a[1], b[1]) + reach; y++) {
        for (let x = Math.floor(Math.min(a[0], b[0]) - reach); x <= Math.max(a[0], b[0]) + reach; x++) {
          if (x < 0 || y < 0 || x >= this.width || y >= this.height) continue;
          const [distance, share] = distanceToPiece(x + 0.5, y + 0.5, a, b);
          const along = (k + share) / (points.length - 1);
          const cover = coverOfStripe(distance, width[0] + (width[1] - width[0]) * along);
          const i = y * this.width + x;
          if (cover > (covers.get(i)?.[0] ?? 0)) covers.set(i, [cover, along]);
        }
      }
    }
    for (const [i, [cover, along]] of covers)
      this.lay(i, cover * (opacity[0] + (opacity[1] - opacity[0]) * along), colour(along));
  }

  /** Softens all of it as a lens does. @param deviation of a Gaussian, pixels */
  blur(deviation: number): void {
    const reach = Math.ceil(3 * deviation);
    const weights = Array.from({ length: 2 * reach + 1 }, (_, k) =>
      Math.exp(-((k - reach) ** 2) / (2 * deviation ** 2)),
    );
    for (const [values, each] of [
      [this.own, 3],
      [this.alpha, 1],
    ] as const) {
      const lines = values.slice();
      this.blurLines(values, lines, each, 1, weights);
      this.blurLines(lines, values, each, this.width, weights);
    }
  }

  /** @param each values of a pixel  @param step pixels from one to the next along a line */
  private blurLines(
    from: Float32Array,
    to: Float32Array,
    each: number,
    step: number,
    weights: readonly number[],
  ): void {
    const { width, height } = this;
    const reach = weights.length >> 1;
    const sum = weights.reduce((a, b) => a + b, 0);
    const length = step === 1 ? width : height;
    for (let i = 0; i < width * height; i++) {
      const place = step === 1 ? i % width : Math.floor(i / width);
      const least = i - place * step;
      for (let c = 0; c < each; c++) {
        let value = 0;
        for (let d = -reach; d <= reach; d++) {
          const at = Math.max(0, Math.min(length - 1, place + d));
          value += weights[d + reach]! * from[(least + at * step) * each + c]!;
        }
        to[i * each + c] = value / sum;
      }
    }
  }

  /** One colour over what is there. */
  private lay(i: number, share: number, colour: Color): void {
    for (let c = 0; c < 3; c++) this.own[i * 3 + c] = this.own[i * 3 + c]! * (1 - share) + colour[c]! * share;
    this.alpha[i] = this.alpha[i]! * (1 - share) + share;
  }
}

/** Points along a curve about two pixels from one another, in pixels. */
function pointsOf([a, b, c]: Strand['curve'], width: number): Point[] {
  const length = (Math.hypot(b[0] - a[0], b[1] - a[1]) + Math.hypot(c[0] - b[0], c[1] - b[1])) * width;
  const pieces = Math.max(2, Math.ceil(length / 2));
  return Array.from({ length: pieces + 1 }, (_, k) => {
    const t = k / pieces;
    const at = (d: 0 | 1): number => (1 - t) * (1 - t) * a[d] + 2 * t * (1 - t) * b[d] + t * t * c[d];
    return [at(0) * width, at(1) * width];
  });
}

/** Distance of a point to a piece of a line, and how far along it the nearest place is, 0..1. */
function distanceToPiece(x: number, y: number, a: Point, b: Point): readonly [number, number] {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const t = clamp(((x - a[0]) * dx + (y - a[1]) * dy) / Math.max(1e-9, dx * dx + dy * dy));
  return [Math.hypot(x - a[0] - t * dx, y - a[1] - t * dy), t];
}
