import { fbm2, fbm3, hash, noise2, noise3 } from '../marcher/noise.ts';
import { blend, capsule, cylinder, ellipsoid, roundBox, sphere } from '../marcher/shapes.ts';
import type { MarchedScene, Material, SceneOptions, Vector } from '../marcher/scene.ts';
import { matt, mix, step } from './materials.ts';

const DECK = 1;
const ROCK = 2;
const GRASS = 3;
const RAIL = 4;
const TOWER = 5;
const LAMP = 6;
const BOAT = 7;
const WATER = 8;

const towerX = -1.5;
const towerZ = 15;

/** Dusk over the water: warm low in the west, blue above, two headlands in haze. */
function sky(dx: number, dy: number, dz: number): Vector {
  const azimuth = Math.atan2(dx, dz);
  const height = Math.max(0, dy);
  const low: Vector = [0.95, 0.5, 0.27];
  const middle: Vector = [0.5, 0.37, 0.42];
  const high: Vector = [0.075, 0.125, 0.26];
  let color = mix(mix(low, middle, step(0, 0.14, height)), high, step(0.06, 0.55, height));
  const sun = Math.exp(-((azimuth - 0.55) ** 2) * 5 - height * height * 26);
  color = mix(color, [1.9, 1.05, 0.5], sun * 0.75);
  if (dy > 0.015) {
    const u = (dx / (dy + 0.12)) * 1.3;
    const v = (dz / (dy + 0.12)) * 0.55;
    const cloud = step(0.4, 0.62, fbm2(u + 3, v * 2.6, 6)) * step(0.015, 0.12, dy) * 0.85;
    color = mix(color, mix([0.95, 0.46, 0.33], [0.17, 0.17, 0.26], step(0.05, 0.42, height)), cloud);
  }
  const farRidge =
    0.045 + 0.06 * fbm2(azimuth * 3.1 + 9, 2.5, 5) * step(-0.9, 0.2, -azimuth) + 0.012 * noise2(azimuth * 60, 1);
  const nearRidge =
    0.012 + 0.085 * step(0.12, 0.75, azimuth) * fbm2(azimuth * 4.2 + 2, 7.5, 6) + 0.006 * noise2(azimuth * 110, 4);
  if (dy < farRidge)
    color = mix(color, mix([0.36, 0.32, 0.38], [0.26, 0.25, 0.33], fbm2(azimuth * 24, dy * 160, 4)), 0.8);
  if (dy < nearRidge) color = mix([0.15, 0.145, 0.185], [0.23, 0.19, 0.2], fbm2(azimuth * 46, dy * 190, 5));
  return color;
}

/** Boulders in a jittered grid on both flanks of the breakwater; each row: x, y, z, radius, cos and sin of its turn. */
const rockSize = 0.95;
const rockColumns = 16;
const rockTable = new Float64Array(rockColumns * 30 * 6);
for (let gx = -8; gx < 8; gx++) {
  for (let gz = -3; gz < 27; gz++) {
    const h1 = hash(gx, gz, 3);
    const px = (gx + 0.5 + 0.35 * (h1 - 0.5)) * rockSize;
    const pz = (gz + 0.5 + 0.35 * (hash(gx, gz, 5) - 0.5)) * rockSize;
    const out = px > 0.6 ? px - 2.3 : -px - 2.9;
    const absent = out < -0.7 || out > 2.6 || pz > 20.5;
    const top = -0.12 - Math.max(0, out) * 0.36 + 0.22 * (hash(gx, gz, 9) - 0.5);
    const radius = absent ? 0 : 0.42 + 0.22 * hash(gx, gz, 11);
    rockTable.set([px, top, pz, radius, Math.cos(h1 * 6.3), Math.sin(h1 * 6.3)], ((gz + 3) * rockColumns + gx + 8) * 6);
  }
}

function rocks(x: number, y: number, z: number): number {
  const offset = x > 0.6 ? x - 2.3 : -x - 2.9;
  const outside = Math.max(-offset - 1.4, offset - 3.3, -z - 0.7, z - 20.9, y - 0.5);
  if (outside > 0.15) return outside;
  let best = 1e3;
  const cx = Math.floor(x / rockSize - 0.5);
  const cz = Math.floor(z / rockSize - 0.5);
  for (let a = 0; a <= 1; a++) {
    for (let b = 0; b <= 1; b++) {
      const gx = cx + a + 8;
      const gz = cz + b + 3;
      if (gx < 0 || gx >= rockColumns || gz < 0 || gz >= 30) continue;
      const k = (gz * rockColumns + gx) * 6;
      const r = rockTable[k + 3]!;
      if (r === 0) continue;
      const px = x - rockTable[k]!;
      const pz = z - rockTable[k + 2]!;
      const cos = rockTable[k + 4]!;
      const sin = rockTable[k + 5]!;
      best = blend(
        best,
        roundBox(px * cos - pz * sin, y - rockTable[k + 1]!, px * sin + pz * cos, r, r * 0.72, r * 0.85, r * 0.42),
        0.05,
      );
    }
  }
  if (best > 0.3) return Math.min(best, 0.4);
  return best + 0.1 * (fbm3(x * 2.7, y * 2.7, z * 2.7, 3) - 0.45) + 0.012 * noise3(x * 21, y * 21, z * 21);
}

