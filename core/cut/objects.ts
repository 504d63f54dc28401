import { makeBytes, type Bytes, type Rect } from '../pixels/raster.ts';

/** One of several things that a piece consists of. */
export interface CutObject {
  /** Its own alpha, trimmed to `bounds`. */
  alpha: Bytes;
  bounds: Rect;
  /** Its size in whole pixels of alpha. */
  size: number;
}

/** Alpha at which pixels hold together; fainter ones go to the object whose body is nearest. */
const holding = 100;

/**
 * Parts alpha (0..255) into the things that do not touch, largest first. Every pixel of alpha belongs to exactly one of
 * them; soft edges go with the body they surround. Things smaller than `least` of the whole are left out.
 */
export function objectsOf(alpha: Bytes, least = 0.004): CutObject[] {
  const { width, height, data } = alpha;
  const label = new Int32Array(data.length);
  let count = 0;
  const queue: number[] = [];
  for (let i = 0; i < data.length; i++) {
    if (label[i] !== 0 || data[i]! < holding) continue;
    label[i] = ++count;
    queue.push(i);
    while (queue.length > 0)
      spread(queue.pop()!, width, height, (j) => {
        if (label[j] !== 0 || data[j]! < holding) return;
        label[j] = count;
        queue.push(j);
      });
  }
  claimFaint(alpha, label);
  return collected(alpha, label, count).filter((object, _, all) => {
    const whole = all.reduce((sum, o) => sum + o.size, 0);
    return object.size >= least * whole;
  });
}

/** Faint pixels are claimed ring by ring outwards from the bodies. */
function claimFaint({ width, height, data }: Bytes, label: Int32Array): void {
  let ring: number[] = [];
  for (let i = 0; i < data.length; i++) if (label[i] !== 0) ring.push(i);
  while (ring.length > 0) {
    const next: number[] = [];
    for (const i of ring)
      spread(i, width, height, (j) => {
        if (label[j] !== 0 || data[j] === 0) return;
        label[j] = label[i]!;
        next.push(j);
      });
    ring = next;
  }
}

function spread(i: number, width: number, height: number, visit: (j: number) => void): void {
  const x = i % width;
  if (x > 0) visit(i - 1);
  if (x + 1 < width) visit(i + 1);
  if (i >= width) visit(i - width);
  if (i + width < width * height) visit(i + width);
}

function collected({ width, data }: Bytes, label: Int32Array, count: number): CutObject[] {
  const boxes = Array.from({ length: count }, () => ({
    left: Infinity,
    top: Infinity,
    right: -1,
    bottom: -1,
    size: 0,
  }));
  for (let i = 0; i < label.length; i++) {
    if (label[i] === 0) continue;
    const box = boxes[label[i]! - 1]!;
    const x = i % width;
    const y = (i / width) | 0;
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x);
    box.top = Math.min(box.top, y);
    box.bottom = Math.max(box.bottom, y);
    box.size += data[i]! / 255;
  }
  const objects = boxes.map(({ left, top, right, bottom, size }, k): CutObject => {
    const bounds = { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
    const alpha = makeBytes(bounds.width, bounds.height);
    for (let y = 0; y < bounds.height; y++) {
      for (let x = 0; x < bounds.width; x++) {
        const i = (top + y) * width + left + x;
        if (label[i] === k + 1) alpha.data[y * bounds.width + x] = data[i]!;
      }
    }
    return { alpha, bounds, size };
  });
  return objects.sort((a, b) => b.size - a.size);
}
