import sharp from 'sharp';
import { seededRandom } from '../core/pixels/random.ts';

/* Photos nobody prepared for, drawn with noise by the tests themselves. */

export type Color = [number, number, number];

export async function photo(width: number, height: number, color: (x: number, y: number) => Color): Promise<Buffer> {
  const random = seededRandom(11);
  const pixels = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const c = color(x, y);
      const grain = 5 * (random() + random() - 1);
      for (let k = 0; k < 3; k++) pixels[(y * width + x) * 3 + k] = Math.max(0, Math.min(255, c[k]! + grain));
    }
  }
  return sharp(pixels, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

const board = (x: number): Color => {
  const joint = x % 36 < 3 ? 0.45 : 1;
  const light = (150 + 14 * Math.sin(Math.floor(x / 36) * 2.3)) * joint;
  return [light, light * 0.94, light * 0.86];
};

/** How much of the ground's light the float's shadow takes. */
export const shadowAt = (x: number, y: number): number =>
  0.6 * Math.max(0, 1 - Math.hypot((x - 320) / 130, (y - 300) / 46));

/** An orange float hovering over a boardwalk, 640 x 420, with a soft shadow below it. */
export const floatOverBoards = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    if (Math.hypot(x - 320, y - 180) < 70) return [224 - (y - 180) * 0.4, 104, 36];
    const light = 1 - shadowAt(x, y);
    return board(x).map((v) => v * light) as Color;
  });

/** A square wall of tiles that asks to go on, 480 x 480. */
export const tileWall = (): Promise<Buffer> =>
  photo(480, 480, (x, y) => (x % 40 < 4 || y % 40 < 4 ? [96, 92, 88] : [188 + 0.05 * x, 176, 150]));

/** The same boards with a few dark letters painted on them: an H and an L. */
export const letters = { x: 280, y: 180, width: 100, height: 60 };
export const letteredBoards = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    const [u, v] = [x - letters.x, y - letters.y];
    const tall = v >= 0 && v < 60;
    const h = tall && ((u >= 0 && u < 8) || (u >= 32 && u < 40) || (u >= 0 && u < 40 && v >= 26 && v < 34));
    const l = tall && ((u >= 60 && u < 68) || (u >= 60 && u < 100 && v >= 52));
    return h || l ? [30, 44, 120] : board(x);
  });

/** A white handrail, slanting, in front of blotched water; `railAt` is its middle at x. */
export const railAt = (x: number): number => 120 + 0.27 * x;
export const slantingRail = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    if (Math.abs(y - railAt(x)) < 6) return [238, 234, 224];
    const blotch =
      18 * Math.sin(x * 0.051 + 2 * Math.sin(y * 0.023)) + 14 * Math.sin(y * 0.083 + 1.7 * Math.sin(x * 0.037));
    return [60 + blotch * 0.6, 92 + blotch, 104 + blotch];
  });

/** A tin figure before uneven green cloth that throws green on it, 640 x 420. */
export const figureOnGreen = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    const light = 0.72 + 0.28 * Math.sin(x * 0.004 + y * 0.002 + 0.6);
    const fold = 1 + 0.03 * Math.sin(x * 0.05);
    const screen: Color = [46 * light * fold, 176 * light * fold, 74 * light * fold];
    const body = Math.hypot((x - 320) / 84, (y - 230) / 128) - 1;
    const neck = Math.hypot((x - 352) / 20, (y - 90) / 46) - 1;
    const cover = Math.max(0, Math.min(1, 0.5 - Math.min(body * 70, neck * 24)));
    const rim = Math.max(0, Math.min(1, 1 + body * 6));
    const tin: Color = [168 + 30 * Math.sin(y * 0.09), 164 + 34 * rim, 176];
    return screen.map((s, c) => s + (tin[c]! - s) * cover) as Color;
  });

/** Sparks from a grindstone on black: orange streaks with white hearts. */
export const sparksOnBlack = (): Promise<Buffer> => {
  const random = seededRandom(5);
  const sparks = Array.from({ length: 46 }, () => {
    const angle = -0.2 - random() * 1.1;
    return { angle, from: 40 + random() * 60, length: 30 + random() * 150, heat: 0.4 + 0.6 * random() };
  });
  return photo(640, 420, (x, y) => {
    let glow = 1.1 / (1 + Math.hypot(x - 80, y - 360) / 14);
    for (const { angle, from, length, heat } of sparks) {
      const u = (x - 80) * Math.cos(angle) + (y - 360) * Math.sin(angle);
      const v = (y - 360) * Math.cos(angle) - (x - 80) * Math.sin(angle) - 0.0006 * u * u;
      if (u < from || u > from + length) continue;
      glow += heat * Math.exp(-(v * v) / 5) * (1 - (u - from) / length);
    }
    return [2 + 300 * glow, 2 + 150 * glow * Math.min(1.5, glow + 0.3), 2 + 50 * glow * glow];
  });
};

