import { readFile } from 'node:fs/promises';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { becomes, covered, goTo, liftOut, onPage, saved, startWith, useApp } from './harness.ts';
import { curvedHorizon, floatOverBoards, horizonAt } from './photos.ts';

/** Share in per cent of the 640 x 420 picture. */
const share = (pixels: number): number => (pixels / (640 * 420)) * 100;

describe('cutting by outlines', () => {
  const app = useApp();

  async function press(page: Page, ...places: [number, number][]): Promise<void> {
    const view = page.getByTestId('cut-view');
    for (const place of places) await page.mouse.click(...(await onPage(view, place)));
  }
  async function dragOn(page: Page, from: [number, number], to: [number, number]): Promise<void> {
    const view = page.getByTestId('cut-view');
    await page.mouse.move(...(await onPage(view, from)));
    await page.mouse.down();
    await page.mouse.move(...(await onPage(view, to)), { steps: 4 });
    await page.mouse.up();
  }
  /** Waits until the piece covers about this much. */
  async function covers(page: Page, wanted: number, within: number): Promise<void> {
    let last = NaN;
    for (let attempt = 0; attempt < 100; attempt++) {
      last = await covered(page);
      if (Math.abs(last - wanted) <= within) return;
      await page.waitForTimeout(100);
    }
    expect(last).closeTo(wanted, within);
  }

  it('an outline clings to a float between four rough clicks, a hole is taken away from it, undo brings it back', async () => {
    const page = await startWith(app, await floatOverBoards());
    await page.keyboard.press('o');
    // The clicks lie up to six pixels beside the edge of the float, which has its middle at (320, 180) and radius 70.
    await press(page, [251, 184], [322, 111], [388, 178], [318, 248]);
    await page.keyboard.press('Enter');
    const float = share(Math.PI * 70 * 70);
    await covers(page, float, 0.35);

    await page.getByRole('button', { name: /^Shape/ }).click();
    await page.getByRole('button', { name: 'Ellipse' }).click();
    await dragOn(page, [290, 150], [350, 210]);
    await page.getByRole('radio', { name: 'Take away' }).click();
    await covers(page, float - share(Math.PI * 30 * 30), 0.4);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await covers(page, float, 0.35);
  });

  it('a smooth path runs around a curved horizon, with a feather; its points are opened and changed', async () => {
    const page = await startWith(app, await curvedHorizon());
    await page.keyboard.press('p');
    const top: [number, number][] = [80, 240, 400, 560].map((x) => [x, horizonAt(x)]);
    await press(page, [2, horizonAt(2)], ...top, [638, horizonAt(638)], [638, 418], [2, 418]);
    await page.keyboard.press('Enter');
    await page.getByRole('list', { name: 'Outlines' }).waitFor();
    // Corners first: the chords lie below the curve of the hill.
    let land = 0;
    for (let x = 0; x < 640; x++) land += 420 - horizonAt(x);
    expect(await covered(page)).below(share(land) - 1);
    const view = page.getByTestId('cut-view');
    for (const [k, place] of top.entries()) {
      if (k > 0) await page.keyboard.down('Shift');
      await page.mouse.click(...(await onPage(view, place)));
      if (k > 0) await page.keyboard.up('Shift');
    }
    await page.getByRole('button', { name: 'Smooth', exact: true }).click();
    await covers(page, share(land), 1);
    await page.getByRole('textbox', { name: 'Feather' }).fill('24');
    await page.getByRole('textbox', { name: 'Feather' }).press('Enter');
    await page.getByRole('radio', { name: 'Alpha only' }).click();
    await liftOut(page);
    // Opened again, the outline is grown by ten pixels: a strip along the hill, and two rows at the bottom.
    const before = await covered(page);
    await page.getByRole('textbox', { name: 'Grow', exact: true }).fill('10');
    await page.getByRole('textbox', { name: 'Grow', exact: true }).press('Enter');
    await covers(page, before + share(10 * 680 + 2 * 640), 0.8);
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().waitFor();
    await becomes(() => page.locator('[data-layer]').count(), 2);
  });

  it('ways are combined: what a shape takes away from the subject; a step is muted, opened again after a reload, inverted', async () => {
    const page = await startWith(app, await floatOverBoards());
    await page.getByRole('button', { name: 'Find subject' }).click();
    const whole = await covered(page);
    const steps = page.getByRole('region', { name: 'Steps' });
    await steps.getByRole('button', { name: 'Take away' }).click();
    await page.getByRole('button', { name: /^Shape/ }).click();
    await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
    await dragOn(page, [240, 180], [400, 260]);
    await covers(page, whole / 2, 0.4);
    await steps.getByRole('button', { name: 'Leave step 2 out' }).click();
    await covers(page, whole, 0.2);
    await steps.getByRole('button', { name: 'Use step 2 again' }).click();
    await saved(page);
    await page.reload();
    await covers(page, whole / 2, 0.4);
    await steps.getByRole('checkbox', { name: 'Invert' }).check();
    await covers(page, 100 - whole / 2, 0.4);
  });

  it('outlines go out as SVG and come in again where they were', async () => {
    const page = await startWith(app, await floatOverBoards());
    await page.getByRole('button', { name: /^Shape/ }).click();
    await page.getByRole('button', { name: 'Ellipse' }).click();
    await dragOn(page, [250, 110], [390, 250]);
    const before = await covered(page);
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'SVG out' }).click(),
    ]);
    const svg = await readFile(await download.path(), 'utf8');
    expect(svg).to.contain('viewBox="0 0 640 420"');
    await page.getByRole('button', { name: 'Delete outline 1' }).click();
    await page.getByRole('list', { name: 'Outlines' }).waitFor({ state: 'detached' });
    await page
      .getByLabel('SVG file')
      .setInputFiles({ name: 'float.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
    await covers(page, before, 0.05);
    await page
      .getByLabel('SVG file')
      .setInputFiles({ name: 'notes.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('tide 7:40') });
    await page.getByText(/notes.svg: No outline could be read/).waitFor();
  });
});
