import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import type { Document } from '../core/document/document.ts';
import type { Edit } from '../core/edits/edit.ts';
import { becomes, buoyPhoto, goTo, startWithPhoto, useApp } from './harness.ts';
import { heldBy, walkRooms } from './held.ts';
import { addFinish, addNew } from './scene-maker.ts';
import { card, openStage, projectWith } from './stage-world.ts';

/** The colour in the middle of what is painted, once it is. */
async function middleOf(page: Page): Promise<number[]> {
  const shown = page.getByTestId('painted');
  await shown.and(page.locator('[data-busy=false]')).waitFor();
  const { data, info } = await sharp(await shown.screenshot())
    .raw()
    .toBuffer({ resolveWithObject: true });
  const at = (Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2)) * info.channels;
  return [...data.subarray(at, at + 3)];
}

describe('rooms', () => {
  const app = useApp();

  it('leave nothing behind, however often they are entered and left', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(480, 360));
    for (let visit = 0; visit < 3; visit++) await walkRooms(page);
    const before = await heldBy(page);
    for (let visit = 0; visit < 5; visit++) await walkRooms(page);
    const after = await heldBy(page);
    expect(after.workers, 'workers').to.be.at.most(before.workers);
    expect(after.nodes, 'nodes').to.be.at.most(before.nodes * 1.02);
    expect(after.listeners, 'listeners').to.be.at.most(before.listeners * 1.02);
    expect(after.heap, 'bytes').to.be.below(before.heap * 1.15);
  });

  it('are fetched while their project is still on its way, and take the worker that was started for them', async () => {
    const url = await projectWith(app, (d) => [card(d, 'buoy', [200, 80, 40])]);
    const page = await app.open();
    const wanted: string[] = [];
    page.on('request', (request) => wanted.push(request.url()));
    let answer: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (answer = resolve));
    await page.route('**/api/projects/*', async (route) => {
      await held;
      await route.continue();
    });
    await page.goto(url);
    const fetched = (part: string): number => wanted.filter((one) => one.includes(part)).length;
    await becomes(async () => [fetched('stage-room') > 0, fetched('paint.worker')], [true, 1]);
    expect(await page.locator('[data-painted]').count()).to.equal(0);
    answer();
    await page.locator('[data-painted]').waitFor();
    expect(page.workers().filter((worker) => worker.url().includes('paint.worker'))).to.have.length(1);
    await page.getByRole('link', { name: 'Shelf' }).click();
    await page.getByRole('button', { name: 'Open Signals', exact: true }).click();
    await page.locator('[data-painted]').waitFor();
    expect(page.workers().filter((worker) => worker.url().includes('paint.worker'))).to.have.length(1);
  });

  it('paint the pictures of all their sheets in one worker, which ends when the project is left', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'buoy', [200, 80, 40])]));
    let started = 0;
    page.on('worker', (worker) => (started += worker.url().includes('still.worker') ? 1 : 0));
    await addFinish(page, 'buoy', /^Outline/);
    // Left in the middle: what it wanted is forgotten, and the next sheet has its own pictures.
    await addNew(page, 'Prop');
    await page.keyboard.press('Escape');
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await addNew(page, 'Prop');
    await page.getByRole('dialog').locator('canvas[data-ready=true]').nth(8).waitFor();
    await page.keyboard.press('Escape');
    expect(started).to.equal(1);
    await page.getByRole('link', { name: 'Shelf' }).click();
    const left = (): number => page.workers().filter((worker) => worker.url().includes('still.worker')).length;
    await becomes(() => Promise.resolve(left()), 0);
  });

  it('find the worker that painted them when one comes back, at the edit as it is now, and so does another room', async () => {
    const two = (d: Document): Edit[] => [card(d, 'buoy', [200, 80, 40]), card(d, 'float', [40, 60, 90], 4, [300, 0])];
    const page = await openStage(app, await projectWith(app, two));
    let started = 0;
    page.on('worker', (worker) => (started += /paint\.worker/.test(worker.url()) ? 1 : 0));
    const middle = (): Promise<number[]> => middleOf(page);
    await becomes(middle, [200, 80, 40]);
    await page.locator('[data-layer=buoy]').click();
    await page.keyboard.press('Delete');
    await becomes(async () => (await middle())[0]! < 100, true);
    await goTo(page, 'Pictures');
    await page.getByRole('heading', { name: /Pictures/ }).waitFor();
    await page.keyboard.press('Control+z');
    await goTo(page, 'Stage');
    await becomes(middle, [200, 80, 40]);
    await goTo(page, 'Deliver');
    await becomes(middle, [200, 80, 40]);
    expect(started).to.equal(0);
  });

  it('of the next project find the workers of the one before, and nothing of it in them', async () => {
    await projectWith(app, (d) => [card(d, 'float', [40, 60, 90])], 'Floats');
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'buoy', [200, 80, 40])], 'Buoys'));
    await becomes(() => middleOf(page), [200, 80, 40]);
    let started = 0;
    page.on('worker', () => started++);
    await page.getByRole('link', { name: 'Shelf' }).click();
    await page.getByRole('button', { name: 'Open Floats', exact: true }).click();
    await goTo(page, 'Stage');
    await becomes(() => middleOf(page), [40, 60, 90]);
    expect(started).to.equal(0);
  });

  it('stand still beside a view that plays, and show where it was stopped', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'buoy', [200, 80, 40])]));
    await page.locator('[data-layer=buoy]').click();
    const clock = page.getByTestId('playhead');
    const frameShown = async (): Promise<number> => Number(/frame (\d+)/.exec((await clock.textContent())!)![1]);
    const touched = page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          let count = 0;
          const panels = ['Depth rack', 'Selection'].map((name) => document.querySelector(`[aria-label="${name}"]`)!);
          const observer = new MutationObserver((changes) => (count += changes.length));
          const watch = { subtree: true, childList: true, attributes: true, characterData: true };
          const seen = new Set<string>();
          const shown = document.querySelector('[data-testid=playhead]')!;
          new MutationObserver((_, own) => {
            // From the second frame on: pressing Play changes what the panels show of it.
            if (seen.size === 1) for (const panel of panels) observer.observe(panel, watch);
            seen.add(shown.textContent!);
            if (seen.size < 12) return;
            own.disconnect();
            observer.disconnect();
            resolve(count);
          }).observe(shown, { subtree: true, childList: true, characterData: true });
        }),
    );
    await page.keyboard.press(' ');
    expect(await touched, 'changes of panels while twelve frames were shown').to.equal(0);
    await page.keyboard.press(' ');
    const stopped = await frameShown();
    expect(stopped).to.be.above(0);
    // A keyframe pressed now is set where it was stopped.
    await page.keyboard.press('p');
    await page.getByRole('button', { name: `Position keyframe at frame ${stopped}` }).waitFor();
    // Left while it plays, it stands at the beginning when one is back, and goes where it is put.
    await page.keyboard.press(' ');
    await page.waitForFunction(
      (at) => !document.querySelector('[data-testid=playhead]')!.textContent!.endsWith(` ${at}`),
      stopped,
    );
    await goTo(page, 'Pictures');
    await page.getByRole('heading', { name: /Pictures/ }).waitFor();
    await goTo(page, 'Stage');
    await page.locator('[data-painted="0"]').waitFor();
    await page.keyboard.press('.');
    await page.locator('[data-painted="1"]').waitFor();
    expect(await frameShown()).to.equal(1);
  });
});
