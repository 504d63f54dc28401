import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { becomes, colourShown, covered, goTo, onPage, saved, startWithPhoto, useApp } from './harness.ts';
import { floatOnRope, ropeAt } from './photos.ts';

const magenta = [216, 36, 154];

describe('thin lines followed by Keep and Drop', () => {
  const app = useApp();

  /** As a hand goes: many small steps. */
  const goOver = async (page: Page, x: number, off: number): Promise<void> => {
    const view = page.getByTestId('cut-view');
    await page.mouse.move(...(await onPage(view, [x, ropeAt(x) + off])), { steps: 15 });
  };
  const press = async (page: Page): Promise<void> => {
    await page.mouse.down();
    await page.mouse.up();
  };
  /** How much of the ground's colour is seen at a place, 0..1. */
  const groundAt = async (page: Page, x: number, off: number): Promise<number> => {
    const [red, green] = (await colourShown(page, x, ropeAt(x) + off)) as [number, number];
    return Math.max(0, Math.min(1, (red - green) / (magenta[0]! - magenta[1]!)));
  };
  const begun = async (): Promise<Page> => {
    const page = await startWithPhoto(app, await floatOnRope());
    await page.getByRole('radio', { name: 'On a colour' }).click();
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByRole('switch', { name: 'Follow thin lines' }).click();
    return page;
  };
  /** The line to the pointer, before it is taken. */
  const seen = (page: Page) => page.getByTestId('cut-view').locator('svg line');

  it('a rope is taken from click to click as wide as it is, shown beforehand, and a reload finds it again', async () => {
    const page = await begun();
    const before = await covered(page);
    await goOver(page, 182, 2);
    await press(page);
    await goOver(page, 400, -2);
    // It is that to where the pointer came to rest, not to a place it passed.
    await becomes(async () => {
      const ends = await seen(page).evaluateAll((lines) => lines.map((line) => Number(line.getAttribute('x2'))));
      return ends.length > 0 && Math.abs(ends.at(-1)! - 400) < 6;
    }, true);
    await press(page);
    await page.getByText('1 keep, 0 drop').waitFor();
    await goOver(page, 610, 2);
    await press(page);
    await page.getByText('2 keep, 0 drop').waitFor();
    // Pressed where it ended, the line ends.
    await press(page);
    await goOver(page, 500, 60);
    await becomes(() => seen(page).count(), 0);
    await becomes(() => page.getByText('Finding the edge').count(), 0);
    await page.keyboard.press('Escape');
    for (const x of [240, 330, 430, 540]) {
      expect(await groundAt(page, x, 0), `on the rope at ${x}`).to.be.below(0.5);
      for (const off of [-8, 8]) expect(await groundAt(page, x, off), `beside it at ${x}`).to.be.above(0.97);
    }
    const after = await covered(page);
    // 430 pixels of a rope some three to five pixels wide.
    expect(((after - before) / 100) * 640 * 420).to.be.within(1000, 2500);
    await saved(page);
    await page.reload();
    await page.getByText('2 keep, 0 drop').waitFor();
    expect(await covered(page)).to.be.closeTo(after, 0.05);
    await page.getByRole('radio', { name: 'On a colour' }).click();
    await page.getByRole('button', { name: /Undo: Keep stroke/ }).click();
    await page.getByText('1 keep, 0 drop').waitFor();
    await page.getByText(/The piece covers/).waitFor();
    await becomes(async () => (await groundAt(page, 540, 0)) > 0.97 && (await groundAt(page, 330, 0)) < 0.5, true);
  });

  it('a drag follows what lies under it; what is begun and left leaves nothing', async () => {
    const page = await begun();
    await goOver(page, 190, 1);
    await page.mouse.down();
    for (const x of [260, 340, 420, 500]) await goOver(page, x, x % 80 ? 2 : -2);
    await page.mouse.up();
    await page.getByText('1 keep, 0 drop').waitFor();
    await goOver(page, 520, 0);
    await press(page);
    await goOver(page, 600, 0);
    await seen(page).first().waitFor();
    await goTo(page, 'Pictures');
    await goTo(page, 'Cut');
    await page.getByText('1 keep, 0 drop').waitFor();
    await page.getByRole('radio', { name: 'On a colour' }).click();
    await becomes(async () => (await groundAt(page, 340, 0)) < 0.5, true);
    expect(await groundAt(page, 580, 0)).to.be.above(0.97);
  });

  it('what is still looked for when another tool is taken is not lost', async () => {
    const page = await begun();
    await goOver(page, 182, 0);
    await press(page);
    await goOver(page, 600, 0);
    await press(page);
    await page.keyboard.press('d');
    await page.getByText('1 keep, 0 drop').waitFor();
    await page.keyboard.press('Escape');
    await becomes(async () => (await groundAt(page, 400, 0)) < 0.5, true);
  });

  it('all of it with the keyboard alone: arrows go, Enter presses, T follows', async () => {
    const page = await startWithPhoto(app, await floatOnRope());
    await page.keyboard.press('k');
    await page.keyboard.press('t');
    await becomes(() => page.getByRole('switch', { name: 'Follow thin lines' }).getAttribute('aria-checked'), 'true');
    // The crosshair begins in the middle of the picture; the rope passes some way below it.
    for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    for (let k = 0; k < 4; k++) await page.keyboard.press('Shift+ArrowRight');
    for (let k = 0; k < 2; k++) await page.keyboard.press('ArrowUp');
    await seen(page).first().waitFor();
    await page.keyboard.press('Enter');
    await page.getByText('1 keep, 0 drop').waitFor();
  });
});
