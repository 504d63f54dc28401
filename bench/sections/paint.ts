import { execFileSync } from 'node:child_process';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from 'playwright-core';
import { build } from 'vite';
import { launch, openPage } from '../../e2e/browser.ts';
import { buoyPhoto, goTo, liftOut, RunningServer, saved, dropAndFind } from '../../e2e/harness.ts';
import { projectLength } from '../../core/scene/sequence.ts';
import { makeMastDocument } from '../../demo/mast-project.ts';
import { openDatabase } from '../../server/store/database.ts';
import { FileStore } from '../../server/store/files.ts';
import { ProjectStore } from '../../server/store/projects.ts';
import { median } from '../measures.ts';
import type { Section } from '../report.ts';

/** Bundles the painter with the loop that measures it into one script for a page. */
async function pageScript(): Promise<string> {
  const built = await build({
    configFile: false,
    logLevel: 'silent',
    // A library keeps this for who uses it; a page has no process.
    define: { 'process.env.NODE_ENV': '"production"' },
    build: {
      write: false,
      minify: false,
      lib: { entry: join(import.meta.dirname, 'paint-page.ts'), formats: ['es'] },
    },
  });
  const outputs = (Array.isArray(built) ? built : [built]) as { output: { code?: string }[] }[];
  return outputs[0]!.output[0]!.code!;
}

async function withScript(page: Page): Promise<void> {
  await page.addScriptTag({ content: await pageScript(), type: 'module' });
  await page.waitForFunction(() => 'paintBench' in window);
}

async function frameCost(browser: Browser, layers: number): Promise<{ ours: number; bare: number; memory: number }> {
  const page = await browser.newPage();
  await withScript(page);
  const result = await page.evaluate(
    (n) =>
      (
        window as unknown as { paintBench: { run(layers: number): Promise<{ ours: number[]; bare: number[] }> } }
      ).paintBench.run(n),
    layers,
  );
  const memory = browserMemory();
  await page.close();
  return { ours: median(result.ours), bare: median(result.bare), memory };
}

/** Milliseconds of a frame beyond a plain one, for each of the dearer things a layer can have. */
async function effectCosts(browser: Browser): Promise<string> {
  const page = await browser.newPage();
  await withScript(page);
  const costs = await page.evaluate(() =>
    (window as unknown as { paintBench: { effects(): Promise<Record<string, number[]>> } }).paintBench.effects(),
  );
  await page.close();
  const plain = median(costs.plain!);
  const more = Object.entries(costs).filter(([name]) => name !== 'plain');
  return more.map(([name, times]) => `${name} ${(median(times) - plain).toFixed(0)} ms`).join(', ');
}

/** Resident memory of all processes of the browser, in megabytes. */
function browserMemory(): number {
  const out = execFileSync('ps', ['-eo', 'rss=,comm='], { encoding: 'utf8' });
  const lines = out.split('\n').filter((line) => line.includes('chrom'));
  return lines.reduce((sum, line) => sum + Number(line.trim().split(/\s+/)[0]), 0) / 1024;
}

/** From a move of the pointer on the ruler until its frame is seen, while the pointer keeps moving; median of many. */
async function scrubLatency(page: Page): Promise<number> {
  await goTo(page, 'Stage');
  await page.locator('[data-busy=false]').waitFor();
  const box = (await page.getByTestId('ruler').boundingBox())!;
  const times: number[] = [];
  await page.mouse.move(box.x + 20, box.y + 20);
  await page.mouse.down();
  for (let k = 1; k <= 40; k++) {
    const started = performance.now();
    await page.mouse.move(box.x + 20 + ((k * 137) % (box.width - 40)), box.y + 20);
    await page.locator('[data-busy=false]').waitFor();
    times.push(performance.now() - started);
  }
  await page.mouse.up();
  return median(times);
}

