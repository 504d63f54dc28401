import { fbm2, hash, noise2 } from '../../demo/marcher/noise.ts';
import { mix, type Color } from './flat-scenes.ts';

/** Signed distance to a form's outline in widths of the picture; negative inside. */
export type Form = (u: number, v: number) => number;

/** What a surface looks like at a point. `light` is 0 in the deepest shade and 1 in full light; (nx, ny) is where it faces. */
export type Material = (u: number, v: number, light: number, nx: number, ny: number) => Color;

/** One thing in a scene: its parts lie over each other, later ones in front. */
export interface Thing {
  form: Form;
  material: Material;
  /** How far in from its outline it curves, in widths of the picture; 0 is flat. */
  round: number;
  /** Softness of its outline as the lens shows it, in widths of the picture. */
  soft?: number;
  /** Whether it belongs to what should be cut. */
  meant?: boolean;
}

export const ball =
  (x: number, y: number, rx: number, ry = rx): Form =>
  (u, v) =>
    (Math.hypot((u - x) / rx, (v - y) / ry) - 1) * Math.min(rx, ry);

/** A rod with round ends that may grow thicker or thinner. */
export const rod =
  (ax: number, ay: number, bx: number, by: number, r0: number, r1 = r0): Form =>
  (u, v) => {
    const [dx, dy] = [bx - ax, by - ay];
    const t = Math.max(0, Math.min(1, ((u - ax) * dx + (v - ay) * dy) / (dx * dx + dy * dy)));
    return Math.hypot(u - ax - t * dx, v - ay - t * dy) - r0 - (r1 - r0) * t;
  };

export const slab =
  (x: number, y: number, w: number, h: number, corner = 0.01): Form =>
  (u, v) => {
    const [a, b] = [Math.abs(u - x) - w / 2 + corner, Math.abs(v - y) - h / 2 + corner];
    return Math.hypot(Math.max(a, 0), Math.max(b, 0)) + Math.min(0, Math.max(a, b)) - corner;
  };

export const ring =
  (x: number, y: number, r: number, half: number): Form =>
  (u, v) =>
    Math.abs(Math.hypot(u - x, v - y) - r) - half;

export const either =
  (...forms: Form[]): Form =>
  (u, v) =>
    Math.min(...forms.map((form) => form(u, v)));

export const without =
  (form: Form, hole: Form): Form =>
  (u, v) =>
    Math.max(form(u, v), -hole(u, v));

/** An outline that is uneven, as leaves, moss or fur make it. */
export const ragged =
  (form: Form, depth: number, scale: number): Form =>
  (u, v) =>
    form(u, v) - depth * (fbm2(u * scale, v * scale, 4) - 0.5) * 2;

/** Thin hairs outwards from a ball's outline. */
export const hairy =
  (x: number, y: number, r: number, count: number, length: number, thick: number): Form =>
  (u, v) => {
    const d = Math.hypot(u - x, v - y) - r;
    if (d < 0 || d > length) return d;
    const angle = (Math.atan2(v - y, u - x) / (2 * Math.PI)) * count;
    const k = Math.round(angle);
    const bend = 0.9 * (hash(k, 5) - 0.5) * (d / length);
    const off = Math.abs(angle - k - bend) * ((2 * Math.PI) / count) * (r + d);
    const reach = length * (0.45 + 0.55 * hash(k, 6));
    return d > reach ? Math.min(d, off + d - reach) : Math.min(d, off - thick * (1 - 0.6 * (d / reach)));
  };

const lit = (c: Color, light: number): Color => [c[0] * light, c[1] * light, c[2] * light];
const shine = (c: Color, amount: number): Color => mix(c, [255, 252, 244], Math.max(0, Math.min(1, amount)));

/** Woven cloth with checks and folds. */
export const cloth =
  (a: Color, b: Color, checks: number): Material =>
  (u, v, light) => {
    const woven = 0.9 + 0.2 * noise2(u * 420, v * 420);
    const check = (Math.floor(u * checks) + Math.floor(v * checks)) % 2 === 0;
    const fold = 0.75 + 0.5 * fbm2(u * 9 + v * 4, v * 5, 3);
    return lit(check ? a : b, (0.25 + 0.85 * light) * woven * fold);
  };
export const skin =
  (tone: Color): Material =>
  (u, v, light, nx, ny) => {
    const blush = mix(tone, [196, 92, 76], 0.35 * fbm2(u * 22, v * 22, 3));
    return shine(lit(blush, 0.35 + 0.75 * light), 0.5 * Math.max(0, 0.35 - Math.hypot(nx + 0.35, ny + 0.4)));
  };
/** Polished metal or glaze: dark and light bands that follow the form. */
export const shiny =
  (tone: Color): Material =>
  (_u, _v, light, nx, ny) => {
    const band = 0.5 + 0.5 * Math.sin(7 * nx + 5 * ny + 1.2);
    const seen = mix(lit(tone, 0.3 + 0.5 * light), [226, 228, 230], 0.5 * band * band);
    return shine(seen, 2.2 * Math.max(0, 0.3 - Math.hypot(nx + 0.4, ny + 0.5)));
  };
