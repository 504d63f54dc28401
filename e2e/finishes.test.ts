import { expect } from 'chai';
import type { Locator, Page } from 'playwright-core';
import { addLayer } from '../core/edits/arrange-edits.ts';
import type { Edit } from '../core/edits/edit.ts';
import type { Document } from '../core/document/document.ts';
import { becomes, saved, useApp } from './harness.ts';
import { card, field, goToFrame, isColour, onPage, openStage, projectWith, row, seen, unfold } from './stage-world.ts';

const red: [number, number, number] = [200, 60, 40];

describe('finishes', () => {
  const app = useApp();
  const finishes = (page: Page): Locator => page.getByRole('list', { name: 'Finishes' }).getByRole('listitem');
  const finish = (page: Page, name: string): Locator => finishes(page).filter({ hasText: name });
  const names = (page: Page): Promise<(string | null)[]> =>
    finishes(page).evaluateAll((items) => items.map((item) => item.getAttribute('aria-label')));
  const add = async (page: Page, name: string): Promise<void> => {
    await page.getByRole('button', { name: 'Add finish', exact: true }).click();
    await page.getByRole('searchbox', { name: 'Search finishes' }).fill(name);
    const tile = page.getByRole('dialog').getByRole('button', { name: new RegExp(`^${name}`) });
    // Every tile is this very layer, with the finish.
    await tile.locator('[data-ready=true]').waitFor();
    await tile.click();
    await finish(page, name).waitFor();
  };
  const setIn = async (page: Page, name: string, label: string, value: string): Promise<void> => {
    const input = finish(page, name).getByRole('textbox', { name: label, exact: true });
    await input.fill(value);
    await input.press('Enter');
  };
  const colour = (page: Page, name: string, label: string, hex: string): Promise<void> =>
    finish(page, name).getByLabel(label, { exact: true }).fill(hex);
  const undo = (page: Page): Promise<void> => page.keyboard.press('Control+z');
  const open = async (edits: (document: Document) => Edit[], name = 'Finished'): Promise<Page> => {
    const page = await openStage(app, await projectWith(app, edits, name));
    return page;
  };
  /** Presses, moves in many small steps, and lets go. */
  const slowly = async (page: Page, from: [number, number], to: [number, number]): Promise<void> => {
    await page.mouse.move(...from);
    await page.mouse.down();
    for (let k = 1; k <= 24; k++) {
      await page.mouse.move(from[0] + ((to[0] - from[0]) * k) / 24, from[1] + ((to[1] - from[1]) * k) / 24);
      await page.waitForTimeout(12);
    }
    await page.mouse.up();
  };

  it('are chosen by eye, set, ordered, muted, copied to another layer, and all of it undone', async () => {
    const page = await open((d) => [card(d, 'float', red, 3, [-200, 0]), card(d, 'buoy', red, 3, [200, 0])]);
    await row(page, 'float').click();
    await add(page, 'Invert');
    await add(page, 'Outline');
    await setIn(page, 'Outline', 'Width', '20');
    await colour(page, 'Outline', 'Colour', '#0000ff');
    let at = await seen(page);
    expect(at(-200, 0)).to.satisfy((c: number[]) => isColour(c, [55, 195, 215]));
    expect(at(-270, 0)).to.satisfy((c: number[]) => isColour(c, [0, 0, 255]));
    // The order is the order of the work: inverted after the outline, the line is inverted too.
    await finish(page, 'Outline')
      .getByRole('button', { name: /^Move Outline/ })
      .focus();
    await page.keyboard.press('ArrowUp');
    expect(await names(page)).to.deep.equal(['Outline', 'Invert']);
    at = await seen(page);
    expect(at(-270, 0)).to.satisfy((c: number[]) => isColour(c, [255, 255, 0]));
    await finish(page, 'Invert').getByRole('button', { name: 'Mute Invert' }).click();
    at = await seen(page);
    expect(at(-270, 0)).to.satisfy((c: number[]) => isColour(c, [0, 0, 255]));
    expect(at(-200, 0)).to.satisfy((c: number[]) => isColour(c, red));
    // While U is held the layer is seen without any.
    await page.locator('body').evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.down('u');
    at = await seen(page);
    expect(at(-270, 0)).to.satisfy((c: number[]) => isColour(c, [0, 0, 0]));
    await page.keyboard.up('u');
    await page.getByRole('button', { name: 'Copy finishes' }).click();
    await row(page, 'buoy').click();
    await page.getByRole('button', { name: 'Paste finishes' }).click();
    expect(await names(page)).to.deep.equal(['Outline', 'Invert']);
    at = await seen(page);
    expect(at(270, 0)).to.satisfy((c: number[]) => isColour(c, [0, 0, 255]));
    await finish(page, 'Outline').getByRole('button', { name: 'Duplicate Outline' }).click();
    await finish(page, 'Invert').getByRole('button', { name: 'Delete Invert' }).click();
    expect(await names(page)).to.deep.equal(['Outline', 'Outline']);
    await page.locator('body').evaluate(() => (document.activeElement as HTMLElement).blur());
    for (let k = 0; k < 3; k++) await undo(page);
    await becomes(() => finishes(page).count(), 0);
    for (let k = 0; k < 6; k++) await undo(page);
    await row(page, 'float').click();
    await becomes(() => finishes(page).count(), 0);
    at = await seen(page);
    expect(at(-270, 0)).to.satisfy((c: number[]) => isColour(c, [0, 0, 0]));
  });

  it('a glow moves nothing: place, size and handles of its layer stay', async () => {
    const page = await open((d) => [card(d, 'lamp', [250, 240, 200], 3, [-80, 40])]);
    await row(page, 'lamp').click();
    const facts = async (): Promise<string[]> => {
      const values = ['X', 'Y', 'Scale', 'Rotation'].map((name) => field(page, name).inputValue());
      const handles = await page
        .getByTestId('stage-view')
        .locator('> svg rect, > svg circle')
        .evaluateAll((all) => all.map((one) => ['x', 'y', 'cx', 'cy'].map((a) => one.getAttribute(a)).join()));
      return [...(await Promise.all(values)), ...handles];
    };
    const before = await facts();
    await add(page, 'Edge glow');
    await setIn(page, 'Edge glow', 'Size', '120');
    const at = await seen(page);
    expect(at(-80, 100)[0]).to.be.greaterThan(60);
    expect(await facts()).to.deep.equal(before);
  });

  it('one hue is recoloured, by keys another at each of three frames, and nothing else', async () => {
    const page = await open((d) => [card(d, 'flag', red, 3, [-150, 0]), card(d, 'sea', [40, 90, 200], 3, [150, 0])]);
    await row(page, 'flag').click();
    await row(page, 'sea').click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+g');
    await row(page, 'Group').click();
    await add(page, 'Recolour');
    // The colour is taken from the view itself.
    await finish(page, 'Recolour').getByRole('button', { name: 'Take From from the view' }).click();
    // Meanwhile the layer is seen as it is without its finishes.
    await page.locator('[data-busy=false]').waitFor();
    await seen(page);
    await page.mouse.click(...(await onPage(page, -150, 0)));
    const wanted: [number, string, [number, number, number]][] = [
      [0, '#28a03c', [40, 160, 60]],
      [20, '#d2be28', [210, 190, 40]],
      [40, '#a03cc8', [160, 60, 200]],
    ];
    for (const [at, hex] of wanted) {
      await goToFrame(page, at);
      await colour(page, 'Recolour', 'To', hex);
      if (at === 0) await finish(page, 'Recolour').getByRole('button', { name: 'Recolour: To keyframe here' }).click();
    }
    for (const [frame, , shown] of wanted) {
      await goToFrame(page, frame);
      const at = await seen(page);
      expect(at(-150, 0), `frame ${frame}`).to.satisfy((c: number[]) => isColour(c, shown, 40));
      expect(at(150, 0)).to.satisfy((c: number[]) => isColour(c, [40, 90, 200], 6));
    }
    await page.getByText('Recolour: To', { exact: false }).first().waitFor();
  });

  it('a grade layer darkens the back only', async () => {
    const page = await open((d) => [
      addLayer(
        d.shots[0]!.id,
        { id: 'sky', name: 'sky', depth: 30 },
        { source: { kind: 'colour' }, colour: [120, 160, 200, 1] },
      ),
      card(d, 'near', red, 2, [-150, 0]),
    ]);
    await page.getByRole('button', { name: 'New layer', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Grade layer' }).click();
    await add(page, 'Light and contrast');
    await setIn(page, 'Light and contrast', 'Light', '-40');
    let at = await seen(page);
    expect(at(-150, 0)[0]).to.be.lessThan(150);
    // Behind the near card it leaves that alone.
    await field(page, 'Depth').fill('6');
    await field(page, 'Depth').press('Enter');
    at = await seen(page);
    expect(at(-150, 0)).to.satisfy((c: number[]) => isColour(c, red, 8));
    expect(at(150, 0)[2]).to.be.lessThan(130);
  });

  it('a curve is bent by hand in many small moves, as one step, and by keys', async () => {
    const page = await open((d) => [card(d, 'grey', [128, 128, 128])]);
    await row(page, 'grey').click();
    await add(page, 'Curves');
    const curve = page.getByTestId('curve');
    const box = (await curve.boundingBox())!;
    const middle: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
    await slowly(page, middle, [middle[0], box.y + 12]);
    let at = await seen(page);
    expect(at(0, 0)[0]).to.be.greaterThan(215);
    const point = curve.getByRole('slider', { name: 'Point 2' });
    await point.focus();
    for (let k = 0; k < 12; k++) await page.keyboard.press('Shift+ArrowDown');
    at = await seen(page);
    const lowered = at(0, 0)[0]!;
    expect(lowered).to.be.within(90, 140);
    await page.keyboard.press('Delete');
    at = await seen(page);
    expect(at(0, 0)).to.satisfy((c: number[]) => isColour(c, [128, 128, 128], 4));
  });

  it('a set with a name is used in another project', async () => {
    const first = await open((d) => [card(d, 'lamp', red)], 'Evening');
    await row(first, 'lamp').click();
    await add(first, 'Invert');
    await add(first, 'Grain');
    await first.getByRole('button', { name: 'Sets of finishes' }).click();
    await first.getByRole('menuitem', { name: 'Save these as a set' }).click();
    await first.getByRole('textbox', { name: 'Name of the set' }).fill('Negative film');
    await first.keyboard.press('Enter');
    await saved(first);
    const second = await open((d) => [card(d, 'boat', [30, 30, 30])], 'Morning');
    await row(second, 'boat').click();
    await unfold(second, 'Finish');
    await second.getByRole('button', { name: 'Sets of finishes' }).click();
    await second.getByRole('menuitem', { name: 'Negative film' }).click();
    expect(await names(second)).to.deep.equal(['Invert', 'Grain']);
    const at = await seen(second);
    expect(at(0, 0)).to.satisfy((c: number[]) => isColour(c, [225, 225, 225], 45));
  });
});
