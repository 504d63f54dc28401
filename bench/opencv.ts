import { createRequire } from 'node:module';
import { drawStroke, type Stroke } from '../core/cut/strokes.ts';
import type { Bytes, Rect, Rgba } from '../core/pixels/raster.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the library has no types that match its build */

let loaded: Promise<any> | null = null;

/** OpenCV.js, the public library measured beside ours. */
export function openCv(): Promise<any> {
  loaded ??= new Promise((resolve) => {
    const cv = createRequire(import.meta.url)('@techstark/opencv-js');
    if (cv.Mat) resolve({ cv });
    // Wrapped, because the module itself has a `then` and would be awaited for ever.
    else cv.onRuntimeInitialized = () => resolve({ cv });
  });
  return loaded;
}

function matOf(cv: any, picture: Rgba): any {
  const rgba = cv.matFromImageData({ data: picture.data, width: picture.width, height: picture.height });
  const rgb = new cv.Mat();
  cv.cvtColor(rgba, rgb, cv.COLOR_RGBA2RGB);
  rgba.delete();
  return rgb;
}

/** GrabCut from a rectangle, five iterations, as its documentation proposes. */
export async function grabCut(picture: Rgba, box: Rect): Promise<{ mask: Bytes; milliseconds: number }> {
  const { cv } = await openCv();
  const source = matOf(cv, picture);
  const [mask, background, foreground] = [new cv.Mat(), new cv.Mat(), new cv.Mat()];
  const started = performance.now();
  cv.grabCut(
    source,
    mask,
    new cv.Rect(box.x, box.y, box.width, box.height),
    background,
    foreground,
    5,
    cv.GC_INIT_WITH_RECT,
  );
  const milliseconds = performance.now() - started;
  const data = Uint8Array.from(mask.data as Uint8Array, (v) => (v === 1 || v === 3 ? 1 : 0));
  for (const m of [source, mask, background, foreground]) m.delete();
  return { mask: { width: picture.width, height: picture.height, data }, milliseconds };
}

/** Inpainting after Telea 2004, radius 5. */
export async function inpaintTelea(picture: Rgba, hole: Bytes): Promise<{ picture: Rgba; milliseconds: number }> {
  const { cv } = await openCv();
  const source = matOf(cv, picture);
  const mask = cv.matFromArray(hole.height, hole.width, cv.CV_8UC1, hole.data);
  const out = new cv.Mat();
  const started = performance.now();
  cv.inpaint(source, mask, out, 5, cv.INPAINT_TELEA);
  const milliseconds = performance.now() - started;
  const data = new Uint8ClampedArray(picture.data.length);
  for (let i = 0; i < hole.data.length; i++) {
    for (let c = 0; c < 3; c++) data[i * 4 + c] = out.data[i * 3 + c];
    data[i * 4 + 3] = 255;
  }
  for (const m of [source, mask, out]) m.delete();
  return { picture: { width: picture.width, height: picture.height, data }, milliseconds };
}

/** GrabCut that a robot teaches by strokes: begun from a rectangle, then two iterations after every stroke. */
export async function taughtGrabCut(
  picture: Rgba,
  box: Rect,
): Promise<{ solve(keep: readonly Stroke[], drop: readonly Stroke[]): Bytes; close(): void }> {
  const { cv } = await openCv();
  const source = matOf(cv, picture);
  const [mask, background, foreground] = [new cv.Mat(), new cv.Mat(), new cv.Mat()];
  const nowhere = new cv.Rect(0, 0, 1, 1);
  cv.grabCut(
    source,
    mask,
    new cv.Rect(box.x, box.y, box.width, box.height),
    background,
    foreground,
    5,
    cv.GC_INIT_WITH_RECT,
  );
  return {
    solve(keep, drop) {
      if (keep.length + drop.length > 0) {
        const seeds: Bytes = { width: picture.width, height: picture.height, data: mask.data as Uint8Array };
        for (const stroke of keep) drawStroke(seeds, stroke, cv.GC_FGD as number);
        for (const stroke of drop) drawStroke(seeds, stroke, cv.GC_BGD as number);
        cv.grabCut(source, mask, nowhere, background, foreground, 2, cv.GC_INIT_WITH_MASK);
      }
      const data = Uint8Array.from(mask.data as Uint8Array, (v) => (v === 1 || v === 3 ? 1 : 0));
      return { width: picture.width, height: picture.height, data };
    },
    close: () => [source, mask, background, foreground].forEach((m) => m.delete()),
  };
}
