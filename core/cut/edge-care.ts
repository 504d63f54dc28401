import { boxBlur, planeOfBytes, windowExtreme } from '../pixels/filters.ts';
import { makeBytes, type Bytes } from '../pixels/raster.ts';
import { brushWeight, type Stroke } from './strokes.ts';

/** How a piece's edge is treated after it was found, in picture pixels. */
export interface EdgeCare {
  /** Above 0 the piece grows, below 0 it shrinks. */
  grow: number;
  /** Half width of the softening. */
  soften: number;
}

export const noCare: EdgeCare = { grow: 0, soften: 0 };

/** A stroke directly on alpha: brings the picture back, or wipes it away. `soft` is the share of the brush that fades. */
export interface AlphaMark {
  kind: 'restore' | 'wipe';
  stroke: Stroke;
  soft: number;
}

/** Alpha (0..255) grown or shrunk, softened, and with the marks of the brushes on it, in this order. */
export function withCare(alpha: Bytes, care: EdgeCare, marks: readonly AlphaMark[]): Bytes {
  let out = alpha;
  if (care.grow !== 0) {
    const pick = care.grow > 0 ? Math.max : (a: number, b: number): number => Math.min(a, b);
    out = bytesOf(windowExtreme(planeOfBytes(out), Math.abs(Math.round(care.grow)), pick));
  }
  // Two box blurs are close to a Gaussian, and wide ones cost no more than narrow ones.
  const radius = Math.round(care.soften / 2);
  if (care.soften > 0) out = bytesOf(boxBlur(boxBlur(planeOfBytes(out), Math.max(1, radius)), Math.max(1, radius)));
  if (marks.length === 0) return out;
  out = { ...out, data: out.data.slice() };
  for (const { kind, stroke, soft } of marks) {
    const weight = brushWeight(alpha, stroke, soft);
    for (let i = 0; i < weight.length; i++) {
      const w = weight[i]!;
      if (w === 0) continue;
      const before = out.data[i]!;
      out.data[i] = Math.round(kind === 'restore' ? Math.max(before, 255 * w) : before * (1 - w));
    }
  }
  return out;
}

function bytesOf({ width, height, data }: { width: number; height: number; data: Float32Array }): Bytes {
  const out = makeBytes(width, height);
  for (let i = 0; i < data.length; i++) out.data[i] = Math.round(data[i]!);
  return out;
}
