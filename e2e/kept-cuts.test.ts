import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { becomes, buoyPhoto, covered, goTo, liftOut, saved, dropAndFind, startWithPhoto, useApp } from './harness.ts';
import { draw } from './plates.ts';

/** Runs in the page: from now on everything it says is noted, also what is said for a moment only. */
function noteWords(): void {
  const said: string[] = [];
  Object.assign(window, { said });
  new MutationObserver(() => said.push(document.body?.innerText ?? '')).observe(document, {
    subtree: true,
    childList: true,
    characterData: true,
  });
}

const wordsNoted = (page: Page): Promise<string> =>
  page.evaluate(() => (window as unknown as { said: string[] }).said.join(' '));

/** A Drop stroke, in pixels of the picture. */
async function drop(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  await page.getByRole('button', { name: 'Drop', exact: true }).click();
  await draw(page, page.getByTestId('cut-view'), [from, to]);
}

describe('cuts that were solved before', () => {
  const app = useApp();

  it('a piece that is opened again shows its cut without solving it, and what is changed next goes on from there', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(600, 400));
    const alone = await covered(page);
    // Cuts are kept once nothing else was wanted for a moment.
    const kept = async (wanted: number): Promise<void> => {
      const count = (): Promise<number> =>
        page.evaluate(async () => {
          const names = (await caches.keys()).filter((name) => name.startsWith('cuts of '));
          const found = await Promise.all(names.map(async (name) => (await caches.open(name)).keys()));
          return found.reduce((sum, keys) => sum + keys.length, 0);
        });
      while ((await count()) < wanted) await page.evaluate(() => new Promise(requestAnimationFrame));
    };
    await kept(1);
    await drop(page, [300, 140], [312, 168]);
    await page.getByText('0 keep, 1 drop').waitFor();
    await becomes(async () => (await covered(page)) < alone, true);
    await page.getByText('Finding the edge').waitFor({ state: 'detached' });
    const before = await covered(page);
    await saved(page);
    await kept(2);
    await page.addInitScript(noteWords);
    await page.reload();
    await page.getByText(`The piece covers ${before.toFixed(1)} %`).waitFor();
    expect(await wordsNoted(page))
      .to.contain('The piece covers')
      .and.not.contain('Finding the subject');
    await page.getByRole('button', { name: 'Remove all strokes' }).click();
    await page.getByText(`The piece covers ${alone.toFixed(1)} %`).waitFor();
  });

  it('who comes back from the Stage finds the worker that made them, and the same cut before and after a stroke; from Pictures it is the same one, which looks anew', async () => {
    const page = await app.open();
    let started = 0;
    page.on('worker', (worker) => (started += worker.url().includes('cut.worker') ? 1 : 0));
    await page.goto(app.server.url);
    await dropAndFind(page, await buoyPhoto(600, 400));
    const alone = await covered(page);
    const back = async (): Promise<void> => {
      await goTo(page, 'Stage');
      await page.getByLabel('Depth rack').waitFor();
      await goTo(page, 'Cut');
      await page.getByTestId('cut-view').waitFor();
    };
    await back();
    expect(await covered(page)).to.equal(alone);
    await drop(page, [300, 140], [312, 168]);
    await page.getByText('0 keep, 1 drop').waitFor();
    await becomes(async () => (await covered(page)) < alone, true);
    await page.getByText('Finding the edge').waitFor({ state: 'detached' });
    const dropped = await covered(page);
    const shown = (): Promise<string> =>
      page
        .getByTestId('cut-view')
        .locator('canvas')
        .evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL());
    await becomes(async () => (await shown()) === (await shown()), true);
    const before = await shown();
    await back();
    expect(await covered(page)).to.equal(dropped);
    await becomes(shown, before);
    await page.getByRole('button', { name: 'Remove all strokes' }).click();
    await page.getByText(`The piece covers ${alone.toFixed(1)} %`).waitFor();
    await goTo(page, 'Pictures');
    await page.getByRole('heading', { name: /Pictures/ }).waitFor();
    await goTo(page, 'Cut');
    await page.getByText(`The piece covers ${alone.toFixed(1)} %`).waitFor();
    await drop(page, [300, 140], [312, 168]);
    await becomes(() => covered(page), dropped);
    expect(started).to.equal(1);
  });

  it('a cut is kept also where its room is left in the moment it is there', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(420, 280));
    const alone = await covered(page);
    await drop(page, [210, 98], [218, 118]);
    // Within the page, so that no time passes between what is seen and the press.
    await page.evaluate(async (before) => {
      while (Number(/The piece covers ([\d.]+) %/.exec(document.body.innerText)?.[1] ?? before) >= before)
        await new Promise(requestAnimationFrame);
      [...document.querySelectorAll('a')].find((link) => link.textContent.includes('Pictures'))!.click();
    }, alone);
    await page.getByRole('button', { name: '9:16' }).waitFor();
    await page.evaluate(noteWords);
    await goTo(page, 'Cut');
    expect(await covered(page)).to.be.below(alone);
    expect(await wordsNoted(page))
      .to.contain('The piece covers')
      .and.not.contain('Finding the subject');
  });

  it('layers follow when a lifted piece is reopened, changed and lifted again', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(600, 400));
    await liftOut(page);
    await goTo(page, 'Stage');
    const picture = (): Promise<string | null> => page.locator('[data-layer] img').first().getAttribute('src');
    const first = await picture();
    await page.locator('[data-layer]').first().click();
    // Lifted right after it was found, it opens as it was lifted.
    await page.evaluate(noteWords);
    await page.getByRole('button', { name: 'Open its cut' }).click();
    await covered(page);
    expect(await wordsNoted(page))
      .to.contain('The piece covers')
      .and.not.contain('Finding the subject');
    await drop(page, [252, 200], [300, 248]);
    await page.getByText('0 keep, 1 drop').waitFor();
    await page.keyboard.press('Escape');
    await page.getByText(/The piece covers/).waitFor();
    // The layer still shows it as it was lifted: that is said wherever it is shown, and mended from there.
    await page.getByRole('link', { name: 'Lift again' }).waitFor();
    await goTo(page, 'Pictures');
    await page.getByText(/Changed since lifted out: /).waitFor();
    await goTo(page, 'Stage');
    expect(await picture()).to.equal(first);
    await page.locator('[data-layer]').first().click();
    await page.getByText(/was changed since it was lifted out/).waitFor();
    await page.getByRole('link', { name: 'Lift again' }).click();
    await page.getByText('Lifted out. Its layers follow.').waitFor();
    await page.getByRole('link', { name: 'Lift again' }).waitFor({ state: 'detached' });
    await goTo(page, 'Stage');
    expect(await picture()).to.not.equal(first);
    await becomes(() => page.locator('[data-layer]').count(), 2);
    await page.locator('[data-layer]').first().click();
    await page.getByRole('button', { name: 'Open its cut' }).waitFor();
    await becomes(() => page.getByText(/was changed since it was lifted out/).count(), 0);
  });
});
