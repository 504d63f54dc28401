import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import type { Document } from '../../core/document/document.ts';
import { exportFormats, type ExportFormat } from '../../core/formats/exports.ts';
import { launch } from '../../e2e/browser.ts';
import { RunningServer } from '../../e2e/harness.ts';
import { decodeVideo } from '../../e2e/video.ts';
import { hasFfmpeg } from '../ffmpeg.ts';
import { mean } from '../measures.ts';
import type { Section } from '../report.ts';

const run = promisify(execFile);
const projects = ['Lantern Week', 'Words at Wendle Quay'];
/** A project whose layers sway and go out of focus: what takes longest to paint. */
const heavy = 'Signals at Wendle Quay';
/** The longer side at which files are compared. */
const edge = 640;

interface Exported {
  file: Buffer;
  path: string;
  seconds: number;
}

interface Judged {
  name: string;
  /** Bytes and PSNR against the frames, ours and that of another coder. */
  gif: [number, number];
  otherGif: [number, number];
  mp4: [number, number];
  otherMp4: [number, number] | null;
  /** Seconds an export at full size takes for each second of the clip. */
  pace: number;
}

/**
 * Opens the demo projects in a browser and exports them as a user does.
 * @param made a data folder that has them already, which is used up; left out, they are made in one
 */
