import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { MovingPng } from '../core/formats/apng.ts';
import { recordClip } from '../scripts/record-clip.ts';
import { dropFiles, goTo, useApp } from './harness.ts';
import { goToFrame, row, seen, stored } from './stage-world.ts';

/* Clips as they come: from phones, as moving pictures, as numbered ones. A bright card says which frame is seen. */

const [width, height, frames] = [192, 108, 12];
const greens = Array.from({ length: frames }, (_, k) => 20 + 19 * k);

/** Frame k: red left, its number as green on the right; above and below nothing where it can be seen through. */
function picture(k: number, open = false): { width: number; height: number; data: Uint8ClampedArray } {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const clear = open && (y < 24 || y >= height - 24);
    data.set(x < width / 2 ? [200, 40, 40, clear ? 0 : 255] : [40, greens[k]!, 40, clear ? 0 : 255], i * 4);
  }
  return { width, height, data };
}

const pngOf = (k: number, open = false): Promise<Buffer> => {
  const { data } = picture(k, open);
  return sharp(data, { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer();
};

/** A GIF in which every third picture lasts twice as long as the others. */
function gif(): Promise<Buffer> {
  const data = Buffer.concat(greens.map((_, k) => Buffer.from(picture(k).data)));
  const raw = { width, height: height * frames, channels: 4 as const, pageHeight: height };
  return sharp(data, { raw })
    .gif({ delay: greens.map((_, k) => (k % 3 === 0 ? 200 : 100)) })
    .toBuffer();
}

async function apng(): Promise<Buffer> {
  const moving = new MovingPng(frames);
  for (let k = 0; k < frames; k++) moving.add(await pngOf(k, true), { numerator: 1, denominator: 10 });
  return Buffer.concat(moving.finish());
}

describe('ways in for clips', () => {
  const app = useApp();

  async function hung(
    files: { name: string; type: string; bytes: Buffer }[],
    name: string,
    said: string | null = null,
  ): Promise<Page> {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', files);
    // A notice goes after a while: on a slow machine it is gone before the Stage is there.
    if (said) await page.getByText(said).waitFor();
    await page.getByTestId('cut-view').waitFor();
    await goTo(page, 'Stage');
    await page.getByLabel('Empty shot').getByRole('button', { name }).click();
    await row(page, name).waitFor();
    await page.locator('[data-painted="0"]').waitFor();
    return page;
  }

  /** Which frame is seen, by the green on the right. */
  async function frameSeen(page: Page): Promise<number> {
    const at = await seen(page);
    // Places count from the middle of a frame of half the size.
    const green = at(960, 270)[1]!;
    return greens.reduce((best, v, k) => (Math.abs(v - green) < Math.abs(greens[best]! - green) ? k : best), 0);
  }

  it('an animated GIF keeps the time of each of its pictures', async () => {
    const page = await hung([{ name: 'signal.gif', type: 'image/gif', bytes: await gif() }], 'signal');
    const document = await stored(page);
    expect(document.pictures[0]!.clip).to.deep.equal({ frames: 16, rate: 10 });
    // Ten frames a second: 0 0 1 2 3 3 4 5 ...
    for (const [tenth, wanted] of [
      [1, 0],
      [3, 2],
      [5, 3],
      [15, 11],
    ] as const) {
      await goToFrame(page, tenth * 3 + 1);
      expect(await frameSeen(page), `after ${tenth} tenths`).to.equal(wanted);
    }
  });

  it('an animated WebP and a moving PNG play, and what is clear in them shows what is behind', async () => {
    const webp = await sharp(await gif(), { animated: true })
      .webp({ lossless: true })
      .toBuffer();
    const first = await hung([{ name: 'flag.webp', type: 'image/webp', bytes: webp }], 'flag');
    await goToFrame(first, 10);
    expect(await frameSeen(first)).to.equal(2);
    const page = await hung([{ name: 'open.png', type: 'image/png', bytes: await apng() }], 'open');
    expect((await stored(page)).pictures[0]!.clip).to.deep.equal({ frames, rate: 10, alpha: true });
    await goToFrame(page, 22);
    expect(await frameSeen(page)).to.equal(7);
    // Above there is nothing of it: the frame is bare there.
    expect((await seen(page))(960, -230)[0]).to.not.be.closeTo(40, 30);
  });

  it('numbered pictures with alpha come in as one clip', async () => {
    const files = await Promise.all(
      Array.from({ length: frames }, async (_, k) => ({
        name: `walk_${String(k + 95).padStart(4, '0')}.png`,
        type: 'image/png',
        bytes: await pngOf(k, true),
      })),
    );
    const page = await hung([...files].reverse(), 'walk', `${frames} numbered pictures came in as one clip`);
    expect((await stored(page)).pictures[0]!.clip).to.deep.equal({ frames, rate: 30, alpha: true });
    await goToFrame(page, 8);
    expect(await frameSeen(page)).to.equal(8);
  });

  it('a still PNG, GIF or WebP stays a picture', async () => {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    await dropFiles(page, 'header', [{ name: 'still.png', type: 'image/png', bytes: await pngOf(3) }]);
    await page.getByTestId('cut-view').waitFor();
    expect((await stored(page)).pictures[0]!.clip).to.equal(null);
  });

  it('a phone held upright is shown upright, and uneven times are kept', async () => {
    const order = { width, height, rate: 12, frames, bitrate: 3e6, frame: (k: number) => picture(k) };
    const turned = await recordClip(app.browser, { ...order, format: 'mp4', rotation: 90 });
    const page = await hung([{ name: 'upright.mp4', type: 'video/mp4', bytes: turned }], 'upright');
    const { width: w, height: h } = (await stored(page)).pictures[0]!;
    expect([w, h]).to.deep.equal([height, width]);
    // The first half of the times lasts three times as long as the second.
    const begins = (k: number): number => (k <= 6 ? k * 0.15 : 0.9 + (k - 6) * 0.05);
    const uneven = await recordClip(app.browser, { ...order, format: 'mp4', begins });
    const other = await hung([{ name: 'uneven.mp4', type: 'video/mp4', bytes: uneven }], 'uneven');
    const { clip } = (await stored(other)).pictures[0]!;
    for (const [time, wanted] of [
      [0.2, 1],
      [0.7, 4],
      [1.02, 8],
    ] as const) {
      await goToFrame(other, Math.round(time * 30));
      const off = Math.abs((await frameSeen(other)) - wanted);
      expect(off, `at ${time} s of ${clip!.frames} frames at ${clip!.rate}`).to.be.at.most(1);
    }
  });
});
