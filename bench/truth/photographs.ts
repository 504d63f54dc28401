import {
  ball,
  blurredLights,
  boards,
  cloth,
  either,
  furry,
  hairy,
  leaves,
  matt,
  pebbles,
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
  type Thing,
} from './lit-things.ts';
import type { Photograph } from './photograph.ts';

const meant = (thing: Omit<Thing, 'meant'>): Thing => ({ ...thing, meant: true });

/** Head, cap and coat of somebody who looks out of the picture. */
function figure(x: number, coat: Thing['material'], cap: Thing['material'], tone: [number, number, number]): Thing[] {
  return [
    meant({
      form: either(rod(x - 0.13, 0.46, x + 0.13, 0.46, 0.07), slab(x, 0.62, 0.4, 0.3, 0.09)),
      material: coat,
      round: 0.09,
    }),
    meant({ form: rod(x, 0.3, x, 0.4, 0.042), material: skin(tone), round: 0.04 }),
    meant({ form: ball(x, 0.245, 0.072, 0.092), material: skin(tone), round: 0.06 }),
    meant({
      form: either(ball(x - 0.026, 0.235, 0.009, 0.005), ball(x + 0.026, 0.235, 0.009, 0.005)),
      material: matt([30, 26, 24]),
      round: 0,
    }),
    meant({ form: ball(x, 0.29, 0.024, 0.005), material: matt([130, 54, 50]), round: 0 }),
    meant({
      form: either(slab(x, 0.165, 0.15, 0.055, 0.026), slab(x, 0.19, 0.19, 0.014, 0.006)),
      material: cap,
      round: 0.03,
    }),
    meant({
      form: either(ball(x, 0.5, 0.009), ball(x, 0.56, 0.009), ball(x, 0.62, 0.009)),
      material: shiny([196, 160, 80]),
      round: 0.009,
    }),
  ];
}

