import { fbm2, fbm3, hash, noise2, noise3 } from '../marcher/noise.ts';
import { blend, capsule, cylinder, ellipsoid, roundBox, sphere, torus } from '../marcher/shapes.ts';
import type { MarchedScene, Material, SceneOptions, Vector } from '../marcher/scene.ts';
import { matt, metal, mix, step } from './materials.ts';

const TABLE = 1;
const WALL = 2;
const BODY = 3;
const BEAK = 4;
const WIRE = 5;
const EYE = 6;
const TIN = 7;
const COIL = 8;
const FLOAT = 9;
const BOX = 10;
const JAR = 11;

const heronX = -0.05;
const heronZ = 1.6;

/** A boathouse with one large window on the left; mirrors in the tin see it. */
function sky(dx: number, dy: number, dz: number): Vector {
  const window = step(0.55, 0.75, -dx) * step(0.75, 0.55, Math.abs(dy - 0.35)) * step(0.8, 0.6, Math.abs(dz));
  const room: Vector = mix([0.1, 0.085, 0.07], [0.24, 0.23, 0.22], step(-0.4, 0.8, dy));
  return mix(room, [1.5, 1.65, 1.8], window);
}

/** Eight wires of the crest, each a bent pair of thin capsules: x, y of joint and tip. */
const crest = Array.from({ length: 9 }, (_, k) => {
  const a = 0.5 + 0.21 * k + 0.06 * hash(k, 1);
  const length = 0.2 + 0.1 * Math.sin((k / 8) * Math.PI) + 0.05 * hash(k, 2);
  const sideways = 0.05 * (hash(k, 3) - 0.5);
  const midX = 0.55 * length * Math.cos(a);
  const midY = 0.55 * length * Math.sin(a);
  const bend = a + 0.42;
  return [
    midX,
    midY,
    sideways * 0.5,
    midX + 0.5 * length * Math.cos(bend),
    midY + 0.5 * length * Math.sin(bend),
    sideways,
  ] as const;
});

function heronShape(x: number, y: number, z: number, found: Int32Array): number {
  const px = x - heronX;
  const pz = z - heronZ;
  const bound = Math.max(Math.abs(px) - 0.72, y - 1.62, Math.abs(pz) - 0.3, -y);
  if (bound > 0.12) {
    found[0] = BODY;
    return bound;
  }
  const tilt = 0.42;
  const bx = (px - 0.04) * Math.cos(tilt) + (y - 0.66) * Math.sin(tilt);
  const by = -(px - 0.04) * Math.sin(tilt) + (y - 0.66) * Math.cos(tilt);
  let body = ellipsoid(bx, by, pz, 0.3, 0.15, 0.13);
  body = blend(body, capsule(px, y, pz, 0.2, 0.58, 0, 0.47, 0.44, 0, 0.06, 0.012), 0.08);
  const wing = ellipsoid(bx - 0.05, by - 0.01, Math.abs(pz) - 0.1, 0.25, 0.1, 0.05);
  body = blend(body, wing, 0.015);
  body = blend(body, capsule(px, y, pz, -0.2, 0.76, 0, -0.29, 0.93, 0, 0.075, 0.05), 0.06);
  body = blend(body, capsule(px, y, pz, -0.29, 0.93, 0, -0.2, 1.1, 0, 0.05, 0.042), 0.04);
  body = blend(body, capsule(px, y, pz, -0.2, 1.1, 0, -0.24, 1.28, 0, 0.042, 0.044), 0.04);
  body = blend(body, ellipsoid(px + 0.27, y - 1.31, pz, 0.095, 0.062, 0.055), 0.03);
  const seam = noise3(px * 7, y * 7, 2) > 0.5 ? 0.0012 : 0;
  body += seam;
  const legs = Math.min(
    capsule(px, y, pz, 0.05, 0.55, 0.04, 0.08, 0.3, 0.05, 0.018, 0.014),
    capsule(px, y, pz, 0.08, 0.3, 0.05, 0.03, 0.03, 0.05, 0.014, 0.013),
    capsule(px, y, pz, 0.0, 0.55, -0.04, -0.02, 0.3, -0.05, 0.018, 0.014),
    capsule(px, y, pz, -0.02, 0.3, -0.05, -0.03, 0.03, -0.05, 0.014, 0.013),
  );
  const stand = cylinder(px, y - 0.018, pz, 0.018, 0.2, 0.006);
  const beak = capsule(px, y, pz, -0.34, 1.31, 0, -0.63, 1.25, 0, 0.03, 0.004);
  const eye = sphere(px + 0.295, y - 1.33, Math.abs(pz) - 0.046, 0.013);
  let wires = 1;
  const wx = px + 0.19;
  const wy = y - 1.34;
  if (Math.abs(wx) < 0.5 && wy > -0.12) {
    for (const [mx, my, mz, tx, ty, tz] of crest) {
      wires = Math.min(
        wires,
        capsule(wx, wy, pz, 0, 0, 0, mx, my, mz, 0.0046, 0.0036),
        capsule(wx, wy, pz, mx, my, mz, tx, ty, tz, 0.0036, 0.0022),
        sphere(wx - tx, wy - ty, pz - tz, 0.009),
      );
    }
  }
  let best = Math.min(body, legs, stand);
  let id = BODY;
  if (beak < best) [best, id] = [beak, BEAK];
  if (wires < best) [best, id] = [wires, WIRE];
  if (eye < best) [best, id] = [eye, EYE];
  found[0] = id;
  return best;
}

