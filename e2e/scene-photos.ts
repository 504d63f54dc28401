import { photo, type Color } from './photos.ts';

/* Pictures that the scenes start from, drawn with noise by the tests themselves. */

/** Planks of a pier that run towards the far end, water beside it and sky above. */
function pier(x: number, y: number): Color {
  if (y < 150) return [176 + y * 0.24, 192 + y * 0.14, 214 - y * 0.06];
  const depth = 34 / (y - 126);
  const across = (x - 330) * depth;
  if (Math.abs(across) > 46) {
    const wave = 9 * Math.sin(y * 0.5 + 2 * Math.sin(x * 0.03)) + 6 * Math.sin(x * 0.07 + y * 0.2);
    return [64 + wave, 100 + wave, 118 + wave];
  }
  const plank = Math.floor((depth * 90) % 1e4);
  const joint = (depth * 90) % 1 < 0.1 ? 0.62 : 1;
  const grain = 10 * Math.sin(plank * 2.7) + 5 * Math.sin(across * 1.9 + plank);
  return [158 * joint + grain, 138 * joint + grain, 112 * joint + grain * 0.7];
}

/** Where somebody stands on the pier: the feet, and how tall they are, in pixels. */
export const onPier = { near: { x: 400, feet: 385, tall: 210 }, far: { x: 285, feet: 236, tall: 78 } } as const;
const coats: Record<keyof typeof onPier, Color> = { near: [196, 62, 40], far: [228, 190, 60] };

function standing(x: number, y: number, { x: middle, feet, tall }: (typeof onPier)['near' | 'far']): boolean {
  const [u, v] = [(x - middle) / tall, (feet - y) / tall];
  const head = Math.hypot(u, v - 0.88) < 0.11;
  const coat = v > 0.2 && v < 0.78 && Math.abs(u) < 0.2 - 0.12 * (v - 0.2);
  const legs = v >= 0 && v <= 0.24 && Math.abs(Math.abs(u) - 0.075) < 0.045;
  return head || coat || legs;
}

/** Two in painted coats on a pier, one near and one far, a shadow under each, 640 x 420; or the pier alone. */
export const twoOnThePier = (alone = false): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    if (alone) return pier(x, y);
    for (const who of ['near', 'far'] as const) {
      if (!standing(x, y, onPier[who])) continue;
      const light = 1 - 0.3 * ((x - onPier[who].x) / onPier[who].tall);
      return coats[who].map((c) => c * light) as Color;
    }
    let light = 1;
    for (const { x: middle, feet, tall } of Object.values(onPier)) {
      const [u, v] = [(x - middle - tall * 0.16) / (tall * 0.32), (y - feet) / (tall * 0.07)];
      light *= 1 - 0.5 * Math.max(0, Math.min(1, 1.6 - 1.6 * Math.hypot(u, v)));
    }
    return pier(x, y).map((c) => c * light) as Color;
  });

/** The keeper from the chest up in oilskins and a round hat, before a whitewashed wall, 480 x 480. */
export const keeperPortrait = (): Promise<Buffer> =>
  photo(480, 480, (x, y) => {
    const wall = 5 * Math.sin(x * 0.05 + 2 * Math.sin(y * 0.031)) + 4 * Math.sin(y * 0.09);
    const face = Math.hypot((x - 240) / 62, (y - 196) / 78) < 1;
    const brim = Math.hypot((x - 240) / 108, (y - 142) / 26) < 1;
    const crown = y < 142 && Math.hypot((x - 240) / 70, (y - 142) / 72) < 1;
    const coat = y > 262 && Math.abs(x - 240) < 66 + 62 * Math.sqrt(Math.min(1, (y - 262) / 120));
    const light = 1 - (x - 240) / 520;
    if (brim || crown) return [204 * light, 152 * light, 36];
    if (face) {
      const beard = y > 214 + 8 * Math.sin(x * 0.2) && Math.abs(x - 240) < 52;
      const eye = Math.min(Math.hypot(x - 214, y - 184), Math.hypot(x - 266, y - 184)) < 6;
      if (eye) return [34, 40, 48];
      return beard ? [150 * light, 146 * light, 140 * light] : [206 * light, 150 * light, 120 * light];
    }
    if (coat) {
      const seam = Math.abs(x - 240) < 3 || Math.abs(Math.hypot(x - 240, (y - 330) * 1.4) - 12) < 2;
      return seam ? [120, 84, 20] : [212 * light, 164 * light, 44];
    }
    return [176 + wall, 190 + wall, 198 + wall];
  });