/** Eight painted floats on a pale cloth, 640 x 420, in two rows. */
export const eightFloats = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    for (let k = 0; k < 8; k++) {
      const [cx, cy] = [95 + (k % 4) * 150, 120 + Math.floor(k / 4) * 180];
      if (Math.hypot(x - cx, y - cy) > 38 + (k % 3) * 5) continue;
      const light = 1 - (y - cy) / 160;
      return (k % 2 ? [190 * light, 62 * light, 44 * light] : [30 * light, 88 * light, 116 * light]) as Color;
    }
    const weave = 5 * Math.sin(x * 1.1) * Math.sin(y * 1.1);
    return [214 + weave, 206 + weave, 190 + weave];
  });

/** Stained quay stones: no place looks like another. */
const stones = (x: number, y: number): Color => {
  const stain =
    22 * Math.sin(x * 0.031 + 2.1 * Math.sin(y * 0.017)) +
    17 * Math.sin(y * 0.053 + 1.6 * Math.sin(x * 0.041)) +
    12 * Math.sin((x + y) * 0.089 + Math.sin(x * 0.023));
  return [138 + stain, 132 + stain, 120 + stain * 0.8];
};

/** An orange float before stained stones, 640 x 420. */
export const floatBeforeStones = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => (Math.hypot(x - 320, y - 200) < 70 ? [224 - (y - 200) * 0.4, 104, 36] : stones(x, y)));

/** The stones without the float, taken a little to the side and darker; a red nail marks where the float hung. */
export const stonesAlone = (): Promise<Buffer> =>
  photo(660, 440, (x, y) => {
    const [u, v] = [x - 12, y - 9];
    const c: Color = Math.hypot(u - 320, v - 200) < 9 ? [200, 60, 50] : stones(u, v);
    return c.map((value) => value * 0.85) as Color;
  });

/** Sky over sea whose horizon falls to the right by 8 in 100. */
export const tiltedHorizon = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    const under = y - 210 - (x - 320) * 0.08;
    const soft = Math.max(0, Math.min(1, under + 0.5));
    const sky: Color = [196 - y * 0.1, 206 - y * 0.08, 222];
    const wave = 8 * Math.sin(y * 0.4 + 3 * Math.sin(x * 0.02));
    return sky.map((s, c) => s + ([58 + wave, 84 + wave, 104 + wave][c]! - s) * soft) as Color;
  });

/** A float with a hole of the ground's colour in it: what a key takes by mistake. */
export const holedFigure = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    const inside = Math.hypot(x - 320, y - 210) < 110 && Math.hypot(x - 350, y - 190) > 11;
    return inside ? [206, 190, 162] : [44, 172, 72];
  });

/** The height at which a round hill ends against the sky. */
export const horizonAt = (x: number): number => 250 - 90 * Math.sin((Math.PI * x) / 640);
export const curvedHorizon = (): Promise<Buffer> =>
  photo(640, 420, (x, y) =>
    y < horizonAt(x) ? [206 - y * 0.1, 190, 186] : [92 + 12 * Math.sin(x * 0.3 + y * 0.2), 104, 70],
  );

/** A red float that drifts over a still, mottled quay wall, 320 x 180: frame `k` of a clip of 24. */
export const driftingFloatAt = (k: number): [number, number] => [30 + k * 11, 90];
export function driftingFloat(k: number): { width: number; height: number; data: Uint8ClampedArray } {
  const [width, height] = [320, 180];
  const data = new Uint8ClampedArray(width * height * 4);
  const [cx, cy] = driftingFloatAt(k);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const wall = 120 + 26 * Math.sin(x * 0.11 + 2 * Math.sin(y * 0.05)) + 18 * Math.sin(y * 0.17);
      const inside = Math.hypot(x - cx, y - cy) < 24;
      data.set(inside ? [210, 60, 40, 255] : [wall, wall, wall * 0.92, 255], (y * width + x) * 4);
    }
  }
  return { width, height, data };
}

/** A red float that drifts before a green cloth, which is darker on its right. */
export function floatBeforeGreen(k: number): { width: number; height: number; data: Uint8ClampedArray } {
  const frame = driftingFloat(k);
  const [cx, cy] = driftingFloatAt(k);
  for (let i = 0; i < frame.width * frame.height; i++) {
    const [x, y] = [i % frame.width, Math.floor(i / frame.width)];
    const light = 1 - (0.3 * x) / frame.width;
    if (Math.hypot(x - cx, y - cy) >= 24) frame.data.set([44 * light, 176 * light, 74 * light, 255], i * 4);
  }
  return frame;
}

