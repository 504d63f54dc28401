import type { Page } from 'playwright-core';
import { expect } from 'chai';
import { useApp } from './harness.ts';
import { card, goToFrame, isColour, openStage, projectWith, row, seen, stored, type } from './stage-world.ts';

async function add(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'New layer' }).click();
  await page.getByRole('menuitem', { name: 'Prop' }).click();
  await page.getByRole('dialog').getByRole('button', { name }).click();
}

/** How much of the frame is lit, on a coarse grid. */
async function lit(page: Page, from = 40): Promise<number> {
  const at = await seen(page);
  let count = 0;
  for (let x = -460; x < 460; x += 7) for (let y = -250; y < 250; y += 7) if (Math.max(...at(x, y)) > from) count++;
  return count;
}

describe('props on the Stage', () => {
  const app = useApp();

  it('are chosen from live pictures, set, keyed, looped and undone', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'board', [0, 0, 0], 9)]));
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Prop' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.locator('canvas[data-ready=true]').nth(8).waitFor();
    await sheet.getByRole('searchbox', { name: 'Search props' }).fill('lamp glow');
    await page.keyboard.press('Enter');
    await row(page, 'Lamp glow').waitFor();
    expect(await lit(page)).to.be.greaterThan(300);
    await type(page, 'Size', 100);
    await page.getByRole('button', { name: 'Size keyframe here' }).click();
    await goToFrame(page, 30);
    await type(page, 'Size', 700);
    const large = await lit(page);
    await goToFrame(page, 0);
    expect(await lit(page)).to.be.below(large / 4);
    await page.getByRole('button', { name: 'Size keyframe at frame 30' }).waitFor();
    for (let k = 0; k < 4; k++) await page.keyboard.press('Control+z');
    await row(page, 'Lamp glow').waitFor({ state: 'detached' });
    expect((await stored(page)).shots[0]!.layers).to.have.length(1);
  });

  it('smoke is led to where it rises from, by a slow hand, and one step takes it back', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'board', [0, 0, 0], 9)]));
    await add(page, 'Smoke');
    const handle = page.locator('[data-place=from]');
    const box = (await handle.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    const from = async (): Promise<number[]> => {
      const { source } = (await stored(page)).shots[0]!.layers.find((l) => l.name === 'Smoke')!;
      return source.kind === 'prop' ? (source.made.settings.from as { value: number[] }).value : [];
    };
    const before = await from();
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let k = 1; k <= 40; k++) {
      await page.mouse.move(x - 3 * k, y - 2 * k);
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
    }
    await page.mouse.up();
    const there = (await handle.boundingBox())!;
    expect(there.x + there.width / 2).to.be.closeTo(x - 120, 2);
    expect(there.y + there.height / 2).to.be.closeTo(y - 80, 2);
    const after = await from();
    expect(after[0]).to.be.below(before[0]! - 0.05);
    await page.keyboard.press('Control+z');
    expect(await from()).to.deep.equal(before);
  });

  it('snow lies around a layer that stands inside it: some before, some behind, and the side view shows from where to where', async () => {
    const red: [number, number, number] = [200, 30, 30];
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'board', red, 3)]));
    await row(page, 'board').click();
    await type(page, 'Scale', 500);
    const whole = await seen(page);
    let card0 = 0;
    for (let x = -280; x < 280; x += 4) for (let y = -180; y < 180; y += 4) if (isColour(whole(x, y), red)) card0++;
    await add(page, 'Snow');
    await page
      .getByRole('img', { name: /Side view/ })
      .locator('title', { hasText: 'Snow' })
      .waitFor({ state: 'attached' });
    const all = await seen(page);
    let before = 0;
    for (let x = -280; x < 280; x += 4) for (let y = -180; y < 180; y += 4) if (!isColour(all(x, y), red, 40)) before++;
    before -= Math.round((560 / 4) * (360 / 4)) - card0;
    expect(before, 'flakes before the board').to.be.greaterThan(8);
    // Brought to the near end of the snow, everything falls behind it.
    await row(page, 'board').click();
    await type(page, 'Depth', 1.4);
    const near = await seen(page);
    let left = 0;
    for (let x = -280; x < 280; x += 4) for (let y = -180; y < 180; y += 4) if (isColour(near(x, y), red)) left++;
    expect(left).to.be.closeTo(card0, 8);
  });
});
