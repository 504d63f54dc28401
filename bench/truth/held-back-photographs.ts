import {
  ball,
  boards,
  cloth,
  either,
  furry,
  leaves,
  matt,
  quay,
  ragged,
  ring,
  rod,
  shiny,
  skin,
  slab,
  softHedge,
  striped,
  twisted,
  without,
  blurredLights,
} from './lit-things.ts';
import type { Photograph } from './photograph.ts';

/** Only measured, never tuned to: a figure here belongs into docs/bench.md and nowhere else. */
export const heldBackPhotographs: Photograph[] = [
  {
    name: 'mate before a striped sail (held back)',
    ground: (u, v, light) => striped([206, 190, 160], [150, 70, 60], 9, 0.1)(u, v, light, 0, 0),
    things: [
      {
        form: either(slab(0.2, 0.56, 0.5, 0.5, 0.12), rod(0.3, 0.4, 0.5, 0.62, 0.08)),
        material: cloth([150, 66, 56], [164, 80, 66], 70),
        round: 0.1,
        meant: true,
      },
      { form: rod(0.26, 0.26, 0.25, 0.36, 0.05), material: skin([150, 104, 78]), round: 0.05, meant: true },
      { form: ball(0.27, 0.2, 0.085, 0.1), material: skin([150, 104, 78]), round: 0.08, meant: true },
      {
        form: without(ball(0.265, 0.16, 0.095, 0.085), slab(0.28, 0.26, 0.4, 0.14, 0)),
        material: furry([40, 30, 26], [86, 64, 48]),
        round: 0.06,
        meant: true,
      },
      {
        form: slab(0.25, 0.35, 0.17, 0.05, 0.024),
        material: cloth([40, 70, 84], [210, 200, 180], 80),
        round: 0.03,
        meant: true,
      },
    ],
    quality: 88,
  },
  {
    name: 'kettle before tiles (held back)',
    ground: (u, v) => {
      const [x, y] = [u * 12 - Math.floor(u * 12), v * 12 - Math.floor(v * 12)];
      const joint = Math.min(x, y, 1 - x, 1 - y) < 0.05;
      return joint ? [150, 148, 140] : matt([176, 192, 196], 0.2, 30)(u, v, 0.8, 0, 0);
    },
    things: [
      { form: slab(0.5, 0.62, 1.2, 0.2, 0), material: matt([120, 88, 60], 0.5, 90), round: 0 },
      {
        form: without(ring(0.5, 0.26, 0.13, 0.012), slab(0.5, 0.42, 0.5, 0.25, 0)),
        material: matt([40, 38, 36]),
        round: 0.012,
        meant: true,
      },
      { form: rod(0.36, 0.42, 0.24, 0.3, 0.034, 0.016), material: shiny([150, 156, 160]), round: 0.03, meant: true },
      { form: ball(0.5, 0.43, 0.17, 0.13), material: shiny([150, 156, 160]), round: 0.14, meant: true },
      { form: ball(0.5, 0.3, 0.02), material: matt([40, 38, 36]), round: 0.02, meant: true },
    ],
    shadow: (u, v) => 0.4 * Math.exp(-(((u - 0.55) / 0.2) ** 2) - ((v - 0.56) / 0.03) ** 2),
    quality: 92,
  },
  {
    name: 'life ring before leaves (held back)',
    ground: leaves(3),
    things: [
      {
        form: ring(0.5, 0.33, 0.17, 0.05),
        material: (u, v, light) =>
          (Math.floor((Math.atan2(v - 0.33, u - 0.5) / Math.PI) * 4 + 8.5) % 2
            ? matt([220, 214, 200])
            : matt([206, 70, 40]))(u, v, light, 0, 0),
        round: 0.05,
        meant: true,
      },
    ],
    quality: 86,
  },
  {
    name: 'plant in a pot (held back)',
    ground: (u, v) => {
      const row = Math.floor(v * 26);
      const x = u * 13 + (row % 2) * 0.5;
      const joint = Math.abs(v * 26 - row - 0.5) > 0.44 || Math.abs(x - Math.floor(x) - 0.5) > 0.46;
      return joint ? [150, 140, 128] : matt([150, 84, 64], 0.5, 70)(u, v, 0.8, 0, 0);
    },
    things: [
      {
        form: ragged(either(ball(0.5, 0.22, 0.15, 0.12), ball(0.4, 0.3, 0.08), ball(0.6, 0.29, 0.09)), 0.03, 26),
        material: (u, v, light) => leaves(5)(u * 1.3, v * 1.3, light, 0, 0),
        round: 0.1,
        meant: true,
      },
      {
        form: without(
          slab(0.5, 0.47, 0.2, 0.22, 0.02),
          either(rod(0.36, 0.34, 0.42, 0.6, 0.02), rod(0.64, 0.34, 0.58, 0.6, 0.02)),
        ),
        material: matt([168, 92, 62], 0.3, 30),
        round: 0.1,
        meant: true,
      },
    ],
    shadow: (u, v) => 0.4 * Math.exp(-(((u - 0.58) / 0.12) ** 2) - ((v - 0.56) / 0.05) ** 2),
    quality: 84,
  },
  {
    name: 'model boat, shallow focus (held back)',
    ground: boards(2),
    things: [
      { form: ball(0.1, 0.6, 0.2, 0.14), material: matt([150, 60, 44]), round: 0.15, soft: 0.02 },
      { form: rod(0.52, 0.1, 0.52, 0.42, 0.006), material: matt([120, 92, 60]), round: 0.006, meant: true },
      {
        form: either(rod(0.54, 0.14, 0.54, 0.38, 0.004, 0.06), slab(0.56, 0.36, 0.1, 0.05, 0.01)),
        material: cloth([232, 224, 204], [224, 214, 192], 40),
        round: 0.05,
        meant: true,
      },
      {
        form: without(ball(0.52, 0.36, 0.2, 0.16), slab(0.52, 0.3, 0.6, 0.26, 0)),
        material: striped([30, 70, 96], [224, 216, 196], 30, 1.57),
        round: 0.12,
        meant: true,
      },
      { form: rod(0.36, 0.44, 0.68, 0.44, 0.01), material: matt([164, 124, 80]), round: 0.01, meant: true },
    ],
    quality: 90,
  },
  {
    name: 'seed heads before a blur of their colours (held back)',
    ground: softHedge,
    things: [
      ...[
        [0.5, 0.3, 0.2],
        [0.2, 0.5, 0.16],
        [0.84, 0.5, 0.12],
      ].map(([x, y, r]) => ({
        form: ball(x!, y!, r!, r! * 0.7),
        material: matt([176, 120, 70]),
        round: 0,
        soft: 0.07,
      })),
      ...[
        [0.4, 0.24],
        [0.58, 0.2],
      ].flatMap(([x, y]) => [
        {
          form: rod(x!, y!, x! < 0.5 ? 0.45 : 0.53, 0.7, 0.007),
          material: matt([104, 96, 54]),
          round: 0.007,
          meant: true,
        },
        {
          form: ragged(ball(x!, y!, 0.06, 0.085), 0.006, 60),
          material: furry([110, 70, 40], [206, 160, 104]),
          round: 0.05,
          meant: true,
        },
      ]),
    ],
    quality: 90,
  },
  {
    name: 'lantern mender at dusk (held back)',
    ground: blurredLights,
    things: [
      {
        form: either(rod(0.36, 0.5, 0.68, 0.5, 0.09), slab(0.52, 0.64, 0.46, 0.26, 0.08)),
        material: cloth([52, 48, 60], [60, 56, 70], 50),
        round: 0.1,
        meant: true,
      },
      { form: ball(0.52, 0.28, 0.08, 0.1), material: skin([120, 84, 70]), round: 0.07, meant: true },
      {
        form: without(ragged(ball(0.52, 0.25, 0.105, 0.105), 0.008, 90), ball(0.52, 0.31, 0.075, 0.09)),
        material: furry([26, 22, 26], [60, 46, 44]),
        round: 0.06,
        meant: true,
      },
      {
        form: either(rod(0.42, 0.5, 0.36, 0.4, 0.035), ball(0.36, 0.39, 0.035)),
        material: skin([120, 84, 70]),
        round: 0.03,
        meant: true,
      },
      { form: rod(0.36, 0.4, 0.36, 0.16, 0.006), material: twisted([150, 130, 90]), round: 0.006, meant: true },
      { form: quayPane, material: quay(3), round: 0 },
    ],
    quality: 88,
  },
];

/** A post that stands before the subject and hides a part of it. */
function quayPane(u: number, v: number): number {
  return slab(0.7, 0.4, 0.05, 0.9, 0)(u, v);
}