/** A float, and a rope from it to the right, that hangs before water of its own hue; `ropeAt` is its middle at x. */
export const ropeAt = (x: number): number => 200 + 46 * Math.sin((Math.PI * (x - 170)) / 460);
export const floatOnRope = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    if (Math.hypot(x - 120, y - 200) < 66) return [214, 92, 40];
    const blotch = 16 * Math.sin(x * 0.041 + 2 * Math.sin(y * 0.023)) + 10 * Math.sin(y * 0.073);
    const water: Color = [90 + blotch * 0.6, 116 + blotch, 124 + blotch];
    const share = x < 170 || x > 630 ? 0 : Math.max(0, Math.min(1, 2.2 - Math.abs(y + 0.5 - ropeAt(x + 0.5))));
    return water.map((v, c) => v + ([64, 84, 92][c]! - v) * share) as Color;
  });

/** A float whose tip is three pixels thin, over mottled water. */
export const tip = { x: 320, from: 200, to: 60 } as const;
export const floatWithTip = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    const onTip = Math.abs(x - tip.x) < 1.6 && y > tip.to && y < tip.from;
    if (onTip || Math.hypot(x - tip.x, (y - 270) * 0.9) < 68) return [204, 70, 40];
    return [74 + 7 * Math.sin(y * 0.2 + 2 * Math.sin(x * 0.03)), 112, 128];
  });

/** Where two headlands begin at x, from above: the far one left, the near one right. */
export const farHeadlandAt = (x: number): number => 218 - 96 * Math.exp(-(((x - 170) / 105) ** 2));
export const nearHeadlandAt = (x: number): number => 400 - 250 * Math.exp(-(((x - 500) / 120) ** 2));
/** Two headlands in the morning over a bay, 640 x 420. */
export const twoHeadlands = (): Promise<Buffer> =>
  photo(640, 420, (x, y) => {
    const scrub = 9 * Math.sin(x * 0.31 + 2 * Math.sin(y * 0.23)) * Math.sin(y * 0.37);
    if (y > nearHeadlandAt(x)) return [44 + scrub, 62 + scrub, 40 + scrub * 0.6];
    if (y > farHeadlandAt(x) && y < 216) return [92 + scrub * 0.4, 112 + scrub * 0.4, 120];
    if (y >= 210) return [92 + 8 * Math.sin(y * 0.7), 128 + 8 * Math.sin(y * 0.7 + x * 0.02), 146];
    return [150 + y * 0.18, 176 + y * 0.1, 206 - y * 0.08];
  });

/** What was written on a bay, and the twig that hangs into it: to be brushed away. */
export const baySigns = { letters: { x: 150, y: 84 }, twig: { from: [0, 150], to: [118, 176] } } as const;
/** A mast as thin as three pixels, and where the tops of the trees are. */
export const bayMast = { x: 338, top: 150 } as const;
export const treetopAt = (x: number): number => 330 - 34 * Math.abs(Math.sin(x / 21)) - 14 * Math.sin(x / 67);

/** A square photo: trees before an evening sky, with letters in it, a twig from the side, and a thin mast. */
export const squareBay = (): Promise<Buffer> =>
  photo(480, 480, (x, y) => {
    const { letters: at, twig } = baySigns;
    const [u, v] = [x - at.x, y - at.y];
    const inRows = v >= 0 && v < 52;
    const onW = inRows && [0, 20, 40].some((c) => Math.abs(u - c - v * 0.12) < 3.4);
    const onQ = inRows && u >= 64 && u < 104 && (u < 71 || u >= 97 || v < 7 || v >= 45);
    if (onW || onQ) return [38, 52, 120];
    const along = (x - twig.from[0]) / (twig.to[0] - twig.from[0]);
    if (along <= 1 && Math.abs(y - (twig.from[1] + along * (twig.to[1] - twig.from[1]))) < 3) return [70, 48, 30];
    const onMast = Math.abs(x - bayMast.x) < 1.6 && y > bayMast.top && y < 330;
    if (onMast || y > treetopAt(x))
      return [38 + 10 * Math.sin(x * 0.7 + y * 0.3), 62 + 12 * Math.sin(y * 0.5 - x * 0.2), 44];
    const glow = y / 330;
    return [150 + 70 * glow, 168 + 30 * glow, 206 - 40 * glow];
  });
