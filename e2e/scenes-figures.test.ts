import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { covered, dropFiles, goTo, liftOut, onPage, startWith, useApp } from './harness.ts';
import { idle, openBackground } from './plates.ts';
import { exported, spread, where } from './scene-maker.ts';
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

describe('scene 13, two on the pier', () => {
  const app = useApp();

  it('two figures on their shadows before a clean plate: the near one grows more, the far end is soft', async () => {
    const page = await startWith(app, await twoOnThePier(), 'pier.png');
    for (const who of ['near', 'far'] as const) {
      const { x, feet, tall } = onPier[who];
      if (who === 'far') await page.getByRole('button', { name: 'New piece' }).click();
      await findInBox(page, [x - tall * 0.26, feet - tall * 1.05], [x + tall * 0.26, feet + tall * 0.03]);
      await liftOut(page);
      await page.getByRole('link', { name: 'Lift its shadow too' }).click();
      await page.getByRole('button', { name: 'Start over' }).waitFor();
      await page.getByRole('button', { name: 'Lift shadow' }).click();
      await page.getByRole('button', { name: 'Undo: Lift shadow' }).waitFor();
      await goTo(page, 'Cut');
    }
    await goTo(page, 'Pictures');
    await dropFiles(page, 'main > div', [{ name: 'empty.png', type: 'image/png', bytes: await twoOnThePier(true) }]);
    await page.getByText('empty', { exact: true }).waitFor();
    await goTo(page, 'Cut');
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
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    // The near one stands nearer, the far one farther: in the push of the proposed move they grow unlike.
    await row(page, 'Piece 1').click();
    await type(page, 'Depth', 2);
    await row(page, 'Piece 2').click();
    await type(page, 'Depth', 4.5);
    await row(page, 'pier background').click();
    await page.getByRole('button', { name: 'Add finish', exact: true }).click();
    await page.getByRole('dialog').getByRole('button', { name: /^Blur/ }).click();
    const blur = page.getByRole('listitem', { name: 'Blur', exact: true });
    await blur.getByRole('combobox', { name: 'Border' }).selectOption('goes on');
    await blur.getByRole('combobox', { name: 'Area', exact: true }).selectOption('one side');
    await blur.getByRole('textbox', { name: 'Area centre Y' }).fill('45');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: /^Lens/ }).first().click();
    await unfold(page, 'Shake');
    await type(page, 'Amount', 6);
    const video = await exported(page, [0.02, 1.95], 'pier');
    const { width, height } = video;
    /** Left, right, top and bottom of what has a colour. */
    const box = (k: number, is: (r: number, g: number, b: number) => boolean): number[] => {
      const points = where(video.pictures[k]!, width, is);
      return [...spread(points, 0), ...spread(points, 1)];
    };
    const isCoat = (r: number, g: number, b: number): boolean => r > 140 && g < 90 && b < 80;
    const isYellow = (r: number, g: number, b: number): boolean => r > 170 && g > 130 && b < 110 && r - b > 90;
    const growth = [isCoat, isYellow].map((is) => {
      const [first, last] = [box(0, is), box(1, is)];
      return (last[3]! - last[2]!) / (first[3]! - first[2]!);
    });
    expect(growth[0]).to.be.above(1.1);
    expect(growth[0]! - 1).to.be.above(1.5 * (growth[1]! - 1));
    // Each stands on its shadow in both pictures: beside its feet the boards are darker than further out.
    const luma = (k: number, x: number, y: number): number => {
      let sum = 0;
      for (let v = -4; v <= 4; v++)
        sum += video.pictures[k]!.data[((Math.round(y) + v) * width + Math.round(x)) * 4 + 1]! / 9;
      return sum;
    };
    for (const k of [0, 1])
      for (const is of [isCoat, isYellow]) {
        const [left, right, top, foot] = box(k, is) as [number, number, number, number];
        const tall = foot - top;
        const shade = luma(k, right - 0.03 * tall, foot + 0.01 * tall);
        expect(shade, `picture ${k}`).to.be.below(0.82 * luma(k, left - 0.3 * tall, foot + 0.01 * tall));
      }
    // The far end is soft: where sea meets sky the steps are small, between the near boards they are not.
    const steepest = (from: number, to: number, low: number, high: number): number => {
      let most = 0;
      for (let x = Math.round(from * width); x < to * width; x++)
        for (let y = Math.round(low * height); y < high * height; y++) {
          const at = (v: number): number => video.pictures[0]!.data[(v * width + x) * 4]!;
          most = Math.max(most, Math.abs(at(y + 1) - at(y)));
        }
      return most;
    };
    expect(steepest(0.1, 0.3, 0.28, 0.44)).to.be.below(0.5 * steepest(0.4, 0.5, 0.75, 0.95));
  });
});
