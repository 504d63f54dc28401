import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { recordClip } from '../scripts/record-clip.ts';
import { covered, dropFiles, goTo, liftOut, useApp } from './harness.ts';
import { floatBeforeGreen } from './photos.ts';
import { addFinish, addProp, addText, arrive, exported, isRed, where } from './scene-maker.ts';
import { row, stored, type, unfold } from './stage-world.ts';

/* A notice in four shots, through the interface alone. */

describe('scene 9, tide clock notice', () => {
  const app = useApp();

  const add = async (page: Page, what: string): Promise<void> => {
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: what, exact: true }).click();
  };

  it('turning shapes leave mist between them, a filmed figure behind, letters on an arc; three shots of words', async () => {
    const film = { width: 320, height: 180, rate: 12, frames: 24, format: 'webm' as const, bitrate: 4e6 };
    const bytes = await recordClip(app.browser, { ...film, frame: floatBeforeGreen });
    const page = await app.open();
    await page.goto(app.server.url);
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', [{ name: 'figure.webm', type: 'video/webm', bytes }]);
    await page.getByTestId('cut-view').waitFor();
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.getByRole('button', { name: 'Remove screen' }).click();
    await covered(page);
    await liftOut(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 1.2);
    await row(page, 'Piece 1').click();
    await type(page, 'Depth', 8);
    await add(page, 'Colour');
    await page.getByLabel('Colour', { exact: true }).fill('#14283c');
    // Two rosettes that turn for ever, the second the other way; mist is what is seen between them.
    for (const [k, x] of [-320, 320].entries()) {
      await add(page, 'Shape');
      await page
        .getByRole('dialog')
        .getByRole('button', { name: /^Rosette/ })
        .click();
      const name = k ? 'Rosette 2' : 'Rosette';
      await row(page, name).waitFor();
      await type(page, 'Depth', 4);
      await type(page, 'Scale', 200);
      await type(page, 'X', x);
      await unfold(page, 'Motion');
      await page.getByRole('combobox', { name: 'Without keyframes' }).selectOption('rotation');
      await type(page, 'Spin per second', k ? -60 : 60);
    }
    await row(page, 'Rosette').click({ modifiers: ['Shift'] });
    await page.screenshot({ path: '/tmp/look/9-motion.png' });
    await page.getByRole('button', { name: 'Group', exact: true }).click();
    await addProp(page, /^Mist/);
    await type(page, 'Depth', 3);
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Window' }).selectOption({ label: 'Group' });
    await page.getByRole('combobox', { name: 'Visible' }).selectOption('outside');
    await addText(page, 'TIDE CLOCK');
    await type(page, 'Depth', 2.5);
    await page.getByRole('combobox', { name: 'Along' }).selectOption('arc');
    await addFinish(page, 'TIDE CLOCK', /^Outline/);
    await addFinish(page, 'TIDE CLOCK', /^Outline/);
    await page.screenshot({ path: '/tmp/look/9-a.png' });
    // Three more shots of unlike lengths, each with words that arrive in their own way.
    for (const [words, by, seconds] of [
      ['High water at nine', 'letter', 0.7],
      ['Boats leave at ten', 'word', 1],
      ['Lamps at dusk', 'line', 0.5],
    ] as const) {
      await page.getByRole('button', { name: 'New shot', exact: true }).click();
      await type(page, 'Length', seconds);
      await add(page, 'Colour');
      await page.getByLabel('Colour', { exact: true }).fill('#0e5b50');
      await addText(page, words);
      await arrive(page, /^Rise/);
      await page.getByRole('combobox', { name: 'By', exact: true }).selectOption(by);
      await type(page, 'Duration', 0.4);
      await page.keyboard.press('Escape');
      await page.keyboard.press('Escape');
    }
    await page.screenshot({ path: '/tmp/look/9-b.png' });
    const video = await exported(page, [0.05, 1.1, 1.3, 1.85, 2.1, 2.8, 3.35], 'figure');
    const sharp = (await import('sharp')).default;
    for (const [k, p] of video.pictures.entries())
      await sharp(p.data, { raw: { width: video.width, height: video.height, channels: 4 } })
        .png()
        .toFile(`/tmp/look/9-v${k}.png`);
    void [expect, isRed, where, stored];
  });
});