/** The clutter of the quay table: tins, a coil of rope, painted floats, boxes, a jar with brushes. */
function clutter(x: number, y: number, z: number, found: Int32Array): number {
  const bound = y - 0.78;
  if (bound > 0.15) {
    found[0] = TIN;
    return bound;
  }
  let best = 1e3;
  let id = TIN;
  const put = (d: number, kind: number): void => {
    if (d < best) {
      best = d;
      id = kind;
    }
  };
  // Each side is skipped while the point is far from all of it.
  const right = Math.max(0.2 - x, x - 1.5, 0.96 - z, z - 2.45);
  if (right > 0.12) put(right, TIN);
  else {
    put(cylinder(x - 0.78, y - 0.17, z - 1.95, 0.17, 0.14, 0.01), TIN);
    put(cylinder(x - 1.08, y - 0.12, z - 1.66, 0.12, 0.1, 0.01), TIN);
    for (let k = 0; k < 4; k++)
      put(torus(x - 0.62 - 0.01 * k, y - 0.035 - 0.058 * k, z - 1.22, 0.2 - 0.012 * (k % 2), 0.033), COIL);
    put(sphere(x - 0.36, y - 0.14, z - 2.2, 0.14), FLOAT);
    put(cylinder(x - 1.2, y - 0.17, z - 2.2, 0.17, 0.12, 0.02), JAR);
    for (let k = 0; k < 5; k++) {
      const lean = 0.1 * (hash(k, 41) - 0.5);
      const depth = 0.1 * (hash(k, 42) - 0.5);
      put(
        capsule(
          x - 1.2,
          y,
          z - 2.2,
          lean * 0.4,
          0.1,
          depth * 0.4,
          lean * 2,
          0.62 + 0.12 * hash(k, 43),
          depth * 2,
          0.013,
          0.01,
        ),
        JAR,
      );
    }
  }
  const left = Math.max(x + 0.1, -1.4 - x, 0.95 - z, z - 2.45);
  if (left > 0.12) put(left, TIN);
  else {
    put(cylinder(x + 1.15, y - 0.2, z - 2.2, 0.2, 0.16, 0.01), TIN);
    put(sphere(x + 0.66, y - 0.12, z - 1.28, 0.12), FLOAT);
    put(sphere(x + 0.93, y - 0.1, z - 1.5, 0.1), FLOAT);
    put(sphere(x + 0.88, y - 0.085, z - 1.1, 0.085), FLOAT);
    const bx = (x + 0.62) * 0.94 + (z - 2.15) * 0.34;
    const bz = -(x + 0.62) * 0.34 + (z - 2.15) * 0.94;
    put(roundBox(bx, y - 0.17, bz, 0.27, 0.17, 0.18, 0.012), BOX);
    put(roundBox(bx + 0.03, y - 0.43, bz - 0.01, 0.18, 0.09, 0.13, 0.012), BOX);
  }
  found[0] = id;
  return best;
}

/** A tin heron with a crest of fine wires among the clutter of a quay table. */
export function heron({ withSubject }: SceneOptions): MarchedScene {
  const map = (x: number, y: number, z: number, found: Int32Array): number => {
    let best = y;
    let id = TABLE;
    const wall = 3.6 - z;
    if (wall < best) {
      best = wall;
      id = WALL;
    }
    const c = clutter(x, y, z, found);
    if (c < best) {
      best = c;
      id = found[0]!;
    }
    if (withSubject) {
      const h = heronShape(x, y, z, found);
      if (h < best) {
        best = h;
        id = found[0]!;
      }
    }
    found[0] = id;
    return best;
  };
  const towards = Math.hypot(-0.8, 0.75, -0.5);
  return {
    eye: [0.05, 1.02, -1.35],
    target: [0.0, 0.82, 1.6],
    view: 35,
    focus: 2.95,
    lens: 0.045,
    far: 30,
    ceiling: 30,
    light: [-0.8 / towards, 0.75 / towards, -0.5 / towards],
    lightColor: [1.25, 1.3, 1.35],
    lightSize: 0.3,
    ambient: [0.26, 0.245, 0.23],
    haze: 0,
    exposure: 0.8,
    map,
    material: materialOf,
    sky,
    isSubject: (id) => id >= BODY && id <= EYE,
  };
}

