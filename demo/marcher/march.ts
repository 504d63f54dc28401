import { seededRandom } from '../../core/pixels/random.ts';
import type { Rgba, Bytes, Plane } from '../../core/pixels/raster.ts';
import { makeBytes, makePlane, makeRgba } from '../../core/pixels/raster.ts';
import type { MarchedScene, Vector } from './scene.ts';

export interface Rendering {
  picture: Rgba;
  /** Share of the samples that hit the subject, 0..255. */
  alpha: Bytes;
  /** What the subject alone adds to the picture: its colours times its alpha. */
  front: Rgba;
  /** Distance of the first surface in metres, median of the samples; `far` for the sky. */
  depth: Plane;
}

export interface RenderOptions {
  width: number;
  height: number;
  /** Samples along one side of a pixel's square; n*n in all. */
  samples: number;
  /** Rows to render, for work split over several threads. */
  fromRow?: number;
  toRow?: number;
  seed?: number;
  grain?: number;
}

const found = new Int32Array(1);

/** Which of a pixel's samples is being taken: light and lens are sampled on a spiral, which is far less noisy than chance. */
const stratum = { index: 0, count: 1, turn: 0 };
const goldenAngle = 2.399963;
const none: Vector = [0, 0, 0];

function normalise([x, y, z]: Vector): Vector {
  const n = 1 / Math.sqrt(x * x + y * y + z * z);
  return [x * n, y * n, z * n];
}

const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** Sphere tracing (Hart 1996): distance along the ray to the first surface, or -1. */
function trace(scene: MarchedScene, o: Vector, d: Vector, from: number, far: number, pixel: number): number {
  let t = from;
  for (let step = 0; step < 160 && t < far; step++) {
    const y = o[1] + d[1] * t;
    if (d[1] > 0 && y > scene.ceiling) return -1;
    const h = scene.map(o[0] + d[0] * t, y, o[2] + d[2] * t, found);
    if (h < pixel * t * 0.35 + 0.0003) return t;
    t += h * 0.9;
  }
  return -1;
}

function normalAt(scene: MarchedScene, p: Vector, e: number): Vector {
  const m = scene.map;
  const [x, y, z] = p;
  const a = m(x + e, y - e, z - e, found);
  const b = m(x - e, y - e, z + e, found);
  const c = m(x - e, y + e, z - e, found);
  const d = m(x + e, y + e, z + e, found);
  return normalise([a - b - c + d, -a - b + c + d, -a + b - c + d]);
}

function occlusion(scene: MarchedScene, p: Vector, n: Vector): number {
  let sum = 0;
  let scale = 1;
  for (let k = 1; k <= 4; k++) {
    const h = 0.03 * k * k;
    sum += (h - scene.map(p[0] + n[0] * h, p[1] + n[1] * h, p[2] + n[2] * h, found)) * scale;
    scale *= 0.62;
  }
  return Math.max(0.05, 1 - 1.7 * Math.max(0, sum));
}

/** One shadow ray to a random point of the area light: averaged over the samples of a pixel it is a soft shadow. */
function lit(scene: MarchedScene, p: Vector, n: Vector, random: () => number): number {
  const r = scene.lightSize * Math.sqrt((stratum.index + random()) / stratum.count);
  const a = stratum.turn + stratum.index * goldenAngle;
  const side = normalise(cross(scene.light, [0.31, 0.95, 0.07]));
  const up = cross(scene.light, side);
  const u = r * Math.cos(a);
  const v = r * Math.sin(a);
  const d = normalise([
    scene.light[0] + side[0] * u + up[0] * v,
    scene.light[1] + side[1] * u + up[1] * v,
    scene.light[2] + side[2] * u + up[2] * v,
  ]);
  const start: Vector = [p[0] + n[0] * 0.006, p[1] + n[1] * 0.006, p[2] + n[2] * 0.006];
  return trace(scene, start, d, 0.01, Math.min(14, scene.far), 0.0004) < 0 ? 1 : 0;
}