async function exportRatio(browser: Browser): Promise<{ ratio: number; seconds: number; scrub: number }> {
  const server = await RunningServer.start();
  try {
    const { page, context } = await openPage(browser);
    await page.goto(server.url);
    await dropAndFind(page, await buoyPhoto(2400, 1350));
    await liftOut(page);
    await saved(page);
    const scrub = await scrubLatency(page);
    await goTo(page, 'Deliver');
    const started = performance.now();
    await exportMp4(page);
    const seconds = (performance.now() - started) / 1000;
    await context.close();
    return { ratio: seconds / 6, seconds, scrub };
  } finally {
    await server.stop();
  }
}

async function exportMp4(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Export MP4' }).click();
  await page.getByText(/MP4 is ready/).waitFor();
}

/** Seconds that the export of the demo scene with five sways and a focus pull takes, and how long it plays. */
async function swayingExport(browser: Browser): Promise<{ seconds: number; plays: number }> {
  const data = await mkdtemp(join(tmpdir(), 'clyvo-bench-'));
  const db = openDatabase(data);
  const document = await makeMastDocument(new FileStore(db, data));
  const { id } = new ProjectStore(db).create(document);
  db.close();
  const server = await RunningServer.start(data);
  try {
    const { page, context } = await openPage(browser);
    await page.goto(`${server.url}/project/${id}/deliver`);
    await page.getByRole('button', { name: 'Export MP4' }).waitFor();
    const started = performance.now();
    await exportMp4(page);
    const seconds = (performance.now() - started) / 1000;
    await context.close();
    return { seconds, plays: projectLength(document) / document.frame.rate };
  } finally {
    await server.stop();
  }
}

export async function paintSection(say: (line: string) => void): Promise<Section> {
  const browser = await launch();
  try {
    const rows: string[][] = [];
    let six = { ours: 1, bare: 1, memory: 0 };
    for (const layers of [6, 20, 60]) {
      const cost = await frameCost(browser, layers);
      if (layers === 6) six = cost;
      rows.push([
        String(layers),
        cost.ours.toFixed(1),
        cost.bare.toFixed(1),
        (cost.ours / cost.bare).toFixed(2),
        (1000 / cost.ours).toFixed(1),
        cost.memory.toFixed(0),
      ]);
      say(`paint: ${layers} layers`);
    }
    const dear = await effectCosts(browser);
    say('paint: effects');
    const clip = await exportRatio(browser);
    say('paint: export');
    const swaying = await swayingExport(browser);
    say('paint: export of blurs and sways');
    const ratio = six.ours / six.bare;
    return {
      title: 'Paint',
      bars: [
        {
          what: 'frame of six full-HD layers against the bare drawImage calls',
          wanted: 'at most 1.3 x',
          measured: `${ratio.toFixed(2)} x`,
          reached: ratio <= 1.3,
        },
        {
          what: '6 s full-HD MP4 against its length',
          wanted: 'within 2 x',
          measured: `${clip.ratio.toFixed(2)} x (${clip.seconds.toFixed(1)} s)`,
          reached: clip.ratio <= 2,
        },
        {
          what: '6 s MP4 of 1600 x 900 with five sways and a focus pull over all of it, against its length',
          wanted: 'within 3 x',
          measured: `${(swaying.seconds / swaying.plays).toFixed(2)} x (${swaying.seconds.toFixed(1)} s)`,
          reached: swaying.seconds <= 3 * swaying.plays,
        },
      ],
      table: {
        head: ['full-HD layers', 'painter ms', 'bare drawImage ms', 'ratio', 'frames a second', 'browser MB'],
        rows,
      },
      notes: [
        `A frame with one full-HD layer more that has a dearer thing, beside a plain one: ${dear}.`,
        `From a move on the ruler to its frame being seen: ${clip.scrub.toFixed(0)} ms (median of 40, with the browser driven from outside). While a frame is painted only the newest further one is remembered.`,
        'Frames a second are at full size; the view is smaller, and while playing it is painted more coarsely when the machine cannot follow. What was played once is played from memory.',
        'In headless Chromium without a GPU; each frame is read back so that nothing is left to be drawn later. Preview and export run the same painter.',
      ],
    };
  } finally {
    await browser.close();
  }
}