/** What the methods may be made with. */
export const photographs: Photograph[] = [
  {
    name: 'keeper on the quay',
    ground: quay(5),
    things: figure(0.47, cloth([46, 58, 84], [70, 84, 110], 60), matt([28, 30, 36]), [206, 160, 130]),
    quality: 90,
  },
  {
    name: 'coil of rope on boards',
    ground: boards(5),
    things: [
      meant({ form: ball(0.5, 0.36, 0.2, 0.15), material: twisted([164, 132, 92]), round: 0.05 }),
      meant({ form: ring(0.5, 0.35, 0.12, 0.03), material: twisted([176, 144, 102]), round: 0.03 }),
      meant({ form: rod(0.66, 0.42, 0.84, 0.5, 0.016), material: twisted([164, 132, 92]), round: 0.016 }),
    ],
    shadow: (u, v) => 0.5 * Math.exp(-(((u - 0.54) / 0.2) ** 2) - ((v - 0.47) / 0.08) ** 2),
    quality: 88,
  },
  {
    name: 'mossy buoy before leaves',
    ground: leaves(5),
    things: [
      meant({
        form: ragged(ball(0.46, 0.38, 0.15, 0.17), 0.01, 40),
        material: furry([44, 60, 34], [134, 140, 76]),
        round: 0.15,
      }),
      meant({ form: rod(0.46, 0.24, 0.46, 0.12, 0.012), material: matt([96, 70, 50]), round: 0.012 }),
      meant({ form: ring(0.46, 0.1, 0.024, 0.006), material: matt([80, 60, 46]), round: 0.006 }),
    ],
    quality: 90,
  },
  {
    name: 'two floats, the left one',
    ground: boards(4),
    things: [
      { form: ball(0.68, 0.36, 0.13), material: striped([196, 60, 44], [226, 216, 190], 12, 1.2), round: 0.13 },
      meant({ form: ball(0.34, 0.34, 0.14), material: striped([196, 60, 44], [226, 216, 190], 12, 0.4), round: 0.14 }),
    ],
    shadow: (u, v) =>
      0.5 *
      Math.max(
        Math.exp(-(((u - 0.36) / 0.14) ** 2) - ((v - 0.48) / 0.04) ** 2),
        Math.exp(-(((u - 0.7) / 0.13) ** 2) - ((v - 0.49) / 0.04) ** 2),
      ),
    quality: 85,
  },
  {
    name: 'glazed mug on a table',
    ground: (u, v) => boards(4)(u, v, 1, 0, 0),
    things: [
      meant({
        form: without(ball(0.66, 0.36, 0.075, 0.085), ball(0.66, 0.36, 0.045, 0.055)),
        material: shiny([226, 222, 210]),
        round: 0.02,
      }),
      meant({ form: slab(0.5, 0.36, 0.28, 0.32, 0.04), material: shiny([226, 222, 210]), round: 0.13 }),
      meant({ form: ball(0.5, 0.215, 0.135, 0.034), material: matt([88, 52, 28], 0.2), round: 0 }),
    ],
    shadow: (u, v) => 0.55 * Math.exp(-(((u - 0.56) / 0.2) ** 2) - ((v - 0.53) / 0.04) ** 2),
    quality: 92,
  },
  {
    name: 'paper windmill before lights',
    ground: blurredLights,
    things: [
      meant({ form: rod(0.5, 0.3, 0.52, 0.7, 0.007), material: matt([150, 120, 84]), round: 0.007 }),
      ...[0, 1, 2, 3, 4].map((k) => {
        const a = (k / 5) * Math.PI * 2 + 0.3;
        return meant({
          form: ball(0.5 + 0.09 * Math.cos(a), 0.28 + 0.09 * Math.sin(a), 0.088, 0.062),
          material: matt(k % 2 ? [228, 96, 70] : [244, 206, 120], 0.12, 20),
          round: 0.09,
        });
      }),
      meant({ form: ball(0.5, 0.28, 0.018), material: shiny([200, 200, 204]), round: 0.018 }),
    ],
    quality: 90,
  },
  {
    name: 'fur hood before the quay',
    ground: quay(3),
    things: [
      meant({
        form: slab(0.52, 0.6, 0.42, 0.34, 0.12),
        material: cloth([128, 96, 66], [120, 90, 62], 90),
        round: 0.12,
      }),
      meant({
        form: hairy(0.52, 0.28, 0.14, 170, 0.05, 0.0016),
        material: furry([92, 66, 44], [206, 176, 134]),
        round: 0.1,
      }),
      meant({ form: ball(0.5, 0.29, 0.075, 0.09), material: skin([170, 120, 92]), round: 0.07 }),
    ],
    quality: 90,
  },
  {
    name: 'dahlia before others out of focus',
    ground: softHedge,
    things: [
      ...[
        [0.34, 0.2, 0.15],
        [0.08, 0.36, 0.13],
        [0.86, 0.14, 0.1],
      ].map(([x, y, r]) => ({
        form: ball(x!, y!, r!, r! * 0.8),
        material: matt([232, 172, 44]),
        round: 0,
        soft: 0.05,
      })),
      meant({ form: rod(0.6, 0.4, 0.57, 0.7, 0.012), material: matt([70, 92, 44]), round: 0.012 }),
      ...[0.14, 0.1, 0.055].flatMap((reach, ring) =>
        Array.from({ length: 11 - 3 * ring }, (_, k) => {
          const a = (k / (11 - 3 * ring)) * Math.PI * 2 + ring * 0.4;
          const [x, y] = [0.6 + reach * Math.cos(a), 0.33 + reach * Math.sin(a)];
          return meant({
            form: rod(x, y, 0.6 + 0.5 * (x - 0.6), 0.33 + 0.5 * (y - 0.33), 0.03, 0.022),
            material: matt(ring === 1 ? [236, 180, 60] : [172, 28, 22], 0.3, 60),
            round: 0.03,
          });
        }),
      ),
    ],
    quality: 90,
  },
  {
    name: 'crab basket on pebbles',
    ground: pebbles,
    things: [
      meant({
        form: either(
          ring(0.48, 0.34, 0.19, 0.013),
          ring(0.48, 0.34, 0.1, 0.01),
          ...[0, 1, 2, 3, 4, 5].map((k) => {
            const a = (k / 6) * Math.PI * 2;
            return rod(
              0.48 + 0.1 * Math.cos(a),
              0.34 + 0.1 * Math.sin(a),
              0.48 + 0.19 * Math.cos(a),
              0.34 + 0.19 * Math.sin(a),
              0.009,
            );
          }),
          ball(0.48, 0.34, 0.05),
        ),
        material: twisted([112, 76, 48]),
        round: 0.012,
      }),
    ],
    quality: 88,
  },
];
