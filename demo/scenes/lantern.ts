import { fbm2, fbm3, hash, noise2 } from '../marcher/noise.ts';
import { capsule, cylinder, ellipsoid, roundBox } from '../marcher/shapes.ts';
import type { MarchedScene, Material, SceneOptions, Vector } from '../marcher/scene.ts';
import { matt, mix, step } from './materials.ts';

const PLANKS = 1;
const PAPER = 2;
const FRAME = 3;
const POST = 4;
const ROPE = 5;
const WATER = 6;

const lanternX = -0.16;
const lanternY = 0.66;
const lanternZ = 2.5;
const plankWidth = 0.24;

/** An overcast evening, the lamps of the far quay blurred on the water line. */
function sky(dx: number, dy: number, dz: number): Vector {
  const azimuth = Math.atan2(dx, dz);
  const height = Math.max(0, dy);
  const cloud = fbm2((dx / (dy + 0.25)) * 1.4, (dz / (dy + 0.25)) * 0.9 + 4, 5);
  let color = mix(mix([0.74, 0.7, 0.66], [0.34, 0.4, 0.47], step(0, 0.5, height)), [0.5, 0.5, 0.52], 0.6 * cloud);
  const roofs = 0.03 + 0.05 * Math.floor(4 * noise2(Math.floor(azimuth * 15) * 3.7, 2)) * 0.4;
  if (dy < roofs) {
    const house = hash(Math.floor(azimuth * 15), 3);
    color = mix([0.19, 0.2, 0.23], [0.34, 0.27, 0.23], house);
    const u = azimuth * 90;
    const v = dy * 120;
    if (hash(Math.floor(u), Math.floor(v), 8) > 0.86) color = [1.6, 1.05, 0.5];
    color = mix(color, [0.6, 0.58, 0.56], 0.35);
  }
  return color;
}

function planks(x: number, y: number, z: number): number {
  const k = Math.floor(x / plankWidth);
  const across = Math.abs(x - (k + 0.5) * plankWidth) / plankWidth;
  const sunk = 0.006 * hash(k, 4) + step(0.455, 0.492, across) * 0.03;
  const edge = z - 5.6;
  return Math.max(Math.abs(y + 0.06) - 0.06 + sunk * (y > -0.04 ? 1 : 0), edge) * 0.9;
}

function railing(x: number, y: number, z: number, found: Int32Array): number {
  const dz = z - 5.35;
  if (Math.abs(dz) > 0.6) return Math.abs(dz) - 0.35;
  const spacing = 1.5;
  const k = Math.round((x - 0.45) / spacing);
  const px = x - 0.45 - k * spacing;
  const post = Math.min(
    roundBox(px, y - 0.5, dz, 0.075, 0.56, 0.075, 0.02),
    roundBox(px, y - 1.09, dz, 0.1, 0.035, 0.1, 0.015),
  );
  const t = px / spacing + 0.5;
  const sag = 0.34 * t * (1 - t);
  const rope = Math.min(Math.hypot(y - 0.92 + sag, dz), Math.hypot(y - 0.5 + sag, dz)) - 0.022;
  found[0] = post < rope ? POST : ROPE;
  return Math.min(post, rope * 0.8);
}

function lanternShape(x: number, y: number, z: number, found: Int32Array): number {
  const dx = x - lanternX;
  const dy = y - lanternY;
  const dz = z - lanternZ;
  const bound = Math.sqrt(dx * dx + dy * dy + dz * dz) - 0.85;
  if (bound > 0.1) return bound;
  const ribs = 0.011 * Math.abs(Math.sin(dy * 36));
  const paper = Math.max(ellipsoid(dx, dy, dz, 0.36, 0.4, 0.36) + ribs, Math.abs(dy) - 0.34);
  const caps = Math.min(
    cylinder(dx, dy - 0.355, dz, 0.028, 0.185, 0.008),
    cylinder(dx, dy + 0.355, dz, 0.028, 0.185, 0.008),
  );
  const bow = Math.hypot(Math.hypot(dx, (dy - 0.37) * 0.85) - 0.19, dz) - 0.007;
  let frame = Math.min(caps, dy > 0.36 ? bow : 1);
  for (let k = 0; k < 9; k++) {
    const a = (k / 9) * 6.283 + 0.3;
    const r = 0.018;
    const swing = 0.02 * Math.sin(k * 2.4);
    frame = Math.min(
      frame,
      capsule(
        dx,
        dy,
        dz,
        Math.cos(a) * r,
        -0.38,
        Math.sin(a) * r,
        Math.cos(a) * r * 1.5 + swing,
        -0.53 - 0.025 * hash(k, 2),
        Math.sin(a) * r * 1.5,
        0.0055,
        0.0035,
      ),
    );
  }
  found[0] = frame < paper ? FRAME : PAPER;
  return Math.min(frame, paper * 0.85);
}

