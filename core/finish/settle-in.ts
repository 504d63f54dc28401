import { momentsOf, throughMatrix, type Moments } from './operations/colour.ts';
import { defineFinish, set, type FinishPixels } from './finish.ts';

type Triple = [number, number, number];

/** Light, red against green, and yellow against blue: each of red, green and blue (Reinhard 2001, by whole shares). */
const opponents: [Triple, Triple, Triple] = [
  [1 / 3, 1 / 3, 1 / 3],
  [1 / 2, -1 / 2, 0],
  [1 / 4, 1 / 4, -1 / 2],
];
/** The way back: red, green and blue of the three. */
const back: [Triple, Triple, Triple] = [
  [1, 1, 2 / 3],
  [1, -1, 2 / 3],
  [1, 0, -4 / 3],
];

interface Statistics {
  mean: number[];
  deviation: number[];
}

/** Mean and standard deviation of sums of the channels. */
function statistics({ means, products }: Moments, rows: readonly Triple[]): Statistics {
  const [rr, rg, rb, gg, gb, bb] = products;
  const mean = rows.map((row) => row[0] * means[0] + row[1] * means[1] + row[2] * means[2]);
  const squares = rows.map(
    ([r, g, b]) => r * r * rr + g * g * gg + b * b * bb + 2 * (r * g * rg + r * b * rb + g * b * gb),
  );
  return { mean, deviation: squares.map((square, k) => Math.sqrt(Math.max(0, square - mean[k]! ** 2))) };
}

/** Mean and standard deviation of each channel where there is something, by its alpha. */
export function statisticsOf(pixels: FinishPixels): Statistics | null {
  const moments = momentsOf(pixels);
  return (
    moments &&
    statistics(moments, [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ])
  );
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
    const [here, beyond] = [momentsOf(pixels), behind && momentsOf(behind)];
    if (!here || !beyond) return;
    const [own, there] = [statistics(here, opponents), statistics(beyond, opponents)];
    const gain = own.mean.map((_, c) => {
      const wanted = there.deviation[c]! / Math.max(2, own.deviation[c]!);
      const amount = c === 0 ? contrast : contrast * colour;
      return 1 + (Math.max(0.4, Math.min(2.5, wanted)) - 1) * amount;
    });
    const shift = own.mean.map(
      (mean, c) => (there.mean[c]! - mean) * (c === 0 ? light : colour) + mean * (1 - gain[c]!),
    );
    // To the opponent channels, there times a gain and plus a shift, and back: all of it is one matrix.
    const row = (r: Triple): Triple => {
      const [red, green, blue] = [0, 1, 2].map((c) =>
        r.reduce((sum, v, k) => sum + v * gain[k]! * opponents[k]![c]!, 0),
      );
      return [red!, green!, blue!];
    };
    const [red, green, blue] = back.map((r) => r.reduce((sum, v, k) => sum + v * shift[k]!, 0));
    throughMatrix(pixels, [row(back[0]), row(back[1]), row(back[2])], [red!, green!, blue!]);
  },
});