export const matt =
  (tone: Color, grain = 0.35, scale = 60): Material =>
  (u, v, light) =>
    lit(tone, (0.3 + 0.8 * light) * (1 - grain / 2 + grain * fbm2(u * scale, v * scale, 4)));
/** Short hairs, moss or grass over a body. */
export const furry =
  (a: Color, b: Color): Material =>
  (u, v, light) =>
    lit(mix(a, b, 1.6 * fbm2(u * 130 + 6 * v, v * 34, 4) - 0.3), 0.35 + 0.75 * light);
export const striped =
  (a: Color, b: Color, count: number, angle: number): Material =>
  (u, v, light) => {
    const along = u * Math.cos(angle) + v * Math.sin(angle);
    return lit(
      Math.floor(along * count) % 2 === 0 ? a : b,
      (0.35 + 0.7 * light) * (0.9 + 0.2 * noise2(u * 200, v * 200)),
    );
  };
/** Twisted rope: diagonal strands. */
export const twisted =
  (tone: Color): Material =>
  (u, v, light) =>
    lit(
      tone,
      (0.35 + 0.75 * light) * (0.72 + 0.4 * Math.abs(Math.sin((u - v) * 190)) + 0.2 * noise2(u * 300, v * 300)),
    );

/** Grounds: by how many octaves are left, they are sharp or out of focus. */
export const boards =
  (octaves: number): Material =>
  (u, v) => {
    const k = Math.floor(v * 15);
    const gap = octaves > 2 && Math.abs(v * 15 - k - 0.5) > 0.46 ? 0.45 : 1;
    return lit(
      mix([96, 74, 52], [176, 142, 104], 0.65 * fbm2(u * 9 + k * 7, v * 160, octaves) + 0.35 * hash(k, 2)),
      gap,
    );
  };
export const leaves =
  (octaves: number): Material =>
  (u, v) => {
    const light = fbm2(u * 26, v * 26, octaves);
    return mix(
      mix([20, 34, 22], [96, 122, 52], 1.5 * light - 0.2),
      [206, 200, 120],
      2.2 * (fbm2(u * 15 + 9, v * 15, octaves) - 0.55),
    );
  };
/** Windows and walls of a quay, a mosaic of unlike colours. */
export const quay =
  (octaves: number): Material =>
  (u, v) => {
    const house = Math.floor(u * 6 + 0.2);
    const wall: Color = [110 + 110 * hash(house, 1), 96 + 90 * hash(house, 2), 84 + 90 * hash(house, 3)];
    const [x, y] = [u * 30 - Math.floor(u * 30), v * 20 - Math.floor(v * 20)];
    const window = Math.abs(x - 0.5) < 0.26 && Math.abs(y - 0.5) < 0.32 && v < 0.5;
    const rough = 0.8 + 0.4 * fbm2(u * 50, v * 50, octaves);
    if (v > 0.56) return lit([120, 112, 104], rough);
    return window
      ? lit(
          mix([34, 44, 58], [214, 190, 120], Math.floor(3 * hash(Math.floor(u * 30), Math.floor(v * 20), 5)) / 2),
          0.9,
        )
      : lit(wall, rough);
  };
/** Lights far out of focus over dusk. */
export const blurredLights: Material = (u, v) => {
  let c: Color = mix([30, 36, 58], [104, 84, 96], v * 1.3);
  for (let k = 0; k < 26; k++) {
    const d = Math.hypot(u - hash(k, 11), v - 0.66 * hash(k, 12)) - 0.018 - 0.026 * hash(k, 13);
    const tint: Color = [255, 170 + 70 * hash(k, 14), 90 + 110 * hash(k, 15)];
    c = mix(c, tint, 0.55 * Math.max(0, Math.min(1, 0.5 - d / 0.006)));
  }
  return c;
};
/** A hedge far out of focus: slow patches of green, and nothing with an edge. */
export const softHedge: Material = (u, v) => {
  const slow = noise2(u * 4 + 3, v * 4) * 0.7 + noise2(u * 9, v * 9 + 5) * 0.3;
  return mix([44, 66, 30], [128, 148, 72], slow);
};
export const pebbles: Material = (u, v) => {
  const [x, y] = [u * 34, v * 34];
  let best = 9;
  let tone = 0;
  for (let k = 0; k < 9; k++) {
    const [ix, iy] = [Math.floor(x) + (k % 3) - 1, Math.floor(y) + Math.floor(k / 3) - 1];
    const d = Math.hypot(x - ix - hash(ix, iy, 1), y - iy - hash(ix, iy, 2));
    if (d < best) [best, tone] = [d, hash(ix, iy, 3)];
  }
  return lit(mix([120, 112, 102], [196, 184, 164], tone), 1.1 - 0.75 * best + 0.2 * noise2(u * 200, v * 200));
};
