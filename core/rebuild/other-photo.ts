import { orEmpty } from '../pixels/emptiness.ts';
import type { Progress } from '../pixels/progress.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { alignPictures } from './align.ts';
import type { Similarity } from './detail.ts';
import { rebuild, type Preview } from './fill.ts';
import { matchSurroundings } from './membrane.ts';
import { cubicSample } from './widen.ts';

/**
 * Takes what lies behind from a second photo of the same place: it is laid over the picture (place, size, turn), brought
 * to its exposure, and joined at the rim of the hole in the gradient domain. What the other photo does not show is
 * rebuilt.
 * @throws NothingInCommon, NothingToContinue, Cancelled
 */
export async function fillFromPhoto(
  request: { picture: Rgba; hole: Bytes; other: Rgba; seed: number },
  progress?: Progress,
  preview?: Preview,
): Promise<Rgba> {
  const { picture, hole, other, seed } = request;
  const unknown = orEmpty(hole, picture);
  const at = await alignPictures(picture, other, unknown, progress);
  const laid = laidOver(picture, other, at);
  const exposure = exposureBetween(picture, laid, unknown);
  const { width, height } = picture;
  const under = makeBytes(width, height);
  const rest = makeBytes(width, height);
  const copied = new Float32Array(width * height * 3);
  for (let i = 0; i < hole.data.length; i++) {
    const covered = laid.data[i * 4 + 3] === 255;
    for (let c = 0; c < 3; c++) {
      const { gain, shift } = exposure[c]!;
      copied[i * 3 + c] = covered ? gain * laid.data[i * 4 + c]! + shift : picture.data[i * 4 + c]!;
    }
    if (!hole.data[i]) continue;
    if (covered) under.data[i] = 1;
    else rest.data[i] = 1;
  }
  await matchSurroundings(picture, copied, under, progress);
  const out: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  for (let i = 0; i < under.data.length; i++)
    if (under.data[i]) for (let c = 0; c < 3; c++) out.data[i * 4 + c] = copied[i * 3 + c]!;
  return rebuild({ picture: out, hole: rest, seed }, progress, preview);
}

/** The other photo in the pixels of `picture`; transparent where it shows nothing. */
export function laidOver(picture: { width: number; height: number }, other: Rgba, at: Similarity): Rgba {
  const out = makeRgba(picture.width, picture.height);
  const value = new Float64Array(4);
  for (let y = 0; y < out.height; y++) {
    for (let x = 0; x < out.width; x++) {
      const sx = at.a * (x + 0.5) - at.b * (y + 0.5) + at.tx - 0.5;
      const sy = at.b * (x + 0.5) + at.a * (y + 0.5) + at.ty - 0.5;
      if (sx < 0 || sy < 0 || sx > other.width - 1 || sy > other.height - 1) continue;
      cubicSample(other, sx, sy, value);
      const o = (y * out.width + x) * 4;
      for (let c = 0; c < 3; c++) out.data[o + c] = value[c]!;
      out.data[o + 3] = 255;
    }
  }
  return out;
}

/** Gain and shift of each channel that bring `laid` to the exposure of `picture`, refitted without the pixels that differ most. */
export function exposureBetween(picture: Rgba, laid: Rgba, ignore: Bytes): { gain: number; shift: number }[] {
  return [0, 1, 2].map((c) => {
    let fit = { gain: 1, shift: 0 };
    for (let pass = 0; pass < 4; pass++) {
      let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
      const limit = pass === 0 ? Infinity : 60 / pass;
      for (let i = 0; i < ignore.data.length; i += 3) {
        if (ignore.data[i] || laid.data[i * 4 + 3] !== 255) continue;
        const x = laid.data[i * 4 + c]!;
        const y = picture.data[i * 4 + c]!;
        if (x < 4 || x > 251 || y < 4 || y > 251 || Math.abs(fit.gain * x + fit.shift - y) > limit) continue;
        n++;
        sx += x;
        sy += y;
        sxx += x * x;
        sxy += x * y;
      }
      const spread = sxx - (sx * sx) / Math.max(1, n);
      if (n < 50 || spread < n) break;
      const gain = Math.max(0.4, Math.min(2.5, (sxy - (sx * sy) / n) / spread));
      fit = { gain, shift: sy / n - (gain * sx) / n };
    }
    return fit;
  });
}
