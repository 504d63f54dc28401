import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { frames } from '../cli/frames.ts';
import { plainWords } from '../core/document/words.ts';
import { addLayer } from '../core/edits/arrange-edits.ts';
import { setCamera } from '../core/edits/camera-edits.ts';
import { addFinish } from '../core/edits/finish-edits.ts';
import { addProp } from '../core/edits/prop-edits.ts';
import { exportFormats, type ExportFormat } from '../core/formats/exports.ts';
import { addKey, setProperty } from '../core/edits/layer-edits.ts';
import { becomes, dismissNotices, dropFiles, newestExport, useApp } from './harness.ts';
import { card, projectWith, stored } from './stage-world.ts';
import { decodeVideo } from './video.ts';

describe('Deliver, before and around an export', () => {
  const app = useApp();
  let url = '';
  /** A project with words, a prop, a finish and a camera that shakes. */
  let rich = '';
  const move = (id: string, frame: number, at: [number, number], shot: string) =>
    addKey(shot, id, 'position', frame, at);
  const lampAndFloat = (): Promise<string> =>
    projectWith(app, (d) => [
      card(d, 'lamp', [240, 200, 60]),
      card(d, 'float', [200, 74, 38], 2, [0, 120]),
      move('lamp', 0, [-350, -100], d.shots[0]!.id),
      move('lamp', 59, [350, -100], d.shots[0]!.id),
      move('float', 0, [350, 120], d.shots[0]!.id),
      move('float', 59, [-250, 160], d.shots[0]!.id),
    ]);
  before(async () => {
    url = await lampAndFloat();
    rich = await projectWith(
      app,
      (d) => {
        const shot = d.shots[0]!.id;
        const words = {
          ...plainWords,
          face: 'condensed',
          text: 'Wendle Quay',
          size: 90,
          box: { width: 500, height: 110 },
        };
        return [
          card(d, 'lamp', [240, 200, 60]),
          move('lamp', 0, [-350, -100], shot),
          move('lamp', 59, [350, -100], shot),
          setProperty(shot, 'lamp', 'rotation', 0, 17),
          addFinish(shot, 'lamp', 'glow', 'glow-1'),
          addProp(shot, 'stars', { id: 'stars', depth: 6 }),
          addLayer(
            shot,
            { id: 'words', name: 'Words', depth: 2.5 },
            { source: words, colour: [245, 242, 235, 1], pivot: [250, 55] },
          ),
          setCamera('Change camera', shot, { shake: { amount: 3, period: 9, seed: 2, roll: 1 } }),
        ];
      },
      'Lamps',
    );
  });
  const open = async (project = url): Promise<Page> => {
    const page = await app.visit(project.replace(/stage$/, 'deliver'));
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
    const { name } = exportFormats[format];
    await dismissNotices(page, new RegExp(`: ${name} is ready`));
    await start(page, format);
    await page.getByText(new RegExp(`: ${name} is ready`)).waitFor();
    const { path } = await newestExport(page);
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
    await page.getByText(/^About .*, within the limit$/).waitFor();
    await page.getByRole('textbox', { name: 'At most' }).fill('20');
    await page.keyboard.press('Enter');
    await page.getByText(/^At most 20 kB, instead of about \d/).waitFor();
  });

  it('ends are crossfaded or played back again: said before, seen in the loop, and so in the file', async () => {
    const page = await open(await lampAndFloat());
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
  });

  it('what is see-through stays so in WebM with alpha, soft at the edges, and in a GIF where that is asked for', async () => {
    const page = await open();
    await choose(page, 'webm-alpha');
    const { path: video } = await exported(page, 'webm-alpha');
    const { data: shown } = (await decodeVideo(page, video, [0.98])).pictures[0]!;
    const pixels = [...shown.subarray(113 * 640 * 4, 114 * 640 * 4)];
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

  it('the command line paints the same frames from a bundle', async () => {
    const page = await app.visit(rich.replace(/stage$/, 'deliver'));
    await choose(page, 'frames');
    const browser = unzipSync(await readFile((await exported(page, 'frames')).path));
    const folder = await mkdtemp(join(tmpdir(), 'clyvo-lamps-'));
    const id = /project\/([^/]+)/.exec(rich)![1]!;
    const bundle = await fetch(`${app.server.url}/api/projects/${id}/bundle?exports=none`);
    await writeFile(join(folder, 'lamps.zip'), new Uint8Array(await bundle.arrayBuffer()));
    const facts = await frames([
      '--project',
      join(folder, 'lamps.zip'),
      '--out',
      join(folder, 'out'),
      '--size',
      '640x360',
      '--first',
      '20',
      '--end',
      '50',
    ]);
    expect(facts).to.include({ frames: 30, width: 640, height: 360 });
    for (const name of ['frame-0021.png', 'frame-0041.png', 'frame-0050.png']) {
      const [one, other] = await Promise.all(
        [browser[name]!, await readFile(join(folder, 'out', name))].map((png) =>
          sharp(png).ensureAlpha().raw().toBuffer(),
        ),
      );
      expect(
        one!.some((v, i) => i % 4 === 3 && v > 0 && v < 255),
        'soft edges',
      ).to.equal(true);
      // Colours count as far as they are seen.
      const off = one!.reduce((sum, v, i) => {
        const shown = (all: Buffer): number => (i % 4 === 3 ? all[i]! : (all[i]! * all[i - (i % 4) + 3]!) / 255);
        return sum + (v === other![i] ? 0 : Math.abs(shown(one!) - shown(other!)));
      }, 0);
      expect(off / one!.length, name).to.be.lessThan(2);
    }
    await rm(folder, { recursive: true });
  });

  it('a frame goes out in layers, in which another program finds all it needs, and comes in again as it looked', async () => {
    const page = await app.visit(rich.replace(/stage$/, 'deliver'));
    await choose(page, 'png');
    const flat = await sharp((await exported(page, 'png')).path)
      .ensureAlpha()
      .raw()
      .toBuffer();
    await choose(page, 'ora');
    const { path } = await exported(page, 'ora');
    const file = await readFile(path);
    // The standard's first promise: what it is stands, unpacked, at a fixed place.
    expect(file.toString('latin1', 30, 54)).to.equal('mimetypeimage/openraster');
    const entries = unzipSync(file);
    const stack = new TextDecoder().decode(entries['stack.xml']);
    const tagged = [...stack.matchAll(/<layer name="(\w+)" src="([^"]+)" x="(-?\d+)" y="(-?\d+)"/g)].map((m) =>
      m.slice(1),
    );
    expect(tagged.map(([name]) => name)).to.deep.equal(['Words', 'lamp', 'Stars']);
    const thumbnail = await sharp(entries['Thumbnails/thumbnail.png']!).metadata();
    expect(Math.max(thumbnail.width, thumbnail.height)).to.equal(256);
    // Laid over one another by another program's painter, its layers are the frame.
    const layers = tagged
      .reverse()
      .map(([, src, x, y]) => ({ input: Buffer.from(entries[src!]!), left: Number(x), top: Number(y) }));
    const blank = { create: { width: 640, height: 360, channels: 4 as const, background: '#00000000' } };
    const laid = await sharp(blank).composite(layers).raw().toBuffer();
    const apart = (other: Buffer): number =>
      flat.reduce((sum, v, i) => {
        const alpha = i - (i % 4) + 3;
        return sum + Math.abs((v * flat[alpha]!) / 255 - (other[i]! * other[alpha]!) / 255);
      }, 0) / flat.length;
    expect(apart(laid)).to.be.lessThan(0.5);
    const merged = await sharp(entries['mergedimage.png']!).ensureAlpha().raw().toBuffer();
    expect(apart(merged)).to.equal(0);

    await choose(page, 'layers');
    const zip = unzipSync(await readFile((await exported(page, 'layers')).path));
    const places = JSON.parse(new TextDecoder().decode(zip['layers.json'])) as {
      layers: { file: string; name: string }[];
    };
    expect(places.layers.map(({ name }) => name)).to.deep.equal(['Words', 'lamp', 'Stars']);
    for (const { file } of places.layers) expect(zip[file]!.length).to.be.greaterThan(60);

    await page.goto(app.server.url);
    await dropFiles(page, 'header', [{ name: 'lamps.ora', type: 'image/openraster', bytes: file }]);
    await page.getByTestId('stage-view').waitFor();
    const { frame, shots } = await stored(page);
    expect([frame.width, frame.height]).to.deep.equal([640, 360]);
    expect(shots[0]!.layers.map(({ name }) => name)).to.deep.equal(['Words', 'lamp', 'Stars']);
    await page.getByRole('link', { name: /^Deliver/ }).click();
    await choose(page, 'png');
    const back = await sharp((await exported(page, 'png')).path)
      .ensureAlpha()
      .raw()
      .toBuffer();
    expect(apart(back)).to.be.lessThan(0.5);

    await page.goto(app.server.url);
    await dropFiles(page, 'header', [{ name: 'letter.ora', type: '', bytes: Buffer.from('Dear harbour master') }]);
    await page.getByText('It is no picture in layers that can be read (OpenRaster).').waitFor();
  });

  it('several wait their turn and are made one after the other while one is elsewhere; one can be taken out', async () => {
    const page = await open();
    // What is listed may not be there yet.
    const project = /project\/([^/]+)/.exec(url)![1]!;
    const kept = await fetch(`${app.server.url}/api/projects/${project}/outputs`);
    const made = ((await kept.json()) as unknown[]).length;
    // The last one is taken out, so that its turn is far whatever the machine does meanwhile.
    for (const format of ['gif', 'png', 'mp4', 'webm'] as const) {
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
    await page.getByRole('radio', { name: '1280 × 720' }).click();
    // More than can be done while the other tab opens.
    for (let k = 0; k < 4; k++) await start(page, 'frames');
    await choose(page, 'gif');
    await start(page, 'gif');
    await page.getByRole('list', { name: 'Queue' }).waitFor();
    const other = await page.context().newPage();
    await other.goto(app.server.url);
    await other.getByRole('listitem').first().waitFor();
    await becomes(() => other.getByText(/before this was exported/).count(), 0);
    await page.close({ runBeforeUnload: false });
    await other.getByText(/before this was exported: Signals \(Frames\), .*Signals \(GIF\)/).waitFor();
    await other.reload();
    await other.getByRole('listitem').first().waitFor();
    await becomes(() => other.getByText(/before this was exported/).count(), 0);
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
