import type { Locator, Page } from 'playwright-core';
import sharp from 'sharp';
import { dropFiles, goTo, onPage, saved, type App } from './harness.ts';

/* What the browser tests of backgrounds share. */

export interface Pixels {
  width: number;
  height: number;
  at(x: number, y: number): number[];
}

export async function openBackground(page: Page): Promise<Locator> {
  await page.getByRole('button', { name: 'Open the background' }).click();
  const view = page.getByTestId('plate-view');
  await view.waitFor();
  return view;
}

/** Drags through points of the picture. */
export async function draw(
  page: Page,
  view: Locator,
  points: [number, number][],
  held?: 'Alt' | 'Shift',
): Promise<void> {
  if (held) await page.keyboard.down(held);
  await page.mouse.move(...(await onPage(view, points[0]!)));
  await page.mouse.down();
  for (const point of points.slice(1)) await page.mouse.move(...(await onPage(view, point)), { steps: 8 });
  await page.mouse.up();
  if (held) await page.keyboard.up(held);
}

interface StoredStep {
  id: string;
  kind: string;
  file: string;
  seed?: number;
  takes?: { seed: number }[];
  mix?: unknown[];
  onlySeen?: boolean;
  photo?: string | null;
}

interface StoredProject {
  document: {
    pictures: { id: string; width: number; height: number; file: string; background: { steps: StoredStep[] } | null }[];
    pieces: { cutout: { file: string; bounds: { x: number; y: number } } | null; touches: unknown[] }[];
  };
}

/** What the server has of the open project. */
export async function storedProject(app: App, page: Page): Promise<StoredProject> {
  await saved(page);
  const id = /project\/([0-9a-f-]+)/.exec(page.url())![1];
  return (await (await fetch(`${app.server.url}/api/projects/${id}`)).json()) as StoredProject;
}

export async function storedPixels(app: App, file: string): Promise<Pixels> {
  const bytes = Buffer.from(await (await fetch(`${app.server.url}/api/files/${file}`)).arrayBuffer());
  const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { ...info, at: (x, y) => [...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4)] };
}

/** The plate as it stands. */
export async function storedPlate(app: App, page: Page): Promise<Pixels> {
  const { document } = await storedProject(app, page);
  return storedPixels(app, document.pictures[0]!.background!.steps.at(-1)!.file);
}

/** Waits until nothing is being computed. */
export const idle = (page: Page): Promise<void> =>
  page
    .getByRole('status')
    .filter({ has: page.getByRole('progressbar') })
    .waitFor({ state: 'detached', timeout: 90_000 });

/** Brings another photo of the place in and takes what is behind the pieces of the open picture from it. */
export async function takeGroundFrom(page: Page, photo: Buffer): Promise<void> {
  await goTo(page, 'Pictures');
  await dropFiles(page, 'main > div', [{ name: 'empty.png', type: 'image/png', bytes: photo }]);
  await page.getByText('empty', { exact: true }).waitFor();
  await goTo(page, 'Cut');
  await openBackground(page);
  await page
    .getByRole('button', { name: /^Background behind pieces/ })
    .first()
    .click();
  await page
    .getByRole('combobox', { name: 'Where the background comes from' })
    .selectOption({ label: 'empty, laid over it' });
  await page.getByRole('button', { name: 'Undo: Change what is behind' }).waitFor();
  await idle(page);
}
