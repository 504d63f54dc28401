import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { type LayerSource } from '../core/document/layer.ts';
import { plainWords } from '../core/document/words.ts';
import type { Document } from '../core/document/document.ts';
import { addLayer } from '../core/edits/arrange-edits.ts';
import type { Edit } from '../core/edits/edit.ts';
import { becomes, dropFiles, useApp } from './harness.ts';
import { addNew } from './scene-maker.ts';
import {
  card,
  field,
  frame,
  goToFrame,
  isColour,
  onPage,
  openStage,
  projectWith,
  row,
  seen,
  stored,
  type,
  unfold,
} from './stage-world.ts';

type Text = Extract<LayerSource, { kind: 'text' }>;
const white = [255, 255, 255];

/** Words as the interface would add them; the room they take is measured once they are set there. */
function words(
  document: Document,
  id: string,
  text: string,
  change: Partial<Text> = {},
  at: [number, number] = [0, 0],
): Edit {
  const source: Text = {
    ...plainWords,
    text,
    face: 'condensed',
    size: 90,
    box: { width: 400, height: 140 },
    ...change,
  };
  const shot = document.shots[0]!.id;
  return addLayer(
    shot,
    { id, name: text, depth: 3, position: at },
    { source, colour: [...white, 1], pivot: [200, 70] },
  );
}

/** How far left and right something white is seen within a band of the frame; null where there is none. */
async function extent(page: Page, top = -200, bottom = 200): Promise<{ left: number; right: number } | null> {
  const at = await seen(page);
  let [left, right] = [Infinity, -Infinity];
  for (let x = -frame.width / 2 + 2; x < frame.width / 2 - 2; x += 3)
    for (let y = top; y < bottom; y += 4)
      if (isColour(at(x, y), white, 60)) [left, right] = [Math.min(left, x), Math.max(right, x)];
  return left > right ? null : { left, right };
}

const layerOf = (document: Document, id: string) => document.shots[0]!.layers.find((l) => l.id === id)!;

async function choose(page: Page, button: string, kind: RegExp): Promise<void> {
  await page.getByRole('button', { name: button }).click();
  await page.getByRole('dialog').getByRole('button', { name: kind }).click();
}

