import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { filmFrame, type Film } from '../demo/clips/film.ts';
import { tinCrab } from '../demo/clips/tin-crab.ts';
import { twoKeepers } from '../demo/clips/keepers.ts';
import type { FigureRecipe } from '../core/document/recipe.ts';
import { filmed } from './films.ts';
import { covered, dropFiles, goTo, liftOut, onPage, saved, useApp } from './harness.ts';
import { row, seen, stored } from './stage-world.ts';

/* A figure before any ground is cut through its clip; its edges are measured against how it was drawn. */

describe('a figure of a clip', () => {
  const app = useApp();
  const films = new Map<Film, Buffer>();
  const frames = 20;

  before(async function () {
    this.timeout(180_000);
    for (const film of [tinCrab, twoKeepers]) films.set(film, await filmed(app.browser, film, frames, 5e6));
  });

  async function broughtIn(film: Film): Promise<Page> {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', [{ name: `${film.name}.mp4`, type: 'video/mp4', bytes: films.get(film)! }]);
    await page.getByTestId('cut-view').waitFor();
    return page;
  }

  const shownAt = async (page: Page, index: number): Promise<void> => {
    await page.getByRole('slider', { name: 'Frame of the clip' }).fill(String(index));
    await page.getByText('Opening the picture').waitFor({ state: 'detached' });
  };
  const state = (page: Page) => page.getByTestId('figure-state');
  const recipeOf = async (page: Page): Promise<FigureRecipe> => (await stored(page)).pieces[0]!.recipe as FigureRecipe;

  /** Intersection over union of a stored alpha with how the figure was drawn. */
  async function likeness(film: Film, index: number, file: string): Promise<number> {
    const bytes = Buffer.from(await (await fetch(`${app.server.url}/api/files/${file}`)).arrayBuffer());
    const { data } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const { alpha } = filmFrame(film, index);
    let [both, either] = [0, 0];
    alpha.data.forEach((truth, i) => {
      const [a, b] = [data[i * 4 + 3]! >= 128, truth >= 128];
      if (a && b) both++;
      if (a || b) either++;
    });
    return both / either;
  }

  it('is found in one frame, cut through all, rebuilt behind, and stands on the Stage without its ground', async () => {
    const page = await broughtIn(tinCrab);
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await page.getByRole('button', { name: 'Cut through the clip' }).click();
    await state(page)
      .filter({ hasText: `${frames} of ${frames} frames cut` })
      .waitFor();
    const { mattes, due } = await recipeOf(page);
    expect(due).to.equal(null);
    for (const index of [0, 10, frames - 1])
      expect(await likeness(tinCrab, index, mattes[index]!), `frame ${index}`).to.be.greaterThan(0.9);
    await page.getByRole('button', { name: 'Rebuild background' }).click();
    await page.getByText(/The background is whole/).waitFor();
    await liftOut(page);
    await goTo(page, 'Stage');
    await row(page, 'Piece 1').waitFor();
    // Where the crab stood there is quay again, and water where its claw was.
    await page.getByRole('button', { name: 'Hide Piece 1' }).click();
    const at = await seen(page);
    const { ground } = filmFrame(tinCrab, 0);
    for (const [x, y] of [
      [190, 365],
      [150, 350],
      [230, 380],
    ] as const) {
      // Places count from the middle of a frame of half the size.
      const [r, g, b] = at(2 * x - 480, 2 * y - 270);
      const i = (y * 960 + x) * 4;
      const away = Math.hypot(r! - ground.data[i]!, g! - ground.data[i + 1]!, b! - ground.data[i + 2]!);
      expect(away, `at ${x}, ${y}: ${[r, g, b].join()}`).to.be.lessThan(75);
      expect(r! - b!, 'no orange').to.be.lessThan(70);
    }
  });

  it('is put right by strokes in a frame where it went astray: only what lies between is cut again; a reload loses nothing', async () => {
    const page = await broughtIn(twoKeepers);
    await page.getByRole('button', { name: 'Box around it' }).click();
    const view = page.getByTestId('cut-view');
    const [x0, y0] = await onPage(view, [110, 150]);
    const [x1, y1] = await onPage(view, [300, 515]);
    await page.mouse.move(x0, y0);
    await page.mouse.down();
    for (let k = 1; k <= 20; k++) await page.mouse.move(x0 + ((x1 - x0) * k) / 20, y0 + ((y1 - y0) * k) / 20);
    await page.mouse.up();
    await covered(page);
    await page.getByRole('button', { name: 'Cut through the clip' }).click();
    await state(page)
      .filter({ hasText: `${frames} of ${frames}` })
      .waitFor();
    const before = await recipeOf(page);
    const put = 13;
    await shownAt(page, put);
    await covered(page);
    // The lantern is not wanted from here on.
    await page.getByRole('button', { name: 'Drop', exact: true }).click();
    const hand = 52 + Math.sin(put * 0.38) * 16;
    const [lx, ly] = await onPage(view, [200 + 7.8 * put + hand * 1.15, 500 - 92 * 1.15]);
    await page.mouse.move(lx, ly - 12);
    await page.mouse.down();
    for (let k = 1; k <= 12; k++) await page.mouse.move(lx, ly - 12 + 2 * k);
    await page.mouse.up();
    await page.getByRole('button', { name: /^Cut \d+ frames again/ }).click();
    await page.getByRole('button', { name: /^Cut \d+ frames again/ }).waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Stop' }).waitFor({ state: 'detached' });
    await saved(page);
    const after = await recipeOf(page);
    expect(after.keys.map((key) => key.frame)).to.deep.equal([0, put]);
    expect(after.due).to.equal(null);
    expect(after.mattes[0]).to.equal(before.mattes[0]);
    expect(after.mattes[put + 2]).to.not.equal(before.mattes[put + 2]);
    await page.reload();
    await state(page).filter({ hasText: '1 put right' }).waitFor();
    expect(await recipeOf(page)).to.deep.equal(after);
  });

  it('goes on in another room, and what was stopped goes on from where it was', async () => {
    const page = await broughtIn(tinCrab);
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await page.getByRole('button', { name: 'Cut through the clip' }).click();
    await page.getByText('Cutting frame by frame').waitFor();
    await page.getByRole('button', { name: 'Stop' }).click();
    await page.getByText(/^Stopped\. \d+ frames are cut/).waitFor();
    const { mattes, due } = await recipeOf(page);
    const done = mattes.filter((matte) => matte !== null).length;
    expect(due).to.deep.equal([done, frames]);
    await page.getByRole('button', { name: /^Cut (through|\d+ frames)/ }).click();
    await goTo(page, 'Pictures');
    await goTo(page, 'Cut');
    await state(page)
      .filter({ hasText: `${frames} of ${frames}` })
      .waitFor();
    const after = await recipeOf(page);
    expect(after.due).to.equal(null);
    expect(after.mattes.slice(0, done)).to.deep.equal(mattes.slice(0, done));
    expect(await likeness(tinCrab, 17, after.mattes[17]!)).to.be.greaterThan(0.9);
  });
});