interface Hit {
  id: number;
  distance: number;
}

function radiance(
  scene: MarchedScene,
  o: Vector,
  d: Vector,
  pixel: number,
  random: () => number,
  bounce: number,
  hit: Hit,
): Vector {
  const t = trace(scene, o, d, 0.02, scene.far, pixel);
  hit.distance = t;
  if (t < 0) {
    hit.id = -1;
    return scene.sky(d[0], d[1], d[2]);
  }
  const id = found[0]!;
  hit.id = id;
  const p: Vector = [o[0] + d[0] * t, o[1] + d[1] * t, o[2] + d[2] * t];
  const n = normalAt(scene, p, Math.max(0.0008, pixel * t * 0.6));
  const m = scene.material(id, p[0], p[1], p[2], n);
  const toward = n[0] * scene.light[0] + n[1] * scene.light[1] + n[2] * scene.light[2];
  const facing = Math.max(0, toward);
  const through = m.translucent * Math.max(0, -toward);
  const shadow = facing + through > 0.001 ? (facing > 0 ? lit(scene, p, n, random) : 1) : 0;
  const open = occlusion(scene, p, n);
  const upward = 0.55 + 0.45 * n[1];
  const reflected = mirror(d, n);
  const half = Math.max(
    0,
    reflected[0] * scene.light[0] + reflected[1] * scene.light[1] + reflected[2] * scene.light[2],
  );
  const shine = (1 - m.roughness) ** 2;
  const highlight = half ** (4 + 120 * shine) * (0.15 + 2.2 * shine) * shadow;
  const grazing = (1 - Math.max(0, -(d[0] * n[0] + d[1] * n[1] + d[2] * n[2]))) ** 5;
  const mirrorShare = (m.metal * 0.75 + (1 - m.metal) * (0.04 + 0.96 * grazing)) * (1 - m.roughness);
  let around: Vector = none;
  if (mirrorShare > 0.01) {
    const start: Vector = [p[0] + n[0] * 0.01, p[1] + n[1] * 0.01, p[2] + n[2] * 0.01];
    const fuzz = m.roughness * 0.35;
    const r = normalise([
      reflected[0] + (random() - 0.5) * fuzz,
      reflected[1] + (random() - 0.5) * fuzz,
      reflected[2] + (random() - 0.5) * fuzz,
    ]);
    around =
      bounce > 0 && mirrorShare > 0.05
        ? radiance(scene, start, r, 0.004, random, bounce - 1, { id: 0, distance: 0 })
        : scene.sky(r[0], Math.abs(r[1]), r[2]);
  }
  const fog = 1 - Math.exp(-scene.haze * t);
  const air = fog > 0.002 ? scene.sky(d[0], Math.max(0.015, d[1] * 0.2), d[2]) : none;
  const out: Vector = [0, 0, 0];
  for (let c = 0; c < 3; c++) {
    const diffuse = m.color[c]! * (1 - m.metal * 0.7);
    const light = scene.lightColor[c]! * ((facing * shadow + through) * 1.0) + scene.ambient[c]! * upward * open;
    const tint = m.metal > 0.5 ? m.color[c]! : 1;
    const v =
      diffuse * light +
      m.glow[c]! +
      tint * around[c]! * mirrorShare * open +
      tint * highlight * scene.lightColor[c]! * 0.5;
    out[c] = v * (1 - fog) + air[c]! * fog;
  }
  return out;
}

function mirror(d: Vector, n: Vector): Vector {
  const k = 2 * (d[0] * n[0] + d[1] * n[1] + d[2] * n[2]);
  return [d[0] - k * n[0], d[1] - k * n[1], d[2] - k * n[2]];
}

/** Filmic shoulder, so that lamps and bright sky roll off as on a sensor; then sRGB. */
function develop(linear: number, exposure: number): number {
  const x = linear * exposure;
  const toned = (x * (2.51 * x + 0.03)) / (x * (2.43 * x + 0.59) + 0.14);
  const v = Math.max(0, Math.min(1, toned));
  return 255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055);
}