export async function deliverSection(say: (line: string) => void, made?: string): Promise<Section> {
  const folder = made ?? (await demoFolder(say));
  const [server, browser] = [await RunningServer.start(folder), await launch()];
  const judged: Judged[] = [];
  try {
    for (const name of projects) {
      say(name);
      const page = await browser.newPage();
      judged.push(await judge(page, server.url, name));
      await page.close();
    }
    say(heavy);
    const page = await browser.newPage();
    const heavyPace = await paceOf(page, server.url, heavy);
    await page.close();
    return section(judged, heavyPace);
  } finally {
    await browser.close();
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

async function demoFolder(say: (line: string) => void): Promise<string> {
  say('Making the demo projects');
  const folder = await mkdtemp(join(tmpdir(), 'clyvo-bench-'));
  const root = join(import.meta.dirname, '../..');
  await run('npx', ['tsx', 'demo/main.ts'], { cwd: root, env: { ...process.env, CLYVO_DATA: folder } });
  return folder;
}

/** Opens the room Deliver of a project. */
async function openDeliver(page: Page, url: string, name: string): Promise<Document> {
  await page.goto(url);
  await page.getByRole('button', { name: `Open ${name}`, exact: true }).click();
  await page.waitForURL(/\/project\//);
  const id = /project\/([^/]+)/.exec(page.url())![1]!;
  const { document } = (await (await fetch(`${url}/api/projects/${id}`)).json()) as { document: Document };
  await page.getByRole('link', { name: /^Deliver/ }).click();
  return document;
}

/** Seconds an MP4 at full size takes for each second of a clip. */
async function paceOf(page: Page, url: string, name: string): Promise<number> {
  const document = await openDeliver(page, url, name);
  const frames = document.shots.reduce((sum, shot) => sum + shot.length, 0);
  return (await exported(page, 'mp4', null)).seconds / (frames / document.frame.rate);
}

async function judge(page: Page, url: string, name: string): Promise<Judged> {
  const document = await openDeliver(page, url, name);
  const { rate } = document.frame;
  const frames = unzipSync((await exported(page, 'frames', edge)).file);
  const names = Object.keys(frames).sort();
  const { width, height } = await sharp(frames[names[0]!]!).metadata();
  const rgb = (png: Uint8Array): Promise<Buffer> =>
    sharp(png).flatten({ background: '#000' }).removeAlpha().raw().toBuffer();
  const gif = await exported(page, 'gif', edge);
  // A GIF has fewer frames: those next to its moments.
  const gifRate = Math.min(rate, exportFormats.gif.mostRate);
  const count = Math.round((names.length / rate) * gifRate);
  const shown = await Promise.all(
    Array.from({ length: count }, (_, k) =>
      rgb(frames[names[Math.min(names.length - 1, Math.round((k * rate) / gifRate))]!]!),
    ),
  );
  const tall = { width, height: height * shown.length, channels: 3 as const, pageHeight: height };
  const other = await sharp(Buffer.concat(shown), { raw: tall })
    .gif({ loop: 0, delay: shown.map(() => Math.round(1000 / gifRate)) })
    .toBuffer();
  const gifQuality = async (file: Buffer): Promise<number> => {
    const at = shown.map((_, k) => k).filter((k) => k % 8 === 0);
    const { delay = [] } = await sharp(file, { animated: true }).metadata();
    const pages = await Promise.all(
      at.map((k) =>
        sharp(file, { page: pageAt(delay, ((k + 0.5) * 1000) / gifRate) })
          .removeAlpha()
          .raw()
          .toBuffer(),
      ),
    );
    return mean(pages.map((pixels, k) => quality(pixels, shown[at[k]!]!, 3)));
  };
  const mp4 = await exported(page, 'mp4', edge);
  const mp4Quality = async (path: string): Promise<number> => {
    const at = names.map((_, k) => k).filter((k) => k % 20 === 0);
    const { pictures } = await decodeVideo(
      page,
      path,
      at.map((k) => (k + 0.5) / rate),
    );
    const truth = await Promise.all(at.map((k) => rgb(frames[names[k]!]!)));
    return mean(pictures.map(({ data }, k) => quality(data, truth[k]!, 4)));
  };
  const full = await exported(page, 'mp4', null);
  return {
    name,
    gif: [gif.file.length, await gifQuality(gif.file)],
    otherGif: [other.length, await gifQuality(other)],
    mp4: [mp4.file.length, await mp4Quality(mp4.path)],
    otherMp4: hasFfmpeg()
      ? await byFfmpeg(
          names.map((n) => frames[n]!),
          mp4.file.length,
          rate,
          mp4Quality,
        )
      : null,
    pace: full.seconds / (names.length / rate),
  };
}

/** Which picture of a GIF is shown at a time, in milliseconds: coders leave out what does not change. */
function pageAt(delays: readonly number[], time: number): number {
  let end = 0;
  const page = delays.findIndex((delay) => (end += delay) > time);
  return page < 0 ? delays.length - 1 : page;
}

/** PSNR of RGB(A) pixels against RGB ones. */
function quality(pixels: Uint8Array, truth: Uint8Array, channels: 3 | 4): number {
  let sum = 0;
  for (let i = 0, k = 0; k < truth.length; i += channels, k += 3)
    for (let c = 0; c < 3; c++) sum += (pixels[i + c]! - truth[k + c]!) ** 2;
  return sum === 0 ? Infinity : 10 * Math.log10((255 * 255 * truth.length) / sum);
}

/** The same frames by ffmpeg's x264 at the same bytes. */
async function byFfmpeg(
  frames: Uint8Array[],
  bytes: number,
  frameRate: number,
  qualityOf: (path: string) => Promise<number>,
): Promise<[number, number]> {
  const folder = await mkdtemp(join(tmpdir(), 'clyvo-x264-'));
  await Promise.all(frames.map((png, k) => writeFile(join(folder, `${String(k).padStart(4, '0')}.png`), png)));
  const [path, rate] = [join(folder, 'out.mp4'), Math.round((bytes * 8 * frameRate) / frames.length)];
  const input = ['-v', 'error', '-y', '-framerate', String(frameRate), '-i', join(folder, '%04d.png')];
  await run('ffmpeg', [...input, '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-b:v', String(rate), path]);
  const made: [number, number] = [(await readFile(path)).length, await qualityOf(path)];
  await rm(folder, { recursive: true });
  return made;
}

/** @param longer side of the file; null for the frame's own */
async function exported(page: Page, format: ExportFormat, longer: number | null): Promise<Exported> {
  const { name, hint } = exportFormats[format];
  const ready = page.getByText(new RegExp(`: ${name} is ready`));
  await ready.waitFor({ state: 'detached', timeout: 20_000 });
  await page.getByRole('radio', { name: hint }).click();
  const sizes = page.getByRole('radiogroup', { name: 'Size' }).getByRole('radio');
  await (longer === null ? sizes.first() : sizes.filter({ hasText: String(longer) }).first()).click();
  // What is measured before an export must not take its time.
  await page.getByText(/^About/).waitFor({ timeout: 120_000 });
  const started = performance.now();
  await page.getByRole('button', { name: `Export ${name}`, exact: true }).click();
  await ready.waitFor({ timeout: 600_000 });
  const seconds = (performance.now() - started) / 1000;
  const link = page.getByRole('link', { name: /^Download/ }).first();
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
  const path = await download.path();
  return { path, file: await readFile(path), seconds };
}

function section(judged: readonly Judged[], heavyPace: number): Section {
  const [bytes, better] = [
    mean(judged.map(({ gif, otherGif }) => gif[0] / otherGif[0])),
    judged.every(({ gif, otherGif }) => gif[1] >= otherGif[1]),
  ];
  const size = ([b, q]: [number, number]): string => `${Math.round(b / 1000)} kB, ${q.toFixed(1)} dB`;
  return {
    title: 'Deliver',
    bars: [
      {
        what: "GIF: bytes beside sharp's (cgif) of the same frames, mean; PSNR of each at least as good",
        wanted: 'under 1, better',
        measured: `${bytes.toFixed(2)}, ${better ? 'better' : 'not always'}`,
        reached: bytes < 1 && better,
      },
      {
        what: `seconds an MP4 at full size takes for a second of the clip, ${judged[0]!.name} (a cutout, its shadow and a background)`,
        wanted: 'at most 2',
        measured: judged[0]!.pace.toFixed(1),
        reached: judged[0]!.pace <= 2,
      },
      {
        what: `the same, ${heavy} (five layers that sway, a pulled focus)`,
        wanted: 'at most 3',
        measured: heavyPace.toFixed(1),
        reached: heavyPace <= 3,
      },
    ],
    table: {
      head: ['project', 'GIF', "sharp's GIF", 'MP4', 'ffmpeg (x264), same bytes', 'seconds for one'],
      rows: judged.map(({ name, gif, otherGif, mp4, otherMp4, pace }) => [
        name,
        size(gif),
        size(otherGif),
        size(mp4),
        otherMp4 ? size(otherMp4) : 'not installed',
        pace.toFixed(1),
      ]),
    },
    notes: [
      'Demo projects, exported in the browser as a user does; files of 640 pixels are decoded by another decoder than wrote them and compared with the numbered PNGs.',
      'The pace is that of Chromium without a graphics card, measured with the estimate at rest; where it is slower, that is finishes that change with every frame.',
    ],
  };
}