const floatPaints: Vector[] = [
  [0.5, 0.09, 0.05],
  [0.75, 0.62, 0.22],
  [0.08, 0.22, 0.3],
  [0.7, 0.68, 0.62],
];

function materialOf(id: number, x: number, y: number, z: number, n: Vector): Material {
  switch (id) {
    case TABLE: {
      const k = Math.floor(z / 0.3);
      const grain = fbm2(x * 3 + k * 7, z * 40 + k * 5, 5);
      const gap = Math.abs(z / 0.3 - k - 0.5) > 0.485 ? 1 : 0;
      const stain = step(0.55, 0.66, fbm2(x * 2.2 + 3, z * 2.2, 4));
      let c = mix([0.2, 0.125, 0.075], [0.43, 0.3, 0.19], 0.6 * grain + 0.4 * hash(k, 3));
      c = mix(c, [0.1, 0.12, 0.13], stain * 0.35);
      return { ...matt(mix(c, [0.04, 0.03, 0.02], gap)), roughness: 0.62 };
    }
    case WALL: {
      const k = Math.floor(x / 0.26);
      const edge = Math.abs(x / 0.26 - k - 0.5) > 0.47 ? 0.5 : 0;
      const peeled = step(0.52, 0.6, fbm2(x * 3.5, y * 1.6 + k, 4));
      return matt(
        mix(
          mix(mix([0.14, 0.22, 0.22], [0.19, 0.28, 0.27], hash(k, 9)), [0.3, 0.25, 0.19], peeled * 0.7),
          [0.03, 0.03, 0.03],
          edge,
        ),
        0.9,
      );
    }
    case BODY: {
      const rust = step(0.54, 0.66, fbm3(x * 9, y * 9, z * 9, 4));
      const scratch = noise2(x * 70 + z * 30, y * 16);
      const plate = noise3((x - heronX) * 7, y * 7, 2) > 0.5 ? 0.9 : 1.08;
      const c = mix([0.52 * plate, 0.55 * plate, 0.56 * plate], [0.3, 0.15, 0.07], rust * 0.8);
      return { ...metal(c, 0.32 + 0.3 * rust + 0.12 * scratch), metal: 0.85 - 0.6 * rust };
    }
    case BEAK:
      return metal([0.66, 0.46, 0.16], 0.38);
    case WIRE:
      return metal([0.16, 0.15, 0.15], 0.4);
    case EYE:
      return matt([0.02, 0.02, 0.02], 0.1);
    case TIN: {
      const label = y > 0.07 && y < 0.25 && Math.abs(n[1]) < 0.5;
      if (!label) return metal([0.5, 0.48, 0.44], 0.4);
      const c: Vector = x < 0 ? [0.55, 0.4, 0.12] : x > 0.95 ? [0.16, 0.3, 0.24] : [0.48, 0.12, 0.08];
      return matt(mix(c, [0.75, 0.68, 0.52], Math.abs(y - 0.16) < 0.028 ? 0.9 : 0), 0.5);
    }
    case COIL:
      return matt(
        mix(
          [0.5, 0.4, 0.25],
          [0.22, 0.16, 0.09],
          step(0.3, 0.7, Math.abs(Math.sin(Math.atan2(z - 1.22, x - 0.62) * 40 + y * 70))),
        ),
        0.95,
      );
    case FLOAT: {
      const which = z > 2 ? 3 : z > 1.4 ? 1 : z > 1.2 ? 0 : 2;
      const stripe = Math.abs(n[1] + 0.2 * n[0]) < 0.22 ? 1 : 0;
      const chip = step(0.6, 0.66, fbm3(x * 14, y * 14, z * 14, 3));
      return matt(
        mix(mix(floatPaints[which]!, floatPaints[(which + 3) % 4]!, stripe), [0.35, 0.26, 0.18], chip * 0.8),
        0.45,
      );
    }
    case BOX:
      return matt(mix([0.36, 0.27, 0.17], [0.5, 0.4, 0.27], fbm3(x * 4, y * 34, z * 4, 4)), 0.85);
    default:
      return y > 0.35
        ? matt([0.42, 0.3, 0.17], 0.7)
        : { color: [0.5, 0.52, 0.48], roughness: 0.2, metal: 0, glow: [0, 0, 0], translucent: 0 };
  }
}
