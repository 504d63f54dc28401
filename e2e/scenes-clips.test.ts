import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { filmed } from './films.ts';
import { tinCrab } from '../demo/clips/tin-crab.ts';
import { covered, dropFiles, goTo, liftOut, onPage, saved, useApp } from './harness.ts';
import { exported } from './scene-maker.ts';
import { goToFrame, row, type, unfold } from './stage-world.ts';

/* Scenes made of films, from clips as they come to a played file, through the interface alone. */

/** Frame pixels a pixel of the film takes. */
const larger = 2;

describe('scene 6, sparks over a claw', () => {
  const app = useApp();
  let film: Buffer;

  before(async function () {
    this.timeout(120_000);
    film = await filmed(app.browser, tinCrab, 48, 5e6);
  });

  const keyHere = async (page: Page, ...names: string[]): Promise<void> => {
    for (const name of names)
      await page
        .getByLabel('Selection')
        .getByRole('button', { name: `${name} keyframe here`, exact: true })
        .click();
  };

  it('sparks chosen out of four ways fade in out of a blur, grow, follow the claw, and all runs back after a hold', async () => {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', [{ name: 'crab.mp4', type: 'video/mp4', bytes: film }]);
    await page.getByTestId('cut-view').waitFor();
    await goTo(page, 'Stage');
    await page.getByLabel('Empty shot').getByRole('button', { name: 'crab' }).click();
    await type(page, 'Depth', 6);
    await unfold(page, 'Followed points');
    await page.getByRole('button', { name: 'Follow a point' }).click();
    const [cx, cy] = tinCrab.point!(0);
    await page.mouse.click(...(await onPage(page.getByTestId('stage-view'), [cx * larger, cy * larger])));
    await page.getByText('Followed through the whole clip').waitFor();
    // The sparks: four ways to be rid of their black are seen on the scene itself.
    await goTo(page, 'Pictures');
    const sparks = await readFile(join(import.meta.dirname, '../demo/pictures/sparks.webm'));
    await page
      .getByLabel('Choose pictures')
      .setInputFiles({ name: 'sparks.webm', mimeType: 'video/webm', buffer: sparks });
    await page.getByText('3.0 s').waitFor();
    const item = page.getByRole('listitem').filter({ hasText: 'sparks' });
    await item.getByRole('button', { name: 'Cut', exact: true }).click();
    await page.getByTestId('cut-view').waitFor();
    await page.getByRole('button', { name: /^Brightness/ }).click();
    await page.getByRole('radio', { name: /Dark goes/ }).click();
    await covered(page);
    await page.getByRole('button', { name: 'Compare on the scene' }).click();
    const ways = page.getByRole('radiogroup', { name: 'Ways to drop black' });
    await ways.getByRole('radio', { name: /Screen/ }).click();
    await ways.waitFor({ state: 'detached' });
    await liftOut(page);
    await goTo(page, 'Stage');
    await row(page, 'Piece 1').click();
    await type(page, 'Depth', 5);
    // The sparkler's tip is at (470, 250) of its film: it comes to stand 40 pixels above the claw.
    const size = 60;
    const tip = [470 - 480, 250 - 270].map((v) => v * larger * (size / 200)) as [number, number];
    await type(page, 'Scale', size);
    await type(page, 'X', Math.round(cx * larger - 960 - tip[0]));
    await type(page, 'Y', Math.round(cy * larger - 540 - 130 - tip[1]));
    await unfold(page, 'Ties');
    await page.getByLabel('Selection').getByLabel('Fastened to').selectOption({ label: 'crab: Point 1' });
    await unfold(page, 'Look');
    await goToFrame(page, 19);
    await keyHere(page, 'Opacity', 'Blur', 'Scale');
    await goToFrame(page, 0);
    await type(page, 'Opacity', 0);
    await type(page, 'Blur', 40);
    await type(page, 'Scale', 25);
    // All of it runs back from a second and a half on, held for a second.
    for (const name of ['crab', 'Piece 1']) {
      await row(page, name).click();
      await unfold(page, 'Time');
      await goToFrame(page, 36);
      await page.getByRole('button', { name: 'Run back' }).click();
      await type(page, 'Hold for', 1);
      await page.getByRole('button', { name: 'Hold here' }).click();
      await saved(page);
    }
    await page.keyboard.press('Escape');
    await type(page, 'Length', 4);
    const video = await exported(page, [0.02, 1.42, 2.02, 3.58], 'crab');
    const shares = video.width / (tinCrab.width * larger);
    /** The middle of the sparks' light beside the claw, in pixels of the film. */
    const light = ({ data }: { data: Uint8Array }, index: number): { x: number; y: number; n: number } => {
      const [px, py] = tinCrab.point!(index);
      let [x, y, n] = [0, 0, 0];
      const reach = 90;
      for (let v = py - 65 - reach; v < py - 12; v += 0.5)
        for (let u = px - reach; u < px + reach; u += 0.5) {
          const i = (Math.round(v * larger * shares) * video.width + Math.round(u * larger * shares)) * 4;
          if (data[i]! < 215 || data[i + 1]! < 150) continue;
          x += u;
          y += v;
          n++;
        }
      return { x: x / n, y: y / n, n };
    };
    const [begun, open, held, back] = video.pictures;
    const at = (seconds: number): number => Math.floor(seconds * tinCrab.rate);
    expect(light(begun!, 0).n, 'nothing yet').to.be.lessThan(150);
    for (const [picture, index] of [
      [open!, at(1.42)],
      [held!, at(1.5)],
      [back!, at(4 - 3.58)],
    ] as const) {
      const found = light(picture, index);
      const [px, py] = tinCrab.point!(index);
      expect(found.n, `light by frame ${index}`).to.be.greaterThan(60);
      expect(Math.abs(found.x - px), `beside the claw in frame ${index}`).to.be.lessThan(22);
      // It never touches the claw.
      expect(py - found.y).to.be.within(30, 100);
    }
  });
});
