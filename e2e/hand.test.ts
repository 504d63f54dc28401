import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { addKey } from '../core/edits/layer-edits.ts';
import { covered, goTo, liftOut, startWith, useApp } from './harness.ts';
import { floatWithTip } from './photos.ts';
import { card, openStage, projectWith, row, stored } from './stage-world.ts';

/** Presses where the pointer is and walks in many small steps, as a hand does. */
async function walk(page: Page, from: [number, number], to: [number, number], steps = 40): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  for (let k = 1; k <= steps; k++) {
    const at = (a: number, b: number): number => a + ((b - a) * k) / steps;
    await page.mouse.move(at(from[0], to[0]), at(from[1], to[1]));
    // The page draws between the moves of a hand.
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
  }
  await page.mouse.up();
}

describe('the Stage under a slow hand', () => {
  const app = useApp();

  const middle = async (page: Page, selector: string): Promise<[number, number]> => {
    const box = (await page.locator(selector).first().boundingBox())!;
    return [box.x + box.width / 2, box.y + box.height / 2];
  };

  it('a key and a bar follow the pointer all the way, and an end of the bar is trimmed', async () => {
    const url = await projectWith(app, (d) => [
      card(d, 'flag', [200, 60, 40]),
      addKey(d.shots[0]!.id, 'flag', 'position', 0, [0, 0]),
      addKey(d.shots[0]!.id, 'flag', 'position', 20, [50, 0]),
    ]);
    const page = await openStage(app, url);
    await row(page, 'flag').click();
    const key = page.getByRole('button', { name: 'Position keyframe at frame 20' });
    const box = (await key.boundingBox())!;
    const from: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
    await walk(page, from, [from[0] + 260, from[1]]);
    const frames = await page
      .getByRole('button', { name: /Position keyframe at frame/ })
      .evaluateAll((keys) => keys.map((k) => Number(/\d+$/.exec(k.getAttribute('aria-label')!)![0])));
    expect(frames[1], 'the key went where the hand went').to.be.greaterThan(30);
    const there = (await page.getByRole('button', { name: `Position keyframe at frame ${frames[1]}` }).boundingBox())!;
    expect(there.x + there.width / 2).to.be.closeTo(from[0] + 260, 12);

    await page.getByRole('radio', { name: /^Bars/ }).click();
    const bar = page.locator('[data-bar=flag]');
    const end = (await bar.boundingBox())!;
    await walk(page, [end.x + end.width - 3, end.y + 8], [end.x + end.width / 2, end.y + 8]);
    expect((await bar.boundingBox())!.width).to.be.closeTo(end.width / 2, 14);
    const grip = await middle(page, '[data-bar=flag]');
    const before = (await bar.boundingBox())!;
    await walk(page, grip, [grip[0] + 120, grip[1]]);
    expect((await bar.boundingBox())!.x - before.x).to.be.closeTo(120, 10);
  });
});

describe('an export while one walks on', () => {
  const app = useApp();

  it('goes on in every room and on the Shelf, is seen there, and lies in Deliver when it is done', async () => {
    const url = await projectWith(app, (d) => [card(d, 'flag', [200, 60, 40])], 'Walking on');
    const page = await openStage(app, url);
    await page.getByRole('link', { name: /Deliver/ }).click();
    await page.getByRole('radio', { name: /WebM/ }).click();
    await page.getByRole('button', { name: 'Export WebM' }).click();
    await page.getByRole('link', { name: /Cut/ }).click();
    await page.getByRole('status', { name: 'Export of Walking on' }).waitFor();
    await page.getByRole('link', { name: 'Shelf' }).click();
    await page.getByRole('status', { name: 'Export of Walking on' }).waitFor();
    await page.getByText('WebM is ready').waitFor();
    await page.getByRole('status', { name: 'Export of Walking on' }).waitFor({ state: 'detached' });
    await page.goto(url.replace(/stage$/, 'deliver'));
    await page.getByText('Walking on.webm').waitFor();
  });
});

describe('a design that is meant to be partly empty', () => {
  const app = useApp();

  it('sets the bare check aside, keeps that, and takes it up again', async () => {
    const url = await projectWith(app, (d) => [card(d, 'flag', [200, 60, 40])]);
    const page = await openStage(app, url);
    const check = page.getByTestId('bare-check');
    await check.getByRole('button', { name: 'Other cures' }).click();
    await page.getByRole('menuitem', { name: 'It is meant to be empty there' }).click();
    await page.getByText('Bare check set aside').waitFor();
    await page
      .getByTestId('saved')
      .filter({ hasText: /^Saved$/ })
      .waitFor();
    await page.reload();
    await page.getByText('Bare check set aside').click();
    await check.getByText(/Bare in \d+ frames/).waitFor();
  });

  it('an empty shot offers what there is, and it hangs there in one press', async () => {
    const page = await startWith(app, await floatWithTip());
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').nth(1).waitFor();
    await page.getByRole('button', { name: 'New shot' }).click();
    const empty = page.getByRole('region', { name: 'Empty shot' });
    await empty.getByRole('button', { name: /background$/ }).click();
    await page.locator('[data-layer]').first().waitFor();
    await page.locator('[data-painted]').waitFor();
    const { shots } = await stored(page);
    expect(shots.map((shot) => shot.layers.length)).to.deep.equal([2, 1]);
    expect(shots[1]!.layers[0]!.source.kind).to.equal('background');
  });
});
