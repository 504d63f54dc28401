import type { Point } from '../../path/path.ts';

/** Maps (x, y) to (a x + c y + e, b x + d y + f), as `matrix(a b c d e f)` of SVG 2 does. */
export type Affine = readonly [number, number, number, number, number, number];

export const identity: Affine = [1, 0, 0, 1, 0, 0];

/** First `b`, then `a`. */
export const composed = (a: Affine, b: Affine): Affine => [
  a[0] * b[0] + a[2] * b[1],
  a[1] * b[0] + a[3] * b[1],
  a[0] * b[2] + a[2] * b[3],
  a[1] * b[2] + a[3] * b[3],
  a[0] * b[4] + a[2] * b[5] + a[4],
  a[1] * b[4] + a[3] * b[5] + a[5],
];

export const apply = ([a, b, c, d, e, f]: Affine, [x, y]: Point): Point => [a * x + c * y + e, b * x + d * y + f];

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

const turned = (degrees: number): Affine => {
  const [cos, sin] = [Math.cos(radians(degrees)), Math.sin(radians(degrees))];
  return [cos, sin, -sin, cos, 0, 0];
};

const functions: Record<string, (v: number[]) => Affine | null> = {
  matrix: (v) => (v.length === 6 ? (v as unknown as Affine) : null),
  translate: ([x = 0, y = 0]) => [1, 0, 0, 1, x, y],
  scale: ([x = 1, y = x]) => [x, 0, 0, y, 0, 0],
  rotate: ([degrees = 0, x = 0, y = 0]) =>
    composed([1, 0, 0, 1, x, y], composed(turned(degrees), [1, 0, 0, 1, -x, -y])),
  skewX: ([degrees = 0]) => [1, 0, Math.tan(radians(degrees)), 1, 0, 0],
  skewY: ([degrees = 0]) => [1, Math.tan(radians(degrees)), 0, 1, 0, 0],
};

/** A `transform` attribute (CSS Transforms 1, chapter 8); one that cannot be read changes nothing. */
export function transformOf(text: string | undefined): Affine {
  let all = identity;
  for (const [, name, list] of (text ?? '').matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
    const numbers = list!
      .split(/[\s,]+/)
      .filter(Boolean)
      .map(Number.parseFloat);
    const one = numbers.every(Number.isFinite) ? functions[name!]?.(numbers) : null;
    if (one) all = composed(all, one);
  }
  return all;
}
