import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { exportFormats, type ExportFormat } from '../core/formats/exports.ts';
import { decodeApng } from 'fast-png';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { setProperty } from '../core/edits/layer-edits.ts';
import {
  becomes,
  buoyPhoto,
  dismissNotices,
  goTo,
  liftOut,
  newestExport,
  saved,
  startWithPhoto,
  useApp,
} from './harness.ts';
import { card, projectWith } from './stage-world.ts';
import { decodeVideo } from './video.ts';

describe('Deliver', () => {
  const app = useApp();
  let project = '';
  before(async () => {
    const page = await startWithPhoto(app, await buoyPhoto(960, 540));
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.getByRole('textbox', { name: 'Length' }).fill('1');
    await page.keyboard.press('Enter');
    await saved(page);
    project = page.url().replace(/stage$/, '');
  });

  const make = async (page: Page, format: ExportFormat, size: string): Promise<Buffer> => {
    const { name, hint } = exportFormats[format];
    await dismissNotices(page, new RegExp(`: ${name} is ready`));
    await page.getByRole('radio', { name: hint }).click();
    await page.getByRole('radio', { name: size }).click();
    await page.getByRole('button', { name: `Export ${name}`, exact: true }).click();
    await page.getByText(new RegExp(`: ${name} is ready`)).waitFor();
    return readFile((await newestExport(page)).path);
  };

  it('makes a GIF of the right size, length and number of frames that loops for ever', async () => {
    const page = await app.visit(`${project}deliver`);
    const gif = await make(page, 'gif', '320 × 180');
    const { width, pageHeight, pages, delay, loop } = await sharp(gif, { animated: true }).metadata();
    expect([width, pageHeight, pages, loop]).to.deep.equal([320, 180, 15, 0]);
    expect(delay!.reduce((sum, d) => sum + d, 0)).to.equal(1000);
    // A page shows it as a picture: the player of the page is for videos.
    await becomes(() => page.getByRole('button', { name: /^Put .*\.gif on a page$/ }).count(), 0);
    // With a limit it is smaller, still as long, and what was given up is said.
    const limit = Math.round((0.45 * gif.length) / 1000);
    await page.getByRole('switch', { name: 'Limit the file size' }).click();
    await page.getByRole('textbox', { name: 'At most' }).fill(String(limit));
    await page.keyboard.press('Enter');
    const small = await make(page, 'gif', '320 × 180');
    expect(small.length).to.be.within(0.3 * limit * 1000, limit * 1000);
    const shown = await sharp(small, { animated: true }).metadata();
    expect(shown.delay!.reduce((sum, d) => sum + d, 0)).to.be.closeTo(1000, 60);
  });

  it('makes a WebM the browser itself plays', async () => {
    const page = await app.visit(`${project}deliver`);
    const webm = await make(page, 'webm', '640 × 360');
    const facts = await page.evaluate(async (text) => {
      const video = document.createElement('video');
      video.src = URL.createObjectURL(new Blob([Uint8Array.fromBase64(text)], { type: 'video/webm' }));
      await new Promise((resolve, reject) => {
        video.onloadeddata = resolve;
        video.onerror = () => reject(new Error('cannot be decoded'));
      });
      return [video.videoWidth, video.videoHeight, video.duration];
    }, webm.toString('base64'));
    expect(facts.slice(0, 2)).to.deep.equal([640, 360]);
    expect(facts[2]).to.be.closeTo(1, 0.05);
  });

  it('a poster is the chosen frame, and clear where no layer is', async () => {
    const page = await app.visit(`${project}deliver`);
    await page.getByRole('radio', { name: /as a still picture/ }).click();
    await page.getByRole('textbox', { name: 'Frame' }).fill('29');
    await page.keyboard.press('Enter');
    const whole = await make(page, 'png', '960 × 540');
    await page.getByText('marker buoy frame 29.png').waitFor();
    expect((await sharp(whole).metadata()).width).to.equal(960);
    await goTo(page, 'Stage');
    await page.getByRole('button', { name: /Hide .*background/ }).click();
    await goTo(page, 'Deliver');
    const cut = await make(page, 'png', '960 × 540');
    const { data } = await sharp(cut).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    expect(data[3]).to.equal(0);
    expect(data[(270 * 960 + 480) * 4 + 3]).to.equal(255);
  });

  it('a moving PNG and numbered PNGs hold the same frames as a poster, see-through where no layer is', async () => {
    const page = await app.visit(`${project}deliver`);
    const moving = decodeApng(await make(page, 'apng', '640 × 360'));
    const files = unzipSync(await make(page, 'frames', '640 × 360'));
    const names = Object.keys(files).sort();
    expect(names[0]).to.equal('frame-0001.png');
    expect(names).to.have.length(30);
    expect([moving.width, moving.height, moving.numberOfFrames, moving.numberOfPlays]).to.deep.equal([640, 360, 30, 0]);
    for (const k of [0, 14, 29]) {
      const { data } = await sharp(files[names[k]!]!).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
      expect(Buffer.compare(Buffer.from(moving.frames[k]!.data as Uint8Array), data), `frame ${k}`).to.equal(0);
      // The background was hidden before: a corner is clear, the buoy in the middle is not.
      expect(data[3]).to.equal(0);
      expect(data[(180 * 640 + 320) * 4 + 3]).to.equal(255);
    }
    // Frames of a clip are painted by several workers at once, a poster by one.
    const poster = await sharp(await make(page, 'png', '640 × 360'))
      .ensureAlpha()
      .raw()
      .toBuffer();
    const same = await Promise.all(
      names.map(async (name) => poster.equals(await sharp(files[name]!).ensureAlpha().raw().toBuffer())),
    );
    expect(same.filter(Boolean)).to.have.length.at.least(1);
    for (const kind of ['jpeg', 'webp'] as const) {
      const poster = await sharp(await make(page, kind, '640 × 360')).metadata();
      expect([poster.format, poster.width, poster.hasAlpha]).to.deep.equal([kind, 640, kind === 'webp']);
    }
  });

  it('exports stay in the list after a reload and can be deleted', async () => {
    const page = await app.visit(`${project}deliver`);
    const downloads = page.getByRole('link', { name: /^Download/ });
    await downloads.first().waitFor();
    const count = await downloads.count();
    await page
      .getByRole('button', { name: /^Delete marker buoy/ })
      .first()
      .click();
    await page.waitForFunction((n) => document.querySelectorAll('a[aria-label^=Download]').length === n, count - 1);
    await page.reload();
    await downloads.first().waitFor();
    await becomes(() => downloads.count(), count - 1);
  });

  for (const format of ['mp4', 'webm'] as const)
    it(`the colours of ${format} are those that were painted, and the file says how they are meant`, async () => {
      const patches: [number, number, number][] = [
        [255, 255, 255],
        [0, 0, 0],
        [200, 30, 30],
        [30, 180, 60],
        [20, 60, 210],
        [240, 200, 40],
        [128, 128, 128],
        [60, 150, 160],
      ];
      const place = (k: number): [number, number] => [(k % 4) * 240 - 360, Math.floor(k / 4) * 270 - 135];
      const url = await projectWith(
        app,
        (d) =>
          patches.flatMap((colour, k) => [
            card(d, `patch-${k}`, colour, 3, place(k)),
            setProperty(d.shots[0]!.id, `patch-${k}`, 'scale', 0, 2.4),
          ]),
        `Colours ${format}`,
      );
      const page = await app.visit(url.replace(/stage$/, 'deliver'));
      const file = await make(page, format, '960 × 540');
      const path = join(await mkdtemp(join(tmpdir(), 'clyvo-e2e-')), `colours.${format.toLowerCase()}`);
      await writeFile(path, file);
      const { colours, width, height, pictures } = await decodeVideo(page, path, [0.5]);
      expect(colours).to.deep.include({ primaries: 'bt709', matrix: 'bt709', fullRange: false });
      let off = 0;
      patches.forEach((wanted, k) => {
        const [x, y] = place(k);
        const at = (Math.round(y + height / 2) * width + Math.round(x + width / 2)) * 4;
        wanted.forEach((v, n) => (off += Math.abs(pictures[0]!.data[at + n]! - v)));
      });
      expect(off / (3 * patches.length)).to.be.below(2);
      if (format === 'mp4') {
        // ISO/IEC 14496-12, 12.1.5: primaries, transfer and matrix 1 are BT.709, the last bit says full range.
        const colr = file.indexOf('colrnclx');
        expect([...file.subarray(colr + 8, colr + 15)]).to.deep.equal([0, 1, 0, 1, 0, 1, 0]);
      }
    });

  it('a video ends under the size it may have, and says what was given up for that', async () => {
    const page = await app.visit(`${project}deliver`);
    await page.getByRole('radio', { name: /MP4/ }).click();
    await page.getByRole('switch', { name: 'Limit the file size' }).click();
    await page.getByRole('textbox', { name: 'At most' }).fill('24');
    await page.keyboard.press('Enter');
    const file = await make(page, 'mp4', '960 × 540');
    expect(file.length).to.be.within(4000, 24_000);
    await page.getByText(/ready in Deliver, .* to fit\./).waitFor();
    // Without a limit the same clip is several times as large.
    await page.getByRole('switch', { name: 'Limit the file size' }).click();
    expect((await make(page, 'mp4', '960 × 540')).length).to.be.greaterThan(2 * file.length);
  });

  it('a clip is shown as it sits on a page, and the page opens from disk and plays', async () => {
    const page = await app.visit(`${project}deliver`);
    await make(page, 'mp4', '640 × 360');
    await page
      .getByRole('button', { name: /^Put .* on a page$/ })
      .first()
      .click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('radio', { name: /Phone/ }).click();
    const shown = dialog.getByTestId('stand-in-page').locator('video');
    await page.waitForFunction(
      () => (document.querySelector('[role=dialog] video') as HTMLVideoElement).currentTime > 0,
    );
    const { width } = (await shown.boundingBox())!;
    expect(width).to.be.closeTo(390 - 48, 2);
    expect(await dialog.getByRole('textbox', { name: 'HTML' }).inputValue()).to.contain('autoplay muted loop');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Download page (ZIP)' }).click(),
    ]);
    const folder = await mkdtemp(join(tmpdir(), 'clyvo-e2e-'));
    for (const [name, bytes] of Object.entries(unzipSync(await readFile(await download.path()))))
      await writeFile(join(folder, name), bytes);
    const other = await page.context().newPage();
    await other.goto(`file://${folder}/index.html`);
    await other.waitForFunction(() => document.querySelector('video')!.currentTime > 0.1);
    const facts = await other.evaluate(() => {
      const video = document.querySelector('video')!;
      return [video.videoWidth, video.videoHeight, video.loop, video.muted];
    });
    expect(facts).to.deep.equal([640, 360, true, true]);
    const poster = await sharp(join(folder, 'poster.jpg')).metadata();
    expect([poster.width, poster.height]).to.deep.equal([640, 360]);
    await other.emulateMedia({ reducedMotion: 'reduce' });
    await becomes(() => other.locator('video').isVisible(), false);
    await becomes(() => other.locator('img').isVisible(), true);
    await other.close();
  });
});