/** A red flag with a white fish, 300 x 180, clear outside. */
export const fishFlag = (): Promise<Buffer> =>
  photo(300, 180, (x, y) => {
    const body = Math.hypot((x - 160) / 62, (y - 90) / 34) < 1;
    const tail = x < 112 && x > 74 && Math.abs(y - 90) < (112 - x) * 0.9;
    const eye = Math.hypot(x - 192, y - 82) < 5;
    if ((body || tail) && !eye) return [240, 236, 224];
    const fold = 14 * Math.sin(x * 0.045 + y * 0.01);
    return [200 + fold, 56 + fold * 0.5, 40 + fold * 0.4];
  });

/** A quay wall in grey evening light, 640 x 420. */
export const quayWall = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    const row = Math.floor(y / 42);
    const joint = y % 42 < 3 || (x + (row % 2) * 40) % 80 < 3;
    const stain = 12 * Math.sin(x * 0.021 + 2 * Math.sin(y * 0.03)) + 9 * Math.sin(y * 0.05 + row);
    return joint ? [92, 96, 100] : [134 + stain, 138 + stain, 142 + stain];
  });

/** The side of a hull with portholes before a green screen, 960 x 360: green in the window of its bridge too. */
export const hullOnGreen = (): Promise<Buffer> =>
  photo(960, 360, (x, y) => {
    const screen: Color = [48 + 6 * Math.sin(x * 0.01), 178 + 10 * Math.sin(x * 0.006 + y * 0.01), 76];
    const bow = 920 - (y - 150) * 0.55;
    const hull = y > 150 && y < 330 && x > 40 + (y - 150) * 0.2 && x < bow;
    const bridge = y > 50 && y <= 150 && x > 160 && x < 420;
    const gap = y > 78 && y < 122 && x > 250 && x < 350;
    if (gap || !(hull || bridge)) return screen;
    if (bridge) return [224, 220, 206];
    const porthole = Math.hypot(((x + 20) % 110) - 55, y - 205) < 14 && x < 820;
    if (porthole) return [40, 52, 62];
    return y > 290 ? [120, 34, 30] : [36, 60, 92 + 0.02 * x];
  });

/** Twelve painted floats on a pale cloth, four in a row, 640 x 420. */
export const floatPlaces = Array.from({ length: 12 }, (_, k): [number, number] => [
  95 + (k % 4) * 150,
  80 + Math.floor(k / 4) * 130,
]);
export const twelveFloats = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    for (const [k, [cx, cy]] of floatPlaces.entries()) {
      const [u, v] = [x - cx, y - cy];
      if (Math.hypot(u, v) > 40) continue;
      const light = 1 - v / 150;
      const band = Math.abs(v + 0.2 * u) < 9;
      if (band) return [236 * light, 226 * light, 206 * light];
      return (k % 2 ? [190 * light, 62 * light, 44 * light] : [30 * light, 96 * light, 124 * light]) as Color;
    }
    const weave = 5 * Math.sin(x * 1.1) * Math.sin(y * 1.1);
    return [196 + weave, 190 + weave, 178 + weave];
  });

/** The height at which a curved shore ends against the night, 640 x 420. */
export const shoreAt = (x: number): number => 300 - 70 * Math.sin((Math.PI * x) / 640);
export const nightBay = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    if (y < shoreAt(x)) return [14 + y * 0.05, 20 + y * 0.08, 44 + y * 0.12];
    const stones = 7 * Math.sin(x * 0.21 + 2 * Math.sin(y * 0.17)) + 5 * Math.sin(y * 0.33 + x * 0.05);
    return [44 + stones, 46 + stones, 50 + stones];
  });
