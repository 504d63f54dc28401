import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { becomes, buoyPhoto, goTo, liftOut, saved, startWithPhoto, useKillableApp } from './harness.ts';

describe('the Stage', () => {
  const app = useKillableApp();
  let project = '';
  before(async () => {
    const page = await startWithPhoto(app, await buoyPhoto(960, 540));
    await liftOut(page);
    await goTo(page, 'Stage');
    await saved(page);
    project = page.url();
  });

  const open = async (): Promise<Page> => {
    const page = await app.visit(project);
    await page.locator('[data-painted]').waitFor();
    return page;
  };
  const field = (page: Page, name: string) => page.getByLabel('Selection').getByRole('textbox', { name, exact: true });

  it('an acknowledged edit survives a killed server', async () => {
    const page = await open();
    await page.locator('[data-layer]').first().click();
    await field(page, 'Rotation').fill('17');
    const [answer] = await Promise.all([
      page.waitForResponse((r) => r.request().method() === 'PATCH' && r.ok()),
      field(page, 'Rotation').press('Enter'),
    ]);
    await answer.finished();
    await app.server.killAndRestart();
    await page.reload();
    await page.locator('[data-layer]').first().click();
    await becomes(() => field(page, 'Rotation').inputValue(), '17');
  });

  it('edits made while the server is away are kept and saved once it is back', async () => {
    const page = await open();
    await page.route('**/api/projects/*', (route) =>
      route.request().method() === 'PATCH' ? route.abort() : route.continue(),
    );
    await page.locator('[data-layer]').first().click();
    await field(page, 'Opacity').fill('60');
    await field(page, 'Opacity').press('Enter');
    await page.getByText('Waiting for Clyvo to answer').waitFor();
    await page.unroute('**/api/projects/*');
    await saved(page);
    await page.reload();
    await page.locator('[data-layer]').first().click();
    await becomes(() => field(page, 'Opacity').inputValue(), '60');
  });

  it('a row dragged down the rack hangs further from the lens, as one undo step', async () => {
    const page = await open();
    const row = page.locator('[data-layer]').first();
    const depth = async (): Promise<number> =>
      Number(/depth ([\d.]+)/.exec((await row.getAttribute('aria-label'))!)![1]);
    const before = await depth();
    const box = (await row.boundingBox())!;
    await page.mouse.move(box.x + 90, box.y + 12);
    await page.mouse.down();
    await page.mouse.move(box.x + 90, box.y + 60, { steps: 8 });
    await page.mouse.up();
    expect(await depth()).to.be.greaterThan(before + 0.3);
    await page.keyboard.press('Control+z');
    expect(await depth()).to.equal(before);
  });

  it('a layer is moved in the view, nudged by arrows, and its keyframes can be added, dragged and deleted', async () => {
    const page = await open();
    await page.locator('[data-layer]').first().click();
    const x = async (): Promise<number> => Number(await field(page, 'X').inputValue());
    const start = await x();
    const view = (await page.getByTestId('stage-view').boundingBox())!;
    await page.mouse.move(view.x + view.width / 2, view.y + view.height / 2);
    await page.mouse.down();
    await page.mouse.move(view.x + view.width / 2 + 50, view.y + view.height / 2, { steps: 5 });
    await page.mouse.up();
    expect(await x()).to.be.greaterThan(start + 30);
    const moved = await x();
    await page.keyboard.press('Shift+ArrowLeft');
    await page.waitForFunction(
      (want) => Number(document.querySelectorAll<HTMLInputElement>('[aria-label=Selection] input')[1]!.value) === want,
      Number((moved - 10).toFixed(1)),
    );
    await page.getByRole('button', { name: 'Position keyframe here' }).click();
    await page.keyboard.press('End');
    await page.getByRole('button', { name: 'Position keyframe here' }).click();
    const key = page.getByRole('button', { name: 'Position keyframe at frame 179' });
    const box = (await key.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + 8);
    await page.mouse.down();
    await page.mouse.move(box.x - 300, box.y + 8, { steps: 6 });
    await page.mouse.up();
    await page.getByRole('combobox', { name: 'Easing' }).selectOption('overshoot');
    await becomes(() => key.count(), 0);
    await page.keyboard.press('Delete');
    await becomes(() => page.getByRole('button', { name: /Position keyframe at frame/ }).count(), 1);
  });

  it('a framing dragged out of the picture shows bare frames, and one press cures them', async () => {
    const page = await open();
    await page.getByRole('button', { name: /Lens/ }).click();
    const framing = page.locator('[data-framing=last]');
    await framing.focus();
    for (let k = 0; k < 12; k++) await page.keyboard.press('Shift+ArrowRight');
    const check = page.getByTestId('bare-check');
    await check.getByText(/Bare in \d+ frames/).waitFor();
    await check.getByRole('button', { name: /Enlarge/ }).click();
    await check.getByText('No bare frame').waitFor();
  });

  it('plays in a loop, and stops where it is', async () => {
    const page = await open();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await page.waitForFunction(
      () => Number(/frame (\d+)/.exec(document.querySelector('[data-testid=playhead]')!.textContent!)![1]) > 20,
    );
    await page.getByRole('button', { name: 'Stop' }).click();
    const painted = await page.locator('[data-painted]').getAttribute('data-painted');
    expect(Number(painted)).to.be.greaterThan(10);
  });

  it('Space plays wherever a press of the pointer left the focus, and repeats no button; Tab keeps it on the button', async () => {
    const page = await open();
    await page.locator('[data-layer]').first().click();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('s');
    await page.keyboard.press('s');
    const undo = page.getByRole('button', { name: /^Undo/ });
    const next = (): Promise<string | null> => undo.getAttribute('aria-label');
    await undo.click();
    expect(await next()).to.equal('Undo: Solo');
    const stop = page.getByRole('button', { name: 'Stop', exact: true });
    await page.keyboard.press('Space');
    await stop.waitFor();
    await page.keyboard.press('Space');
    await stop.waitFor({ state: 'detached' });
    expect(await next()).to.equal('Undo: Solo');
    const loop = page.getByRole('button', { name: 'Loop', exact: true });
    await loop.click();
    await page.keyboard.press('Space');
    await stop.waitFor();
    await page.keyboard.press('Space');
    await stop.waitFor({ state: 'detached' });
    await becomes(() => loop.getAttribute('aria-pressed'), 'false');
    await loop.click();
    // Reached by Tab, the button is what Space presses.
    await page.keyboard.press('Tab');
    await undo.focus();
    await page.keyboard.press('Space');
    expect(await next()).to.equal('Undo: Move layer');
    await page.keyboard.press('Space');
    await saved(page);
  });

  it('Space plays after a number was typed and after a choice from a list, and changes neither', async () => {
    const page = await open();
    await page.locator('[data-layer]').first().click();
    const stop = page.getByRole('button', { name: 'Stop', exact: true });
    const plays = async (): Promise<void> => {
      await page.keyboard.press('Space');
      await stop.waitFor();
      await page.keyboard.press('Space');
      await stop.waitFor({ state: 'detached' });
    };
    const rotation = page.getByRole('textbox', { name: 'Rotation', exact: true });
    await rotation.click();
    await rotation.press('Control+a');
    await page.keyboard.type('7');
    await page.keyboard.press('Enter');
    await plays();
    // What was typed and not yet taken is, when it plays.
    await rotation.click();
    await rotation.press('Control+a');
    await page.keyboard.type('11');
    await plays();
    expect(await rotation.inputValue()).to.equal('11');
    const blend = page.getByRole('combobox', { name: 'Blend mode' });
    const box = (await blend.boundingBox())!;
    await page.mouse.move(box.x + 20, box.y + 8);
    await page.mouse.down();
    await page.mouse.up();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await plays();
    expect(await blend.inputValue()).to.equal('multiply');
    // A name may hold a space.
    await page.locator('[data-layer]').first().focus();
    await page.keyboard.press('F2');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('Far shore');
    await page.keyboard.press('Enter');
    await page.locator('[data-layer]').getByText('Far shore').waitFor();
    await saved(page);
  });

  it('groups and ungroups by keys', async () => {
    const page = await open();
    const rows = page.locator('[data-layer]');
    const count = await rows.count();
    await rows.first().click();
    await page.keyboard.press('Control+g');
    await page.waitForFunction((n) => document.querySelectorAll('[data-layer]').length === n, count + 1);
    await page.keyboard.press('Control+Shift+g');
    await page.waitForFunction((n) => document.querySelectorAll('[data-layer]').length === n, count);
    await saved(page);
  });
});
