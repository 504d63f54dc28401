import { defineFinish, set, type FinishPixels } from './finish.ts';

/** Mean and standard deviation of each channel where there is something, by its alpha. */
export function statisticsOf({ data }: FinishPixels): { mean: number[]; deviation: number[] } | null {
  const [sums, squares] = [
    [0, 0, 0],
    [0, 0, 0],
  ] as [number[], number[]];
  let weight = 0;
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]!;
    weight += alpha;
    for (let c = 0; c < 3; c++) {
      sums[c]! += data[i + c]! * alpha;
      squares[c]! += data[i + c]! ** 2 * alpha;
    }
  }
  if (weight === 0) return null;
  const mean = sums.map((sum) => sum / weight);
  return { mean, deviation: squares.map((sum, c) => Math.sqrt(Math.max(0, sum / weight - mean[c]! ** 2))) };
}

/** Colour transfer by means and deviations (Reinhard 2001), in opponent channels of light and two colours, by an amount. */
export const settleIn = defineFinish({
  id: 'settle-in',
  name: 'Settle in',
  family: 'match',
  purpose: 'Takes the light and colour of what lies behind, so that a cutout belongs there.',
  behind: true,
  settings: {
    light: set.percent('Light', 0.5),
    contrast: set.percent('Contrast', 0.3),
    colour: set.percent('Colour', 0.6),
  },
  apply(pixels, { light, contrast, colour }, { behind }) {
    const own = statisticsOf(opponent(pixels));
    const there = behind && statisticsOf(opponent(behind));
    if (!own || !there) return;
    const gain = own.mean.map((_, c) => {
      const wanted = there.deviation[c]! / Math.max(2, own.deviation[c]!);
      const amount = c === 0 ? contrast : contrast * colour;
      return 1 + (Math.max(0.4, Math.min(2.5, wanted)) - 1) * amount;
    });
    const shift = own.mean.map((_, c) => (there.mean[c]! - own.mean[c]!) * (c === 0 ? light : colour));
    const { data } = pixels;
    const rgb = [0, 0, 0];
    for (let i = 0; i < data.length; i += 4) {
      if (data[i + 3] === 0) continue;
      const o = toOpponent(data[i]!, data[i + 1]!, data[i + 2]!);
      for (let c = 0; c < 3; c++) o[c] = (o[c]! - own.mean[c]!) * gain[c]! + own.mean[c]! + shift[c]!;
      fromOpponent(o, rgb);
      for (let c = 0; c < 3; c++) data[i + c] = rgb[c]!;
    }
  },
});

/** Light, red against green, and yellow against blue; shifted so that all are positive. */
const toOpponent = (r: number, g: number, b: number): [number, number, number] => [
  (r + g + b) / 3,
  (r - g) / 2 + 128,
  (r + g) / 4 - b / 2 + 128,
];

function fromOpponent([light, redGreen, yellowBlue]: readonly number[], out: number[]): void {
  const [p, q] = [redGreen! - 128, yellowBlue! - 128];
  // r - g = 2p; r + g - 2b = 4q; r + g + b = 3 light.
  out[2] = light! - (4 * q) / 3;
  const sum = 3 * light! - out[2];
  out[0] = sum / 2 + p;
  out[1] = sum / 2 - p;
}

function opponent({ data, width, height }: FinishPixels): FinishPixels {
  const out = new Uint8ClampedArray(data.length);
  for (let i = 0; i < data.length; i += 4) {
    const o = toOpponent(data[i]!, data[i + 1]!, data[i + 2]!);
    for (let c = 0; c < 3; c++) out[i + c] = o[c]!;
    out[i + 3] = data[i + 3]!;
  }
  return { data: out, width, height };
}