/** Tufts of bent blades along both edges of the deck; per tuft x, z, height, then 13 blades of cos, sin, root, reach, length. */
const blades = 13;
const tuftStride = 3 + blades * 5;
const tufts: Float64Array[][] = Array.from({ length: 20 }, (_, k) =>
  [0, 1].flatMap((side) => {
    if (k < 2 || k > 16 || hash(k, side, 21) < 0.28) return [];
    const tall = 0.28 + 0.3 * hash(k, side, 29);
    const out = new Float64Array(tuftStride);
    out[0] = side === 0 ? -1.95 + 0.3 * hash(k, side, 23) : 1.25 + 0.35 * hash(k, side, 25);
    out[1] = (k + hash(k, side, 27)) * 0.62;
    out[2] = tall;
    for (let blade = 0; blade < blades; blade++) {
      const angle = hash(k * 31 + blade, side, 33) * 6.283;
      const reach = (0.12 + 0.5 * hash(k * 31 + blade, side, 35)) * tall;
      const length = tall * (0.55 + 0.45 * hash(k * 31 + blade, side, 37));
      const root = 0.07 * hash(k * 31 + blade, side, 39);
      out.set([Math.cos(angle), Math.sin(angle), root, reach, length], 3 + blade * 5);
    }
    return [out];
  }),
);

function grass(x: number, y: number, z: number): number {
  let best = 0.7;
  const cell = Math.floor(z / 0.62);
  for (let k = Math.max(2, cell - 1); k <= Math.min(16, cell + 1); k++) {
    for (const tuft of tufts[k]!) {
      const tall = tuft[2]!;
      const dx = x - tuft[0]!;
      const dz = z - tuft[1]!;
      const bound = Math.max(Math.sqrt(dx * dx + dz * dz) - tall * 0.75, y - tall - 0.02, -y - 0.05);
      if (bound > 0.06) {
        best = Math.min(best, bound);
        continue;
      }
      for (let b = 3; b < tuftStride; b += 5) {
        const length = tuft[b + 4]!;
        const t = Math.max(0, Math.min(1, y / length));
        const out = tuft[b + 2]! + tuft[b + 3]! * t * t;
        const ex = dx - tuft[b]! * out;
        const ez = dz - tuft[b + 1]! * out;
        const across = Math.sqrt(ex * ex + ez * ez) - 0.0085 * (1.05 - t);
        const above = y - length;
        best = Math.min(best, above > 0 ? Math.sqrt(Math.max(0, across) ** 2 + above * above) : across * 0.62);
      }
    }
  }
  return best;
}

function railing(x: number, y: number, z: number): number {
  const px = x + 1.55;
  const outside = Math.max(Math.abs(px), y - 0.9);
  if (outside > 0.4) return outside - 0.2;
  const spacing = 1.35;
  const k = Math.max(1, Math.min(8, Math.round(z / spacing)));
  const post = capsule(px, y, z - k * spacing, 0, -0.1, 0, 0, 0.98, 0, 0.034, 0.03);
  const inside = Math.max(1.35 - z, z - 8 * spacing);
  const bar = Math.max(Math.hypot(px, y - 0.98) - 0.03, inside);
  const sag = 0.025 * Math.sin(((z / spacing) % 1) * Math.PI);
  const wires = Math.min(Math.hypot(px, y - 0.66 + sag) - 0.011, Math.hypot(px, y - 0.34 + sag) - 0.011);
  return Math.min(post, bar, Math.max(wires, inside));
}

