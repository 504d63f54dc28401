/**
 * Renders the demo photographs: npm run demo:render -- [scene...] [--width 2400] [--samples 3] [--threads 2] [--out folder]
 * With --truth it also writes alpha, background and depth as PNG.
 */
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import sharp from 'sharp';
import { renderScene } from './truth.ts';
import { sceneNames, type SceneName } from './scenes/index.ts';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    width: { type: 'string', default: '2400' },
    samples: { type: 'string', default: '3' },
    threads: { type: 'string', default: '2' },
    out: { type: 'string', default: join(import.meta.dirname, 'pictures') },
    truth: { type: 'boolean', default: false },
  },
});
const wanted = positionals.length > 0 ? positionals : sceneNames;
const unknown = wanted.filter((name) => !(sceneNames as string[]).includes(name));
if (unknown.length > 0)
  throw new Error(`There is no scene called ${unknown.join(', ')}; there are ${sceneNames.join(', ')}.`);
await mkdir(values.out, { recursive: true });
const width = Number(values.width);
const height = Math.round(width / 1.5);
const raw = (channels: 1 | 4) => ({ raw: { width, height, channels } });

for (const scene of wanted as SceneName[]) {
  const request = {
    scene,
    withSubject: true,
    width,
    height,
    samples: Number(values.samples),
    threads: Number(values.threads),
  };
  const shot = await renderScene(request);
  const file = (suffix: string) => join(values.out, `${scene}${suffix}`);
  await sharp(shot.picture.data, raw(4))
    .removeAlpha()
    .jpeg({ quality: 90, mozjpeg: true, chromaSubsampling: '4:4:4' })
    .toFile(file('.jpg'));
  if (!values.truth) continue;
  const background = await renderScene({ ...request, withSubject: false });
  await sharp(shot.alpha.data, raw(1)).png().toFile(file('-alpha.png'));
  await sharp(background.picture.data, raw(4)).removeAlpha().png().toFile(file('-background.png'));
  const depth = Uint8Array.from(shot.depth.data, (d) => 255 / (1 + d / 4));
  await sharp(depth, raw(1)).png().toFile(file('-depth.png'));
}
