import { fbm2, hash, noise2 } from '../../demo/marcher/noise.ts';
import { seededRandom } from '../../core/pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import { mix, undisturbed, type Color, type Disturbance } from './flat-scenes.ts';

/** A place without a subject: what a rebuilt region is compared with. */
interface Ground {
  name: string;
  /** Colour at a point in 0..1 across and proportionally down. */
  at(u: number, v: number): Color;
  /** Where the hole lies, in the same units, so that it crosses what makes the ground hard. */
  hole: { u: number; v: number };
}

const clamp = (t: number): number => Math.max(0, Math.min(1, t));
const times = (c: Color, k: number): Color => [c[0] * k, c[1] * k, c[2] * k];

/** Sky with a light low band of cloud over a darker sea; the horizon runs through the hole. */
function horizon(u: number, v: number): Color {
  const line = 0.31;
  if (v < line) {
    const cloud = fbm2(u * 4, v * 14, 5);
    return mix(mix([96, 122, 158], [232, 206, 178], (v / line) ** 2), [244, 232, 220], clamp(cloud * 1.8 - 0.9));
  }
  const near = (v - line) / (0.667 - line);
  const wave = fbm2(u * (30 - 18 * near), 4 / (0.06 + near) + v * 60, 4);
  return mix([58, 84, 98], [138, 158, 160], clamp(wave * 1.4 - 0.25 + 0.25 * (1 - near)));
}

/** Leaves in layers, the deeper the darker; light falls from the upper left. */
function foliage(u: number, v: number): Color {
  for (let layer = 0; layer < 4; layer++) {
    const cells = 15 + layer * 4;
    const x = u * cells + layer * 3.7;
    const y = v * cells + layer * 1.9;
    for (let k = 0; k < 9; k++) {
      const ix = Math.floor(x) + (k % 3) - 1;
      const iy = Math.floor(y) + Math.floor(k / 3) - 1;
      if (hash(ix, iy, layer * 7 + 1) > 0.72) continue;
      const cx = ix + hash(ix, iy, layer * 7 + 2);
      const cy = iy + hash(ix, iy, layer * 7 + 3);
      const angle = hash(ix, iy, layer * 7 + 4) * Math.PI * 2;
      const a = (x - cx) * Math.cos(angle) + (y - cy) * Math.sin(angle);
      const b = (y - cy) * Math.cos(angle) - (x - cx) * Math.sin(angle);
      const width = 0.26 * (1 - (a / 0.62) ** 2);
      if (Math.abs(a) > 0.62 || Math.abs(b) > width) continue;
      const light = (0.5 + 0.5 * hash(ix, iy, layer * 7 + 5)) * (1 - 0.2 * layer) * (b < 0 ? 1.1 : 0.86);
      const rib = Math.abs(b) < 0.02 ? 1.2 : 1;
      return times(mix([88, 112, 46], [132, 142, 70], hash(ix, iy, layer * 7 + 6)), light * rib);
    }
  }
  return times([34, 44, 26], 0.7 + 0.6 * noise2(u * 60, v * 60));
}

/** A harbour wall in running bond, evening light fading to the right. */
function brick(u: number, v: number): Color {
  const rows = 26;
  const row = Math.floor(v * rows);
  const x = u * 13 + (row % 2) * 0.5;
  const column = Math.floor(x);
  const inX = x - column;
  const inY = v * rows - row;
  const wear = 0.03 * fbm2(u * 90, v * 90, 3);
  const light = 1.05 - 0.4 * u;
  if (inX < 0.035 + wear || inY < 0.08 + wear * 2)
    return times(mix([156, 148, 138], [184, 176, 164], noise2(u * 300, v * 300)), light);
  const tint = mix([142, 74, 56], [172, 104, 78], hash(column, row, 5));
  const grain = fbm2(u * 160 + column * 3, v * 160 + row * 5, 4);
  return times(mix(times(tint, 0.75), tint, grain * 1.3), light);
}

/** Sailcloth with a woven check and two soft folds. */
function fabric(u: number, v: number): Color {
  const fold = 1 + 0.16 * Math.sin(u * 9 + v * 5) + 0.1 * Math.sin(u * 21 - v * 13);
  const thread = 0.9 + 0.1 * Math.sin(u * 900) * Math.sin(v * 900);
  const stripeX = ((u * 12) % 1) + 0.02 * Math.sin(v * 9);
  const stripeY = (v * 12) % 1;
  let base: Color = [206, 198, 180];
  if (stripeX > 0.6 && stripeX < 0.75) base = mix(base, [70, 100, 140], 0.75);
  if (stripeY > 0.6 && stripeY < 0.75) base = mix(base, [178, 72, 56], 0.6);
  return times(base, fold * thread * 0.88);
}

