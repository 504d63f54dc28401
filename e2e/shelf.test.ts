import { readFile } from 'node:fs/promises';
import { expect } from 'chai';
import { unzipSync } from 'fflate';
import { becomes, buoyPhoto, dropFiles, goTo, saved, useApp } from './harness.ts';
import { card, projectWith } from './stage-world.ts';

describe('Shelf and Pictures', () => {
  const app = useApp();

  it('a dropped photo proposes its frame; a project is renamed, duplicated, deleted and brought back', async () => {
    const page = await app.visit();
    await page.getByText('No projects yet.').waitFor();
    await dropFiles(page, 'header', [
      { name: 'tide_clock.png', type: 'image/png', bytes: await buoyPhoto(500, 520, 'png') },
    ]);
    await page.getByTestId('cut-view').waitFor();
    await page.goto(app.server.url);
    await page.getByText('1080 × 1080, 6 s').waitFor();

    const more = (name: string) => page.getByRole('button', { name: `More for ${name}` });
    await more('tide clock').click();
    await page.getByRole('menuitem', { name: 'Rename' }).click();
    await page.getByRole('textbox', { name: 'Project name' }).fill('Tide clock at noon');
    await page.keyboard.press('Enter');
    await more('Tide clock at noon').click();
    await page.getByRole('menuitem', { name: 'Duplicate' }).click();
    await more('Tide clock at noon copy').click();
    await page.getByRole('menuitem', { name: 'Delete' }).click();
    await more('Tide clock at noon copy').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Undo' }).click();
    await more('Tide clock at noon copy').waitFor();
  });

  it('all of a card opens its project, and what has a press of its own does not', async () => {
    const page = await app.visit();
    // The line below the name, where there is nothing but the card.
    const line = (await page.getByText('1080 × 1080, 6 s').first().boundingBox())!;
    await page.mouse.click(line.x + 12, line.y + line.height / 2);
    await page.getByTestId('cut-view').waitFor();
    await page.goto(app.server.url);
    await page.getByRole('button', { name: 'More for Tide clock at noon', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Rename' }).waitFor();
    expect(new URL(page.url()).pathname).to.equal('/');
  });

  it('further pictures are brought in and removed, each telling what was made of it; the frame follows its numbers', async () => {
    const page = await app.visit();
    await page.getByRole('button', { name: 'Open Tide clock at noon', exact: true }).click();
    await page.getByTestId('cut-view').waitFor();
    await goTo(page, 'Pictures');
    await dropFiles(page, '[aria-label=Pictures]', [
      { name: 'mast.jpg', type: 'image/jpeg', bytes: await buoyPhoto(400, 300) },
    ]);
    await page.getByText('mast', { exact: true }).waitFor();
    await becomes(() => page.getByText('Nothing was cut out of it yet.').count(), 2);
    await page.getByRole('button', { name: 'Remove mast' }).click();
    await page.getByText('mast', { exact: true }).waitFor({ state: 'detached' });
    await page.keyboard.press('Control+z');
    await page.getByText('mast', { exact: true }).waitFor();
    await page.getByRole('button', { name: '9:16' }).click();
    await becomes(() => page.getByRole('textbox', { name: 'Width' }).inputValue(), '1080');
    await becomes(() => page.getByRole('textbox', { name: 'Height' }).inputValue(), '1920');
    await page.getByRole('textbox', { name: 'Frames per second' }).fill('25');
    await page.keyboard.press('Enter');
    await becomes(() => page.getByRole('textbox', { name: 'Length' }).inputValue(), '6');
    await saved(page);
  });

  it('a card plays while it is pointed at, wherever on it, or reached by Tab, and stands still after', async () => {
    const page = await app.visit();
    await page.getByRole('button', { name: 'Open Tide clock at noon', exact: true }).click();
    await page.getByTestId('cut-view').waitFor();
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: /Hang tide clock on the Stage/ }).click();
    await saved(page);
    await page.goto(app.server.url);
    const card = page.getByRole('listitem').filter({ hasText: 'Tide clock at noon' }).filter({ hasNotText: 'copy' });
    await card.waitFor();
    // By a word of its name, or of a picture in it.
    const cards = page.getByRole('listitem').filter({ has: page.getByRole('button', { name: /^Open/ }) });
    for (const [search, names] of [
      ['copy', ['Tide clock at noon copy']],
      ['mast noon', ['Tide clock at noon']],
      ['lantern', []],
    ] as const) {
      await page.getByRole('searchbox', { name: 'Search projects' }).fill(search);
      await becomes<readonly string[]>(() => cards.locator('.font-semibold').allTextContents(), names);
    }
    await page.getByText('No project and no picture in one is called that.').waitFor();
    await page.getByRole('searchbox', { name: 'Search projects' }).fill('');
    const plays = (on: boolean) => card.locator(`canvas[data-playing=${on}]`).waitFor();
    await plays(false);
    const { x, y, width, height } = (await card.boundingBox())!;
    await page.mouse.move(x + width / 2, y + height + 30);
    for (let k = 0; k <= 10; k++) await page.mouse.move(x + width / 2, y + height + 30 - 5 * k);
    await plays(true);
    for (let k = 0; k <= 10; k++) await page.mouse.move(x + width / 2, y + height / 2 - 8 * k);
    await plays(true);
    await page.mouse.move(x + width / 2, y - 40, { steps: 8 });
    await plays(false);
    await card.getByRole('button', { name: /^Open/ }).focus();
    await plays(true);
  });
  it('a project is saved as a bundle and comes in again, by the button or dropped beside a picture; what fills the disk is said', async () => {
    const page = await app.visit();
    await page.getByRole('button', { name: 'More for Tide clock at noon', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Save a bundle' }).click();
    const [bundle] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save bundle', exact: true }).click(),
    ]);
    expect(bundle.suggestedFilename()).to.equal('Tide clock at noon.clyvo.zip');
    const path = await bundle.path();
    expect(Object.keys(unzipSync(await readFile(path))).slice(0, 2)).to.deep.equal(['bundle.json', 'project.json']);
    const cards = page.getByRole('button', { name: 'Open Tide clock at noon', exact: true });
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Open a bundle' }).click(),
    ]);
    await chooser.setFiles(path);
    await cards.nth(1).waitFor();
    await dropFiles(page, 'header', [
      { name: 'noon.zip', type: 'application/zip', bytes: await readFile(path) },
      { name: 'letter.zip', type: 'application/zip', bytes: Buffer.from('PK: bundle.json, said the letter') },
    ]);
    await cards.nth(2).waitFor();
    await page.getByText('This is no bundle Clyvo can open: it is no whole ZIP.').waitFor();
    await page.getByRole('button', { name: 'Open', exact: true }).last().click();
    await page.getByTestId('stage-view').waitFor();

    await page.goto(app.server.url);
    await page.getByRole('button', { name: /on this disk/ }).click();
    const disk = page.getByRole('dialog', { name: 'What fills the disk' });
    await becomes(() => disk.getByRole('listitem').filter({ hasText: 'Tide clock at noon' }).count(), 4);
    await becomes(() => disk.getByRole('button', { name: 'Nothing to clear' }).isDisabled(), true);
  });

  it('the guide opens at the chapter of the room, beside its keys, and is searched', async () => {
    const page = await app.visit();
    await page.getByRole('button', { name: 'Open Tide clock at noon', exact: true }).first().click();
    await page.getByTestId('stage-view').waitFor();
    await page.keyboard.press('?');
    const sheet = page.getByRole('dialog', { name: 'Guide and shortcuts' });
    await sheet.getByRole('heading', { name: 'Place layers in depth' }).waitFor();
    const keys = sheet.getByRole('complementary', { name: 'Shortcuts' });
    await becomes(() => keys.getByRole('heading').allTextContents(), ['Everywhere', 'Looking', 'Stage']);
    // What is typed here belongs to the search, not to the room.
    await sheet.getByRole('searchbox').pressSequentially('strong colour fringe', { delay: 5 });
    const found = sheet.getByRole('article').getByRole('button');
    await found.first().waitFor();
    expect(await found.first().textContent()).to.match(/^Cut something out.*fringe/);
    await found.first().click();
    await sheet.getByRole('heading', { name: 'Cut something out' }).waitFor();
    await page.keyboard.press('Escape');
    await sheet.waitFor({ state: 'detached' });
    await goTo(page, 'Deliver');
    await page.getByRole('button', { name: 'Guide and shortcuts' }).click();
    await sheet.getByRole('heading', { name: 'Export' }).waitFor();
    await sheet.getByRole('button', { name: 'Close' }).click();
  });
});

