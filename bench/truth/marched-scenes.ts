import { existsSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Bytes, Rgba } from '../../core/pixels/raster.ts';
import type { SceneName } from '../../demo/scenes/index.ts';
import { renderScene } from '../../demo/truth.ts';
import { boxAround, type TruthScene } from './flat-scenes.ts';

const cache = join(import.meta.dirname, '../.cache');
const answers: Record<SceneName, TruthScene['answer']> = {
  breakwater: 'foreground',
  lantern: 'subject',
  heron: 'subject',
};
const titles: Record<SceneName, string> = {
  breakwater: 'whole foreground (marched)',
  lantern: 'lantern on planks (marched)',
  heron: 'wire crest on clutter (marched)',
};

async function read(path: string): Promise<Rgba> {
  const { data, info } = await sharp(path).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
  };
}

/** A ray-marched scene with its truth; rendered once (a minute or two each), then read from bench/.cache. */
export async function marchedScene(scene: SceneName, width: number): Promise<TruthScene> {
  const height = Math.round(width / 1.5);
  const file = (part: string): string => join(cache, `${scene}-${width}-3-${part}.png`);
  if (!['picture', 'alpha', 'front'].every((part) => existsSync(file(part)))) {
    await mkdir(cache, { recursive: true });
    const shot = await renderScene({ scene, width, height, samples: 3, threads: 2, withSubject: true });
    const raw = (channels: 1 | 4) => ({ raw: { width, height, channels } });
    await sharp(shot.picture.data, raw(4)).png().toFile(file('picture'));
    await sharp(shot.alpha.data, raw(1)).png().toFile(file('alpha'));
    await sharp(shot.front.data, raw(4)).png().toFile(file('front'));
  }
  const [picture, alphaPicture, front] = await Promise.all([
    read(file('picture')),
    read(file('alpha')),
    read(file('front')),
  ]);
  const alpha: Bytes = {
    width,
    height,
    data: Uint8Array.from({ length: width * height }, (_, i) => alphaPicture.data[i * 4]!),
  };
  return { name: titles[scene], picture, front, alpha, answer: answers[scene], box: boxAround(alpha) };
}
