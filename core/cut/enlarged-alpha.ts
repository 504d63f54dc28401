import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';

/** Half width of the window, in pixels of the smaller size, within which alpha is a linear function of colour. */
const reach = 2;
/** Variance of colour (0..1) below which it says nothing: noise. */
const noise = 2e-4;

/** Alpha as a linear function of colour around one pixel: three factors and a constant. */
type Line = readonly [r: number, g: number, b: number, constant: number];

/**
 * Alpha of a picture from that of its half: within a small window alpha is taken as a linear function of colour, which is read at the
 * smaller size and used at the larger one (joint upsampling by a guided filter, He & Sun 2015; closed-form matting rests on the
 * same assumption). What is all clear or all opaque around stays so.
 * @param picture as large as alpha shall be  @param half the same picture at half the size  @param alpha of the half, 0..255
 */
export function enlargedAlpha(picture: Rgba, half: Rgba, alpha: Bytes): Bytes {
  const { width, height } = picture;
  const out = makeBytes(width, height);
  const [least, most] = extremesOf(alpha);
  const lines = new Map<number, Line>();
  const lineAt = (i: number): Line => {
    let line = lines.get(i);
    if (!line) lines.set(i, (line = lineAround(half, alpha, i)));
    return line;
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const s = Math.min(alpha.height - 1, y >> 1) * alpha.width + Math.min(alpha.width - 1, x >> 1);
      const i = y * width + x;
      const [low, high] = [least[s]!, most[s]!];
      out.data[i] =
        low === high ? low : Math.max(low, Math.min(high, 255 * blended(picture.data, i * 4, x, y, alpha, lineAt)));
    }
  return out;
}

/** The lines of the four smaller pixels around, by how near they are, at a pixel's own colour. */
function blended(
  data: Uint8ClampedArray,
  p: number,
  x: number,
  y: number,
  { width, height }: Bytes,
  lineAt: (i: number) => Line,
): number {
  const [u, v] = [(x - 0.5) / 2, (y - 0.5) / 2];
  const [u0, v0] = [Math.floor(u), Math.floor(v)];
  let sum = 0;
  for (const [dx, dy] of corners) {
    const weight = (dx ? u - u0 : 1 - u + u0) * (dy ? v - v0 : 1 - v + v0);
    const at = Math.max(0, Math.min(height - 1, v0 + dy)) * width + Math.max(0, Math.min(width - 1, u0 + dx));
    const [r, g, b, constant] = lineAt(at);
    sum += weight * (constant + (r * data[p]! + g * data[p + 1]! + b * data[p + 2]!) / 255);
  }
  return sum;
}

const corners = [
  [0, 0],
  [1, 0],
  [0, 1],
  [1, 1],
] as const;

/** The least and the most alpha among each pixel and its eight neighbours. */
function extremesOf({ width, height, data }: Bytes): [Uint8Array, Uint8Array] {
  const [least, most] = [new Uint8Array(data.length), new Uint8Array(data.length)];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      let [low, high] = [255, 0];
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const a = data[v * width + u]!;
          if (a < low) low = a;
          if (a > high) high = a;
        }
      least[i] = low;
      most[i] = high;
    }
  return [least, most];
}

/** Least squares of alpha over the colours of a window. */
function lineAround({ width, height, data }: Rgba, alpha: Bytes, i: number): Line {
  const [x, y] = [i % width, Math.floor(i / width)];
  // Sums of colours and alpha, and of their products with colours: red, green, blue, alpha.
  const sums = [0, 0, 0, 0];
  const products = Array.from({ length: 3 }, () => [0, 0, 0, 0]);
  let n = 0;
  for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
    for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++, n++) {
      const j = v * width + u;
      const own = [data[j * 4]! / 255, data[j * 4 + 1]! / 255, data[j * 4 + 2]! / 255, alpha.data[j]! / 255];
      for (let k = 0; k < 4; k++) {
        sums[k]! += own[k]!;
        for (let c = 0; c < 3; c++) products[c]![k]! += own[c]! * own[k]!;
      }
    }
  const mean = sums.map((sum) => sum / n) as [number, number, number, number];
  const covariance = (c: number, k: number): number => products[c]![k]! / n - mean[c]! * mean[k]!;
  const spread = [0, 1, 2].map((c) => covariance(c, c) + noise);
  const factors = solved(
    [spread[0]!, covariance(0, 1), covariance(0, 2), spread[1]!, covariance(1, 2), spread[2]!],
    [covariance(0, 3), covariance(1, 3), covariance(2, 3)],
  );
  const [r, g, b] = factors;
  return [r, g, b, mean[3] - r * mean[0] - g * mean[1] - b * mean[2]];
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
