import { readFile } from 'node:fs/promises';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { exportFormats, type ExportFormat } from '../core/formats/exports.ts';
import { addKey } from '../core/edits/layer-edits.ts';
import { saved, useApp } from './harness.ts';
import { card, projectWith } from './stage-world.ts';
import { decodeVideo } from './video.ts';

describe('Deliver, before and around an export', () => {
  const app = useApp();
  let url = '';
  before(async () => {
    const move = (id: string, frame: number, at: [number, number], shot: string) =>
      addKey(shot, id, 'position', frame, at);
    url = await projectWith(app, (d) => [
      card(d, 'lamp', [240, 200, 60]),
      card(d, 'float', [200, 74, 38], 2, [0, 120]),
      move('lamp', 0, [-350, -100], d.shots[0]!.id),
      move('lamp', 59, [350, -100], d.shots[0]!.id),
      move('float', 0, [350, 120], d.shots[0]!.id),
      move('float', 59, [-250, 160], d.shots[0]!.id),
    ]);
  });
  const open = async (): Promise<Page> => {
    const page = await app.open();
    await page.goto(url.replace(/stage$/, 'deliver'));
    await page.getByTestId('estimate').waitFor();
    return page;
  };
  const choose = async (page: Page, format: ExportFormat): Promise<void> => {
    await page.getByRole('radio', { name: exportFormats[format].hint }).click();
    await page.getByRole('radio', { name: '640 × 360' }).click();
  };
  const start = (page: Page, format: ExportFormat) =>
    page.getByRole('button', { name: `Export ${exportFormats[format].name}`, exact: true }).click();
  const exported = async (page: Page, format: ExportFormat): Promise<{ path: string; bytes: number }> => {
    const { name, ending } = exportFormats[format];
    await page.getByText(new RegExp(`: ${name} is ready`)).waitFor({ state: 'detached' });
    await start(page, format);
    await page.getByText(new RegExp(`: ${name} is ready`)).waitFor();
    const link = page.getByRole('link', { name: new RegExp(`Download .*\\.${ending}$`) }).first();
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
    const path = await download.path();
    return { path, bytes: (await readFile(path)).length };
  };

  it('says how large the file will be, and is right within 15 per cent', async () => {
    const page = await open();
    const units: Record<string, number> = { B: 1, kB: 1e3, MB: 1e6 };
    for (const format of ['mp4', 'webm', 'gif', 'frames', 'png'] as const) {
      await choose(page, format);
      await page.getByText(/^About \d/).waitFor();
      const [, number, unit] = /^About ([\d.]+) (B|kB|MB)/.exec((await page.getByTestId('estimate').textContent())!)!;
      const { bytes } = await exported(page, format);
      // What is said has two figures.
      expect((Number(number) * units[unit!]!) / bytes, format).to.be.within(0.84, 1.16);
    }
    await choose(page, 'mp4');
    await page.getByRole('switch', { name: 'Limit the file size' }).click();
    await page.getByText('At most 500 kB').waitFor();
  });

  it('ends are crossfaded or played back again: said before, seen in the loop, and so in the file', async () => {
    const page = await open();
    const seam = page.getByTestId('seam');
    const isSeen = (seen: boolean) => page.locator(`[data-testid=seam][data-seen=${seen}]`).waitFor();
    await isSeen(true);
    const ends = seam.getByRole('combobox', { name: 'Ends' });
    await ends.selectOption('crossfaded');
    await seam.getByText('1.5 s instead of 2 s: the last 0.5 s go over into the first.').waitFor();
    await isSeen(false);
    await choose(page, 'mp4');
    const { duration, pictures } = await decodeVideo(page, (await exported(page, 'mp4')).path, [0.01, 0.25, 1.49]);
    expect(duration).to.be.closeTo(1.5, 0.05);
    // The lamp's place, by what is yellow in its row: near the end of its way at first, then in both places, fainter.
    const yellow = (data: Uint8Array, y: number): number[] =>
      Array.from({ length: 640 }, (_, x) => data[(y * 640 + x) * 4]! - data[(y * 640 + x) * 4 + 2]!);
    const at = (picture: number, share: number): number =>
      yellow(pictures[picture]!.data, 113)[Math.round(640 * share)]!;
    expect(at(0, 0.73)).to.be.greaterThan(120);
    const both = yellow(pictures[1]!.data, 113).filter((v) => v > 40 && v < 140).length;
    expect(both).to.be.greaterThan(100);
    await ends.selectOption('there and back');
    await seam.getByText('3.93 s instead of 2 s: it plays to its end, and backwards to its beginning.').waitFor();
    await isSeen(false);
    const back = await decodeVideo(page, (await exported(page, 'mp4')).path, [0.5, 3.4333]);
    expect(back.frames).to.equal(118);
    // Half a second from either end it is the same picture.
    const [one, other] = back.pictures.map(({ data }) => data) as [Uint8Array, Uint8Array];
    const off = one.reduce((sum, v, i) => sum + Math.abs(v - other[i]!), 0) / one.length;
    expect(off).to.be.lessThan(3);
    await ends.selectOption('as they are');
    await saved(page);
  });

  it('what is see-through stays so in WebM with alpha, soft at the edges, and in a GIF where that is asked for', async () => {
    const page = await open();
    await choose(page, 'webm-alpha');
    const file = (await readFile((await exported(page, 'webm-alpha')).path)).toString('base64');
    // Drawn over nothing, by the browser's own decoder.
    const pixels = await page.evaluate(async (text) => {
      const video = document.createElement('video');
      const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
      video.src = URL.createObjectURL(new Blob([bytes], { type: 'video/webm' }));
      await new Promise((resolve) => (video.onloadeddata = resolve));
      const sought = new Promise((resolve) => (video.onseeked = resolve));
      video.currentTime = 0.98;
      await sought;
      const context = new OffscreenCanvas(640, 360).getContext('2d')!;
      do {
        await new Promise((resolve) => requestAnimationFrame(resolve));
        context.drawImage(video, 0, 0);
      } while (context.getImageData(0, 0, 640, 360).data.every((v) => v === 0));
      return [...context.getImageData(0, 113, 640, 1).data];
    }, file);
    const rgba = (x: number): number[] => pixels.slice(4 * x, 4 * x + 4);
    const lamp = Array.from({ length: 640 }, (_, x) => x).filter((x) => rgba(x)[3]! > 250);
    expect(lamp.length).to.be.within(70, 90);
    // At frame 29 its middle is near that of the frame.
    expect((lamp[0]! + lamp.at(-1)!) / 2).to.be.closeTo(320, 8);
    expect(rgba(40)[3]).to.equal(0);
    for (const x of lamp) [240, 200, 60].forEach((v, c) => expect(rgba(x)[c], `${x}`).to.be.closeTo(v, 12));

    await choose(page, 'gif');
    await page.getByRole('switch', { name: 'See-through ground' }).click();
    const { path } = await exported(page, 'gif');
    const frameOf = async (frame: number): Promise<(x: number) => number[]> => {
      const { data } = await sharp(path, { page: frame }).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
      return (x) => [...data.subarray((113 * 640 + x) * 4, (113 * 640 + x) * 4 + 4)];
    };
    const [first, last] = [await frameOf(0), await frameOf(29)];
    expect([first(86)[3], first(560)[3]]).to.deep.equal([255, 0]);
    // Where it was at first nothing is left behind.
    expect([last(86)[3], last(545)[3]]).to.deep.equal([0, 255]);
    [240, 200, 60].forEach((v, c) => expect(first(86)[c]).to.be.closeTo(v, 8));
  });

  it('AV1 is decoded as it was painted, and is smaller than VP9', async () => {
    const page = await open();
    const sizes: number[] = [];
    for (const format of ['av1', 'webm'] as const) {
      await choose(page, format);
      const { path, bytes } = await exported(page, format);
      sizes.push(bytes);
      const { duration, pictures, colours } = await decodeVideo(page, path, [0.01]);
      expect(duration, format).to.be.closeTo(2, 0.05);
      expect(colours, format).to.deep.include({ matrix: 'bt709', fullRange: false });
      const { data } = pictures[0]!;
      [240, 200, 60].forEach((v, c) => expect(data[(113 * 640 + 86) * 4 + c], format).to.be.closeTo(v, 6));
    }
    expect(sizes[0]).to.be.lessThan(sizes[1]!);
  });

  it('several wait their turn and are made one after the other while one is elsewhere; one can be taken out', async () => {
    const page = await open();
    const made = await page.getByRole('link', { name: /^Download/ }).count();
    for (const format of ['gif', 'webm', 'png', 'mp4'] as const) {
      await choose(page, format);
      await start(page, format);
    }
    const queue = page.getByRole('list', { name: 'Queue' });
    await queue.getByRole('listitem').filter({ hasText: 'WebM' }).getByRole('button').click();
    await page.getByRole('link', { name: /^Stage/ }).click();
    await page.getByText(/MP4 is ready/).waitFor();
    await page.goto(url.replace(/stage$/, 'deliver'));
    await page
      .getByRole('link', { name: /^Download/ })
      .first()
      .waitFor();
    const names = await page
      .getByRole('link', { name: /^Download/ })
      .evaluateAll((all) => all.map((a) => a.getAttribute('aria-label')));
    expect(names).to.have.length(made + 3);
    expect(names.slice(0, 3).map((name) => name!.split('.').at(-1))).to.deep.equal(['mp4', 'png', 'gif']);
  });

  it('after a closed tab it is said what was not finished, once, and not of a tab that is still at it', async () => {
    const page = await open();
    await choose(page, 'frames');
    await page.getByRole('radio', { name: '960 × 540' }).click();
    await start(page, 'frames');
    await choose(page, 'gif');
    await start(page, 'gif');
    await page.getByRole('list', { name: 'Queue' }).waitFor();
    const other = await page.context().newPage();
    await other.goto(app.server.url);
    await other.getByRole('button', { name: /^Open/ }).first().waitFor();
    expect(await other.getByText(/before this was exported/).count()).to.equal(0);
    await page.close({ runBeforeUnload: false });
    await other.getByText(/before this was exported: Signals \(Frames\), Signals \(GIF\)/).waitFor();
    await other.reload();
    await other.getByRole('button', { name: /^Open/ }).first().waitFor();
    expect(await other.getByText(/before this was exported/).count()).to.equal(0);
    await other.close();
  });

  it('a format this browser cannot write is said before the press, with what to take instead', async () => {
    const page = await app.open();
    // A browser without H.264: what a worker asks is answered with no.
    await page.route(/export\.worker.*\.js/, async (route) => {
      const script = await (await route.fetch()).text();
      const patch = `const asked = VideoEncoder.isConfigSupported.bind(VideoEncoder);
        VideoEncoder.isConfigSupported = (config) =>
          config.codec.startsWith('avc1') ? Promise.resolve({ supported: false, config }) : asked(config);`;
      await route.fulfill({ contentType: 'text/javascript', body: `${patch}\n${script}` });
    });
    await page.goto(url.replace(/stage$/, 'deliver'));
    await page.getByRole('radio', { name: exportFormats.mp4.hint }).waitFor();
    await page.getByText(/This browser cannot write MP4 .*take WebM/i).waitFor();
    await choose(page, 'png');
    expect((await sharp(await readFile((await exported(page, 'png')).path)).metadata()).width).to.equal(640);
  });
});
