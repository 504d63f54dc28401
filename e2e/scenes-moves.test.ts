import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { recordClip } from '../scripts/record-clip.ts';
import { covered, dropFiles, goTo, liftOut, startWith, useApp } from './harness.ts';
import { driftingFloat } from './photos.ts';
import { addFinish, addText, arrive, exported, spread, where } from './scene-maker.ts';
import { fishFlag, hullOnGreen, quayWall } from './scene-photos.ts';
import { goToFrame, row, type, unfold } from './stage-world.ts';

/* Scenes of things that travel, from pictures as they come to a played file, through the interface alone. */
const shot = (page: Page, n: string) => page.screenshot({ path: `/tmp/look/${n}.png` });
const strip = async (video: Awaited<ReturnType<typeof exported>>, n: string) => {
  const sharp = (await import('sharp')).default;
  for (const [k, p] of video.pictures.entries()) await sharp(p.data, { raw: { width: video.width, height: video.height, channels: 4 } }).png().toFile(`/tmp/look/${n}-v${k}.png`);
};

describe('scene 8, five flags', () => {
  const app = useApp();

  it('a flag and its mirror image swing through five poses, each another colour of one hue; a word goes against them', async () => {
    const page = await startWith(app, await quayWall(), 'quay.png');
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: /Hang .* on the Stage/ }).click();
    await page.getByLabel('Choose pictures').setInputFiles({ name: 'flag.png', mimeType: 'image/png', buffer: await fishFlag() });
    const item = page.getByRole('listitem').filter({ hasText: 'flag' });
    await item.getByRole('button', { name: /Hang .* on the Stage/ }).click();
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await row(page, 'flag').click();
    await type(page, 'Depth', 2);
    await type(page, 'Scale', 90);
    await shot(page, '8-flag');
    await type(page, 'X', -230);
    await unfold(page, 'Layer');
    await page.getByLabel('Selection').getByRole('button', { name: 'Duplicate', exact: true }).click();
    await row(page, 'flag 2').waitFor();
    await page.getByRole('button', { name: 'Flip horizontally' }).click();
    await type(page, 'X', 230);
    await type(page, 'Y', 0);
    await row(page, 'flag').click({ modifiers: ['Shift'] });
    await page.getByRole('button', { name: 'Group', exact: true }).click();
    await row(page, 'Group').click();
    await addFinish(page, 'Group', /^Recolour/);
    const to = page.getByRole('listitem', { name: 'Recolour', exact: true }).getByLabel('To', { exact: true });
    await addText(page, 'LANTERN WEEK');
    await type(page, 'Size', 110);
    await type(page, 'Depth', 4);
    await type(page, 'Y', 40);
    const colours = ['#c83c28', '#2850a0', '#288c50', '#a028a0', '#c89628'];
    await page.getByLabel('Colour', { exact: true }).fill(colours[1]!);
    for (const [k, colour] of colours.entries()) {
      await goToFrame(page, k * 14);
      await row(page, 'Group').click();
      await type(page, 'X', k % 2 ? 70 : -70);
      await type(page, 'Rotation', k % 2 ? 7 : -7);
      await to.fill(colour);
      await row(page, 'LANTERN WEEK').click();
      await type(page, 'X', k % 2 ? -160 : 160);
      for (let press = 0; press < 2; press++) await page.keyboard.press('Escape');
      await unfold(page, 'Poses');
      await page.getByRole('button', { name: 'Store a pose here' }).click();
    }
    await shot(page, '8-end');
    const video = await exported(page, [0.02, 14 / 30, 28 / 30, 42 / 30, 1.9], 'quay');
    await strip(video, '8');
  });
});

describe('scene 11, passing hull', () => {
  const app = useApp();

  it('a keyed hull travels across a film, its edge unveils a title that rises in and out; a second word stays', async () => {
    const film = await recordClip(app.browser, { width: 320, height: 180, rate: 12, frames: 24, format: 'mp4', bitrate: 2e6, frame: driftingFloat });
    const page = await app.open();
    await page.goto(app.server.url);
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', [{ name: 'bay.mp4', type: 'video/mp4', bytes: film }]);
    await page.getByTestId('cut-view').waitFor();
    await goTo(page, 'Stage');
    await page.getByLabel('Empty shot').getByRole('button', { name: 'bay' }).click();
    await type(page, 'Depth', 6);
    await goTo(page, 'Pictures');
    await page.getByLabel('Choose pictures').setInputFiles({ name: 'hull.png', mimeType: 'image/png', buffer: await hullOnGreen() });
    await page.getByRole('listitem').filter({ hasText: 'hull' }).getByRole('button', { name: 'Cut', exact: true }).click();
    await page.getByTestId('cut-view').waitFor();
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.getByRole('button', { name: 'Remove screen' }).click();
    await covered(page);
    await shot(page, '11-key');
    await liftOut(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await row(page, 'Piece 1').click();
    await type(page, 'Depth', 2);
    await shot(page, '11-stage');
    for (const words of ['HIGH WATER', 'at nine tonight']) {
      await addText(page, words);
      await type(page, 'Depth', 4);
      await type(page, 'Size', words === 'HIGH WATER' ? 130 : 60);
      await type(page, 'Y', words === 'HIGH WATER' ? -60 : 60);
    }
    // The pane behind the hull's stern: what is in it is seen.
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Rectangle' }).click();
    await row(page, 'Rectangle').waitFor();
    await type(page, 'Width', 2000);
    await type(page, 'Height', 900);
    await shot(page, '11-pane');
    void [addText, arrive, spread, where, goToFrame, expect];
  });
});
