import { makeBytes, makeRgba, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import { seededRandom } from '../../core/pixels/random.ts';
import { findShadow } from '../../core/rebuild/find-shadow.ts';
import { fbm2, noise2 } from '../../demo/marcher/noise.ts';
import { median } from '../measures.ts';
import type { Bar, Section } from '../report.ts';

/* After a lift Clyvo says whether a shadow lies beside the piece. How often is that wrong? */

const [width, height] = [560, 380];
type Colour = [number, number, number];
type Place = (x: number, y: number) => number;

const grey = (v: number, [r, g, b]: Colour = [1, 1, 1]): Colour => [v * r, v * g, v * b];

/** Grounds with and without things that look a little like shadows. */
const grounds: Record<string, (x: number, y: number) => Colour> = {
  planks: (x, y) => (y % 34 < 3 ? [72, 52, 38] : [150 + 14 * Math.sin(x * 0.04 + Math.floor(y / 34) * 3), 108, 70]),
  ripples: (x, y) => grey(100 + 24 * Math.sin(y * 0.35 + 3 * Math.sin(x * 0.012 + y * 0.01)), [0.6, 1.1, 1.35]),
  'long waves': (x, y) => grey(100 + 30 * Math.sin(y * 0.12 + 2 * noise2(x / 40, y / 40) + x * 0.02), [0.55, 1, 1.2]),
  tiles: (x, y) => (x % 44 < 4 || y % 44 < 4 ? [98, 94, 90] : [188, 176, 150]),
  'a ramp': (_, y) => [200 - y * 0.2, 190 - y * 0.22, 170 - y * 0.2],
  sand: (x, y) => grey(150 + 40 * noise2(x / 20, y / 20) + 30 * noise2(x / 4, y / 4), [1, 0.86, 0.66]),
  leaves: (x, y) => grey(40 + 130 * fbm2(x / 16, y / 16, 3), [0.6, 1, 0.5]),
  folds: (x, y) => grey(130 + 34 * Math.sin(x * 0.05 + y * 0.02) + 18 * noise2(x / 40, y / 40), [0.7, 0.5, 0.9]),
  bricks: (x, y) => {
    const row = Math.floor(y / 26);
    if (y % 26 < 3 || (x + (row % 2) * 28) % 56 < 3) return [190, 184, 172];
    return [150 + 30 * noise2(Math.floor((x + (row % 2) * 28) / 56), row), 70, 54];
  },
  cobbles: (x, y) =>
    grey(150 - 70 * (Math.hypot((x % 30) - 15, (y % 30) - 15) / 15) ** 2 + 30 * noise2(x / 90, y / 90)),
  'table and wall': (x, y) => (y < 190 ? [186, 170, 142] : grey(120 + 20 * noise2(x / 40, y / 40), [1, 0.66, 0.42])),
  marble: (x, y) => grey(200 - 60 * Math.abs(Math.sin(x * 0.01 + 4 * noise2(x / 90, y / 90) + y * 0.013))),
  'dark patches': (x, y) => grey(noise2(x / 90, y / 90) > 0.55 ? 110 : 170, [1, 0.95, 0.8]),
};

/** A thing, and the middle and radius of its foot. */
const things: Record<string, { inside(x: number, y: number): boolean; foot: [number, number, number] }> = {
  ball: { inside: (x, y) => Math.hypot(x - 280, y - 160) < 62, foot: [280, 222, 62] },
  jar: {
    inside: (x, y) => (Math.abs(x - 260) < 44 && y > 90 && y < 250) || Math.hypot(x - 260, (y - 250) * 2.5) < 44,
    foot: [260, 262, 44],
  },
};

/** The share of light that is missing, in radii of the foot from its middle. */
const shadows: Record<string, Place> = {
  none: () => 0,
  contact: (u, v) => 0.55 * Math.max(0, 1 - Math.hypot(u / 1.5, v / 0.38)) ** 0.7,
  long: (u, v) => {
    const [along, across] = [u * 0.94 + v * 0.34 - 1.3, v * 0.94 - u * 0.34];
    return 0.42 * Math.max(0, Math.min(1, 2 * (1 - Math.hypot(along / 2, across / 0.45))));
  },
};

function scene(ground: (x: number, y: number) => Colour, thing: (typeof things)[string], missing: Place) {
  const picture: Rgba = makeRgba(width, height);
  const alpha: Bytes = makeBytes(width, height);
  const random = seededRandom(7);
  const [cx, cy, radius] = thing.foot;
  for (let y = 0, k = 0; y < height; y++)
    for (let x = 0; x < width; x++, k++) {
      const noise = 7 * (random() - 0.5);
      const light = 1 - missing((x - cx) / radius, (y - cy) / radius);
      const there = thing.inside(x, y);
      const colour: Colour = there ? [200 + 20 * Math.sin(y * 0.05), 70, 50] : ground(x, y);
      picture.data.set([...colour.map((v) => (v + noise) * (there ? 1 : light)), 255], k * 4);
      if (there) alpha.data[k] = 255;
    }
  return { picture, alpha };
}

export async function shadowNoticesSection(say: (line: string) => void): Promise<Section> {
  const rows: string[][] = [];
  const times: number[] = [];
  let [alone, wrongAlone, shaded, missed] = [0, 0, 0, 0];
  for (const [name, ground] of Object.entries(grounds)) {
    say(`shadows: ${name}`);
    const told: string[] = [];
    for (const [kind, missing] of Object.entries(shadows))
      for (const [thingName, thing] of Object.entries(things)) {
        const { picture, alpha } = scene(ground, thing, missing);
        const started = performance.now();
        const found = (await findShadow(picture, alpha)) !== null;
        times.push(performance.now() - started);
        const right = found === (kind !== 'none');
        if (kind === 'none') [alone, wrongAlone] = [alone + 1, wrongAlone + (right ? 0 : 1)];
        else [shaded, missed] = [shaded + 1, missed + (right ? 0 : 1)];
        if (!right)
          told.push(kind === 'none' ? `${thingName}: said where there is none` : `${thingName}, ${kind}: missed`);
      }
    rows.push([name, told.join('; ') || 'all right']);
  }
  const wrong = (wrongAlone + missed) / (alone + shaded);
  const bars: Bar[] = [
    {
      what: 'notices of a shadow that are wrong, said or missed',
      wanted: 'at most 10 %',
      measured: `${(100 * wrong).toFixed(1)} % (${wrongAlone} of ${alone} said where there is none, ${missed} of ${shaded} missed)`,
      reached: wrong <= 0.1,
    },
  ];
  return {
    title: 'Shadow notices',
    bars,
    table: { head: ['ground', 'what was wrong'], rows },
    notes: [
      'A ball and a jar without a shadow, with a contact shadow and with a long one, on grounds the search was not made with.',
      `One search takes ${(median(times) / 1000).toFixed(1)} s, after the lift and without anybody waiting for it.`,
    ],
  };
}