function tower(x: number, y: number, z: number, found: Int32Array): number {
  const dx = x - towerX;
  const dz = z - towerZ;
  const r = Math.sqrt(dx * dx + dz * dz);
  const bound = Math.max(r - 1.9, y - 7.9);
  if (bound > 0.5) {
    found[0] = TOWER;
    return bound;
  }
  const taper = 1.25 - 0.075 * Math.max(0, y);
  let wall = Math.max(r - taper, y - 5.4) * 0.97;
  const foot = cylinder(dx, y - 0.15, dz, 0.35, 1.62, 0.05);
  const gallery = cylinder(dx, y - 5.42, dz, 0.09, 1.25, 0.03);
  const ring = Math.min(Math.hypot(r - 1.18, y - 5.98) - 0.025, Math.hypot(r - 1.18, y - 5.74) - 0.014);
  const spoke = Math.atan2(dz, dx) * (14 / 6.28318);
  const off = ((spoke - Math.round(spoke)) * 6.28318) / 14;
  const rails = Math.max(Math.hypot(off * r, r - 1.18) - 0.018, Math.abs(y - 5.72) - 0.27);
  const roof = Math.max(sphere(dx, y - 6.45, dz, 0.86), 6.62 - y);
  const ball = Math.min(sphere(dx, y - 7.38, dz, 0.11), capsule(dx, y, dz, 0, 7.3, 0, 0, 7.8, 0, 0.025, 0.008));
  const bars = Math.max(Math.hypot(off * r, r - 0.6) - 0.03, Math.abs(y - 6.05) - 0.6);
  wall = Math.min(wall, foot, gallery, ring, rails, roof, ball, bars);
  const lamp = Math.min(cylinder(dx, y - 6.05, dz, 0.5, 0.24, 0.1), 1e3);
  found[0] = lamp < wall ? LAMP : TOWER;
  return Math.min(wall, lamp);
}

function boat(x: number, y: number, z: number): number {
  const dx = x - 5.6;
  const dz = z - 17;
  const lx = dx * 0.94 + dz * 0.34;
  const lz = -dx * 0.34 + dz * 0.94;
  const ly = y + 1.5;
  const bound = Math.sqrt(lx * lx + ly * ly + lz * lz) - 4.4;
  if (bound > 0.6) return bound;
  const rise = 0.05 * lx * lx;
  let hull = ellipsoid(lx, ly - 0.42 - rise, lz, 2.5, 0.72, 0.86);
  hull = Math.max(hull, ly - 0.42 - rise);
  hull = Math.max(hull, -ellipsoid(lx, ly - 0.5 - rise, lz, 2.3, 0.5, 0.72));
  const cabin = roundBox(lx - 0.5, ly - 0.55, lz, 0.62, 0.45, 0.45, 0.06);
  const mast = capsule(lx, ly, lz, -0.55, 0.1, 0, -0.5, 3.3, 0, 0.045, 0.028);
  const boom = capsule(lx, ly, lz, -0.53, 0.95, 0, -2.2, 1.1, 0.1, 0.03, 0.022);
  const stay = Math.min(
    capsule(lx, ly, lz, -0.5, 3.25, 0, 2.35, 0.72, 0, 0.011, 0.011),
    capsule(lx, ly, lz, -0.5, 3.25, 0, -2.4, 0.7, 0, 0.011, 0.011),
  );
  return Math.min(hull, cabin, mast, boom, stay);
}

function water(x: number, y: number, z: number): number {
  const d = y + 1.55;
  if (d > 0.2) return d - 0.07;
  const swell =
    0.05 * (noise2(x * 0.8, z * 0.55) - 0.5) +
    0.03 * (noise2(x * 2.1 + 7, z * 1.3) - 0.5) +
    0.012 * (noise2(x * 6.5, z * 3.4 + 3) - 0.5);
  return (d - swell) * 0.8;
}

/** The breakwater and light tower of Wendle Quay at dusk. The subject is the whole near side: deck, rocks, grass, rail, tower. */
export function breakwater({ withSubject }: SceneOptions): MarchedScene {
  const map = (x: number, y: number, z: number, found: Int32Array): number => {
    let best = water(x, y, z);
    let id = WATER;
    const b = boat(x, y, z);
    if (b < best) {
      best = b;
      id = BOAT;
    }
    if (withSubject) {
      const deck = roundBox(x + 0.25, y + 0.6, z - 8, 1.95, 0.6, 12.5, 0.05);
      if (deck < best) {
        best = deck;
        id = DECK;
      }
      const r = rocks(x, y, z);
      if (r < best) {
        best = r;
        id = ROCK;
      }
      const g = y < 0.8 ? grass(x, y, z) : y - 0.55;
      if (g < best) {
        best = g;
        id = GRASS;
      }
      const rail = railing(x, y, z);
      if (rail < best) {
        best = rail;
        id = RAIL;
      }
      const t = tower(x, y, z, found);
      if (t < best) {
        best = t;
        id = found[0]!;
      }
    }
    found[0] = id;
    return best;
  };
  return {
    eye: [0.35, 1.55, -2.4],
    target: [0.75, 1.5, 12],
    view: 46,
    focus: 9,
    lens: 0.012,
    far: 70,
    ceiling: 8,
    light: [0.72, 0.4, 0.32].map((v) => v / Math.hypot(0.72, 0.4, 0.32)) as Vector,
    lightColor: [1.75, 1.0, 0.55],
    lightSize: 0.12,
    ambient: [0.25, 0.29, 0.4],
    haze: 0.006,
    exposure: 0.78,
    map,
    material: materialOf,
    sky,
    isSubject: (id) => id !== WATER && id !== BOAT,
  };
}