describe('words on the Stage', () => {
  const app = useApp();

  it('letters come from the right one after another and rest where they were set; leaving mirrors it', async () => {
    const url = await projectWith(app, (d) => [words(d, 'title', 'Tide')]);
    const page = await openStage(app, url);
    const rest = (await extent(page))!;
    await row(page, 'Tide').click();
    await choose(page, 'Choose how it arrives', /^Slide in/);
    await type(page, 'Duration', 0.8);
    await page.getByRole('switch', { name: 'Fades in' }).click();
    await page.getByRole('switch', { name: 'Leaves as it arrived' }).click();
    await goToFrame(page, 0);
    expect(await extent(page)).to.equal(null);
    await goToFrame(page, 12);
    const coming = (await extent(page))!;
    expect(coming.left).to.be.closeTo(rest.left, 12);
    expect(coming.right).to.be.greaterThan(rest.right + 10);
    await goToFrame(page, 29);
    const there = (await extent(page))!;
    expect(there.left).to.be.closeTo(rest.left, 4);
    expect(there.right).to.be.closeTo(rest.right, 4);
    await goToFrame(page, 59 - 12);
    const going = (await extent(page))!;
    expect(going.left).to.be.closeTo(coming.left, 4);
    expect(going.right).to.be.closeTo(coming.right, 4);
    // The head on the bar is dragged, slowly.
    await page.getByRole('radio', { name: /^Bars/ }).click();
    const end = page.getByRole('slider', { name: /arrives in 24 frames/ });
    const box = (await end.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + 8);
    await page.mouse.down();
    for (let k = 1; k <= 30; k++) await page.mouse.move(box.x + box.width / 2 - 4 * k, box.y + 8);
    await page.mouse.up();
    const { arrive, leave } = layerOf(await stored(page), 'title');
    expect(arrive!.length).to.be.within(12, 22);
    expect([leave!.mirrors, leave!.length]).to.deep.equal([true, 24]);
    await page.getByRole('slider', { name: /arrives in/ }).focus();
    await page.keyboard.press('ArrowRight');
    expect(layerOf(await stored(page), 'title').arrive!.length).to.equal(arrive!.length + 1);
    for (let k = 0; k < 2; k++) await page.keyboard.press('Control+z');
    expect(layerOf(await stored(page), 'title').arrive!.length).to.equal(24);
  });

  it('words are typed in the view: selected, replaced, coloured letter by letter, wrapped by the side, and undone', async () => {
    const url = await projectWith(app, (d) => [words(d, 'title', 'Tide')]);
    const page = await openStage(app, url);
    const [x, y] = await onPage(page, 0, 0);
    await page.mouse.dblclick(x, y);
    await page.getByTestId('write-in-view').waitFor();
    await page.keyboard.type('Lantern');
    await page.keyboard.press('Enter');
    await page.keyboard.type('Weekk');
    await page.keyboard.press('Backspace');
    for (let k = 0; k < 4; k++) await page.keyboard.press('Shift+ArrowLeft');
    const letters = page.getByRole('group', { name: 'Selected letters' });
    await letters.getByText('“Week”').waitFor();
    await letters.getByRole('textbox', { name: 'Letter size' }).fill('50');
    await page.keyboard.press('Enter');
    const { name, ...typed } = layerOf(await stored(page), 'title');
    let { source } = typed;
    if (source.kind !== 'text') throw new Error('no text');
    expect([source.text, name]).to.deep.equal(['Lantern\nWeek', 'Lantern Week']);
    expect(source.spans).to.deep.equal([{ from: 8, to: 12, size: 0.5 }]);
    // A press into the words puts the caret there; typed letters come in there.
    await page.getByTestId('write-in-view').waitFor();
    const box = (await page.getByTestId('write-in-view').locator('polygon').first().boundingBox())!;
    await page.mouse.click(box.x + 2, box.y + box.height / 4);
    await page.keyboard.type('A ');
    ({ source } = layerOf(await stored(page), 'title'));
    expect(source.kind === 'text' && source.text).to.equal('A Lantern\nWeek');
    expect(source.kind === 'text' && source.spans[0]).to.deep.equal({ from: 10, to: 14, size: 0.5 });
    // Undo while typing takes back a step of the project, not of the field.
    await page.keyboard.press('Control+z');
    ({ source } = layerOf(await stored(page), 'title'));
    expect(source.kind === 'text' && source.text).to.equal('Lantern\nWeek');
    await page.keyboard.press('Control+Shift+z');
    ({ source } = layerOf(await stored(page), 'title'));
    expect(source.kind === 'text' && source.text).to.equal('A Lantern\nWeek');
    // The side of the box is pulled in, slowly: the line breaks.
    const side = page.getByTestId('write-in-view').locator('rect');
    const grip = (await side.boundingBox())!;
    await page.mouse.move(grip.x + 4, grip.y + 10);
    await page.mouse.down();
    for (let k = 1; k <= 30; k++) await page.mouse.move(grip.x + 4 - 4 * k, grip.y + 10);
    await page.mouse.up();
    ({ source } = layerOf(await stored(page), 'title'));
    if (source.kind !== 'text') throw new Error('no text');
    expect(source.wrap).to.be.within(90, 400);
    const lines = source.box.height;
    await page.keyboard.press('Control+z');
    ({ source } = layerOf(await stored(page), 'title'));
    expect(source.kind === 'text' && source.wrap).to.equal(null);
    expect(source.kind === 'text' && source.box.height).to.be.below(lines - 40);
    await page.getByTestId('write-in-view').locator('textarea').focus();
    await page.keyboard.press('Escape');
    await page.getByTestId('write-in-view').waitFor({ state: 'detached' });
    const textNow = async (): Promise<unknown> => {
      ({ source } = layerOf(await stored(page), 'title'));
      return source.kind === 'text' && source.text;
    };
    // Steps from before the page was opened lie beneath: no further than to the words it began with.
    for (let k = 0; k < 8 && (await textNow()) !== 'Tide'; k++) await page.keyboard.press('Control+z');
    expect(await textNow()).to.equal('Tide');
  });

  it('new words are typed as soon as they are there; who goes on to another control moves the layer by its handles again', async () => {
    const url = await projectWith(app, (d) => [words(d, 'title', 'Tide')]);
    const page = await openStage(app, url);
    for (const [entry, typed] of [
      ['Text', 'Marks of rain'],
      ['Speech bubble', 'No fish today'],
    ] as const) {
      await addNew(page, entry);
      await page.getByTestId('write-in-view').waitFor();
      await page.keyboard.type(typed);
      await row(page, typed).or(row(page, 'Bubble')).first().waitFor();
      const added = (await stored(page)).shots[0]!.layers.map(({ source }) =>
        source.kind === 'text' ? source.text : '',
      );
      expect(added).to.include(typed);
      await page.getByRole('combobox', { name: 'Font' }).focus();
      await page.getByTestId('write-in-view').waitFor({ state: 'detached' });
    }
    // No letter of it was taken for a shortcut: a marker, a tool, a cut.
    const { shots } = await stored(page);
    expect(shots).to.have.length(1);
    expect(shots[0]!.markers).to.have.length(0);
    expect(shots[0]!.layers).to.have.length(3);
  });

  it('words on an arc stay words: bent, they are changed and stay bent', async () => {
    const url = await projectWith(app, (d) => [words(d, 'title', 'Lantern Week', { size: 60 })]);
    const page = await openStage(app, url);
    await row(page, 'Lantern Week').click();
    await page.getByRole('combobox', { name: 'Along' }).selectOption('arc');
    await type(page, 'Bend', 150);
    const at = await seen(page);
    // The middle of an arc is high, its ends are low.
    const rows = (from: number, to: number): number => {
      let low = -Infinity;
      for (let y = -250; y < 250; y += 3)
        for (let x = from; x < to; x += 3) if (isColour(at(x, y), white, 80)) low = Math.max(low, y);
      return low;
    };
    expect(rows(-260, -90)).to.be.greaterThan(rows(-40, 40) + 30);
    await page.getByRole('textbox', { name: 'Words', exact: true }).fill('Harbour');
    await page.getByRole('textbox', { name: 'Words', exact: true }).press('Control+Enter');
    const { source } = layerOf(await stored(page), 'title');
    expect(source.kind === 'text' && [source.text, source.along]).to.deep.equal([
      'Harbour',
      { form: 'arc', bend: 150 },
    ]);
  });

  it('a font of one’s own is dropped in and used; one that is broken is refused with a sentence', async () => {
    const url = await projectWith(app, (d) => [words(d, 'title', 'Tide')]);
    const page = await openStage(app, url);
    await row(page, 'Tide').click();
    const find = createRequire(import.meta.url);
    const bytes = await readFile(find.resolve('@fontsource/pacifico/files/pacifico-latin-400-normal.woff2'));
    const before = (await extent(page))!;
    await page
      .getByLabel('Font file')
      .setInputFiles({ name: 'broken.ttf', mimeType: 'font/ttf', buffer: bytes.subarray(0, 700) });
    await page.getByText('"broken.ttf" is not a font that can be read.').waitFor();
    await dropFiles(page, '[data-testid=fonts]', [{ name: 'own.woff2', type: 'font/woff2', bytes }]);
    const fonts = page.getByRole('combobox', { name: 'Font' });
    await page.waitForFunction(() =>
      /^[0-9a-f]{64}$/.test(document.querySelector<HTMLSelectElement>('select[aria-label=Font]')!.value),
    );
    await becomes(() => fonts.locator('option:checked').textContent(), 'Pacifico');
    const after = (await extent(page))!;
    expect(Math.abs(after.right - after.left - (before.right - before.left))).to.be.greaterThan(6);
    expect((await stored(page)).fonts).to.have.length(1);
    await page.reload();
    await page.locator('[data-painted]').waitFor();
    const again = (await extent(page))!;
    expect(again.right).to.be.closeTo(after.right, 3);
  });

  it('a line is written by a hand whose pivot is at the edge in every frame, also after the words were changed', async () => {
    const url = await projectWith(app, (d) => [
      words(d, 'line', 'Tide', { face: 'script', size: 110 }),
      card(d, 'hand', [220, 60, 40], 2.9, [300, 200]),
    ]);
    const page = await openStage(app, url);
    await row(page, 'Tide').click();
    await choose(page, 'Choose how it arrives', /^Write/);
    await type(page, 'Duration', 1.5);
    await row(page, 'hand').click();
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Follows the writing of' }).selectOption({ label: 'Tide' });
    /** The pivot of the hand and the rightmost ink of what is written. */
    const check = async (at: number): Promise<void> => {
      await goToFrame(page, at);
      const pivot = (await page.getByTestId('pivot').boundingBox())!;
      const [ox, oy] = await onPage(page, 0, 0);
      const scale = Number((await page.getByTestId('stage-view').getAttribute('data-view'))!.split(',')[0]);
      const [px, py] = [(pivot.x + pivot.width / 2 - ox) / scale, (pivot.y + pivot.height / 2 - oy) / scale];
      // The hand covers what it has just written: it is put aside to be looked behind.
      const hidden = page.getByRole('button', { name: 'Hide hand' });
      await hidden.click();
      const colours = await seen(page);
      let nearest = Infinity;
      for (let x = px - 12; x < px + 12; x++)
        for (let y = py - 12; y < py + 12; y++)
          if (isColour(colours(x, y), white, 90)) nearest = Math.min(nearest, Math.hypot(x - px, y - py));
      expect(nearest, `ink at the tip in frame ${at}`).to.be.below(9);
      await page.getByRole('button', { name: 'Show hand' }).click();
    };
    for (const at of [8, 22, 38]) await check(at);
    await row(page, 'Tide').click();
    await page.getByRole('textbox', { name: 'Words', exact: true }).fill('Wendle Quay');
    await page.getByRole('textbox', { name: 'Words', exact: true }).press('Control+Enter');
    await page.locator('[data-layer]').filter({ hasText: 'hand' }).click();
    for (const at of [10, 30]) await check(at);
    // Opened anew, with nothing but the hand selected, its handles are where it is.
    await page.reload();
    await page.locator('[data-painted]').waitFor();
    await row(page, 'hand').click();
    await check(30);
    await goToFrame(page, 59);
    expect((await stored(page)).shots[0]!.layers.find((l) => l.id === 'hand')!.pen!.to).to.equal('line');
  });

  it('a list of words stands word for word as long as said; by keyboard alone', async () => {
    const url = await projectWith(app, (d) => [words(d, 'title', 'Tide')]);
    const page = await openStage(app, url);
    await row(page, 'Tide').focus();
    await page.keyboard.press('Enter');
    await page.getByRole('combobox', { name: 'Changes' }).selectOption('words');
    const list = page.getByRole('textbox', { name: 'List of words' });
    await list.fill('0.5 I\n0.5 Wendle Quay\n1 II');
    await list.press('Control+Enter');
    const width = async (at: number): Promise<number> => {
      await goToFrame(page, at);
      const found = (await extent(page))!;
      return found.right - found.left;
    };
    const [first, second, third] = [await width(5), await width(20), await width(40)];
    expect(second).to.be.greaterThan(3 * third!);
    expect(third).to.be.greaterThan(first!);
    await page.keyboard.press('Control+z');
    await becomes(() => field(page, 'Size').inputValue(), '90');
  });
});
