import { evaluateFrame, frameCornersIn, pixelsOf } from './evaluate.ts';
import type { Document, Layer, Shot } from './document.ts';
import { invert, transform } from './matrix.ts';

/** Points along one side of the frame at which the check looks. */
const samplesAcross = 48;

/**
 * Share of the frame that no fully opaque, full-rectangle layer covers, by sampling a grid that includes the frame's
 * very corners. Cut pieces do not count as cover: they have holes.
 */
export function bareShare(document: Document, shot: Shot, frame: number): number {
  const { width, height, draws } = evaluateFrame(document, shot, frame);
  const covers = draws
    .filter((d) => d.opaque && d.opacity >= 1)
    .map((d) => ({ inverse: invert(d.matrix), width: d.width, height: d.height }));
  const samplesDown = Math.max(2, Math.round((samplesAcross * height) / width));
  let bare = 0;
  for (let j = 0; j < samplesDown; j++) {
    for (let i = 0; i < samplesAcross; i++) {
      const x = (i / (samplesAcross - 1)) * width;
      const y = (j / (samplesDown - 1)) * height;
      const covered = covers.some(({ inverse, width: w, height: h }) => {
        const [u, v] = transform(inverse, x, y);
        return u >= -1e-6 && v >= -1e-6 && u <= w + 1e-6 && v <= h + 1e-6;
      });
      if (!covered) bare++;
    }
  }
  return bare / (samplesAcross * samplesDown);
}

/** Bare share of every frame of a shot. */
export function bareFrames(document: Document, shot: Shot): number[] {
  return Array.from({ length: shot.length }, (_, frame) => bareShare(document, shot, frame));
}

/**
 * The smallest factor by which `layer` must be enlarged about its pivot so that it covers the frame in every frame of the
 * shot; 1 when it already does. Exact for each frame: the frame's corners are taken back into the layer, where enlarging
 * by k shrinks their distance from the pivot by k.
 */
export function enlargementToCover(document: Document, shot: Shot, layer: Layer): number {
  const pixels = pixelsOf(document, layer.source);
  if (!pixels) return 1;
  const [px, py] = layer.pivot;
  let factor = 1;
  for (const [u, v] of frameCornersIn(document, shot, layer)) {
    const roomX = u < px ? px - pixels.x : pixels.x + pixels.width - px;
    const roomY = v < py ? py - pixels.y : pixels.y + pixels.height - py;
    if (roomX <= 0 || roomY <= 0) return Infinity;
    factor = Math.max(factor, Math.abs(u - px) / roomX, Math.abs(v - py) / roomY);
  }
  return factor;
}
