import type { Page } from 'playwright-core';
import { expect } from 'chai';
import { propKinds } from '../core/props/props.ts';
import { useApp } from './harness.ts';
import { card, goToFrame, isColour, onPage, openStage, projectWith, row, seen, stored, type } from './stage-world.ts';

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

  it('right after one was added, and after a menu that was left, Space plays', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'board', [0, 0, 0], 9)]));
    const plays = (name: 'Play' | 'Stop') => page.getByRole('button', { name, exact: true }).waitFor();
    const menu = page.getByRole('button', { name: 'New layer' });
    await add(page, 'Smoke');
    await row(page, 'Smoke').waitFor();
    await page.keyboard.press(' ');
    await plays('Stop');
    await page.keyboard.press(' ');
    await plays('Play');
    await menu.click();
    await page.getByRole('menuitem', { name: 'Prop' }).waitFor();
    await page.keyboard.press('Escape');
    await page.keyboard.press(' ');
    await plays('Stop');
    await page.keyboard.press(' ');
    // Reached by Tab it is a button like any other.
    await menu.focus();
    await page.keyboard.press('Shift+Tab');
    await page.keyboard.press('Tab');
    await page.keyboard.press(' ');
    await page.getByRole('menuitem', { name: 'Prop' }).waitFor();
    await page.keyboard.press('Escape');
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

  it('each of them can be added, is seen, loops, and is taken back in one step', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'board', [90, 120, 140], 9)]));
    await row(page, 'board').click();
    await type(page, 'Scale', 900);
    const empty = await seen(page);
    for (const { id, name } of propKinds) {
      await row(page, 'board').click();
      await add(page, name);
      await row(page, name).waitFor();
      await page.getByRole('switch', { name: 'Loops with the shot' }).waitFor();
      const at = await seen(page);
      let changed = 0;
      for (let x = -470; x < 470; x += 4)
        for (let y = -260; y < 260; y += 4) if (!isColour(at(x, y), empty(x, y), 6)) changed++;
      expect(changed, name).to.be.greaterThan(10);
      const { source } = (await stored(page)).shots[0]!.layers.find((l) => l.name === name)!;
      expect(source.kind === 'prop' && source.made.prop === id && source.loops, name).to.equal(true);
      await page.keyboard.press('Control+z');
      await row(page, name).waitFor({ state: 'detached' });
    }
  });

  it('stars are painted where a hand leads the brush, and with Alt taken away again', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'board', [0, 0, 0], 9)]));
    await row(page, 'board').click();
    await type(page, 'Scale', 900);
    await add(page, 'Stars');
    await type(page, 'Fades towards the horizon', 0);
    await type(page, 'Share in painted clusters', 100);
    const bright = async ([left, top, right, bottom]: number[]): Promise<number> => {
      const at = await seen(page);
      let sum = 0;
      for (let x = left!; x < right!; x += 3) for (let y = top!; y < bottom!; y += 3) sum += Math.max(...at(x, y));
      return sum;
    };
    const [band, below] = [
      [-200, -60, 200, 20],
      [-200, 120, 200, 200],
    ];
    const before = [await bright(band!), await bright(below!)];
    await page.getByRole('button', { name: 'Paint', exact: true }).click();
    const paint = async (from: [number, number], to: [number, number]): Promise<void> => {
      const [a, b] = [await onPage(page, ...from), await onPage(page, ...to)];
      await page.mouse.move(...a);
      await page.mouse.down();
      for (let k = 1; k <= 25; k++)
        await page.mouse.move(a[0] + ((b[0] - a[0]) * k) / 25, a[1] + ((b[1] - a[1]) * k) / 25);
      await page.mouse.up();
    };
    await paint([-180, -20], [180, -20]);
    const after = [await bright(band!), await bright(below!)];
    expect(after[0]).to.be.greaterThan(before[0]! * 2);
    expect(after[1]).to.be.below(before[1]! * 0.4);
    await page.keyboard.down('Alt');
    await paint([-180, -20], [180, -20]);
    await page.keyboard.up('Alt');
    expect(await bright(band!)).to.be.below(after[0]! * 0.7);
    await page.keyboard.press('Control+z');
    expect(await bright(band!)).to.be.closeTo(after[0]!, after[0]! * 0.02);
  });
});
