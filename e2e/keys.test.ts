import { expect } from 'chai';
import { becomes, colourShown, covered, goTo, liftOut, onPage, saved, startWith, useApp } from './harness.ts';
import { eightFloats, figureOnGreen, floatOverBoards, holedFigure, sparksOnBlack } from './photos.ts';

describe('cutting by colour and brightness', () => {
  const app = useApp();

  it('a figure on uneven green stands clean on a new colour; its recipe is changed and its layer follows', async () => {
    const page = await startWith(app, await figureOnGreen());
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.getByRole('button', { name: 'Remove screen' }).click();
    // Body and neck, as they were drawn: 84 x 128 and 20 x 46 around their middles.
    expect(await covered(page)).to.be.closeTo(13.4, 0.8);
    await page.getByRole('radio', { name: 'On a colour' }).click();
    expect(await colourShown(page, 40, 40)).to.deep.equal([216, 36, 154]);
    expect(await colourShown(page, 610, 390)).to.deep.equal([216, 36, 154]);
    for (let x = 238; x < 250; x++) {
      const [r, g, b] = (await colourShown(page, x, 230)) as [number, number, number];
      expect(g - Math.max(r, b), `no green at ${x}`).to.be.at.most(3);
    }
    await liftOut(page);
    await page.getByRole('button', { name: 'Sample', exact: true }).click();
    const view = page.getByTestId('cut-view');
    const box = (await view.boundingBox())!;
    await page.mouse.click(box.x + box.width * 0.2, box.y + box.height * 0.5);
    await page.getByRole('button', { name: 'Remove sample 1' }).waitFor();
    await page.keyboard.press('s');
    await page.getByRole('textbox', { name: 'Grow or shrink' }).fill('-3');
    await page.getByRole('textbox', { name: 'Grow or shrink' }).press('Enter');
    await page.getByText(/The piece covers 12/).waitFor();
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().waitFor();
    // Nothing is rebuilt behind what stood before a screen.
    await becomes(() => page.locator('[data-layer]').count(), 1);
  });

  it('sparks are unveiled and come onto the scene', async () => {
    const page = await startWith(app, await sparksOnBlack());
    await page.getByRole('button', { name: /^Brightness/ }).click();
    await page.getByRole('radio', { name: /Unveil/ }).click();
    await covered(page);
    await page.getByRole('radio', { name: 'Alpha only' }).click();
    const dark = await colourShown(page, 620, 20);
    const bright = await colourShown(page, 84, 352);
    expect(dark[0]).to.be.lessThan(16);
    expect(bright[0]).to.be.greaterThan(150);
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().waitFor();
    await becomes(() => page.locator('[data-layer]').count(), 1);
  });

  it('a box takes just what is in it; brushes restore and wipe, and a reload finds all of it', async () => {
    const page = await startWith(app, await floatOverBoards());
    await page.keyboard.press('b');
    const view = page.getByTestId('cut-view');
    const at = (u: number, v: number) => onPage(view, [u, v]);
    await page.mouse.move(...(await at(240, 100)));
    await page.mouse.down();
    await page.mouse.move(...(await at(402, 262)), { steps: 5 });
    await page.mouse.up();
    const found = await covered(page);
    expect(found).to.be.closeTo((100 * Math.PI * 70 * 70) / (640 * 420), 0.5);
    await page.keyboard.press('x');
    await page.mouse.move(...(await at(320, 180)));
    await page.mouse.down();
    await page.mouse.up();
    await page.getByText('1 brush stroke', { exact: true }).waitFor();
    await page.keyboard.press('Escape');
    const wiped = await covered(page);
    expect(wiped).to.be.lessThan(found);
    await saved(page);
    await page.reload();
    await page.getByText('1 brush stroke', { exact: true }).waitFor();
    expect(await covered(page)).to.be.closeTo(wiped, 0.05);
    await page.getByRole('button', { name: 'Remove all brush strokes' }).click();
    await page.getByText(`The piece covers ${found.toFixed(1)} %`).waitFor();
  });

  it('eight floats become eight layers with one press, each about its own middle; undo makes them one again', async () => {
    const page = await startWith(app, await eightFloats());
    await page.getByRole('button', { name: 'Find subject' }).click();
    expect(await covered(page)).to.be.closeTo(15.5, 1.5);
    await page.getByRole('button', { name: 'Split by object' }).click();
    await page.getByText('Parted into 8 pieces, each with its own layer.').waitFor();
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().waitFor();
    await becomes(() => page.locator('[data-layer]').count(), 9);
    await page.locator('[data-layer]').first().click();
    const middle = async (axis: 'X' | 'Y'): Promise<number> =>
      Number(await page.getByRole('textbox', { name: axis, exact: true }).inputValue());
    // In frame pixels around the middle: one of four columns and two rows of the table.
    const size = await page.getByRole('textbox', { name: 'Scale', exact: true }).inputValue();
    const scale = Number(size) / 100;
    const column = ((await middle('X')) / scale + 320 - 95) / 150;
    const row = ((await middle('Y')) / scale + 210 - 120) / 180;
    expect(Math.abs(column - Math.round(column))).to.be.lessThan(0.02);
    expect(Math.abs(row - Math.round(row))).to.be.lessThan(0.02);
    await page.getByRole('button', { name: 'Undo: Split by object' }).click();
    await becomes(() => page.locator('[data-layer]').count(), 2);
  });

  it('a hole is found by the check, gone to, and mended; undo opens it again', async () => {
    const page = await startWith(app, await holedFigure());
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.getByRole('button', { name: 'Remove screen' }).click();
    const before = await covered(page);
    await page.getByRole('button', { name: 'Check the piece' }).click();
    const findings = page.getByRole('list', { name: 'Findings' });
    await findings.getByText('Hole').waitFor();
    const view = page.getByTestId('cut-view');
    const far = await view.getAttribute('data-view');
    await findings.getByTitle('Go there').click();
    await page.waitForFunction(
      (was) => document.querySelector('[data-testid=cut-view]')!.getAttribute('data-view') !== was,
      far,
    );
    await page.getByRole('button', { name: 'Fix finding 1' }).click();
    await page.getByRole('button', { name: 'Undo: Fix hole' }).waitFor();
    expect((await covered(page)) - before).to.be.closeTo((100 * Math.PI * 11 * 11) / (640 * 420), 0.08);
    await page.getByRole('button', { name: 'Check the piece' }).click();
    await page.getByText('No holes, specks, leftovers or fringes are left.').waitFor();
    await page.getByRole('button', { name: 'Undo: Fix hole' }).click();
    await page.getByText(`The piece covers ${before.toFixed(1)} %`).waitFor();
  });
});
