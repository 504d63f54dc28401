import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { becomes, covered, goTo, liftOut, saved, startWith, useApp } from './harness.ts';
import { floatOverBoards, letteredBoards, letters, railAt, shadowAt, slantingRail, tileWall } from './photos.ts';
import { draw, idle, openBackground, storedPlate, storedProject, type Pixels } from './plates.ts';

describe('the background', () => {
  const app = useApp();

  const start = (photo: Buffer) => startWith(app, photo);
  const stored = (page: Page) => storedProject(app, page);
  const plate = (page: Page) => storedPlate(app, page);

  it('a float and its shadow are lifted; raised, it leaves neither ghost nor hole', async () => {
    const page = await start(await floatOverBoards());
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await liftOut(page);
    await page.getByRole('link', { name: 'Lift its shadow too' }).click();
    // It is looked for by itself.
    await page.getByRole('button', { name: 'Start over' }).waitFor();
    await page.getByRole('button', { name: 'Lift shadow' }).click();
    await page.getByRole('button', { name: 'Undo: Lift shadow' }).waitFor();
    const ground = await plate(page);
    // No ghost: where float and shadow were, boards as bright as beside them; no hole: all of it opaque.
    for (const [x, y] of [
      [320, 180],
      [340, 300],
      [300, 310],
      [380, 300],
    ] as const) {
      const brightness = [0, 8, 16, 24].map((dx) => ground.at(x + dx, y)[1]!);
      expect(Math.max(...brightness), `${x},${y}`).to.be.within(110, 185);
      expect(ground.at(x, y)[3]).to.equal(255);
      expect(Math.max(...brightness.map((b, k) => ground.at(x + k * 8, y)[0]! - b)), 'no orange').to.be.lessThan(40);
    }
    expect(shadowAt(340, 300)).to.be.greaterThan(0.5);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().waitFor();
    await becomes(() => page.locator('[data-layer]').count(), 3);
    await page.locator('[data-layer]').first().click();
    const y = page.getByRole('textbox', { name: 'Y', exact: true });
    await y.fill(String(Number(await y.inputValue()) - 200));
    await y.press('Enter');
    await page.locator('[data-layer]').nth(1).click();
    await page.getByRole('button', { name: /^Ties/ }).click();
    await becomes(
      () => page.getByRole('combobox', { name: 'Fastened to' }).locator('option:checked').textContent(),
      'Piece 1',
    );
  });

  it('a square picture becomes wide, from the second of four takes; a reload finds the same pixels', async () => {
    const page = await start(await tileWall());
    await openBackground(page);
    await page.keyboard.press('w');
    await page.getByRole('button', { name: '16:9', exact: true }).click();
    await page.getByRole('button', { name: 'Widen', exact: true }).click();
    await page.getByRole('radio', { name: 'Take 4' }).waitFor();
    await idle(page);
    await page.getByRole('radio', { name: 'Take 2' }).click();
    await page.getByRole('button', { name: /Undo: Choose take/ }).waitFor();
    const step = (await stored(page)).document.pictures[0]!.background!.steps[0]!;
    expect([step.kind, step.seed, step.takes!.length]).to.deep.equal(['widen', 2, 4]);
    const wide = await plate(page);
    expect([wide.width, wide.height]).to.deep.equal([853, 480]);
    // Joints go on every 40 pixels to both sides: most dark pixels of a row between two joints lie where they belong.
    const left = 186;
    let [dark, inStep] = [0, 0];
    for (let x = 0; x < 853; x++) {
      if (x >= left && x < left + 480) continue;
      if (wide.at(x, 220)[0]! > 140) continue;
      dark++;
      if ((((x - left) % 40) + 44) % 40 < 12) inStep++;
    }
    expect(dark).to.be.within(15, 70);
    expect(inStep / dark).to.be.greaterThan(0.7);
    const fileNow = async (): Promise<string> => (await stored(page)).document.pictures[0]!.background!.steps[0]!.file;
    await page.reload();
    await page.getByTestId('plate-view').waitFor();
    const first = await fileNow();
    expect(first).to.equal(step.file);
    await page.getByRole('radio', { name: 'Take 1' }).click();
    await becomes(async () => (await fileNow()) === first, false);
    await page.getByRole('button', { name: /Undo: Choose take/ }).click();
    await becomes(fileNow, first);
  });

  it('letters are brushed away stroke by stroke, as one step; undo brings them back', async () => {
    const page = await start(await letteredBoards());
    const view = await openBackground(page);
    await page.keyboard.press('b');
    const { x, y } = letters;
    for (const stroke of [
      [
        [x + 4, y],
        [x + 4, y + 60],
      ],
      [
        [x + 36, y],
        [x + 36, y + 60],
      ],
      [
        [x + 4, y + 30],
        [x + 36, y + 30],
      ],
      [
        [x + 64, y],
        [x + 64, y + 56],
        [x + 98, y + 56],
      ],
    ] as [number, number][][]) {
      await draw(page, view, stroke);
      await page.getByRole('button', { name: 'Undo: Brush away' }).waitFor();
      await idle(page);
    }
    await page.getByText('4 marks').waitFor();
    const blue = (p: Pixels): number => {
      let n = 0;
      for (let v = y - 4; v < y + 64; v++)
        for (let u = x - 4; u < x + 104; u++) if (p.at(u, v)[2]! > p.at(u, v)[0]! + 30) n++;
      return n;
    };
    expect(blue(await plate(page))).to.equal(0);
    await page.keyboard.press('Control+z');
    await page.getByText('3 marks').waitFor();
    expect(blue(await plate(page))).to.be.greaterThan(300);
  });

  it('a guide line keeps a handrail straight through a rebuilt region', async () => {
    const page = await start(await slantingRail());
    const view = await openBackground(page);
    await page.keyboard.press('r');
    await page.getByRole('slider', { name: 'Size' }).fill('60');
    await draw(page, view, [
      [320, railAt(320) - 20],
      [320, railAt(320) + 20],
    ]);
    await page.keyboard.press('g');
    await draw(page, view, [
      [150, railAt(150)],
      [490, railAt(490)],
    ]);
    await page.getByText('1 stroke, 1 guide').waitFor();
    await page.keyboard.press('m');
    await page.getByRole('radio', { name: 'Take 1' }).waitFor();
    await page.getByRole('button', { name: 'Undo: Rebuild' }).waitFor();
    await idle(page);
    const made = await plate(page);
    let onRail = 0;
    for (let x = 270; x < 370; x++) if (made.at(x, Math.round(railAt(x)))[0]! > 180) onRail++;
    expect(onRail).to.be.greaterThan(92);
    await saved(page);
  });

  it('is stopped by Cancel and leaves everything as it was', async () => {
    const page = await start(
      await sharp(await letteredBoards())
        .resize(2000)
        .png()
        .toBuffer(),
    );
    const view = await openBackground(page);
    await page.keyboard.press('r');
    await page.getByRole('slider', { name: 'Size' }).fill('100');
    await draw(page, view, [
      [900, 650],
      [1100, 650],
    ]);
    await page.getByRole('button', { name: 'Rebuild', exact: true }).click();
    await page.getByRole('button', { name: 'Cancel' }).click();
    await page.getByText('Stopped; nothing changed.').waitFor();
    await page.getByText('As it came. What you do here is kept as steps.').waitFor();
  });
});
