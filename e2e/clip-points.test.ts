import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { filmed } from './films.ts';
import { tinCrab } from '../demo/clips/tin-crab.ts';
import { becomes, dropFiles, goTo, onPage, saved, useApp } from './harness.ts';
import { addText } from './scene-maker.ts';
import { field, goToFrame, row, stored, type, unfold } from './stage-world.ts';

/* The crab walks on the Stage: what follows its claw is measured against where the claw was drawn. */

/** Frame pixels a pixel of the film takes: a film of this size is proposed a frame twice as large. */
const larger = 2;
const claw = (index: number): [number, number] => {
  const [x, y] = tinCrab.point!(index);
  return [x * larger, y * larger];
};

describe('a clip on the Stage', () => {
  const app = useApp();
  let film: Buffer;

  before(async function () {
    this.timeout(120_000);
    film = await filmed(app.browser, tinCrab, 72, 4e6);
  });

  /** The film hung as a whole in a shot of its own size and rate, with time after it. */
  async function hung(): Promise<Page> {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', [{ name: 'crab.mp4', type: 'video/mp4', bytes: film }]);
    await page.getByTestId('cut-view').waitFor();
    await goTo(page, 'Stage');
    await becomes(() => field(page, 'Length').inputValue(), '3');
    await type(page, 'Length', 6);
    await page.getByLabel('Empty shot').getByRole('button', { name: 'crab' }).click();
    await row(page, 'crab').waitFor();
    await page.locator('[data-painted="0"]').waitFor();
    return page;
  }

  async function followClaw(page: Page): Promise<void> {
    await row(page, 'crab').click();
    await unfold(page, 'Followed points');
    await page.getByRole('button', { name: 'Follow a point' }).click();
    const [x, y] = await onPage(page.getByTestId('stage-view'), claw(0));
    await page.mouse.move(x - 40, y - 30);
    for (let k = 1; k <= 20; k++) await page.mouse.move(x - 40 + 2 * k, y - 30 + 1.5 * k);
    await page.mouse.down();
    await page.mouse.up();
    await page.getByText('Followed through the whole clip').waitFor();
    await saved(page);
  }

  /** Where the handle of the followed point is, in pixels of the frame. */
  async function shownPoint(page: Page): Promise<[number, number]> {
    const [sx, sy] = (await page.getByTestId('followed-point').getAttribute('data-at'))!.split(',').map(Number);
    const view = (await page.getByTestId('stage-view').getAttribute('data-view'))!.split(',').map(Number);
    const [scale, vx, vy] = view as [number, number, number];
    return [(sx! - vx) / scale, (sy! - vy) / scale];
  }

  it('lets words follow its claw within two pixels, also where it is held, runs back and is ramped', async () => {
    const page = await hung();
    await followClaw(page);
    const rate = (await stored(page)).frame.rate;
    for (const index of [0, 20, 40, 65]) {
      await goToFrame(page, Math.ceil((index * rate) / tinCrab.rate));
      const [x, y] = await shownPoint(page);
      expect(Math.hypot(x - claw(index)[0], y - claw(index)[1]), `frame ${index}`).to.be.lessThan(2);
    }
    await goToFrame(page, 0);
    await addText(page, 'Claw');
    await unfold(page, 'Ties');
    const fastened = page.getByLabel('Selection').getByLabel('Fastened to');
    await fastened.selectOption({ label: 'crab: Point 1' });
    // Back from where it is widest, and a while held there.
    await row(page, 'crab').click();
    await unfold(page, 'Time');
    const turn = Math.round((48 * rate) / tinCrab.rate);
    await goToFrame(page, turn);
    await page.getByRole('button', { name: 'Run back' }).click();
    await type(page, 'Hold for', 1);
    await page.getByRole('button', { name: 'Hold here' }).click();
    await saved(page);
    await row(page, 'Claw').click();
    const where = async (frame: number): Promise<[number, number]> => {
      await goToFrame(page, frame);
      const box = (await page.getByTestId('pivot').boundingBox())!;
      const [x0, y0] = await onPage(page.getByTestId('stage-view'), [0, 0]);
      const [x1] = await onPage(page.getByTestId('stage-view'), [1, 0]);
      return [(box.x + box.width / 2 - x0) / (x1 - x0), (box.y + box.height / 2 - y0) / (x1 - x0)];
    };
    const start = await where(0);
    const pace = tinCrab.rate / rate;
    const expected: [number, number][] = [
      [Math.floor(turn * 0.5), Math.floor(turn * 0.5) * pace],
      [turn + 5, 48],
      [turn + rate - 1, 48],
      [turn + rate + Math.floor(turn * 0.5), 48 - Math.floor(turn * 0.5) * pace],
    ];
    for (const [frame, second] of expected) {
      const [x, y] = await where(frame);
      const index = Math.floor(second + 1e-6);
      const [dx, dy] = [claw(index)[0] - claw(0)[0], claw(index)[1] - claw(0)[1]];
      expect(Math.hypot(x - start[0] - dx, y - start[1] - dy), `frame ${frame}`).to.be.lessThan(2);
    }
    // Twice as fast from a tenth of a second on: it is there in half of the time.
    await row(page, 'crab').click();
    await goToFrame(page, 10);
    await type(page, 'Speed from here', 200);
    await row(page, 'Claw').click();
    for (const frame of [10, 18, 26]) {
      const [x, y] = await where(frame);
      const index = Math.floor((10 + (frame - 10) * 2) * pace + 1e-6);
      const [dx, dy] = [claw(index)[0] - claw(0)[0], claw(index)[1] - claw(0)[1]];
      expect(Math.hypot(x - start[0] - dx, y - start[1] - dy), `ramped, frame ${frame}`).to.be.lessThan(6);
    }
  });

  it('has its point mended by hand, slowly, in a frame where it went astray; a reload keeps all of it', async () => {
    const page = await hung();
    await followClaw(page);
    await goToFrame(page, 40);
    const handle = page.getByTestId('followed-point').locator('rect');
    const box = (await handle.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let k = 1; k <= 30; k++) await page.mouse.move(x + k, y - k / 2);
    await page.mouse.up();
    const cancel = page.getByRole('button', { name: 'Cancel following' });
    await cancel.waitFor({ state: 'detached' });
    await saved(page);
    const before = (await stored(page)).tracks[0]!;
    expect(before.marks).to.have.length(2);
    const { frame: index, at } = before.marks[1]!;
    expect(before.points.slice(index * 3, index * 3 + 2).map(Math.round)).to.deep.equal(at.map(Math.round));
    // What was found by the mend, and the mend itself, are steps that can be taken back.
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    expect((await stored(page)).tracks[0]!.marks).to.have.length(1);
    await page.keyboard.press('Control+Shift+z');
    await page.keyboard.press('Control+Shift+z');
    expect((await stored(page)).tracks[0]).to.deep.equal(before);
    await page.reload();
    await row(page, 'crab').click();
    await unfold(page, 'Followed points');
    await page.getByText(/in doubt|whole clip/).waitFor();
    expect((await stored(page)).tracks[0]).to.deep.equal(before);
  });

  it('goes on being followed in another room, and what was cancelled leaves the mark to be followed later', async () => {
    const page = await hung();
    await row(page, 'crab').click();
    await unfold(page, 'Followed points');
    await page.getByRole('button', { name: 'Follow a point' }).click();
    await page.mouse.click(...(await onPage(page.getByTestId('stage-view'), claw(0))));
    await page.getByRole('button', { name: 'Cancel following' }).click();
    await page.getByRole('button', { name: 'Follow it' }).click();
    await goTo(page, 'Deliver');
    await goTo(page, 'Stage');
    await row(page, 'crab').click();
    await unfold(page, 'Followed points');
    await page.getByText('Followed through the whole clip').waitFor();
    expect((await stored(page)).tracks[0]!.points).to.have.length(72 * 3);
  });

  it('is steadied by its point: the claw stays, the quay moves', async () => {
    const page = await hung();
    await followClaw(page);
    await page.getByLabel('Selection').getByLabel('Steady by').selectOption({ label: 'Point 1' });
    const first = await shownPoint(page);
    await goToFrame(page, 60);
    const later = await shownPoint(page);
    expect(Math.hypot(later[0] - first[0], later[1] - first[1])).to.be.lessThan(0.1);
  });
});
