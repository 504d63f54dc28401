import { fbm2, hash, noise2 } from '../../demo/marcher/noise.ts';
import { seededRandom } from '../../core/pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rect, type Rgba } from '../../core/pixels/raster.ts';

/** A picture whose truth is known because it was put together from it. */
export interface TruthScene {
  name: string;
  picture: Rgba;
  /** True alpha of what should be cut, 0..255. */
  alpha: Bytes;
  /** What the subject alone adds to the picture: its colours times its alpha. */
  front: Rgba;
  /** Which one-press answer is meant to find it. */
  answer: 'subject' | 'foreground';
  /** A box as a person would draw it around the subject. */
  box: Rect;
}

/** A flat scene also knows what lies behind its subject. */
export interface FlatTruth extends TruthScene {
  /** The picture without it. */
  background: Rgba;
}

export type Color = [number, number, number];

interface FlatScene {
  name: string;
  /** Colour behind, at a point in 0..1 across and proportionally down. */
  behind(u: number, v: number): Color;
  /** Signed distance to the subject's edge in widths of the picture; negative inside. */
  edge(u: number, v: number): number;
  /** Softness of the edge in widths of the picture; 0 is a sharp lens. */
  soft: number;
  front(u: number, v: number): Color;
  /** Share of light the subject stops, 0..1. */
  opacity?(u: number, v: number): number;
  /** Darkening of the ground by the subject's shadow, 0..1. */
  shadow?(u: number, v: number): number;
}

export const mix = (a: Color, b: Color, t: number): Color => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];
const circle = (u: number, v: number, x: number, y: number, r: number): number => Math.hypot(u - x, v - y) - r;
function segment(u: number, v: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  const t = Math.max(0, Math.min(1, ((u - ax) * dx + (v - ay) * dy) / (dx * dx + dy * dy)));
  return Math.hypot(u - ax - t * dx, v - ay - t * dy);
}

const planks = (u: number, v: number): Color => {
  const k = Math.floor(u * 14);
  const grain = fbm2(u * 180 + k * 7, v * 9 + k * 3, 4);
  const gap = Math.abs(u * 14 - k - 0.5) > 0.475 ? 0.35 : 1;
  return mix([92 * gap, 76 * gap, 60 * gap], [168 * gap, 148 * gap, 124 * gap], 0.6 * grain + 0.4 * hash(k, 3));
};
const crates = (u: number, v: number): Color => {
  const x = Math.floor(u * 7 + 0.4 * Math.floor(v * 6));
  const y = Math.floor(v * 6);
  const tint: Color = [60 + 150 * hash(x, y, 1), 60 + 120 * hash(x, y, 2), 50 + 110 * hash(x, y, 3)];
  const t = fbm2(u * 60 + x * 5, v * 60 + y * 9, 4);
  return mix(mix(tint, [40, 36, 34], 0.3), tint, t);
};
const dusk = (u: number, v: number): Color =>
  mix(mix([226, 168, 130], [72, 92, 132], Math.min(1, v * 1.4)), [240, 214, 190], 0.5 * fbm2(u * 5, v * 11, 5));
const wall = (u: number, v: number): Color => mix([118, 122, 124], [138, 140, 138], fbm2(u * 24, v * 24, 5));
const water = (u: number, v: number): Color => mix([58, 88, 98], [122, 148, 150], fbm2(u * 12, v * 70, 5));
const cloth = (u: number, v: number): Color =>
  mix([172, 160, 138], [192, 182, 160], 0.5 * noise2(u * 260, v * 260) + 0.5 * fbm2(u * 6, v * 6, 3));

const painted =
  (base: Color, stripe: Color) =>
  (u: number, v: number): Color => {
    const light = 0.62 + 0.5 * (0.8 - v);
    const c = mix(Math.floor(v * 9) % 2 ? stripe : base, base, 0.2 * fbm2(u * 40, v * 40, 4));
    return [c[0] * light, c[1] * light, c[2] * light];
  };

/** Strands as pairs of segments from the middle outwards, sorted into sectors so that a point meets only those near it. */
const strands = Array.from({ length: 110 }, (_, k) => {
  const a = (k / 110) * Math.PI * 2 + 0.3 * hash(k, 1);
  const r = 0.14 + 0.09 * hash(k, 2);
  const bend = 0.5 * (hash(k, 3) - 0.5);
  const mx = 0.5 + Math.cos(a) * r * 0.8;
  const my = 0.42 + Math.sin(a) * r * 0.8;
  return { a, mx, my, tx: mx + Math.cos(a + bend) * r * 0.45, ty: my + Math.sin(a + bend) * r * 0.45 };
});
const sectors = Array.from({ length: 48 }, (_, n) => {
  const middle = ((n + 0.5) / 48) * Math.PI * 2;
  return strands.filter(({ a }) => Math.abs(((a - middle + 3 * Math.PI) % (2 * Math.PI)) - Math.PI) < 0.4);
});