/** Photographs a scene: n x n jittered samples a pixel, each with its own point on the lens and on the light. */
export function photograph(scene: MarchedScene, options: RenderOptions): Rendering {
  const { width, height, samples, fromRow = 0, toRow = height, seed = 1, grain = 2.2 } = options;
  const rows = toRow - fromRow;
  const picture = makeRgba(width, rows);
  const alpha = makeBytes(width, rows);
  const front = makeRgba(width, rows);
  const depth = makePlane(width, rows);
  const forward = normalise([
    scene.target[0] - scene.eye[0],
    scene.target[1] - scene.eye[1],
    scene.target[2] - scene.eye[2],
  ]);
  const right = normalise(cross([0, 1, 0], forward));
  const up = cross(forward, right);
  const tangent = Math.tan((scene.view * Math.PI) / 360);
  const pixel = (2 * tangent) / height;
  const hit: Hit = { id: 0, distance: 0 };
  const distances = new Float32Array(samples * samples);
  const [developed, own] = [new Float64Array(3), new Float64Array(3)];
  for (let row = 0; row < rows; row++) {
    const random = seededRandom(seed * 7919 + (fromRow + row) * 104729);
    for (let x = 0; x < width; x++) {
      let r = 0;
      let g = 0;
      let b = 0;
      let inside = 0;
      own.fill(0);
      stratum.count = samples * samples;
      stratum.turn = random() * Math.PI * 2;
      for (let s = 0; s < samples * samples; s++) {
        const u = x + ((s % samples) + random()) / samples;
        const v = fromRow + row + (Math.floor(s / samples) + random()) / samples;
        const a = ((2 * u) / width - 1) * tangent * (width / height);
        const c = (1 - (2 * v) / height) * tangent;
        stratum.index = (s * 5 + 2) % (samples * samples);
        const lens = Math.sqrt((s + random()) / (samples * samples)) * scene.lens * 0.5;
        const angle = stratum.turn + s * goldenAngle;
        const lx = lens * Math.cos(angle);
        const ly = lens * Math.sin(angle);
        const o: Vector = [0, 0, 0];
        const d: Vector = [0, 0, 0];
        for (let k = 0; k < 3; k++) {
          const shift = right[k]! * lx + up[k]! * ly;
          o[k] = scene.eye[k]! + shift;
          d[k] = (forward[k]! + right[k]! * a + up[k]! * c) * scene.focus - shift;
        }
        const color = radiance(scene, o, normalise(d), pixel, random, 1, hit);
        // Developed before averaging, so that one lamp sample cannot outshine all others of an edge pixel.
        for (let k = 0; k < 3; k++) developed[k] = develop(color[k]!, scene.exposure);
        r += developed[0]!;
        g += developed[1]!;
        b += developed[2]!;
        if (hit.id >= 0 && scene.isSubject(hit.id)) {
          inside++;
          for (let k = 0; k < 3; k++) own[k] = own[k]! + developed[k]!;
        }
        distances[s] = hit.distance < 0 ? scene.far : hit.distance;
      }
      const n = samples * samples;
      const i = row * width + x;
      const noise = grain * (random() + random() + random() - 1.5);
      [r, g, b].forEach((sum, k) => {
        const speck = noise + grain * 0.5 * (random() - 0.5);
        picture.data[i * 4 + k] = sum / n + speck;
        front.data[i * 4 + k] = own[k]! / n + (speck * inside) / n;
      });
      picture.data[i * 4 + 3] = 255;
      front.data[i * 4 + 3] = Math.round((inside / n) * 255);
      alpha.data[i] = Math.round((inside / n) * 255);
      depth.data[i] = distances.sort()[n >> 1]!;
    }
  }
  return { picture, alpha, front, depth };
}
