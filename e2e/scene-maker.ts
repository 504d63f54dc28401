import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { covered, dropFiles, goTo, liftOut, newestExport, saved, startWith, type App } from './harness.ts';
import { floatWithTip } from './photos.ts';
import { row, unfold } from './stage-world.ts';
import { decodeVideo, type DecodedVideo } from './video.ts';

/* What scenes have in common: steps of the interface, and looking at what came out. */

/** A photo with its float found in one press and lifted out, seen on the Stage. */
export async function liftedFloat(app: App): Promise<Page> {
  const page = await startWith(app, await floatWithTip());
  await liftSubject(page);
  await goTo(page, 'Stage');
  return page;
}

/** Finds the subject in one press and lifts it out. */
export async function liftSubject(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Find subject' }).click();
  await covered(page);
  await liftOut(page);
}

/** Takes what stands before a screen of one colour, in a still or a clip, and lifts it out. */
export async function liftFromScreen(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Colour/ }).click();
  await page.getByRole('button', { name: 'Remove screen' }).click();
  await covered(page);
  await liftOut(page);
}

/** A page in the Cut room, with a film dropped on the Shelf. */
export async function startWithFilm(app: App, name: string, bytes: Buffer): Promise<Page> {
  const page = await app.visit();
  await page.getByText('Drop a picture anywhere here').waitFor();
  await dropFiles(page, 'header', [{ name, type: 'video/webm', bytes }]);
  await page.getByTestId('cut-view').waitFor();
  return page;
}

/** Adds a layer from the menu on the rack. */
export async function addNew(page: Page, what: string): Promise<void> {
  await page.getByRole('button', { name: 'New layer' }).click();
  await page.getByRole('menuitem', { name: what, exact: true }).click();
}

/** Adds a shape chosen by its picture. */
export async function addShapeOf(page: Page, kind: RegExp): Promise<void> {
  await addNew(page, 'Shape');
  await page.getByRole('dialog').getByRole('button', { name: kind }).click();
}

/** Duplicates the selected layer and waits for the copy. */
export async function duplicateAs(page: Page, copy: string): Promise<void> {
  await unfold(page, 'Layer');
  await page.getByLabel('Selection').getByRole('button', { name: 'Duplicate', exact: true }).click();
  await row(page, copy).waitFor();
}

export async function addText(page: Page, words: string): Promise<void> {
  await addNew(page, 'Text');
  await row(page, 'Your text').waitFor();
  const area = page.getByRole('textbox', { name: 'Words', exact: true });
  await area.fill(words);
  await area.press('Control+Enter');
  await row(page, words).waitFor();
}

export async function addProp(page: Page, name: string | RegExp): Promise<void> {
  await addNew(page, 'Prop');
  await page.getByRole('dialog').getByRole('button', { name }).click();
}

/** Selects a layer and gives it a finish from the sheet. */
export async function addFinish(page: Page, layer: string, kind: RegExp): Promise<void> {
  await row(page, layer).click();
  await page.getByRole('button', { name: 'Add finish', exact: true }).click();
  await page.getByRole('dialog').getByRole('button', { name: kind }).click();
}

export async function arrive(page: Page, kind: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Choose how it arrives' }).click();
  await page.getByRole('dialog').getByRole('button', { name: kind }).click();
}

/**
 * Exports an MP4, of a large frame one of a third of its size, which takes a ninth of the time, and gives pictures of it as
 * large as the frame.
 */
export async function exported(page: Page, times: number[], name: string): Promise<DecodedVideo> {
  await saved(page);
  await goTo(page, 'Deliver');
  await page
    .getByRole('radio', { name: /^MP4/ })
    .or(page.getByRole('radio', { name: /MP4/ }))
    .first()
    .click();
  const sizes = page.getByRole('radiogroup', { name: 'Size' }).getByRole('radio');
  const offered = (await sizes.allTextContents()).map((size) => size.split(' × ').map(Number) as [number, number]);
  const [width, height] = offered[0]!;
  const smaller = offered.findIndex(([across]) => across <= 0.4 * width);
  if (smaller > 0) await sizes.nth(smaller).click();
  await page.getByRole('button', { name: 'Export MP4' }).click();
  await page.getByText(/MP4 is ready/).waitFor();
  const made = await newestExport(page);
  expect(made.name).to.equal(`${name}.mp4`);
  return decodeVideo(page, made.path, times, { width, height });
}

/** Pixels of a decoded picture that a test holds for. */
export function where(
  { data }: { data: Uint8Array },
  width: number,
  is: (r: number, g: number, b: number) => boolean,
): [number, number][] {
  const out: [number, number][] = [];
  for (let i = 0; i < data.length; i += 4)
    if (is(data[i]!, data[i + 1]!, data[i + 2]!)) out.push([(i / 4) % width, Math.floor(i / 4 / width)]);
  return out;
}

/** How many there are: of large pictures much faster than a list of them. */
export function countOf({ data }: { data: Uint8Array }, is: (r: number, g: number, b: number) => boolean): number {
  let count = 0;
  for (let i = 0; i < data.length; i += 4) if (is(data[i]!, data[i + 1]!, data[i + 2]!)) count++;
  return count;
}

export const spread = (points: [number, number][], axis: 0 | 1): [number, number] => {
  const values = points.map((p) => p[axis]).sort((a, b) => a - b);
  return [values[Math.floor(values.length * 0.02)]!, values[Math.floor(values.length * 0.98)]!];
};
export const isWhite = (r: number, g: number, b: number): boolean => Math.min(r, g, b) > 205;
export const isRed = (r: number, g: number, b: number): boolean => r > 150 && g < 120 && b < 100;