/** A quay street: a house front with windows over a pavement whose joints run to a vanishing point. */
function street(u: number, v: number): Color {
  const kerb = 0.4 + 0.06 * (u - 0.5);
  if (v < kerb) {
    const wall = times([196, 178, 148], 0.82 + 0.22 * fbm2(u * 30, v * 30, 5));
    const x = u * 6;
    const y = (v / kerb) * 2.4;
    const inX = x - Math.floor(x);
    const inY = y - Math.floor(y);
    if (y < 2 && inX > 0.3 && inX < 0.7 && inY > 0.2 && inY < 0.82) {
      const bar = Math.abs(inX - 0.5) < 0.02 || Math.abs(inY - 0.5) < 0.02;
      if (bar || inX < 0.33 || inX > 0.67 || inY < 0.24 || inY > 0.78) return [228, 222, 208];
      return mix([52, 66, 78], [92, 112, 124], clamp(noise2(x * 3, y * 3)));
    }
    return v > kerb - 0.02 ? times(wall, 0.6) : wall;
  }
  const down = 1 / (v - kerb + 0.16);
  const across = (u - 0.5) * down * 3;
  const along = down * 9;
  const joint = Math.abs(across - Math.round(across)) < 0.03 || Math.abs(along - Math.round(along)) < 0.06;
  const stone = 0.8 + 0.3 * hash(Math.floor(across + 0.5), Math.floor(along + 0.5), 9) + 0.2 * fbm2(u * 90, v * 90, 4);
  return times([128, 126, 122], joint ? 0.55 : stone);
}

/** Ripples on harbour water, longer and lighter towards the far side. */
function ripples(u: number, v: number): Color {
  const depth = 1 / (v + 0.22);
  const wave = fbm2(u * 7 * depth, depth * 46, 5) + 0.25 * fbm2(u * 40, v * 160, 3);
  return mix([44, 74, 82], [150, 176, 174], clamp(wave * 1.5 - 0.5 + 0.2 * (0.67 - v)));
}

/** A boardwalk with a white railing in front of dark water: three rails run through the hole. */
function railing(u: number, v: number): Color {
  const slope = 0.04 * (u - 0.5);
  for (const rail of [0.2, 0.28, 0.36]) {
    const d = v - rail - slope;
    if (Math.abs(d) < 0.008) return times([226, 222, 212], 0.86 + 0.22 * clamp(0.5 - d * 60));
  }
  const post = u * 5 - Math.floor(u * 5);
  const base = 0.42 + slope;
  if (v > 0.17 + slope && v < base && Math.abs(post - 0.12) < 0.035) return [206, 200, 188];
  if (v < base) return mix([46, 66, 78], [96, 122, 130], clamp(fbm2(u * 9, v * 60, 5) * 1.4 - 0.2));
  const k = Math.floor((u - 0.5) / (v - 0.1) / 0.09);
  const inPlank = (u - 0.5) / (v - 0.1) / 0.09 - k;
  const grain = fbm2(k * 9 + inPlank * 6, v * 14, 4);
  return times(mix([112, 92, 70], [160, 138, 110], grain), inPlank < 0.06 ? 0.45 : 0.85 + 0.3 * hash(k, 2));
}

const grounds: Ground[] = [
  { name: 'sea and sky', at: horizon, hole: { u: 0.5, v: 0.31 } },
  { name: 'foliage', at: foliage, hole: { u: 0.5, v: 0.33 } },
  { name: 'brick', at: brick, hole: { u: 0.5, v: 0.33 } },
  { name: 'fabric', at: fabric, hole: { u: 0.5, v: 0.33 } },
  { name: 'street', at: street, hole: { u: 0.45, v: 0.4 } },
  { name: 'ripples', at: ripples, hole: { u: 0.5, v: 0.33 } },
  { name: 'railing', at: railing, hole: { u: 0.5, v: 0.3 } },
];

export const groundNames = grounds.map((ground) => ground.name);

export interface GroundPicture {
  picture: Rgba;
  /** 1 in an uneven round hole of about a tenth of the picture. */
  hole: Bytes;
}

/** Renders a ground with 2 x 2 samples a pixel and camera noise, 3 : 2. */
export function groundPicture(name: string, width: number, disturbance: Disturbance = undisturbed): GroundPicture {
  const ground = grounds.find((g) => g.name === name);
  if (!ground) throw new Error(`There is no ground "${name}".`);
  const height = Math.round((width * 2) / 3);
  const picture = makeRgba(width, height);
  const random = seededRandom(37);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const sum: Color = [0, 0, 0];
      for (let s = 0; s < 4; s++) {
        const c = ground.at((x + ((s & 1) + 0.5) / 2) / width, (y + ((s >> 1) + 0.5) / 2) / width);
        for (let k = 0; k < 3; k++) sum[k]! += c[k]! / 4;
      }
      const i = (y * width + x) * 4;
      for (let k = 0; k < 3; k++) {
        const noise = (random() + random() + random() + random() - 2) * 1.7 * disturbance.noise;
        const warm = (k === 0 ? 1 : k === 2 ? -1 : 0) * disturbance.warmth;
        picture.data[i + k] = 128 + (sum[k]! - 128) * disturbance.contrast + warm + noise;
      }
      picture.data[i + 3] = 255;
    }
  }
  return { picture, hole: unevenHole(width, height, ground.hole.u * width, ground.hole.v * width) };
}

/** An uneven round hole of about a tenth of the picture around (cx, cy). */
export function unevenHole(width: number, height: number, cx = width / 2, cy = height / 2): Bytes {
  const hole = makeBytes(width, height);
  const r = Math.sqrt((0.1 * width * height) / Math.PI);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const angle = Math.atan2(y - cy, x - cx);
      hole.data[y * width + x] = Math.hypot(x - cx, y - cy) < r * (1 + 0.12 * Math.sin(3 * angle + 1)) ? 1 : 0;
    }
  }
  return hole;
}