describe('a Shelf of many projects', () => {
  const app = useApp();

  it('paints the cards that are near to what is seen, the others once they come near, and answers meanwhile', async () => {
    const stage = await projectWith(app, (d) => [card(d, 'lamp', [240, 200, 60], 3, [0, 0])], 'Lamps');
    const id = /project\/([^/]+)/.exec(stage)![1]!;
    for (let k = 0; k < 39; k++) await fetch(`${app.server.url}/api/projects/${id}/duplicate`, { method: 'POST' });
    const page = await app.visit();
    const pictures = page.locator('li canvas');
    // The card in the middle of its frame, as it is seen.
    const painted = (): Promise<boolean[]> =>
      pictures.evaluateAll((all) =>
        all.map((canvas) => (canvas as HTMLCanvasElement).getContext('2d')!.getImageData(160, 95, 1, 1).data[0]! > 200),
      );
    await becomes(() => pictures.count(), 40);
    // Three rows are seen, and the fourth is near.
    await becomes(async () => (await painted()).slice(0, 16), Array<boolean>(16).fill(true));
    // As many turns as all of them would take.
    await page.evaluate(async () => {
      for (let turn = 0; turn < 200; turn++) await new Promise((resolve) => setTimeout(resolve));
    });
    expect((await painted()).slice(24)).to.deep.equal(Array<boolean>(16).fill(false));
    await page.mouse.move(640, 500);
    for (let k = 0; k < 30; k++) await page.mouse.wheel(0, 120);
    await becomes(async () => (await painted()).at(-1), true);
    await page.getByRole('searchbox', { name: 'Search projects' }).fill('lamps copy 3');
    await becomes(async () => (await painted()).every(Boolean), true);
  });
});
