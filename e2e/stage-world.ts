import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import jsonPatch from 'fast-json-patch';
import type { Locator, Page } from 'playwright-core';
import sharp from 'sharp';
import { rectangle } from '../core/path/forms.ts';
import { addLayer } from '../core/edits/arrange-edits.ts';
import type { Document } from '../core/document/document.ts';
import type { Edit } from '../core/edits/edit.ts';
import { numbersOfPath } from '../core/document/points.ts';
import { saved, type App } from './harness.ts';

export const frame = { width: 960, height: 540, rate: 30 };

/** A project of two seconds, made by edits as the interface would make them; gives the address of its Stage. */
export const projectWith = (app: App, edits: (document: Document) => Edit[], name = 'Signals'): Promise<string> =>
  projectAt(app.server.url, { name, frame, seconds: 2 }, (made) =>
    edits(made).reduce((document, edit) => edit.apply(document), made),
  );

/** A project that a server stores as it is changed from an empty one; gives the address of its Stage. */
export async function projectAt(
  url: string,
  begun: { name: string; frame: Document['frame']; seconds: number },
  changed: (empty: Document) => Document,
): Promise<string> {
  const post = { method: 'POST', headers: { 'content-type': 'application/json' } };
  const made = (await (await fetch(`${url}/api/projects`, { ...post, body: JSON.stringify(begun) })).json()) as {
    id: string;
    revision: number;
    document: Document;
  };
  const patch = jsonPatch.compare(made.document, changed(made.document));
  const change = JSON.stringify({ change: randomUUID(), revision: made.revision, name: 'Set up', patch });
  const answer = await fetch(`${url}/api/projects/${made.id}`, { ...post, method: 'PATCH', body: change });
  expect(answer.status, await answer.text()).to.equal(200);
  return `${url}/project/${made.id}/stage`;
}

/** A coloured card of 120 x 80 hanging at a depth, its middle at a place. */
export function card(
  document: Document,
  id: string,
  colour: [number, number, number],
  depth = 3,
  position: [number, number] = [0, 0],
): Edit {
  return addLayer(
    document.shots[0]!.id,
    { id, name: id, depth, position },
    {
      source: { kind: 'shape', made: null, closed: true, filled: true, gradient: null, stroke: null },
      colour: [...colour, 1],
      points: numbersOfPath(rectangle({ x: 0, y: 0, width: 120, height: 80 })),
      pivot: [60, 40],
    },
  );
}

/** The document of the project a page shows, once all of it was saved. */
export const stored = async (page: Page): Promise<Document> => {
  await saved(page);
  const id = /project\/([^/]+)/.exec(page.url())![1]!;
  return page.evaluate(
    async (id) => ((await (await fetch(`/api/projects/${id}`)).json()) as { document: Document }).document,
    id,
  );
};

export async function openStage(app: App, url: string): Promise<Page> {
  const page = await app.visit(url);
  await page.locator('[data-painted]').waitFor();
  return page;
}

export const row = (page: Page, name: string): Locator =>
  page.locator(`[data-layer][aria-label^=${JSON.stringify(`${name}, depth `)}]`);
/** The name of the layer a row is of. */
export const nameOfRow = async (found: Locator): Promise<string> =>
  (await found.getAttribute('aria-label'))!.split(', depth ')[0]!;
export const field = (page: Page, name: string): Locator =>
  page.getByLabel('Selection').getByRole('textbox', { name, exact: true });

export async function type(page: Page, name: string, value: string | number): Promise<void> {
  await field(page, name).fill(String(value));
  await field(page, name).press('Enter');
}

export async function unfold(page: Page, section: string): Promise<void> {
  const button = page.getByLabel('Selection').getByRole('button', { name: new RegExp(`^${section}( |$)`) });
  if ((await button.getAttribute('aria-expanded')) === 'false') await button.click();
}

/** Where a point of the frame (pixels from its centre) is on the page. */
export async function onPage(page: Page, x: number, y: number): Promise<[number, number]> {
  const view = page.getByTestId('stage-view');
  const box = (await view.boundingBox())!;
  const [scale, vx, vy] = (await view.getAttribute('data-view'))!.split(',').map(Number) as [number, number, number];
  return [box.x + vx + (x + frame.width / 2) * scale, box.y + vy + (y + frame.height / 2) * scale];
}

/** Goes to a frame by the keyboard and waits until it is painted. */
export async function goToFrame(page: Page, wanted: number): Promise<void> {
  const playhead = page.getByRole('slider', { name: 'Playhead' });
  await playhead.focus();
  await page.keyboard.press('Home');
  for (let k = 0; k < Math.floor(wanted / 10); k++) await page.keyboard.press('Shift+ArrowRight');
  for (let k = 0; k < wanted % 10; k++) await page.keyboard.press('ArrowRight');
  await page.locator(`[data-painted="${wanted}"]`).waitFor();
}

/** The view as it is seen, without handles, once the worker painted it: colours by points of the frame from its centre. */
export async function seen(page: Page): Promise<(x: number, y: number) => number[]> {
  await saved(page);
  const view = page.getByTestId('stage-view');
  await page.locator('[data-busy=false]').waitFor();
  const handles = view.locator('> svg');
  await handles.evaluate((svg) => svg.setAttribute('visibility', 'hidden'));
  const box = (await view.boundingBox())!;
  let before = '';
  let pixels: { data: Buffer; info: { width: number } } | null = null;
  // What a worker painted is on the screen when two pictures in a row are the same.
  for (let attempt = 0; attempt < 20; attempt++) {
    const png = await page.screenshot({ clip: box });
    const word = png.toString('base64');
    if (word === before) {
      pixels = await sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
      break;
    }
    before = word;
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  }
  await handles.evaluate((svg) => svg.removeAttribute('visibility'));
  if (!pixels) throw new Error('the view does not come to rest');
  const { data, info } = pixels;
  const [scale, vx, vy] = (await view.getAttribute('data-view'))!.split(',').map(Number) as [number, number, number];
  return (x, y) => {
    const [px, py] = [vx + (x + frame.width / 2) * scale, vy + (y + frame.height / 2) * scale].map(Math.round) as [
      number,
      number,
    ];
    const at = (py * info.width + px) * 3;
    return [...data.subarray(at, at + 3)];
  };
}

export const isColour = (got: number[], wanted: readonly number[], within = 30): boolean =>
  got.every((v, k) => Math.abs(v - wanted[k]!) <= within);

/** Keeps a picture as an upload would. @returns its file */
export async function storedPicture(app: App, png: Buffer): Promise<string> {
  const headers = { 'content-type': 'image/png' };
  const answer = await fetch(`${app.server.url}/api/files`, { method: 'POST', headers, body: new Uint8Array(png) });
  expect(answer.ok, String(answer.status)).to.equal(true);
  return ((await answer.json()) as { hash: string }).hash;
}

/** A picture of a project, of a file that is kept. */
export const pictureOf = (file: string, width: number, height: number) => ({
  original: file,
  file,
  width,
  height,
  clip: null,
  background: null,
});
