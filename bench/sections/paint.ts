import { join } from 'node:path';
import type { Browser } from 'playwright-core';
import { build } from 'vite';
import { buoyPhoto, goTo, launch, liftOut, openPage, RunningServer, saved, startWithPhoto } from '../../e2e/harness.ts';
import { median } from '../measures.ts';
import type { Section } from '../report.ts';

/** Bundles the painter with the loop that measures it into one script for a page. */
async function pageScript(): Promise<string> {
  const built = await build({
    configFile: false,
    logLevel: 'silent',
    build: {
      write: false,
      minify: false,
      lib: { entry: join(import.meta.dirname, 'paint-page.ts'), formats: ['iife'], name: 'paintBench' },
    },
  });
  const outputs = (Array.isArray(built) ? built : [built]) as { output: { code?: string }[] }[];
  return outputs[0]!.output[0]!.code!;
}

async function frameCost(browser: Browser, layers: number): Promise<{ ours: number; bare: number }> {
  const page = await browser.newPage();
  await page.addScriptTag({ content: await pageScript() });
  const result = await page.evaluate(
    (n) =>
      (
        window as unknown as { paintBench: { run(layers: number): Promise<{ ours: number[]; bare: number[] }> } }
      ).paintBench.run(n),
    layers,
  );
  await page.close();
  return { ours: median(result.ours), bare: median(result.bare) };
}

async function exportRatio(browser: Browser): Promise<{ ratio: number; seconds: number }> {
  const server = await RunningServer.start();
  try {
    const { page, context } = await openPage(browser);
    await startWithPhoto(page, server.url, await buoyPhoto(2400, 1350));
    await liftOut(page);
    await saved(page);
    await goTo(page, 'Deliver');
    const started = performance.now();
    await page.getByRole('button', { name: 'Make MP4' }).click();
    await page.getByText(/MP4 is ready/).waitFor();
    const seconds = (performance.now() - started) / 1000;
    await context.close();
    return { ratio: seconds / 6, seconds };
  } finally {
    await server.stop();
  }
}

export async function paintSection(say: (line: string) => void): Promise<Section> {
  const browser = await launch();
  try {
    const rows: string[][] = [];
    let six = { ours: 1, bare: 1 };
    for (const layers of [6, 20]) {
      const cost = await frameCost(browser, layers);
      if (layers === 6) six = cost;
      rows.push([String(layers), cost.ours.toFixed(1), cost.bare.toFixed(1), (cost.ours / cost.bare).toFixed(2)]);
      say(`paint: ${layers} layers`);
    }
    const clip = await exportRatio(browser);
    say('paint: export');
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
      ],
      table: { head: ['full-HD layers', 'painter ms', 'bare drawImage ms', 'ratio'], rows },
      notes: [
        'In headless Chromium without a GPU; each frame is read back so that nothing is left to be drawn later. Preview and export run the same painter.',
      ],
    };
  } finally {
    await browser.close();
  }
}
