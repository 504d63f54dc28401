import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { expect } from 'chai';
import type { BrowserContext, Page, Route } from 'playwright-core';
import { addPiece } from '../core/edits/project-edits.ts';
import { untouched } from '../core/document/document.ts';
import { launch, openPage } from './browser.ts';
import { becomes, buoyPhoto, dropFiles, goTo, saved, startWith, useKillableApp } from './harness.ts';
import { card, openStage, projectWith, row } from './stage-world.ts';

/** Lets requests of a kind through to the server, whose answers wait until they are let go. */
function heldAnswers(page: Page, method: string, address: RegExp) {
  let release: () => void = () => undefined;
  const gate = new Promise<void>((resolve) => (release = resolve));
  const held = page.route(address, async (route: Route) => {
    if (route.request().method() !== method) return route.fallback();
    const response = await route.fetch();
    await gate;
    await route.fulfill({ response }).catch(() => undefined);
  });
  return { held, release };
}

const nameField = (page: Page) => page.locator('header').getByRole('textbox', { name: 'Project name' });
async function rename(page: Page, name: string): Promise<void> {
  await nameField(page).fill(name);
  await nameField(page).press('Enter');
}
const undoButton = (page: Page) => page.getByRole('button', { name: /^Undo/ });
const layers = (page: Page): Promise<string[]> =>
  page.locator('[data-layer]').evaluateAll((rows) => rows.map((one) => one.getAttribute('data-layer')!));
async function addCarrier(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'New layer', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Carrier' }).click();
}
/** The tab ends as when its process is killed: nothing of it runs any more. */
async function crash(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const gone = new Promise((resolve) => page.once('crash', resolve));
  // Nobody is left to answer.
  session.send('Page.crash').catch(() => undefined);
  await gone;
  await page.close();
}

