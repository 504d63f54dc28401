import { seededRandom } from '../pixels/random.ts';
import { storedFrom, valuesAt } from '../settings/setting.ts';
import { finishKind } from './finishes.ts';
import { inKernel } from './operations/memory.ts';
import type { FinishMoment, FinishPixels } from './finish.ts';

/** A round thing in many colours and tones with a soft edge, in the middle of a clear sheet. */
export function roundThing(side: number, margin: number, scale = 1): FinishPixels {
  const [width, height] = [side + 2 * margin, side + 2 * margin];
  const data = new Uint8ClampedArray(width * height * 4);
  const c = width / 2;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [dx, dy] = [(x + 0.5 - c) / scale, (y + 0.5 - c) / scale];
      const d = Math.hypot(dx, dy);
      const i = (y * width + x) * 4;
      data[i] = 128 + 110 * Math.sin(dx * 0.11);
      data[i + 1] = 120 + 100 * Math.sin(dy * 0.09 + 1);
      data[i + 2] = 128 + 90 * Math.cos((dx + dy) * 0.07);
      data[i + 3] = 255 * Math.max(0, Math.min(1, (side / scale / 2 - d) * scale + 0.5));
    }
  return { data, width, height };
}

/** Even colour over a whole sheet. */
export function flat(width: number, height: number, [r, g, b, a = 255]: readonly number[]): FinishPixels {
  const data = new Uint8ClampedArray(width * height * 4);
  const colour = [r!, g!, b!, a];
  for (let i = 0; i < data.length; i++) data[i] = colour[i % 4]!;
  return { data, width, height };
}

/** Every colour and alpha at random. */
export function speckled(width: number, height: number, seed = 3): FinishPixels {
  const random = seededRandom(seed);
  const data = Uint8ClampedArray.from({ length: width * height * 4 }, () => Math.floor(random() * 256));
  return { data, width, height };
}

/** A finish of a kind, as it starts but for some values, on a copy of pixels. */
export function finished(
  id: string,
  source: FinishPixels,
  values: Record<string, unknown> = {},
  moment: Partial<FinishMoment> = {},
): FinishPixels {
  const kind = finishKind(id)!;
  const pixels = { ...source, data: source.data.slice() };
  const now = valuesAt(kind.settings, storedFrom(kind.settings, values), 0);
  const box = { x: 0, y: 0, width: source.width, height: source.height };
  inKernel(pixels, moment.behind ?? null, [
    (own, behind) => kind.apply(own, now, { frame: 0, length: 60, scale: 1, box, ...moment, behind }),
  ]);
  return pixels;
}

export const pixelAt = ({ data, width }: FinishPixels, x: number, y: number): number[] => [
  ...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4),
];

/** Mean difference of premultiplied channels, 0..255. */
export function meanDifference(a: FinishPixels, b: FinishPixels): number {
  let sum = 0;
  for (let i = 0; i < a.data.length; i += 4) {
    for (let c = 0; c < 3; c++)
      sum += Math.abs((a.data[i + c]! * a.data[i + 3]!) / 255 - (b.data[i + c]! * b.data[i + 3]!) / 255);
    sum += Math.abs(a.data[i + 3]! - b.data[i + 3]!);
  }
  return sum / a.data.length;
}

/** Half as large: premultiplied means of 2 x 2. */
export function halved({ data, width, height }: FinishPixels): FinishPixels {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Uint8ClampedArray(w * h * 4);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const sum = [0, 0, 0, 0];
      for (const k of [0, 1, width, width + 1]) {
        const i = (2 * y * width + 2 * x + k) * 4;
        for (let c = 0; c < 3; c++) sum[c]! += data[i + c]! * data[i + 3]!;
        sum[3]! += data[i + 3]!;
      }
      const o = (y * w + x) * 4;
      for (let c = 0; c < 3; c++) out[o + c] = sum[3]! > 0 ? sum[c]! / sum[3]! : 0;
      out[o + 3] = sum[3]! / 4;
    }
  return { data: out, width: w, height: h };
}
