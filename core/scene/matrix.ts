/** A plane affine map as in CSS and Canvas: x' = a x + c y + e, y' = b x + d y + f. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/** First `inner`, then `outer`. */
export function compose(outer: Matrix, inner: Matrix): Matrix {
  const [a, b, c, d, e, f] = outer;
  const [p, q, r, s, t, u] = inner;
  return [a * p + c * q, b * p + d * q, a * r + c * s, b * r + d * s, a * t + c * u + e, b * t + d * u + f];
}

/** The inverse map; the determinant must not be zero. */
export function invert([a, b, c, d, e, f]: Matrix): Matrix {
  const k = 1 / (a * d - b * c);
  return [d * k, -b * k, -c * k, a * k, (c * f - d * e) * k, (b * e - a * f) * k];
}

export function transform([a, b, c, d, e, f]: Matrix, x: number, y: number): [number, number] {
  return [a * x + c * y + e, b * x + d * y + f];
}
