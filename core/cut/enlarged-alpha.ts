import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import type { Steps } from '../pixels/steps.ts';

/** Half width of the window, in pixels of the smaller size, within which alpha is a linear function of colour. */
const reach = 2;
/** Pixels that are enlarged in one step. */
const stepPixels = 2e6;
/** Variance of colour (0..1) below which it says nothing: noise. */
const noise = 2e-4;

/**
 * Alpha of a picture from that of its half: within a small window alpha is taken as a linear function of colour, which is read at the
 * smaller size and used at the larger one (joint upsampling by a guided filter, He & Sun 2015; closed-form matting rests on the
 * same assumption). What is all clear or all opaque around stays so.
 * @param picture as large as alpha shall be  @param half the same picture at half the size  @param alpha of the half, 0..255
 */
export function* enlargedAlpha(picture: Rgba, half: Rgba, alpha: Bytes): Steps<Bytes> {
  const { width, height } = picture;
  const rows = Math.ceil(stepPixels / width);
  const out = makeBytes(width, height);
  const [least, most] = extremesOf(alpha);
  const lines = new Lines(half, alpha);
  for (let y = 0; y < height; y++) {
    if (y % rows === 0) yield;
    const row = Math.min(alpha.height - 1, y >> 1) * alpha.width;
    for (let x = 0; x < width; x++) {
      const s = row + Math.min(alpha.width - 1, x >> 1);
      const [low, high] = [least[s]!, most[s]!];
      const i = y * width + x;
      out.data[i] = low === high ? low : Math.max(low, Math.min(high, 255 * lines.blended(picture.data, i * 4, x, y)));
    }
  }
  return out;
}

/** The least and the most alpha among each pixel and its eight neighbours: along rows, then down. */
function extremesOf({ width, height, data }: Bytes): [Uint8Array, Uint8Array] {
  const [low, high] = [new Uint8Array(data.length), new Uint8Array(data.length)];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const [left, here, right] = [data[x > 0 ? i - 1 : i]!, data[i]!, data[x + 1 < width ? i + 1 : i]!];
      low[i] = Math.min(left, here, right);
      high[i] = Math.max(left, here, right);
    }
  const [least, most] = [new Uint8Array(data.length), new Uint8Array(data.length)];
  for (let i = 0; i < data.length; i++) {
    const [above, below] = [i >= width ? i - width : i, i + width < data.length ? i + width : i];
    least[i] = Math.min(low[above]!, low[i]!, low[below]!);
    most[i] = Math.max(high[above]!, high[i]!, high[below]!);
  }
  return [least, most];
}

/** Alpha as linear functions of colour around the pixels of a picture, each found when it is first asked for. */
class Lines {
  /** Where the line of each pixel is kept, from 1 on; 0 for none yet. */
  private readonly at: Int32Array;
  /** Of each line three factors and a constant. */
  private kept = new Float64Array(4 * 1024);
  private count = 0;

  constructor(
    private readonly picture: Rgba,
    private readonly alpha: Bytes,
  ) {
    this.at = new Int32Array(alpha.data.length);
  }

  /** Alpha 0..1 (or a little beyond) of a pixel twice as fine, by the lines of the four around it, by how near they are. */
  blended(data: Uint8ClampedArray, p: number, x: number, y: number): number {
    const { width, height } = this.alpha;
    const [u, v] = [(x - 0.5) / 2, (y - 0.5) / 2];
    const [u0, v0] = [Math.floor(u), Math.floor(v)];
    const [left, right] = [Math.max(0, u0), Math.min(width - 1, u0 + 1)];
    const [top, bottom] = [Math.max(0, v0) * width, Math.min(height - 1, v0 + 1) * width];
    return (
      (1 - u + u0) * (1 - v + v0) * this.value(top + left, data, p) +
      (u - u0) * (1 - v + v0) * this.value(top + right, data, p) +
      (1 - u + u0) * (v - v0) * this.value(bottom + left, data, p) +
      (u - u0) * (v - v0) * this.value(bottom + right, data, p)
    );
  }

  private value(i: number, data: Uint8ClampedArray, p: number): number {
    const k = 4 * ((this.at[i] || this.find(i)) - 1);
    const { kept } = this;
    return kept[k + 3]! + (kept[k]! * data[p]! + kept[k + 1]! * data[p + 1]! + kept[k + 2]! * data[p + 2]!) / 255;
  }

  /** Least squares of alpha over the colours of a window. @returns where it is kept */
  private find(i: number): number {
    const { width, height, data } = this.picture;
    const [x, y] = [i % width, Math.floor(i / width)];
    const [left, right] = [Math.max(0, x - reach), Math.min(width - 1, x + reach)];
    const [top, bottom] = [Math.max(0, y - reach), Math.min(height - 1, y + reach)];
    // Sums of colours and alpha, and of their products with colours.
    let [r, g, b, a] = [0, 0, 0, 0];
    let [rr, rg, rb, ra, gg, gb, ga, bb, ba] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
    for (let v = top; v <= bottom; v++)
      for (let u = left; u <= right; u++) {
        const j = v * width + u;
        const red = data[j * 4]! / 255;
        const green = data[j * 4 + 1]! / 255;
        const blue = data[j * 4 + 2]! / 255;
        const own = this.alpha.data[j]! / 255;
        r += red;
        g += green;
        b += blue;
        a += own;
        rr += red * red;
        rg += red * green;
        rb += red * blue;
        ra += red * own;
        gg += green * green;
        gb += green * blue;
        ga += green * own;
        bb += blue * blue;
        ba += blue * own;
      }
    const n = (right - left + 1) * (bottom - top + 1);
    [r, g, b, a] = [r / n, g / n, b / n, a / n];
    const [fr, fg, fb] = solved(
      [
        rr / n - r * r + noise,
        rg / n - r * g,
        rb / n - r * b,
        gg / n - g * g + noise,
        gb / n - g * b,
        bb / n - b * b + noise,
      ],
      [ra / n - r * a, ga / n - g * a, ba / n - b * a],
    );
    return this.keep(i, fr, fg, fb, a - fr * r - fg * g - fb * b);
  }

  private keep(i: number, r: number, g: number, b: number, constant: number): number {
    const k = 4 * this.count++;
    if (k === this.kept.length) {
      const larger = new Float64Array(2 * k);
      larger.set(this.kept);
      this.kept = larger;
    }
    this.kept[k] = r;
    this.kept[k + 1] = g;
    this.kept[k + 2] = b;
    this.kept[k + 3] = constant;
    return (this.at[i] = this.count);
  }
}

/** A symmetric system of three, by its adjugate. */
function solved(
  [a, b, c, d, e, f]: [number, number, number, number, number, number],
  [x, y, z]: [number, number, number],
): [number, number, number] {
  const [p, q, r] = [d * f - e * e, c * e - b * f, b * e - c * d];
  const [s, t, u] = [a * f - c * c, b * c - a * e, a * d - b * b];
  const determinant = a * p + b * q + c * r;
  return [
    (p * x + q * y + r * z) / determinant,
    (q * x + s * y + t * z) / determinant,
    (r * x + t * y + u * z) / determinant,
  ];
}