describe('edits are not lost', () => {
  const app = useKillableApp();
  const project = (name: string): Promise<string> =>
    projectWith(app, (d) => [card(d, name.toLowerCase(), [200, 80, 40])], name);
  const stored = async (url: string) =>
    (await (await fetch(url.replace('/project/', '/api/projects/').replace('/stage', ''))).json()) as {
      document: { name: string; shots: { layers: { id: string; name: string }[] }[]; pieces: { id: string }[] };
    };
  const names = async (url: string): Promise<string[]> =>
    (await stored(url)).document.shots[0]!.layers.map((layer) => layer.name);

  it('a save that is answered late stays with its project, and of two quick openings the later one is shown', async () => {
    const [a, b] = [await project('Alpha'), await project('Beta')];
    const page = await openStage(app, a);
    const late = heldAnswers(page, 'PATCH', /api\/projects/);
    await late.held;
    await rename(page, 'Renamed alpha');
    await addCarrier(page);
    await page.getByRole('link', { name: 'Shelf' }).click();
    const opening = heldAnswers(page, 'GET', new RegExp(`api/projects/${a.split('/')[4]}`));
    await opening.held;
    await page.getByRole('button', { name: 'Open Beta' }).click();
    await page.locator('[data-layer=beta]').waitFor();
    await page.goBack();
    await page.getByRole('button', { name: /^Open (Renamed a|A)lpha/ }).click();
    await page.goBack();
    await page.getByRole('button', { name: 'Open Beta' }).click();
    await page.locator('[data-layer=beta]').waitFor();
    late.release();
    opening.release();
    await addCarrier(page);
    await saved(page);
    expect(await names(b)).to.deep.equal(['Carrier', 'beta']);
    await becomes(() => nameField(page).inputValue(), 'Beta');
    await page.unrouteAll({ behavior: 'ignoreErrors' });
    await page.goto(a);
    await page.locator('[data-layer=alpha]').waitFor();
    await saved(page);
    expect((await stored(a)).document.name).to.equal('Renamed alpha');
    expect(await names(a)).to.deep.equal(['Carrier', 'alpha']);
  });

  it('an answer that gets lost costs nothing: what was done is done once, and undo goes on', async () => {
    const url = await project('Lost');
    const page = await openStage(app, url);
    let lost = 0;
    await page.route(/api\/projects/, async (route) => {
      if (route.request().method() !== 'PATCH' || lost++ > 0) return route.fallback();
      await route.fetch();
      await route.abort();
    });
    await addCarrier(page);
    await addCarrier(page);
    await rename(page, 'After the loss');
    await saved(page);
    expect(await names(url)).to.deep.equal(['Carrier 2', 'Carrier', 'lost']);
    for (let k = 0; k < 3; k++) await undoButton(page).click();
    await saved(page);
    expect(await names(url)).to.deep.equal(['lost']);
    expect((await stored(url)).document.name).to.equal('Lost');
  });

  it('undo and redo go on where they were after a reload, and after the server was killed', async () => {
    const url = await project('Steps');
    const page = await openStage(app, url);
    await addCarrier(page);
    await addCarrier(page);
    await rename(page, 'Named later');
    await undoButton(page).click();
    await saved(page);
    await page.reload();
    await becomes(() => undoButton(page).getAttribute('aria-label'), 'Undo: New layer');
    await page.getByRole('button', { name: /^Redo/ }).click();
    await becomes(() => nameField(page).inputValue(), 'Named later');
    await saved(page);
    await app.server.killAndRestart();
    await page.goto(`${app.server.url}`);
    await page.getByRole('button', { name: 'Open Named later', exact: true }).click();
    for (const step of ['Rename project', 'New layer', 'New layer']) {
      await becomes(() => undoButton(page).getAttribute('aria-label'), `Undo: ${step}`);
      await undoButton(page).click();
    }
    await saved(page);
    expect(await names(url)).to.deep.equal(['steps']);
  });

  it('two windows on one project follow each other without a reload, and each keeps its edits and its undo', async () => {
    const url = await project('Shared');
    const first = await openStage(app, url);
    const second = await openStage(app, url);
    await addCarrier(first);
    await second.locator('[data-layer]').nth(1).waitFor({ timeout: 15_000 });
    await rename(second, 'From the second');
    await first.waitForFunction(() => document.title.startsWith('From the second'), undefined, { timeout: 15_000 });
    // At the very same time, without hearing of each other.
    await Promise.all([addCarrier(first), addCarrier(second)]);
    await Promise.all([saved(first), saved(second)]);
    for (const page of [first, second]) await page.locator('[data-layer]').nth(3).waitFor();
    expect(await layers(first)).to.have.members(await layers(second));
    expect(await names(url)).to.have.length(4);
    await undoButton(second).click();
    await undoButton(second).click();
    await first.waitForFunction(() => document.title.startsWith('Shared'), undefined, { timeout: 15_000 });
    await saved(second);
    expect(await names(url)).to.have.length(3);
    // The button says what it would undo, and it is the window's own.
    await becomes(() => undoButton(first).getAttribute('aria-label'), 'Undo: New layer');
  });

  it('what was done while Clyvo did not answer is there after the tab was closed, however much it was', async () => {
    const url = await projectWith(app, (d) =>
      Array.from({ length: 10 }, (_, k) => card(d, `flag-${k}`, [200, 80, 40], 3, [k * 30 - 150, 0])),
    );
    const page = await openStage(app, url);
    await page.route(/api\/projects/, (route) => route.abort());
    await row(page, 'flag-0').click();
    for (let k = 1; k < 10; k++) await row(page, `flag-${k}`).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+d');
    await page.locator('[data-layer]').nth(19).waitFor();
    await page.getByText('Waiting for Clyvo to answer').waitFor();
    await crash(page);
    const again = await page.context().newPage();
    await again.goto(url);
    await again.getByText('One change from before could not be saved then').waitFor();
    await saved(again);
    expect(await names(url)).to.have.length(20);
    await undoButton(again).click();
    await saved(again);
    expect(await names(url)).to.have.length(10);
  });

  it('a piece with very many strokes is removed by a small change', async () => {
    const page = await startWith(app, await buoyPhoto(300, 200, 'png'));
    const id = page.url().split('/')[4]!;
    const get = async () => (await (await fetch(`${app.server.url}/api/projects/${id}`)).json()) as never;
    const { document, revision } = (await get()) as {
      document: Parameters<ReturnType<typeof addPiece>['apply']>[0];
      revision: number;
    };
    const picture = document.pictures[0]!.id;
    const strokes = (count: number) =>
      Array.from({ length: count }, (_, k) => ({
        radius: 3,
        points: Array.from({ length: 100 }, (_unused, n): [number, number] => [(k * 7 + n) % 290, n]),
      }));
    const pieces = ['first', 'second'].map((name) => ({
      ...untouched,
      id: name,
      picture,
      name,
      recipe: { kind: 'subject' as const, answer: 'subject' as const, keep: strokes(110), drop: [], box: null },
    }));
    const full = pieces.reduce((d, piece) => addPiece(piece as never).apply(d), document);
    const patch = [{ op: 'replace', path: '/pieces', value: full.pieces }];
    await fetch(`${app.server.url}/api/projects/${id}`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ change: crypto.randomUUID(), revision, name: 'Pieces', patch }),
    });
    await page.getByRole('button', { name: 'Open second' }).waitFor();
    const [request] = await Promise.all([
      page.waitForRequest((r) => r.method() === 'PATCH'),
      page.getByRole('button', { name: /Delete (piece )?first/ }).click(),
    ]);
    expect(request.postData()!.length).to.be.lessThan(1000);
    await saved(page);
    expect(
      ((await get()) as { document: { pieces: { id: string }[] } }).document.pieces.map((p) => p.id),
    ).to.deep.equal(['second']);
  });

  it('a value far out of range is taken to its limit, and nothing typed before it is lost', async () => {
    const url = await project('Limits');
    const page = await openStage(app, url);
    await rename(page, 'Typed just before');
    await page.getByRole('button', { name: /^Lens/ }).click();
    const roll = page.getByLabel('Selection').getByRole('textbox', { name: 'Roll', exact: true }).first();
    await becomes(() => roll.getAttribute('title'), '-3600 to 3600 °');
    await roll.fill('4000');
    await roll.press('Enter');
    await saved(page);
    await becomes(() => roll.inputValue(), '3600');
    expect((await stored(url)).document.name).to.equal('Typed just before');
    await undoButton(page).click();
    await undoButton(page).click();
    await saved(page);
    expect((await stored(url)).document.name).to.equal('Limits');
  });

  it('a project renamed on the Shelf keeps its name and the first edit after it', async () => {
    const url = await project('Shelved');
    const page = await openStage(app, url);
    await page.goto(app.server.url);
    // The card on the Shelf is older than the project: somebody changes it elsewhere, and nobody tells this page.
    await page.route('**/api/news', (route) => route.abort());
    const elsewhere = await openStage(app, url);
    await addCarrier(elsewhere);
    await saved(elsewhere);
    await page.getByRole('button', { name: 'More for Shelved' }).click();
    await page.getByRole('menuitem', { name: 'Rename' }).click();
    await page.getByRole('textbox', { name: 'Project name' }).fill('Renamed on the Shelf');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Open Renamed on the Shelf' }).click();
    await page.locator('[data-layer]').first().waitFor();
    await addCarrier(page);
    await saved(page);
    expect((await stored(url)).document.name).to.equal('Renamed on the Shelf');
    expect(await names(url)).to.have.length(3);
  });

  /**
   * In three rounds each of the three is killed first, second and last; six, in which every order comes once, and more are
   * asked for by the environment.
   */
  const rounds = Number(process.env.KILL_ROUNDS ?? 3);

  it('kills of server and tabs, in any order, lose no edit that was on screen for a second', async function () {
    this.timeout(rounds * 60_000);
    const url = await project('Killed');
    // A tab that is killed must not take the other one along.
    const browser = await launch();
    const { context } = await openPage(browser);
    const open = async (from: BrowserContext): Promise<Page> => {
      const page = await from.newPage();
      await page.goto(url);
      await page.locator('[data-layer=killed]').waitFor();
      return page;
    };
    let edits = 0;
    let kills = 0;
    const edit = async (page: Page): Promise<void> => {
      const before = (await layers(page)).length;
      await addCarrier(page);
      await page.waitForFunction((n) => window.document.querySelectorAll('[data-layer]').length > n, before);
      edits++;
    };
    let left: Page | null = null;
    for (let round = 0; round < rounds; round++) {
      // The window that found everything after the kills goes on working.
      const [one, two] = [left ?? (await open(context)), await open(context)];
      await edit(one);
      await edit(two);
      const order = [
        () => app.server.kill(),
        async () => {
          await edit(one);
          await one.waitForTimeout(1000);
          await crash(one);
        },
        async () => {
          await two.waitForTimeout(1000);
          await crash(two);
        },
      ];
      // Each order of the three comes in turn.
      for (let k = 0; k < round % 3; k++) order.push(order.shift()!);
      if (round % 6 > 2) order.reverse();
      for (const kill of order) {
        await kill();
        kills++;
      }
      await app.server.restart();
      const after = await open(context);
      await saved(after);
      await after.waitForFunction((n) => window.document.querySelectorAll('[data-layer]').length === n, edits + 1, {
        timeout: 30_000,
      });
      expect(await names(url)).to.have.length(edits + 1);
      left = after;
    }
    expect(kills).to.equal(rounds * 3);
    await browser.close();
  });
});

