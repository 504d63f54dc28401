import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import {
  becomes,
  buoyPhoto,
  colourShown,
  covered,
  dropFiles,
  goTo,
  liftOut,
  onPage,
  saved,
  startWith,
  startWithPhoto,
  useApp,
} from './harness.ts';
import { eightFloats, floatWithTip, tip } from './photos.ts';

describe('cutting', () => {
  const app = useApp();

  /** Drags across the picture; positions as shares of it. */
  const stroke = async (
    page: Page,
    from: [number, number],
    to: [number, number],
    width: number,
    height: number,
  ): Promise<void> => {
    const view = page.getByTestId('cut-view');
    const at = ([u, v]: [number, number]) => onPage(view, [u * width, v * height]);
    await page.mouse.move(...(await at(from)));
    await page.mouse.down();
    await page.mouse.move(...(await at(to)), { steps: 6 });
    await page.mouse.up();
  };

  it('strokes change the cut, undo takes them back, a reload finds everything again', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(600, 400));
    const before = await covered(page);
    await page.getByRole('button', { name: 'Drop', exact: true }).click();
    await stroke(page, [0.5, 0.3], [0.5, 0.7], 600, 400);
    await page.getByText('0 keep, 1 drop').waitFor();
    await page.getByRole('button', { name: 'Drop', exact: true }).click();
    await becomes(async () => (await covered(page)) < before - 0.5, true);
    await page.getByRole('button', { name: /Undo: Drop stroke/ }).click();
    await page.getByText(`The piece covers ${before.toFixed(1)} %`).waitFor();
    await page.getByRole('button', { name: /Redo: Drop stroke/ }).click();
    await saved(page);
    await page.reload();
    await page.getByText('0 keep, 1 drop').waitFor();
    await becomes(async () => (await covered(page)) < before - 0.5, true);
  });

  it('a tip as thin as a hair is won back by a stroke, with the ghost to show where it is', async () => {
    const page = await startWith(app, await floatWithTip());
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await page.getByRole('radio', { name: 'On a colour' }).click();
    await page.getByRole('button', { name: 'Ghost of the picture' }).click();
    await page.keyboard.press('k');
    for (let k = 0; k < 12; k++) await page.keyboard.press('[');
    await stroke(page, [tip.x / 640, tip.from / 420], [tip.x / 640, tip.to / 420], 640, 420);
    await page.getByText('1 keep, 0 drop').waitFor();
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Ghost of the picture' }).click();
    await page.getByRole('radio', { name: 'Alpha only' }).click();
    await page.getByText('Finding the edge').waitFor({ state: 'detached' });
    const alphaAt = async (u: number, v: number): Promise<number> => (await colourShown(page, u, v))[0]!;
    for (const y of [tip.to + 12, (tip.from + tip.to) / 2, tip.from - 12]) {
      expect(await alphaAt(tip.x, y), `on the tip at ${y}`).above(120);
      for (const side of [-9, 9]) expect(await alphaAt(tip.x + side, y), `beside it at ${y}`).below(60);
    }
  });

  it('every way to look shows what it says', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(600, 400));
    const pixel = async (u: number, v: number): Promise<number[]> => {
      const view = page.getByTestId('cut-view');
      const [scale, x, y] = (await view.getAttribute('data-view'))!.split(',').map(Number) as [number, number, number];
      return view
        .locator('canvas')
        .evaluate(
          (canvas: HTMLCanvasElement, [px, py]) => [
            ...canvas.getContext('2d')!.getImageData(px!, py!, 1, 1).data.slice(0, 3),
          ],
          [Math.round(x + u * 600 * scale), Math.round(y + v * 400 * scale)],
        );
    };
    await page.getByRole('radio', { name: 'Alpha only' }).click();
    expect(await pixel(0.5, 0.5)).to.deep.equal([255, 255, 255]);
    expect(await pixel(0.1, 0.1)).to.deep.equal([0, 0, 0]);
    await page.getByRole('radio', { name: 'On a colour' }).click();
    expect(await pixel(0.1, 0.1)).to.deep.equal([216, 36, 154]);
    expect((await pixel(0.5, 0.5))[0]).to.be.closeTo(200, 30);
    await page.getByRole('button', { name: 'Ghost of the picture' }).click();
    expect(await pixel(0.1, 0.1)).to.not.deep.equal([216, 36, 154]);
    await page.getByRole('button', { name: 'Ghost of the picture' }).click();
    await page.getByRole('radio', { name: 'Wipe' }).click();
    expect((await pixel(0.2, 0.1))[1]).to.be.greaterThan(60);
    expect(await pixel(0.9, 0.1)).to.deep.equal([216, 36, 154]);
  });

  it('the zoom is shown and typed, keys step to 200 and 400 %, and the way of looking is kept', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(600, 400));
    const zoom = page.getByRole('textbox', { name: 'Zoom' });
    const scale = async (): Promise<number> =>
      Number((await page.getByTestId('cut-view').getAttribute('data-view'))!.split(',')[0]);
    expect(Number(await zoom.inputValue())).to.equal(Math.round((await scale()) * 100));
    for (const [key, percent] of [
      ['4', 400],
      ['2', 200],
      ['1', 100],
    ] as const) {
      await page.getByTestId('cut-view').hover();
      await page.keyboard.press(key);
      await page.waitForFunction(
        (wanted) => document.querySelector('[data-view]')?.getAttribute('data-view')?.startsWith(wanted),
        `${percent / 100},`,
      );
      await becomes(() => zoom.inputValue(), String(percent));
    }
    await zoom.fill('150');
    await zoom.press('Enter');
    expect(await scale()).to.be.closeTo(1.5, 1e-6);
    await page.getByRole('radio', { name: 'On a colour' }).click();
    await page.getByLabel('Any colour').fill('#00ff88');
    await goTo(page, 'Pictures');
    await goTo(page, 'Cut');
    await page.getByText(/The piece covers/).waitFor();
    await becomes(() => page.getByRole('radio', { name: 'On a colour' }).getAttribute('aria-checked'), 'true');
    await becomes(() => page.getByLabel('Any colour').inputValue(), '#00ff88');
  });

  it('a tool key pressed twice keeps its tool, and Escape lays it down', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(480, 320));
    for (const [key, name] of [
      ['k', 'Keep'],
      ['d', 'Drop'],
      ['x', 'Wipe away'],
    ] as const) {
      const button = page.getByRole('button', { name, exact: true });
      await page.keyboard.press(key);
      await page.keyboard.press(key);
      expect(await button.getAttribute('aria-pressed'), name).to.equal('true');
      await page.keyboard.press('Escape');
      await becomes(() => button.getAttribute('aria-pressed'), 'false');
    }
  });

  it('a piece that covers nearly everything is offered without a background', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(240, 160));
    await page
      .getByRole('checkbox', { name: /Stay within edges/ })
      .or(page.getByRole('switch', { name: /Stay within edges/ }))
      .click();
    await page.keyboard.press('k');
    for (let k = 0; k < 24; k++) await page.keyboard.press(']');
    for (const v of [0.1, 0.5, 0.9]) await stroke(page, [0.01, v], [0.99, v], 240, 160);
    await page.getByText('3 keep, 0 drop').waitFor();
    await page.getByText(/The piece covers (9[89]|100)/).waitFor();
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Lift out' }).click();
    await page.getByText('The piece covers nearly everything. Lift it without a background?').waitFor();
    await page.getByRole('button', { name: 'Lift without' }).click();
    await page.getByText(/^Lifted out/).waitFor();
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().waitFor();
    await becomes(() => page.locator('[data-layer]').count(), 1);
  });

  it('a piece that takes nothing is said to be empty, each with what helps where it was cut that way', async () => {
    const plain = sharp({ create: { width: 300, height: 200, channels: 3, background: '#5c8a64' } });
    const page = await startWithPhoto(app, await plain.jpeg().toBuffer());
    await page.getByText('The piece covers 0.0 % of the picture: it is empty.').waitFor();
    await page.getByText('Nothing stood out. Paint Keep strokes over what you want.').waitFor();
    await page.getByRole('button', { name: 'New piece' }).click();
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.getByRole('button', { name: 'Remove screen' }).click();
    await page.getByText('Nothing of the picture is taken this way. Undo, or change how it is cut.').waitFor();
  });

  it('removing a picture says what goes with it, and is undone from the notice', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(480, 320));
    await liftOut(page);
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: 'Remove marker buoy' }).click();
    await page.getByText('marker buoy was removed, with one piece, its background and 2 layers.').waitFor();
    await page.getByText('Drop a picture here.').waitFor();
    await page.getByRole('button', { name: 'Undo', exact: true }).click();
    await page.getByText(/its background is rebuilt/).waitFor();
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().waitFor();
    await becomes(() => page.locator('[data-layer]').count(), 2);
  });

  it('holes are found when the piece is checked, fixed one by one or all at once, and taken back as one step', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(600, 400));
    const whole = await covered(page);
    await page.keyboard.press('x');
    for (let k = 0; k < 8; k++) await page.keyboard.press('[');
    const places: [number, number][] = [
      [0.5, 0.4],
      [0.46, 0.5],
      [0.54, 0.58],
    ];
    for (const [u, v] of places) await stroke(page, [u, v], [u + 0.006, v], 600, 400);
    await page.keyboard.press('Escape');
    const look = page.getByRole('button', { name: 'Check the piece' });
    await look.click();
    const findings = page.getByRole('list', { name: 'Findings' }).getByRole('listitem');
    await becomes(() => findings.filter({ hasText: 'Hole' }).count(), 3);
    await page.getByRole('button', { name: 'Fix finding 1', exact: true }).click();
    await becomes(() => findings.filter({ hasText: 'Hole' }).count(), 2);
    await page.getByRole('textbox', { name: 'Smallest size' }).fill('100000');
    await page.keyboard.press('Enter');
    await page.getByText('of that size are left').waitFor();
    await page.getByRole('textbox', { name: 'Smallest size' }).fill('6');
    await page.keyboard.press('Enter');
    const all = page.getByRole('button', { name: /^Fix all/ });
    await all.click();
    await all.waitFor({ state: 'detached' });
    await page.getByText(/The piece covers/).waitFor();
    await look.click();
    await page.getByText('No holes, specks, leftovers or fringes are left.').waitFor();
    expect(await covered(page)).to.be.closeTo(whole, 0.1);
    await page.getByRole('button', { name: /Undo: Fix \d findings/ }).click();
    await page.getByRole('button', { name: /Undo: Fix hole/ }).click();
    await look.click();
    await becomes(() => findings.filter({ hasText: 'Hole' }).count(), 3);
  });

  it('another piece is taken away as a step; changed and lifted again, it is taken as it is then', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(600, 400));
    await liftOut(page);
    const first = await covered(page);
    await page.getByRole('button', { name: 'New piece' }).click();
    await page.getByRole('button', { name: /^Shape/ }).click();
    await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
    await stroke(page, [0.05, 0.05], [0.95, 0.95], 600, 400);
    await page.getByText(/The piece covers 8/).waitFor();
    const whole = await covered(page);
    const covers = (share: number) => becomes(async () => Math.abs((await covered(page)) - share) < 0.3, true);
    await page.getByRole('group', { name: 'Another step' }).getByRole('button', { name: 'Take away' }).click();
    await page.getByRole('combobox', { name: 'Another piece' }).selectOption({ label: 'Piece 1' });
    const steps = page.getByRole('list', { name: 'Steps of the piece' }).getByRole('listitem');
    await steps.filter({ hasText: 'Piece 1' }).waitFor();
    await covers(whole - first);
    const renew = page.getByRole('button', { name: 'Take Piece 1 as it is lifted now' });
    await becomes(() => renew.count(), 0);
    await page.getByRole('button', { name: 'Open Piece 1', exact: true }).click();
    await covered(page);
    await page.getByRole('button', { name: 'Drop', exact: true }).click();
    await stroke(page, [0.5, 0.3], [0.5, 0.7], 600, 400);
    await page.getByText('0 keep, 1 drop').waitFor();
    await page.keyboard.press('Escape');
    await page.getByText(/The piece covers/).waitFor();
    await liftOut(page);
    const second = await covered(page);
    await page.getByRole('button', { name: 'Open Piece 2', exact: true }).click();
    await renew.click();
    await covers(whole - second);
    await becomes(() => renew.count(), 0);
  });

  it('a key pressed right after New piece is meant for the new piece, however busy the page is', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(600, 400));
    await liftOut(page);
    // Both in one breath, as when the page is busy and both wait for it: between them it finds no time to draw.
    await page.getByRole('button', { name: 'New piece' }).evaluate(async (button: HTMLElement) => {
      button.click();
      await Promise.resolve();
      button.dispatchEvent(new KeyboardEvent('keydown', { key: 'p', bubbles: true }));
    });
    const view = page.getByTestId('cut-view');
    for (const corner of [
      [60, 60],
      [540, 60],
      [540, 340],
    ] as [number, number][])
      await page.mouse.click(...(await onPage(view, corner)));
    await page.keyboard.press('Enter');
    await page.getByRole('list', { name: 'Outlines' }).waitFor();
  });

  it('a lift can be cancelled, and leaves everything as it was', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(2200, 1500));
    await page.getByRole('button', { name: 'Lift out' }).click();
    await page.getByRole('button', { name: 'Cancel' }).click();
    await page.getByText('Lifting out was cancelled; nothing changed.').waitFor();
    await page.getByText('Not lifted out yet').waitFor();
  });

  it('of several things alike the one that is pressed on is taken; another is pointed at instead', async () => {
    const page = await startWith(app, await eightFloats());
    const view = page.getByTestId('cut-view');
    await page.getByText('Or press on the thing in the picture.').waitFor();
    // Float 3 is the largest, 1 the smallest; a slow drag over them moves the picture and means none.
    const [start, end] = [await onPage(view, [300, 210]), await onPage(view, [340, 220])];
    await page.mouse.move(...start);
    await page.mouse.down();
    for (let k = 1; k <= 8; k++)
      await page.mouse.move(start[0] + ((end[0] - start[0]) * k) / 8, start[1] + ((end[1] - start[1]) * k) / 8);
    await page.mouse.up();
    await page.getByText('No piece yet.').waitFor();
    // Nor does a press while another way is open.
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.mouse.click(...(await onPage(view, [395, 120])));
    await page.getByText('No piece yet.').waitFor();
    await page
      .getByRole('button', { name: /^Subject/ })
      .first()
      .click();
    const share = (radius: number): number => (100 * Math.PI * radius * radius) / (640 * 420);
    await page.mouse.click(...(await onPage(view, [395, 120])));
    expect(await covered(page)).to.be.closeTo(share(48), 0.15);
    await page.getByTestId('pointed-at').waitFor();
    await page.keyboard.press('i');
    await page.mouse.click(...(await onPage(view, [95, 120])));
    await becomes(async () => Math.abs((await covered(page)) - share(38)) < 0.15, true);
    await page.keyboard.press('Control+z');
    await becomes(async () => Math.abs((await covered(page)) - share(48)) < 0.15, true);
    await saved(page);
    await page.reload();
    expect(await covered(page)).to.be.closeTo(share(48), 0.15);
    await page.getByRole('button', { name: 'Find what stands out instead' }).click();
    await becomes(async () => (await covered(page)) > 5 * share(43), true);
    expect(await page.getByTestId('pointed-at').count()).to.equal(0);
  });

  it('bad files are refused in a sentence that names them, and good ones beside them are taken', async () => {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    const good = await buoyPhoto(300, 200);
    await dropFiles(page, 'header', [
      { name: 'notes.jpg', type: 'image/jpeg', bytes: Buffer.from('not a picture') },
      { name: 'half.jpg', type: 'image/jpeg', bytes: good.subarray(0, good.length >> 1) },
    ]);
    await page.getByText(/"notes.jpg" is not a picture Clyvo can read/).waitFor();
    await page.getByText(/"half.jpg" is damaged or was cut short/).waitFor();
    expect(page.url()).to.equal(`${app.server.url}/`);
    await dropFiles(page, 'header', [{ name: 'good.jpg', type: 'image/jpeg', bytes: good }]);
    await page.getByTestId('cut-view').waitFor();
  });
});
