import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { becomes, buoyPhoto, covered, goTo, liftOut, saved, startWithPhoto, useApp } from './harness.ts';
import { decodeVideo } from './video.ts';

describe('from a photo to a clip', () => {
  const app = useApp();

  const shorten = async (page: Page): Promise<void> => {
    const length = page.getByRole('textbox', { name: 'Length' });
    await length.fill('1');
    await length.press('Enter');
  };

  it('drops a photo of its own and downloads an MP4 in which near and far part and nothing is bare', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(960, 540));
    expect(await covered(page)).to.be.closeTo(((Math.PI * 0.16 ** 2 * 960) / 540) * 100, 0.8);
    await liftOut(page);
    // What was just made is one press from being seen in motion.
    await page.getByRole('button', { name: 'See it move' }).click();
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor();
    await page.getByText('No bare frame').waitFor();
    await shorten(page);
    await saved(page);
    await goTo(page, 'Deliver');
    await page.getByRole('radio', { name: '960 × 540' }).click();
    await page.getByRole('button', { name: 'Export MP4' }).click();
    await page.getByText(/MP4 is ready/).waitFor();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: /Download/ }).click(),
    ]);
    expect(download.suggestedFilename()).to.equal('marker buoy.mp4');

    const times = [0.01, 0.5, 0.96];
    const video = await decodeVideo(page, await download.path(), times);
    expect([video.width, video.height, video.frames]).to.deep.equal([960, 540, 30]);
    expect(video.duration).to.be.closeTo(1, 0.04);
    expect(video.frames / video.duration).to.be.closeTo(30, 1.3);

    const [first, , last] = video.pictures.map((p) => p.data) as [Uint8Array, Uint8Array, Uint8Array];
    const near = buoyCentre(last, 960)[0] - buoyCentre(first, 960)[0];
    const far = rippleShift(first, last, 960, 540);
    expect(Math.abs(near)).to.be.greaterThan(20);
    expect(Math.abs(near - far)).to.be.greaterThan(10);
    for (const { data } of video.pictures) expect(darkestBorder(data, 960, 540)).to.be.greaterThan(20);
  });

  it('is done with the keyboard alone', async () => {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      (async () => {
        // A page that has only just come up may not have the keyboard yet.
        const start = page.getByRole('button', { name: 'New from a picture' });
        for (let k = 0; k < 20 && !(await start.evaluate((one) => one === document.activeElement)); k++)
          await page.keyboard.press('Tab');
        await page.keyboard.press('Enter');
      })(),
    ]);
    await chooser.setFiles({ name: 'buoy.jpg', mimeType: 'image/jpeg', buffer: await buoyPhoto(480, 480) });
    await page.getByTestId('cut-view').waitFor();
    await page.getByRole('button', { name: 'Find subject' }).and(page.locator(':enabled')).waitFor();
    await page.keyboard.press('f');
    const before = await covered(page);
    // A Drop stroke at the crosshair, moved to the middle of the buoy's left half.
    await page.keyboard.press('d');
    await page.keyboard.press('Enter');
    await page.getByText('0 keep, 1 drop').waitFor();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Escape');
    await page.getByText(`The piece covers ${before.toFixed(1)} %`).waitFor();
    await page.keyboard.press('l');
    await page.getByText(/^Lifted out/).waitFor();
    await page.keyboard.press('Alt+3');
    await page.getByTestId('stage-view').waitFor();
    await page.locator('[data-layer]').first().focus();
    const depth = await page.locator('[data-layer]').first().getAttribute('aria-label');
    await page.keyboard.press('Shift+ArrowDown');
    expect(await page.locator('[data-layer]').first().getAttribute('aria-label')).to.not.equal(depth);
    await page.keyboard.press('Alt+4');
    await page.getByRole('radio', { name: /as a still picture/ }).focus();
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Export PNG' }).focus();
    await page.keyboard.press('Enter');
    await page.getByText(/PNG is ready/).waitFor();
  });

  it('cancels an export and keeps nothing of it', async () => {
    const page = await app.visit();
    await page.getByRole('button', { name: 'Open marker buoy' }).click();
    await goTo(page, 'Stage');
    const length = page.getByRole('textbox', { name: 'Length' });
    await length.fill('30');
    await length.press('Enter');
    await goTo(page, 'Deliver');
    await page
      .getByRole('link', { name: /Download/ })
      .first()
      .waitFor();
    const made = await page.getByRole('link', { name: /Download/ }).count();
    await page.getByRole('button', { name: 'Export MP4' }).click();
    await page.getByRole('button', { name: 'Cancel' }).click();
    await page.getByText('The export was cancelled; nothing was kept.').waitFor();
    await becomes(() => page.getByRole('link', { name: /Download/ }).count(), made);
  });
});

/** Centre of the pixels that have the buoy's colour. */
function buoyCentre(data: Uint8Array, width: number): [number, number] {
  let [n, sx, sy] = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) {
    if (data[i]! < data[i + 2]! + 50) continue;
    n++;
    sx += (i / 4) % width;
    sy += Math.floor(i / 4 / width);
  }
  return [sx / n, sy / n];
}

/** Horizontal shift (pixels) that best lays the water of one frame over another, above and below the buoy. */
function rippleShift(a: Uint8Array, b: Uint8Array, width: number, height: number): number {
  let best = Infinity;
  let shift = 0;
  for (let zoom = 0.96; zoom <= 1.1; zoom += 0.01) {
    for (let dx = -60; dx <= 60; dx += 2) {
      let error = 0;
      let n = 0;
      for (let y = 12; y < height - 12; y += 6) {
        if (y > height * 0.2 && y < height * 0.8) continue;
        for (let x = 100; x < width - 100; x += 10) {
          const u = Math.round(width / 2 + (x - width / 2) * zoom + dx);
          const v = Math.round(height / 2 + (y - height / 2) * zoom);
          if (u < 0 || u >= width || v < 0 || v >= height) continue;
          error += Math.abs(a[(y * width + x) * 4 + 1]! - b[(v * width + u) * 4 + 1]!);
          n++;
        }
      }
      if (n > 200 && error / n < best) {
        best = error / n;
        shift = dx;
      }
    }
  }
  return shift;
}

/** The lightest channel of the darkest border pixel: bare frame is black, water never is. */
function darkestBorder(data: Uint8Array, width: number, height: number): number {
  let darkest = 255;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x += y === 0 || y === height - 1 ? 1 : width - 1) {
      const i = (y * width + x) * 4;
      darkest = Math.min(darkest, Math.max(data[i]!, data[i + 1]!, data[i + 2]!));
    }
  }
  return darkest;
}