function materialOf(id: number, x: number, y: number, z: number, n: Vector): Material {
  switch (id) {
    case DECK: {
      const row = Math.floor(z / 1.15);
      const u = (x + 40) / 0.98 + 0.5 * (row & 1);
      const block = hash(Math.floor(u), row, 2);
      const seam =
        Math.min(0.5 - Math.abs(u - Math.floor(u) - 0.5), (0.5 - Math.abs(z / 1.15 - row - 0.5)) * 1.2) +
        0.012 * (noise2(x * 17, z * 17) - 0.5);
      const joint = 1 - step(0.008, 0.03, seam);
      const stain = fbm2(x * 1.7, z * 1.7, 5);
      const grit = noise2(x * 38, z * 38);
      const base = mix([0.2, 0.185, 0.165], [0.4, 0.37, 0.32], 0.65 * block + 0.35 * stain);
      const wet = step(0.52, 0.66, fbm2(x * 0.7 + 5, z * 0.7, 4));
      const surface = mix(mix(base, [0.13, 0.13, 0.13], 0.35 * grit), [0.11, 0.11, 0.12], wet * 0.6);
      return { ...matt(mix(surface, [0.07, 0.065, 0.06], joint * 0.8)), roughness: 0.95 - 0.35 * wet };
    }
    case ROCK: {
      const s = fbm3(x * 2.1, y * 2.1, z * 2.1, 5);
      const weed = step(-0.55, -1.15, y) * step(0.35, 0.6, fbm3(x * 3, y * 3, z * 3, 3));
      const lichen = step(0.56, 0.66, fbm3(x * 4.2 + 4, y * 4.2, z * 4.2, 4)) * step(0.2, 0.9, n[1]);
      let c = mix([0.17, 0.16, 0.155], [0.42, 0.38, 0.34], s);
      c = mix(c, [0.52, 0.42, 0.16], lichen * 0.6);
      c = mix(c, [0.07, 0.09, 0.05], weed);
      return { ...matt(c), roughness: y < -0.9 ? 0.45 : 0.9 };
    }
    case GRASS: {
      const t = Math.max(0, Math.min(1, y * 2.2));
      return {
        ...matt(mix([0.1, 0.15, 0.05], [0.46, 0.43, 0.17], t * (0.6 + 0.4 * noise2(x * 14, z * 14)))),
        translucent: 0.5,
      };
    }
    case RAIL: {
      const rust = step(0.5, 0.62, fbm3(x * 9, y * 9, z * 9, 3));
      return {
        color: mix([0.13, 0.16, 0.17], [0.3, 0.14, 0.07], rust),
        roughness: 0.42 + 0.4 * rust,
        metal: 0.3,
        glow: [0, 0, 0],
        translucent: 0,
      };
    }
    case TOWER: {
      if (y > 5.3) return { color: [0.16, 0.19, 0.19], roughness: 0.45, metal: 0.3, glow: [0, 0, 0], translucent: 0 };
      const angle = Math.atan2(z - towerZ, x - towerX);
      const window = Math.abs(angle + 1.65) < 0.14 && (Math.abs(y - 3.6) < 0.3 || Math.abs(y - 1.75) < 0.34);
      if (window)
        return { color: [0.03, 0.035, 0.045], roughness: 0.15, metal: 0, glow: [0.02, 0.014, 0.008], translucent: 0 };
      const streak = fbm2(angle * 9, y * 0.7, 4);
      const band = y > 2.55 && y < 3.95 ? 1 : 0;
      const paint = mix([0.78, 0.74, 0.66], [0.34, 0.11, 0.08], band);
      const dirt = step(0.42, 0.7, streak) * 0.5 + step(1.2, 0, y) * 0.5;
      return matt(mix(paint, [0.27, 0.24, 0.2], dirt), 0.9);
    }
    case LAMP:
      return { color: [1, 0.9, 0.6], roughness: 0.5, metal: 0, glow: [4.2, 2.9, 1.3], translucent: 0 };
    case BOAT: {
      const hull = y < -0.98;
      const c: Vector = hull ? (y < -1.32 ? [0.32, 0.1, 0.07] : [0.09, 0.25, 0.27]) : [0.62, 0.57, 0.48];
      return {
        color: mix(c, [0.2, 0.17, 0.14], 0.4 * fbm3(x * 4, y * 4, z * 4, 3)),
        roughness: 0.55,
        metal: 0,
        glow: [0, 0, 0],
        translucent: 0,
      };
    }
    default:
      return { color: [0.02, 0.045, 0.055], roughness: 0.06, metal: 0, glow: [0, 0, 0], translucent: 0 };
  }
}
