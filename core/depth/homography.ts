/** A projective map of the plane, row by row: u = (h0 x + h1 y + h2) / w, v = (h3 x + h4 y + h5) / w, w = h6 x + h7 y + h8. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

/**
 * The projective map that takes four points to four others (Heckbert 1989, "Fundamentals of Texture Mapping and Image
 * Warping", section 2.2.3), by elimination with pivoting on its eight equations.
 * @param from x and y of four points, no three on a line  @param to the same
 * @returns null where the points have no such map
 */
export function homographyOf(from: readonly number[], to: readonly number[]): Homography | null {
  const rows: number[][] = [];
  for (let k = 0; k < 4; k++) {
    const [x, y, u, v] = [from[2 * k]!, from[2 * k + 1]!, to[2 * k]!, to[2 * k + 1]!];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  }
  const size = Math.max(...from.map(Math.abs), ...to.map(Math.abs), 1);
  for (let column = 0; column < 8; column++) {
    let best = column;
    for (let row = column; row < 8; row++)
      if (Math.abs(rows[row]![column]!) > Math.abs(rows[best]![column]!)) best = row;
    if (Math.abs(rows[best]![column]!) < 1e-12 * size) return null;
    [rows[column], rows[best]] = [rows[best]!, rows[column]!];
    for (let row = 0; row < 8; row++) {
      if (row === column) continue;
      const factor = rows[row]![column]! / rows[column]![column]!;
      for (let k = column; k < 9; k++) rows[row]![k]! -= factor * rows[column]![k]!;
    }
  }
  const h = rows.map((row, k) => row[8]! / row[k]!);
  return [...h, 1] as unknown as Homography;
}

/** The map back; null where there is none. */
export function invertHomography([a, b, c, d, e, f, g, h, i]: Homography): Homography | null {
  const [A, B, C] = [e * i - f * h, c * h - b * i, b * f - c * e];
  const determinant = a * A + d * B + g * C;
  if (Math.abs(determinant) < 1e-18) return null;
  const k = 1 / determinant;
  return [
    A * k,
    B * k,
    C * k,
    (f * g - d * i) * k,
    (a * i - c * g) * k,
    (c * d - a * f) * k,
    (d * h - e * g) * k,
    (b * g - a * h) * k,
    (a * e - b * d) * k,
  ];
}

/** Where a point goes; null for points on or behind the horizon. */
export function throughHomography(
  [a, b, c, d, e, f, g, h, i]: Homography,
  x: number,
  y: number,
): [number, number] | null {
  const w = g * x + h * y + i;
  return w <= 1e-9 ? null : [(a * x + b * y + c) / w, (d * x + e * y + f) / w];
}
