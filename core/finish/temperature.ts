import { defineFinish, set } from './finish.ts';
import { throughTables } from './operations/colour.ts';

/** Channels are weighted as a von Kries adaptation would between warm and cold light, light kept on the whole. */
export const temperature = defineFinish({
  id: 'temperature',
  name: 'Temperature',
  family: 'colour',
  purpose: 'Makes the light warmer or colder, greener or more magenta.',
  settings: { warmth: set.percent('Warmth', 0.3, 1, -1), tint: set.percent('Tint', 0, 1, -1) },
  apply(pixels, { warmth, tint }) {
    const gains = [
      2 ** (0.35 * warmth + 0.12 * tint),
      2 ** (-0.02 * warmth - 0.25 * tint),
      2 ** (-0.45 * warmth + 0.12 * tint),
    ];
    const light = 0.2126 * gains[0]! + 0.7152 * gains[1]! + 0.0722 * gains[2]!;
    throughTables(
      pixels,
      gains.map((gain) => Float32Array.from({ length: 256 }, (_, v) => (v * gain) / light)),
    );
  },
});
