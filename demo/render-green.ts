/** Renders the tin heron on green cloth: npm run demo:render-green */
import { join } from 'node:path';
import sharp from 'sharp';
import { onGreenCloth } from './scenes/green-cloth.ts';
import { renderScene } from './truth.ts';

const [width, height] = [1500, 1000];
const request = { scene: 'heron', width, height, samples: 3, threads: 2 } as const;
const [shot, empty] = [
  await renderScene({ ...request, withSubject: true }),
  await renderScene({ ...request, withSubject: false }),
];
const picture = onGreenCloth(shot.picture, empty.picture, shot.alpha);
await sharp(picture.data, { raw: { width, height, channels: 4 } })
  .removeAlpha()
  .jpeg({ quality: 88, mozjpeg: true, chromaSubsampling: '4:4:4' })
  .toFile(join(import.meta.dirname, 'pictures', 'heron-green.jpg'));