describe('nothing wedges', () => {
  const app = useKillableApp();

  it('a project that cannot be reached says so, and opens by itself once Clyvo answers', async () => {
    const url = await projectWith(app, (d) => [card(d, 'mast', [200, 80, 40])]);
    const page = await app.open();
    await page.goto(app.server.url);
    await page.getByRole('button', { name: 'Open Signals' }).first().waitFor();
    await page.route(/api\/projects\//, (route) => route.abort());
    await page.getByRole('button', { name: 'Open Signals' }).first().click();
    await page.getByRole('alert').filter({ hasText: 'Clyvo is not answering' }).waitFor();
    await page.unroute(/api\/projects\//);
    await page.locator('[data-layer=mast]').waitFor();
    expect(page.url()).to.equal(url);
  });

  it('a room whose script did not load, and a view whose worker did not, can be had again', async () => {
    const url = await projectWith(app, (d) => [card(d, 'mast', [200, 80, 40])]);
    const { context, page } = await openPage(app.browser);
    await page.goto(url.replace('/stage', '/pictures'));
    await page.getByText('Drop a picture here').waitFor();
    await page.route(/stage-room.*\.js/, (route) => route.abort());
    await goTo(page, 'Stage');
    await page.getByText('A part of this room could not be loaded').waitFor();
    await page.unroute(/stage-room.*\.js/);
    await page.route(/paint\.worker.*\.js/, (route) => route.abort());
    await page.getByRole('button', { name: 'Try again' }).click();
    await page.getByText('The view stopped and is being started again').waitFor();
    await page.unroute(/paint\.worker.*\.js/);
    await page.locator('[data-painted]').waitFor();
    await context.close();
  });

  it('a picture whose file is gone says so where it is shown, and takes the same file in again', async () => {
    const photo = await buoyPhoto(320, 200);
    const page = await app.open();
    await page.goto(app.server.url);
    await dropFiles(page, 'header', [{ name: 'quay.jpg', type: 'image/jpeg', bytes: photo }]);
    await page.getByTestId('cut-view').waitFor();
    const files = join(app.server.data, 'files');
    for (const folder of await readdir(files)) await rm(join(files, folder), { recursive: true });
    await goTo(page, 'Pictures');
    await page.evaluate(() => caches.keys());
    await page.getByText('missing or damaged in the data folder').waitFor();
    const other = await buoyPhoto(100, 80);
    const choose = page.getByLabel('File of quay');
    await choose.setInputFiles({ name: 'other.jpg', mimeType: 'image/jpeg', buffer: other });
    await page.getByText('"other.jpg" is another file').waitFor();
    await choose.setInputFiles({ name: 'quay again.jpg', mimeType: 'image/jpeg', buffer: photo });
    await page.getByText('"quay" is there again').waitFor();
    const shown = page.getByRole('img', { name: 'quay' });
    await shown.waitFor();
    expect(await shown.evaluate((img: HTMLImageElement) => img.decode().then(() => img.naturalWidth))).to.equal(320);
  });

  it('a damaged project leaves the Shelf whole; its last readable state opens, its data can be saved', async () => {
    const url = await projectWith(app, (d) => [card(d, 'mast', [200, 80, 40])]);
    const id = url.split('/')[4]!;
    const db = new Database(join(app.server.data, 'clyvo.sqlite'));
    db.prepare('UPDATE projects SET document = ? WHERE id = ?').run('{"version":4,"name":"Torn sails"', id);
    db.close();
    const page = await app.open();
    await page.goto(app.server.url);
    const torn = page.getByRole('listitem', { name: 'Torn sails' });
    await torn.getByText('This project cannot be read').waitFor();
    expect(
      await page
        .getByRole('listitem')
        .getByRole('button', { name: /^Open / })
        .count(),
    ).to.be.greaterThan(1);
    const [download] = await Promise.all([page.waitForEvent('download'), torn.getByText('Save its data').click()]);
    expect(download.suggestedFilename()).to.equal('Torn sails.json');
    await torn.getByRole('button', { name: 'Open the last readable state' }).click();
    await page.getByRole('button', { name: 'Open Signals recovered' }).click();
    await page.locator('[data-layer=mast]').waitFor();
    await page.goto(app.server.url);
    await torn.getByRole('button', { name: 'Delete' }).click();
    await torn.waitFor({ state: 'detached' });
  });
});