/** A paper lantern hovering over the boardwalk on a grey evening; its contact shadow is wide and soft. */
export function lantern({ withSubject }: SceneOptions): MarchedScene {
  const map = (x: number, y: number, z: number, found: Int32Array): number => {
    let best = planks(x, y, z);
    let id = PLANKS;
    const water = y + 0.9 + (y < -0.6 ? 0.03 * (noise2(x * 3, z * 1.4) - 0.5) : -0.1);
    if (water < best) {
      best = water;
      id = WATER;
    }
    const r = railing(x, y, z, found);
    if (r < best) {
      best = r;
      id = found[0]!;
    }
    if (withSubject) {
      const l = lanternShape(x, y, z, found);
      if (l < best) {
        best = l;
        id = found[0]! || PAPER;
      }
    }
    found[0] = id;
    return best;
  };
  const towards = Math.hypot(-0.35, 1, -0.3);
  return {
    eye: [0.1, 1.18, -0.75],
    target: [0.06, 0.6, 2.6],
    view: 40,
    focus: 3.25,
    lens: 0.03,
    far: 60,
    ceiling: 1.6,
    light: [-0.35 / towards, 1 / towards, -0.3 / towards],
    lightColor: [0.95, 0.97, 1.0],
    lightSize: 0.5,
    ambient: [0.36, 0.39, 0.43],
    haze: 0.004,
    exposure: 0.58,
    map,
    material: materialOf,
    sky,
    isSubject: (id) => id === PAPER || id === FRAME,
  };
}

function materialOf(id: number, x: number, y: number, z: number, _n: Vector): Material {
  switch (id) {
    case PLANKS: {
      const k = Math.floor(x / plankWidth);
      const joint = Math.floor((z + hash(k, 7) * 2.1) / 2.1);
      const tone = hash(k, joint, 5);
      const grain = fbm2(x * 46 + k * 9, z * 2.2 + k * 31, 5);
      const fine = noise2(x * 210, z * 7 + k * 3);
      let c = mix([0.23, 0.19, 0.155], [0.47, 0.42, 0.36], 0.5 * tone + 0.5 * grain);
      c = mix(c, [0.12, 0.1, 0.085], 0.35 * fine * grain);
      const butt = Math.abs((z + hash(k, 7) * 2.1) / 2.1 - joint - 0.5);
      if (butt > 0.4975) c = [0.06, 0.05, 0.045];
      const nailX = Math.abs(Math.abs(x - (k + 0.5) * plankWidth) - 0.075);
      const nailZ = (0.5 - butt) * 2.1 - 0.06;
      if (nailX * nailX + nailZ * nailZ < 0.00006) c = [0.09, 0.075, 0.07];
      const worn = step(0.45, 0.65, fbm2(x * 1.2, z * 0.9 + 9, 4));
      return matt(mix(c, [0.52, 0.5, 0.47], worn * 0.22), 0.86);
    }
    case PAPER: {
      const up = y - lanternY;
      const rib = Math.abs(Math.sin(up * 36)) > 0.985 ? 1 : 0;
      const angle = Math.atan2(z - lanternZ, x - lanternX);
      const band = Math.abs(up + 0.02) < 0.055 + 0.02 * Math.sin(angle * 8) ? 1 : 0;
      const paper: Vector = mix([0.86, 0.53, 0.3], [0.66, 0.2, 0.13], band * 0.85);
      const fibre = fbm3(x * 30, y * 60, z * 30, 3);
      const heart = Math.exp(-(up * up) * 9);
      const glow: Vector = [0.7 * heart, 0.3 * heart * (1 - 0.6 * band), 0.07 * heart * (1 - 0.6 * band)];
      return {
        color: mix(mix(paper, [0.9, 0.72, 0.5], 0.25 * fibre), [0.3, 0.16, 0.08], rib * 0.6),
        roughness: 0.9,
        metal: 0,
        glow,
        translucent: 0.25,
      };
    }
    case FRAME:
      return { color: [0.1, 0.075, 0.06], roughness: 0.5, metal: 0, glow: [0, 0, 0], translucent: 0 };
    case POST:
      return matt(mix([0.3, 0.29, 0.27], [0.5, 0.48, 0.44], fbm3(x * 24, y * 2.4, z * 24, 4)), 0.9);
    case ROPE:
      return matt(
        mix([0.42, 0.34, 0.22], [0.2, 0.16, 0.11], step(0.4, 0.6, Math.abs(Math.sin(x * 90 + y * 60)))),
        0.95,
      );
    default:
      return { color: [0.05, 0.075, 0.085], roughness: 0.12, metal: 0, glow: [0, 0, 0], translucent: 0 };
  }
}
