import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { recordClip } from '../scripts/record-clip.ts';
import { becomes, covered, dropFiles, goTo, liftOut, onPage, saved, startWith, useApp, type App } from './harness.ts';
import { field, goToFrame, stored, type, unfold } from './stage-world.ts';
import { driftingFloat, driftingFloatAt, floatBeforeGreen, floatOverBoards } from './photos.ts';

describe('clips', () => {
  const app = useApp();

  async function startWithClip(of: App, name: string, type: string, bytes: Buffer): Promise<Page> {
    const page = await of.open();
    await page.goto(of.server.url);
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', [{ name, type, bytes }]);
    await page.getByTestId('cut-view').waitFor();
    return page;
  }

  const shownAt = async (page: Page, index: number): Promise<void> => {
    await page.getByRole('slider', { name: 'Frame of the clip' }).fill(String(index));
    await page.getByText('Opening the picture').waitFor({ state: 'detached' });
  };

  /** Colour of the painted Stage at a point of its 1920 x 1080 frame, given in shares. */
  async function stageColour(page: Page, frame: [number, number], u: number, v: number): Promise<number[]> {
    const [x, y] = await onPage(page.getByTestId('stage-view'), [u * frame[0], v * frame[1]]);
    const shot = await page.screenshot({ clip: { x: Math.round(x), y: Math.round(y), width: 1, height: 1 } });
    const { data } = await sharp(shot).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    return [...data];
  }

  /** The view follows a change a moment later: asked again with every frame the page draws. */
  async function expectSoon(holds: () => Promise<boolean>, what: string): Promise<void> {
    for (let attempt = 0; attempt < 60; attempt++) if (await holds()) return;
    throw new Error(`${what} is not seen`);
  }

  it('of one that was cut short what is there comes in, with how much that is; what is none is refused under its own name', async () => {
    const order = { width: 320, height: 180, rate: 12, frames: 24, bitrate: 2e6, frame: driftingFloat };
    const mp4 = await recordClip(app.browser, { ...order, format: 'mp4' });
    const webm = await recordClip(app.browser, { ...order, format: 'webm' });
    const half = (bytes: Buffer): Buffer => bytes.subarray(0, bytes.length >> 1);
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    const bring = async (name: string, bytes: Buffer): Promise<string> => {
      await dropFiles(page, 'header', [{ name, type: '', bytes }]);
      const notice = page.getByRole('alert').filter({ hasText: `"${name}"` });
      const text = (await notice.textContent())!;
      await notice.getByRole('button', { name: 'Dismiss' }).click();
      return text;
    };
    expect(await bring('head.webm', webm.subarray(0, 200))).to.match(/was cut short|is damaged|is not a clip/);
    expect(await bring('table.mov', Buffer.from('high water at 7:40'))).to.contain('is not a clip Clyvo can read');
    await becomes(() => page.getByRole('listitem').count(), 0);
    const share = /was cut short: only (\d+) % of it is there. That part came in/.exec(
      await bring('half of it.mp4', half(mp4)),
    );
    expect(Number(share?.[1])).to.be.within(30, 70);
    await page.getByTestId('cut-view').waitFor();
    const clipOf = async () => (await stored(page)).pictures.at(-1)!.clip!;
    expect((await clipOf()).frames).to.be.within(5, 16);
    // Its last frame can be seen.
    await shownAt(page, (await clipOf()).frames - 1);
    await page.getByTestId('cut-view').waitFor();
    const other = await app.open();
    await other.goto(app.server.url);
    await dropFiles(other, 'header', [{ name: 'cut.webm', type: '', bytes: half(webm) }]);
    await other.getByText(/"cut.webm" (was cut short|is damaged)/).waitFor();
  });

  it('what moves before a still wall is kept, in every frame; its layer shows the frame of the playhead', async () => {
    const bytes = await recordClip(app.browser, {
      width: 320,
      height: 180,
      rate: 12,
      frames: 24,
      format: 'mp4',
      bitrate: 2e6,
      frame: driftingFloat,
    });
    const page = await startWithClip(app, 'drifting_float.mp4', 'video/mp4', bytes);
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.getByRole('button', { name: 'Keep what moves' }).click();
    const float = ((Math.PI * 24 * 24) / (320 * 180)) * 100;
    expect(await covered(page)).closeTo(float, 0.6);
    await shownAt(page, 15);
    expect(await covered(page)).closeTo(float, 0.6);
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().waitFor();
    await becomes(() => page.locator('[data-layer]').count(), 1);
    await saved(page);
    // The frame's rate is 30, the clip's 12: frame 40 of the shot shows frame 16 of the clip.
    for (let k = 0; k < 40; k++) await page.keyboard.press('.');
    await page.waitForFunction(
      () => document.querySelector('[data-testid=painted]')?.getAttribute('data-painted') === '40',
    );
    const [x, y] = driftingFloatAt(16);
    const frame: [number, number] = [1920, 1080];
    const [r, g] = await stageColour(page, frame, x / 320, y / 180);
    expect(r).above(170);
    expect(g).below(110);
    expect(Math.max(...(await stageColour(page, frame, (x - 60) / 320, y / 180)))).below(16);
    // Frozen it says which frame it holds, holds another that is typed, and slips along.
    await page.locator('[data-layer]').first().click();
    await unfold(page, 'Time');
    await page.getByRole('switch', { name: 'Freeze' }).click();
    await becomes(() => field(page, 'Frozen at frame').inputValue(), '16');
    await type(page, 'Frozen at frame', 4);
    const floatAt = async (index: number): Promise<void> => {
      const [u, v] = driftingFloatAt(index);
      await expectSoon(async () => {
        const [r, g] = await stageColour(page, frame, u / 320, v / 180);
        return r! > 170 && g! < 110;
      }, `the float of frame ${index}`);
    };
    await floatAt(4);
    await type(page, 'Slip', 0.5);
    await becomes(() => field(page, 'Frozen at frame').inputValue(), '10');
    await floatAt(10);
  });

  it('what stands before green is keyed in every frame', async () => {
    const size = { width: 320, height: 180 };
    const wishes = { ...size, rate: 12, frames: 24, format: 'mp4' as const, bitrate: 4e6, frame: floatBeforeGreen };
    const page = await startWithClip(app, 'float_on_green.mp4', 'video/mp4', await recordClip(app.browser, wishes));
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.getByRole('button', { name: 'Remove screen' }).click();
    const float = ((Math.PI * 24 * 24) / (size.width * size.height)) * 100;
    for (const index of [0, 7, 23]) {
      await shownAt(page, index);
      expect(await covered(page), `frame ${index}`).closeTo(float, 0.3);
    }
  });

  it('a keyed clip larger than its view plays without its screen, and stands again to the pixel as it stood before', async () => {
    const [times, size] = [5, { width: 1600, height: 900 }];
    const frame = (k: number) => {
      const small = floatBeforeGreen(k);
      const data = new Uint8ClampedArray(size.width * size.height * 4);
      for (let i = 0; i < size.width * size.height; i++) {
        const from = Math.floor(i / size.width / times) * small.width + Math.floor((i % size.width) / times);
        data.set(small.data.subarray(from * 4, from * 4 + 4), i * 4);
      }
      return { ...size, data };
    };
    const wishes = { ...size, rate: 12, frames: 12, format: 'mp4' as const, bitrate: 8e6, frame };
    const page = await startWithClip(app, 'large_float.mp4', 'video/mp4', await recordClip(app.browser, wishes));
    await page.getByRole('button', { name: /^Colour/ }).click();
    await page.getByRole('button', { name: 'Remove screen' }).click();
    await covered(page);
    await liftOut(page);
    await goTo(page, 'Stage');
    const painted = (frame: number): Promise<void> => page.locator(`[data-painted="${frame}"]`).waitFor();
    const look = (): Promise<Buffer> => page.getByTestId('stage-view').screenshot();
    await goToFrame(page, 5);
    await painted(5);
    const before = await look();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    for (const at of [1, 4, 8]) {
      await page.waitForFunction(
        (from) => Number(document.querySelector('[data-painted]')?.getAttribute('data-painted')) !== from,
        at,
      );
      const { data, info } = await sharp(await look())
        .removeAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      let green = 0;
      for (let i = 0; i < info.width * info.height; i++) if (data[i * 3 + 1]! > data[i * 3]! + 60) green++;
      expect(green / (info.width * info.height), 'no screen is seen').to.be.below(0.002);
    }
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await goToFrame(page, 5);
    await painted(5);
    expect((await look()).equals(before), 'as it stood before').to.equal(true);
  });

  it('sparks on black are unveiled onto a scene by the best of four ways', async () => {
    const page = await startWith(app, await floatOverBoards());
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: /Hang .* on the Stage/ }).click();
    const clip = await readFile(join(import.meta.dirname, '../demo/pictures/sparks.webm'));
    await page
      .getByLabel('Choose pictures')
      .setInputFiles({ name: 'sparks.webm', mimeType: 'video/webm', buffer: clip });
    await page.getByText('3.0 s').waitFor();
    await page
      .getByRole('listitem')
      .filter({ hasText: 'sparks' })
      .getByRole('button', { name: 'Cut', exact: true })
      .click();
    await page.getByTestId('cut-view').waitFor();
    await page.getByRole('button', { name: /^Brightness/ }).click();
    await page.getByRole('radio', { name: /Dark goes/ }).click();
    await covered(page);
    await page.getByRole('button', { name: 'Compare on the scene' }).click();
    const ways = page.getByRole('radiogroup', { name: 'Ways to drop black' });
    await ways.waitFor();
    await becomes(() => ways.getByRole('radio').count(), 4);
    await ways.getByRole('radio', { name: /Screen/ }).click();
    await ways.waitFor({ state: 'detached' });
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().click();
    await becomes(() => page.getByLabel('Blend mode').inputValue(), 'screen');
    // Another way chosen afterwards takes the blending back.
    await page.goBack();
    await page.getByRole('button', { name: 'Compare on the scene' }).click();
    await ways.getByRole('radio', { name: /Unveil/ }).click();
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').first().click();
    await becomes(() => page.getByLabel('Blend mode').inputValue(), 'normal');
  });

  it('a file that is no clip is refused in a sentence', async () => {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', [{ name: 'tide.mp4', type: 'video/mp4', bytes: Buffer.from('high water 7:40') }]);
    await page.getByText('"tide.mp4" is not a clip Clyvo can read').waitFor();
  });
});
