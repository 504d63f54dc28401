import { brushWeight, drawStroke, type Stroke } from '../cut/strokes.ts';
import { dilate } from '../pixels/distance.ts';
import type { Progress } from '../pixels/progress.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { rebuild } from './fill.ts';
import { matchSurroundings } from './membrane.ts';

/** One mark of a retouching brush, in picture pixels. */
export type Touch =
  /** What was painted over is gone; its surroundings go on. */
  | { kind: 'gone'; stroke: Stroke; seed: number }
  /** What another piece hides is continued. @param hidden its alpha 0..255, as large as the picture */
  | { kind: 'behind'; hidden: Bytes; seed: number }
  /** Copies what lies `offset` away; clone as it is, heal in the light of the place. `soft` is the share of the brush that fades. */
  | { kind: 'clone' | 'heal'; stroke: Stroke; offset: readonly [number, number]; soft: number };

/**
 * Applies one touch. Only pixels under the brush change.
 * @param inside alpha 0..255 of a piece when one is touched: nothing is taken from outside it, and alpha is kept
 * @throws NothingToContinue when nearly everything is to be continued; Cancelled
 */
export async function retouch(picture: Rgba, touch: Touch, inside: Bytes | null, progress?: Progress): Promise<Rgba> {
  if (touch.kind === 'gone' || touch.kind === 'behind')
    return continued(picture, holeOf(touch, picture), touch.seed, inside, progress);
  const weight = brushWeight(picture, touch.stroke, touch.soft);
  if (inside) for (let i = 0; i < weight.length; i++) if (inside.data[i] === 0) weight[i] = 0;
  const copied = shifted(picture, touch.offset, weight);
  if (touch.kind === 'heal') await matchSurroundings(picture, copied, underBrush(picture, weight), progress);
  const out: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  for (let i = 0; i < weight.length; i++) {
    const w = weight[i]!;
    if (w === 0) continue;
    for (let c = 0; c < 3; c++) {
      const p = i * 4 + c;
      out.data[p] = picture.data[p]! + w * (copied[i * 3 + c]! - picture.data[p]!);
    }
  }
  return out;
}

/** Thrown when a piece is to be continued behind another that does not lie over it. */
export class NothingHidden extends Error {
  constructor() {
    super('The other piece hides nothing of this one.');
    this.name = 'NothingHidden';
  }
}

/** Whether a touch finds anything to change on a piece. @param inside its alpha 0..255 */
export const findsAnything = (touch: Touch, inside: Bytes): boolean =>
  touch.kind !== 'behind' || touch.hidden.data.some((a, i) => a > hides && inside.data[i]! > 0);

/** From this alpha on a piece hides what is behind it. */
const hides = 12;

/** What is to be continued, a little wider than drawn, as letters, twigs and pieces have soft edges. */
function holeOf(touch: Extract<Touch, { kind: 'gone' | 'behind' }>, { width, height }: Rgba): Bytes {
  if (touch.kind === 'behind')
    return dilate({ ...touch.hidden, data: touch.hidden.data.map((a) => (a > hides ? 1 : 0)) }, 3);
  const drawn = makeBytes(width, height);
  drawStroke(drawn, touch.stroke, 1);
  return dilate(drawn, 2);
}

async function continued(
  picture: Rgba,
  hole: Bytes,
  seed: number,
  inside: Bytes | null,
  progress: Progress | undefined,
): Promise<Rgba> {
  const barred = inside && { ...inside, data: inside.data.map((a) => (a < 250 ? 1 : 0)) };
  if (inside) for (let i = 0; i < hole.data.length; i++) if (inside.data[i] === 0) hole.data[i] = 0;
  const filled = await rebuild({ picture, hole, seed, barred }, progress);
  if (inside) for (let i = 0; i < hole.data.length; i++) filled.data[i * 4 + 3] = picture.data[i * 4 + 3]!;
  return filled;
}

/** Three floats a pixel: what lies `offset` away, edges repeated, where the brush has weight. */
function shifted(picture: Rgba, [dx, dy]: readonly [number, number], weight: Float32Array): Float32Array {
  const { width, height, data } = picture;
  const out = new Float32Array(weight.length * 3);
  const [ox, oy] = [Math.round(dx), Math.round(dy)];
  for (let i = 0; i < weight.length; i++) {
    const x = Math.max(0, Math.min(width - 1, (i % width) + ox));
    const y = Math.max(0, Math.min(height - 1, ((i / width) | 0) + oy));
    for (let c = 0; c < 3; c++) out[i * 3 + c] = data[(y * width + x) * 4 + c]!;
  }
  return out;
}

function underBrush({ width, height }: Rgba, weight: Float32Array): Bytes {
  return { width, height, data: Uint8Array.from(weight, (w) => (w > 0 ? 1 : 0)) };
}
