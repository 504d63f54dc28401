import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { covered, dropFiles, goTo, liftOut, onPage, startWith, useApp } from './harness.ts';
import { idle, openBackground } from './plates.ts';
import { exported, where } from './scene-maker.ts';
import { onPier, twoOnThePier } from './scene-photos.ts';
import { row, type, unfold } from './stage-world.ts';

/* Scenes of figures cut out of photographs, from pictures as they come to a played file, through the interface alone. */

/** Finds what lies in a box that is drawn by hand, in pixels of the picture. */
async function findInBox(page: Page, [x0, y0]: [number, number], [x1, y1]: [number, number]): Promise<void> {
  const view = page.getByTestId('cut-view');
  await page.keyboard.press('b');
  await page.mouse.move(...(await onPage(view, [x0, y0])));
  await page.mouse.down();
  await page.mouse.move(...(await onPage(view, [x1, y1])), { steps: 12 });
  await page.mouse.up();
  await covered(page);
}
const shot = (page: Page, n: string) => page.screenshot({ path: `/tmp/look/${n}.png` });

describe('scene 13, two on the pier', () => {
  const app = useApp();

  it('two figures on their shadows before a clean plate: the near one grows more, the far end is soft', async () => {
    const page = await startWith(app, await twoOnThePier(), 'pier.png');
    for (const who of ['near', 'far'] as const) {
      const { x, feet, tall } = onPier[who];
      if (who === 'far') await page.getByRole('button', { name: 'New piece' }).click();
      await findInBox(page, [x - tall * 0.26, feet - tall * 1.05], [x + tall * 0.26, feet + tall * 0.03]);
      await shot(page, `13-${who}`);
      await liftOut(page);
      await page.getByRole('link', { name: 'Lift its shadow too' }).click();
      await page.getByRole("button", { name: "Start over" }).waitFor();
      await shot(page, `13-shadow-${who}`);
      await page.getByRole('button', { name: 'Lift shadow' }).click();
      await page.getByRole('button', { name: 'Undo: Lift shadow' }).waitFor();
      await goTo(page, 'Cut');
      await shot(page, `13-after-${who}`);
    }
    await goTo(page, 'Pictures');
    await dropFiles(page, 'main > div', [{ name: 'empty.png', type: 'image/png', bytes: await twoOnThePier(true) }]);
    await page.getByText('empty', { exact: true }).waitFor();
    await goTo(page, 'Cut');
    await shot(page, '13-cut-again');
    await openBackground(page);
    await page
      .getByRole('button', { name: /^Behind the pieces/ })
      .first()
      .click();
    await page
      .getByRole('combobox', { name: 'Where the background comes from' })
      .selectOption({ label: 'empty, laid over it' });
    await page.getByRole('button', { name: 'Undo: Change what is behind' }).waitFor();
    await idle(page);
    await shot(page, '13-plate');
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await shot(page, `13-stage`);
    console.log(await page.locator('[data-layer]').allInnerTexts());
    void [exported, where, row, type, unfold, idle, openBackground, dropFiles, expect];
  });
});