function strandEdge(u: number, v: number): number {
  let d = circle(u, v, 0.5, 0.42, 0.11);
  if (d < 0 || d > 0.26) return d;
  const angle = Math.atan2(v - 0.42, u - 0.5);
  const sector = Math.min(47, Math.floor((((angle + 2 * Math.PI) % (2 * Math.PI)) / (2 * Math.PI)) * 48));
  for (const { mx, my, tx, ty } of sectors[sector]!) {
    d = Math.min(d, segment(u, v, 0.5, 0.42, mx, my) - 0.0011, segment(u, v, mx, my, tx, ty) - 0.0007);
  }
  return d;
}

const floats = [0.2, 0.4, 0.6, 0.8].flatMap((x, k) => [
  [x, 0.22 + 0.03 * (k % 2), 0.058],
  [x + 0.03, 0.46 - 0.03 * (k % 2), 0.05],
]) as [number, number, number][];

const scenes: FlatScene[] = [
  {
    name: 'hard edge on clutter',
    behind: crates,
    edge: (u, v) => circle(u, v, 0.48, 0.36, 0.17),
    soft: 0.0006,
    front: painted([222, 216, 200], [24, 82, 110]),
  },
  {
    name: 'low contrast',
    behind: wall,
    edge: (u, v) => Math.min(circle(u * 0.8, v, 0.4, 0.36, 0.13), segment(u, v, 0.5, 0.3, 0.62, 0.12) - 0.03),
    soft: 0.001,
    front: (u, v) => mix([150, 158, 166], [176, 180, 186], fbm2(u * 30, v * 14, 4)),
  },
  {
    name: 'fine strands',
    behind: dusk,
    edge: strandEdge,
    soft: 0.0004,
    front: (u, v) => mix([46, 34, 26], [96, 70, 44], fbm2(u * 90, v * 90, 3)),
  },
  {
    name: 'holes',
    behind: planks,
    edge: (u, v) => {
      const r = Math.hypot(u - 0.5, v - 0.34);
      const a = Math.atan2(v - 0.34, u - 0.5) * (8 / (2 * Math.PI));
      const off = Math.abs(a - Math.round(a)) * ((2 * Math.PI) / 8) * r;
      return Math.min(Math.abs(r - 0.2) - 0.024, Math.max(off - 0.011, r - 0.2), r - 0.05);
    },
    soft: 0.0006,
    front: painted([178, 52, 36], [206, 92, 60]),
  },
  {
    name: 'thin wires',
    behind: dusk,
    edge: (u, v) =>
      Math.min(
        segment(u, v, 0.5, 0.06, 0.5, 0.6) - 0.007,
        segment(u, v, 0.32, 0.18, 0.68, 0.18) - 0.004,
        ...[0.14, 0.26, 0.38, 0.62, 0.74, 0.86].map((x) => segment(u, v, 0.5, 0.08, x, 0.6) - 0.0012),
        Math.max(v - 0.64, 0.57 - v, Math.abs(u - 0.5) - 0.4),
      ),
    soft: 0.0005,
    front: (u, v) => mix([34, 38, 40], [74, 66, 56], fbm2(u * 50, v * 50, 3)),
  },
  {
    name: 'soft shadow',
    behind: planks,
    edge: (u, v) => circle(u, v * 1.1, 0.46, 0.32, 0.13),
    soft: 0.0012,
    front: painted([232, 186, 96], [214, 120, 60]),
    shadow: (u, v) => 0.6 * Math.exp(-(((u - 0.54) / 0.13) ** 2) - ((v - 0.46) / 0.05) ** 2),
  },
  {
    name: 'glow',
    behind: (u, v) => mix([18, 22, 34], [44, 48, 62], fbm2(u * 8, v * 8, 5)),
    edge: (u, v) => circle(u, v, 0.5, 0.34, 0.12),
    soft: 0.02,
    front: (u, v) => mix([255, 226, 150], [236, 150, 60], Math.min(1, Math.hypot(u - 0.5, v - 0.34) / 0.13)),
  },
  {
    name: 'translucent paper',
    behind: crates,
    edge: (u, v) => Math.max(Math.abs(u - 0.5) - 0.15, Math.abs(v - 0.34) - 0.19),
    soft: 0.001,
    front: (u, v) => mix([246, 236, 214], [226, 206, 168], fbm2(u * 40, v * 40, 4)),
    opacity: (u, v) => (Math.abs(u - 0.5) > 0.13 || Math.abs(v - 0.34) > 0.17 ? 1 : 0.82),
  },
  {
    name: 'several objects',
    behind: cloth,
    edge: (u, v) => Math.min(...floats.map(([x, y, r]) => circle(u, v, x, y, r))),
    soft: 0.0008,
    front: painted([186, 48, 36], [236, 224, 196]),
    shadow: (u, v) =>
      0.35 *
      Math.max(...floats.map(([x, y, r]) => Math.exp(-(((u - x - 0.02) / r) ** 2) - ((v - y - r) / (r * 0.5)) ** 2))),
  },
  {
    name: 'boat on water',
    behind: water,
    edge: (u, v) =>
      Math.min(
        Math.max(circle(u, v, 0.5, 0.18, 0.26), 0.36 - v),
        segment(u, v, 0.46, 0.12, 0.46, 0.4) - 0.006,
        Math.max(Math.abs(u - 0.56) - 0.07, Math.abs(v - 0.33) - 0.04),
      ),
    soft: 0.0008,
    front: painted([56, 120, 112], [228, 220, 200]),
  },
];

