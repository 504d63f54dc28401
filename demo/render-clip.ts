/** Renders the demo clips: npm run demo:render-clip. Needs the browser of the tests, where the encoders are. */
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { learnedLook } from '../cli/learned.ts';
import { CutPicture } from '../core/cut/cut-picture.ts';
import { CutSession } from '../core/cut/subject.ts';
import { carryFigure, carriedSize } from '../core/film/carry-figure.ts';
import { still } from '../core/film/camera-motion.ts';
import { shadowReach, wholeGround } from '../core/make/whole-ground.ts';
import { softAlpha } from '../core/film/soft-alpha.ts';
import { cuttingOf } from '../core/follow/cutting.ts';
import { followPoint } from '../core/follow/follow-clip.ts';
import { dilate } from '../core/pixels/distance.ts';
import { cropRgba, type Bytes, type Rgba } from '../core/pixels/raster.ts';
import { averagedTo } from '../core/pixels/resample.ts';
import { launch } from '../e2e/browser.ts';
import { recordClip } from '../scripts/record-clip.ts';
import { filmFrame } from './clips/film.ts';
import { crabFrames, tinCrab } from './clips/tin-crab.ts';
import { sparksClip, sparksFrame } from './scenes/sparks.ts';

const pictures = join(import.meta.dirname, 'pictures');
const browser = await launch();
const sparks = await recordClip(browser, { ...sparksClip, format: 'webm', bitrate: 1.2e6, frame: sparksFrame });
await writeFile(join(pictures, 'sparks.webm'), sparks);

const frames = Array.from({ length: crabFrames }, (_, k) => filmFrame(tinCrab, k).picture);
const order = { ...tinCrab, frames: crabFrames, format: 'webm' as const, bitrate: 1.5e6 };
await writeFile(join(pictures, 'tin-crab.webm'), await recordClip(browser, { ...order, frame: (k) => frames[k]! }));
await writeFile(join(pictures, 'tin-crab-cut.zip'), await cutAndFollowed(frames));
await browser.close();

/** What the rooms would make of the crab: its alphas, the ground behind it, and where its claw is. */
async function cutAndFollowed(film: readonly Rgba[]): Promise<Uint8Array> {
  const { width, height } = tinCrab;
  const size = carriedSize(width, height);
  const small = film.map((picture) => averagedTo(picture, size.width, size.height));
  const subject = { answer: 'subject' as const, keep: [], drop: [], box: null };
  const { mask } = new CutSession(new CutPicture(film[0]!, await learnedLook())).solve(subject);
  const alphas: Bytes[] = [];
  const changed: number[] = [];
  const readable = {
    count: film.length,
    frame: (k: number) => Promise.resolve({ small: small[k]!, whole: () => film[k]! }),
  };
  await carryFigure(readable, [{ frame: 0, mask }], [0, film.length], {
    take: (k, picture, soft, by) => {
      alphas[k] = softAlpha(picture, soft);
      changed[k] = Math.round(by * 1000) / 1000;
    },
  });
  const seen = film.flatMap((picture, k) => {
    const figure = dilate({ ...alphas[k]!, data: alphas[k]!.data.map((a) => (a ? 1 : 0)) }, 3);
    return k % 4 === 0 ? [{ picture, motion: still, figure, near: dilate(figure, shadowReach * width) }] : [];
  });
  const cuttings = {
    count: film.length,
    cutting: (k: number, [cx, cy]: [number, number], reach: number) => {
      const side = 2 * reach;
      const x = Math.max(0, Math.min(width - side, Math.round(cx) - reach));
      const y = Math.max(0, Math.min(height - side, Math.round(cy) - reach));
      return Promise.resolve(cuttingOf(cropRgba(film[k]!, { x, y, width: side, height: side }), x, y));
    },
  };
  const mark = { frame: 0, at: tinCrab.point!(0) };
  const points = await followPoint(cuttings, [mark], [0, film.length], { radius: 13 });
  const entries: Record<string, Uint8Array> = {
    'ground.jpg': await jpegOf((await wholeGround(seen)).picture),
    'facts.json': new TextEncoder().encode(
      JSON.stringify({
        changed,
        marks: [mark],
        points: points.flatMap(({ at, doubt }) => [...at, doubt].map(rounded)),
      }),
    ),
  };
  for (const [k, alpha] of alphas.entries())
    entries[`mattes/${String(k).padStart(4, '0')}.png`] = await alphaPng(alpha);
  return zipSync(entries, { level: 0 });
}

function rounded(v: number): number {
  return Math.round(v * 1000) / 1000;
}

/** White with an alpha, in grey: a third of the bytes. */
function alphaPng({ width, height, data }: Bytes): Promise<Buffer> {
  const out = new Uint8Array(data.length * 2).fill(255);
  for (let i = 0; i < data.length; i++) out[i * 2 + 1] = data[i]!;
  return sharp(out, { raw: { width, height, channels: 2 } })
    .toColourspace('b-w')
    .png({ compressionLevel: 9 })
    .toBuffer();
}

function jpegOf({ width, height, data }: Rgba): Promise<Buffer> {
  return sharp(data, { raw: { width, height, channels: 4 } })
    .flatten()
    .jpeg({ quality: 90 })
    .toBuffer();
}
