import sharp from 'sharp';
import { seededRandom } from '../../core/pixels/random.ts';
import { makeBytes, makeRgba, type Rgba } from '../../core/pixels/raster.ts';
import { boxAround, type Color, type TruthScene } from './flat-scenes.ts';
import type { Material, Thing } from './lit-things.ts';

/** A scene as a camera would bring it: things of several materials under one light, through a lens, as JPEG. */
export interface Photograph {
  name: string;
  ground: Material;
  things: Thing[];
  /** Darkening of the ground, 0..1. */
  shadow?(u: number, v: number): number;
  quality: number;
}

const across = [-0.25, 0.25] as const;

interface Seen {
  /** Colour, and how much of it is what is meant. */
  color: Color;
  meant: number;
}

function seenAt(scene: Photograph, u: number, v: number, pixel: number): Seen {
  const dark = 1 - (scene.shadow?.(u, v) ?? 0);
  const ground = scene.ground(u, v, 1, 0, 0);
  const color: Color = [ground[0] * dark, ground[1] * dark, ground[2] * dark];
  let meant = 0;
  for (const thing of scene.things) {
    const d = thing.form(u, v);
    const soft = Math.max(thing.soft ?? 0, 0.5 * pixel);
    const cover = Math.max(0, Math.min(1, 0.5 - d / (2 * soft)));
    if (cover === 0) continue;
    const own = surface(thing, u, v, d);
    for (let c = 0; c < 3; c++) color[c]! += (own[c]! - color[c]!) * cover;
    meant += ((thing.meant ? 1 : 0) - meant) * cover;
  }
  return { color, meant };
}

/** Lambert's law on a form that curves inwards from its outline, with some light from the sky. */
function surface({ form, material, round }: Thing, u: number, v: number, d: number): Color {
  if (round === 0) return material(u, v, 0.85, 0, 0);
  const e = 0.002;
  const tilt = Math.sqrt(Math.max(0, 1 - Math.min(1, Math.max(0, -d) / round)));
  const gx = form(u + e, v) - form(u - e, v);
  const gy = form(u, v + e) - form(u, v - e);
  const length = Math.hypot(gx, gy) || 1;
  const [nx, ny] = [(gx / length) * tilt, (gy / length) * tilt];
  const nz = Math.sqrt(Math.max(0, 1 - nx * nx - ny * ny));
  const light = Math.max(0, -0.5 * nx - 0.6 * ny + 0.62 * nz);
  return material(u, v, Math.min(1, 0.15 + light), nx, ny);
}

/** The picture as its file holds it (JPEG, 4:2:0), with the true alpha of what is meant. */
export async function photographOf(scene: Photograph, width: number): Promise<TruthScene> {
  const height = Math.round((width * 2) / 3);
  const picture = makeRgba(width, height);
  const front = makeRgba(width, height);
  const alpha = makeBytes(width, height);
  const random = seededRandom(scene.name.length * 31 + 7);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const sum = [0, 0, 0];
    let meant = 0;
    for (const dy of across)
      for (const dx of across) {
        const seen = seenAt(scene, (x + 0.5 + dx) / width, (y + 0.5 + dy) / width, 0.5 / width);
        for (let c = 0; c < 3; c++) sum[c]! += seen.color[c]! / 4;
        meant += seen.meant / 4;
      }
    // The corners get less light, and dark places more noise than bright ones.
    const fall = 1 - 0.22 * ((x / width - 0.5) ** 2 + (y / width - 0.33) ** 2) * 2;
    const noise = 7 * (random() + random() - 1);
    for (let c = 0; c < 3; c++) {
      const value = sum[c]! * fall;
      picture.data[i * 4 + c] = value + noise * (0.6 - 0.4 * Math.min(1, value / 255)) + 2 * (random() - 0.5);
      front.data[i * 4 + c] = value * meant;
    }
    picture.data[i * 4 + 3] = 255;
    alpha.data[i] = Math.round(meant * 255);
    front.data[i * 4 + 3] = alpha.data[i]!;
  }
  return {
    name: scene.name,
    picture: await asJpeg(picture, scene.quality),
    alpha,
    front,
    answer: 'subject',
    box: boxAround(alpha),
  };
}

export async function asJpeg(picture: Rgba, quality: number): Promise<Rgba> {
  const { width, height } = picture;
  const jpeg = await sharp(picture.data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .jpeg({ quality, chromaSubsampling: '4:2:0' })
    .toBuffer();
  const { data } = await sharp(jpeg).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width, height, data: new Uint8ClampedArray(data) };
}
