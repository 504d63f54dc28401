import { expect } from 'chai';
import type { Page } from 'playwright-core';
import type { Layer } from '../core/document/layer.ts';
import { onPage, saved, useApp } from './harness.ts';
import { addText } from './scene-maker.ts';
import { card, field, openStage, projectWith, row, stored } from './stage-world.ts';

/* What was typed and not yet taken when something else is pressed belongs to what it was typed for. */

describe('typing that is left by a press', () => {
  const app = useApp();

  const layers = async (page: Page): Promise<Layer[]> => (await stored(page)).shots[0]!.layers;
  const rotations = async (page: Page): Promise<Record<string, unknown>> =>
    Object.fromEntries((await layers(page)).map((layer) => [layer.name, layer.rotation]));

  const twoCards = async (): Promise<Page> => {
    const url = await projectWith(app, (d) => [
      card(d, 'flag', [200, 60, 40]),
      card(d, 'mast', [60, 60, 200], 3, [120, 60]),
    ]);
    return openStage(app, url);
  };

  const typeRotation = async (page: Page, degrees: string): Promise<void> => {
    await field(page, 'Rotation').click();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(degrees);
  };

  it('turns the layer it was typed for, not the one that is pressed on the rack or in the view', async () => {
    const page = await twoCards();
    await row(page, 'flag').click();
    await typeRotation(page, '17');
    await row(page, 'mast').click();
    await saved(page);
    expect(await rotations(page)).to.deep.equal({ flag: { value: 17 }, mast: { value: 0 } });
    expect(await field(page, 'Rotation').inputValue()).to.equal('0');
    await typeRotation(page, '5');
    // In the view, beside everything: nothing is chosen any more.
    const view = page.getByTestId('stage-view');
    await page.mouse.click(...(await onPage(view, [20, 20])));
    await saved(page);
    expect(await rotations(page)).to.deep.equal({ flag: { value: 17 }, mast: { value: 5 } });
  });

  it('names and words are those of what they were typed for', async () => {
    const page = await twoCards();
    await addText(page, 'Ebb');
    await addText(page, 'Flow');
    const words = page.getByRole('textbox', { name: 'Words', exact: true });
    await words.click();
    await page.keyboard.press('End');
    await page.keyboard.type(' tide');
    await row(page, 'Ebb').click();
    await saved(page);
    const texts = (await layers(page)).flatMap(({ source }) => (source.kind === 'text' ? [source.text] : []));
    expect(texts.sort()).to.deep.equal(['Ebb', 'Flow tide']);
    await row(page, 'mast').focus();
    await page.keyboard.press('F2');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('Tall mast');
    await row(page, 'flag').click();
    await saved(page);
    const names = (await layers(page)).map(({ name }) => name);
    expect(names).to.include.members(['flag', 'Tall mast']);
  });
});