export interface Disturbance {
  /** Standard deviation of added noise, bytes. */
  noise: number;
  /** Factor on the contrast around middle grey. */
  contrast: number;
  /** Shift of red against blue, bytes. */
  warmth: number;
}

export const undisturbed: Disturbance = { noise: 1.6, contrast: 1, warmth: 0 };

/** Renders a flat scene with 3 x 3 samples a pixel. */
function renderFlat(scene: FlatScene, width: number, height: number, disturbance: Disturbance): FlatTruth {
  const picture = makeRgba(width, height);
  const background = makeRgba(width, height);
  const alpha = makeBytes(width, height);
  const front = makeRgba(width, height);
  const random = seededRandom(91);
  const soft = Math.max(scene.soft, 0.35 / width);
  const put = (out: Rgba, i: number, c: Color, grain: number[]): void => {
    for (let k = 0; k < 3; k++) {
      const v = 128 + (c[k]! - 128) * disturbance.contrast + (k === 0 ? 1 : k === 2 ? -1 : 0) * disturbance.warmth;
      out.data[i * 4 + k] = v + grain[k]! * disturbance.noise;
    }
    out.data[i * 4 + 3] = 255;
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      let a = 0;
      const sum: Color = [0, 0, 0];
      const clean: Color = [0, 0, 0];
      for (let s = 0; s < 9; s++) {
        const u = (x + ((s % 3) + 0.5) / 3) / width;
        const v = (y + (Math.floor(s / 3) + 0.5) / 3) / width;
        const behind = scene.behind(u, v);
        const shade = 1 - (scene.shadow?.(u, v) ?? 0);
        const t = Math.max(0, Math.min(1, 0.5 - scene.edge(u, v) / (2 * soft)));
        const cover = t * t * (3 - 2 * t) * (scene.opacity?.(u, v) ?? 1);
        const front = cover > 0 ? scene.front(u, v) : behind;
        a += cover / 9;
        for (let k = 0; k < 3; k++) {
          sum[k]! += (front[k]! * cover + behind[k]! * shade * (1 - cover)) / 9;
          clean[k]! += (behind[k]! * shade) / 9;
        }
      }
      const grain = [0, 1, 2].map(() => random() + random() + random() + random() - 2);
      put(picture, i, sum, grain);
      put(background, i, clean, grain);
      alpha.data[i] = Math.round(a * 255);
      for (let k = 0; k < 3; k++)
        front.data[i * 4 + k] = picture.data[i * 4 + k]! - background.data[i * 4 + k]! * (1 - a);
      front.data[i * 4 + 3] = alpha.data[i]!;
    }
  }
  return { name: scene.name, picture, background, front, alpha, answer: 'subject', box: boxAround(alpha) };
}

/** The subject's bounds with the slack a hand leaves. */
export function boxAround(alpha: Bytes): Rect {
  let [left, top, right, bottom] = [alpha.width, alpha.height, 0, 0];
  for (let y = 0; y < alpha.height; y++) {
    for (let x = 0; x < alpha.width; x++) {
      if (alpha.data[y * alpha.width + x]! < 128) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = Math.max(bottom, y);
    }
  }
  const slack = Math.round(alpha.width * 0.025);
  const x = Math.max(0, left - slack);
  const y = Math.max(0, top - slack);
  return {
    x,
    y,
    width: Math.min(alpha.width - 1, right + slack) - x,
    height: Math.min(alpha.height - 1, bottom + slack) - y,
  };
}

export const flatSceneNames = scenes.map((scene) => scene.name);

export function flatScene(name: string, width: number, disturbance = undisturbed): FlatTruth {
  const scene = scenes.find((s) => s.name === name);
  if (!scene) throw new Error(`There is no scene "${name}".`);
  return renderFlat(scene, width, Math.round((width * 2) / 3), disturbance);
}
