import { readFile } from 'node:fs/promises';
import { expect } from 'chai';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { meanDifference } from '../core/scene/seam.ts';
import { covered, goTo, liftOut, startWith, useApp } from './harness.ts';
import { addText, arrive, countOf, exported, isRed, isWhite, liftedFloat, spread, where } from './scene-maker.ts';
import { floatWithTip, letteredBoards, tip } from './photos.ts';
import { field, goToFrame, nameOfRow, row, type, unfold } from './stage-world.ts';
import type { DecodedVideo } from './video.ts';

/* Whole scenes from a picture as it comes to a played file, through the interface alone. */

describe('scene 7, written welcome', () => {
  const app = useApp();

  it('a line is written by what was cut out of a photo, tip first, and it leaves to the left', async () => {
    const page = await startWith(app, await floatWithTip());
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    // The hair-thin tip is won back by a stroke.
    await page.keyboard.press('k');
    for (let k = 0; k < 12; k++) await page.keyboard.press('[');
    const view = (await page.getByTestId('cut-view').boundingBox())!;
    const [scale, vx, vy] = (await page.getByTestId('cut-view').getAttribute('data-view'))!.split(',').map(Number) as [
      number,
      number,
      number,
    ];
    const at = (x: number, y: number): [number, number] => [view.x + vx + x * scale, view.y + vy + y * scale];
    await page.mouse.move(...at(tip.x, tip.from));
    await page.mouse.down();
    for (let k = 1; k <= 20; k++) await page.mouse.move(...at(tip.x, tip.from + ((tip.to - tip.from) * k) / 20));
    await page.mouse.up();
    await page.getByText('1 keep, 0 drop').waitFor();
    await liftOut(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 2.4);
    await addText(page, 'Welcome aboard');
    await page.getByRole('combobox', { name: 'Font' }).selectOption('script');
    await type(page, 'Size', 76);
    await arrive(page, /^Write/);
    await type(page, 'Duration', 1.5);
    await unfold(page, 'Time');
    await type(page, 'Start', 0.3);
    await page
      .locator('[data-layer]')
      .filter({ hasNotText: 'background' })
      .filter({ hasNotText: 'Welcome' })
      .first()
      .click();
    await type(page, 'Pivot X', tip.x);
    await type(page, 'Pivot Y', tip.to);
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Follows the writing of' }).selectOption({ label: 'Welcome aboard' });
    await type(page, 'Leaves to', 180);
    await type(page, 'Comes and goes in', 0.3);
    const video = await exported(page, [0.02, 0.9, 1.4, 2.3], 'quay');
    const [start, early, late, end] = video.pictures as [
      DecodedVideo['pictures'][0],
      DecodedVideo['pictures'][0],
      DecodedVideo['pictures'][0],
      DecodedVideo['pictures'][0],
    ];
    const ink = video.pictures.map((picture) => where(picture, video.width, isWhite));
    expect(ink[0]!.length).to.be.below(60);
    expect(ink[1]!.length).to.be.greaterThan(300);
    expect(ink[2]!.length).to.be.greaterThan(ink[1]!.length * 1.3);
    expect(ink[3]!.length).to.be.greaterThan(ink[2]!.length);
    // What writes is at the right end of what is written, and later gone.
    for (const [picture, own] of [
      [early, ink[1]!],
      [late, ink[2]!],
    ] as const) {
      const hand = where(picture, video.width, isRed);
      expect(hand.length).to.be.greaterThan(1000);
      const middle = (spread(hand, 0)[0] + spread(hand, 0)[1]) / 2;
      expect(Math.abs(middle - spread(own, 0)[1]), 'the hand stands where the ink ends').to.be.below(40);
    }
    expect(countOf(end, isRed)).to.be.below(200);
    expect(countOf(start, isRed)).to.be.below(countOf(late, isRed));
  });
});

describe('scene 12, wax drip', () => {
  const app = useApp();

  it('wax grows out of a cutout in its colours, is one with it on another ground, and word and cutout slide', async () => {
    const page = await liftedFloat(app);
    await type(page, 'Length', 2);
    // Another ground: the rebuilt one is hidden behind a colour.
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Colour' }).click();
    await type(page, 'Depth', 5);
    await page.getByLabel('Colour', { exact: true }).fill('#f5f2eb');
    const lifted = page
      .locator('[data-layer]')
      .filter({ hasNotText: 'background' })
      .filter({ hasNotText: 'Colour' })
      .first();
    const name = await nameOfRow(lifted);
    const cutout = row(page, name);
    await cutout.click();
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Shape' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Drip edge', exact: true }).click();
    await row(page, 'Drip edge').waitFor();
    await type(page, 'Width', 96);
    await type(page, 'Height', 130);
    await type(page, 'Drops', 3);
    await type(page, 'Y', 120);
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Joined to' }).selectOption({ label: name });
    // A soft shadow close by is that of both.
    await cutout.click();
    await page.getByRole('button', { name: 'Add finish', exact: true }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Drop shadow/ })
      .click();
    await page.getByRole('button', { name: 'Position keyframe here' }).click();
    const x = Number(await field(page, 'X').inputValue());
    await goToFrame(page, 50);
    await type(page, 'X', x - 110);
    await addText(page, 'Wax');
    await type(page, 'Depth', 4);
    await page.getByLabel('Colour', { exact: true }).fill('#d9cdb8');
    await page.getByRole('button', { name: 'Position keyframe here' }).click();
    await goToFrame(page, 5);
    await type(page, 'X', -120);
    const video = await exported(page, [0.02, 1.8], 'quay');
    const wax = video.pictures.map((picture) => where(picture, video.width, isRed));
    const low = wax.map((points) => {
      const [top, bottom] = spread(points, 1);
      return points.filter(([, y]) => y > top + 0.72 * (bottom - top));
    });
    const middle = (points: [number, number][]): number => (spread(points, 0)[0] + spread(points, 0)[1]) / 2;
    // Cutout and drops have the same colour on both frames, and go the same way.
    expect(low[0]!.length).to.be.greaterThan(300);
    const [byCutout, byDrops] = [middle(wax[0]!) - middle(wax[1]!), middle(low[0]!) - middle(low[1]!)];
    expect(byCutout).to.be.greaterThan(video.width * 0.05);
    // The camera goes nearer meanwhile, which parts what lies further out.
    expect(byDrops).to.be.closeTo(byCutout, 0.09 * byCutout);
    // They hang under it all the time.
    for (const [k, points] of wax.entries())
      expect(Math.abs(middle(low[k]!) - middle(points)), `drops of frame ${k}`).to.be.below(video.width * 0.04);
  });
});

describe('scene 14, loop for a page', () => {
  const app = useApp();

  it('a figure flickers like a lamp before a shifted ground, without a seam, small enough, and goes onto a page', async () => {
    const page = await liftedFloat(app);
    await type(page, 'Length', 2);
    const finish = async (layer: ReturnType<typeof row>, kind: RegExp): Promise<void> => {
      await layer.click();
      await page.getByRole('button', { name: 'Add finish', exact: true }).click();
      await page.getByRole('dialog').getByRole('button', { name: kind }).click();
    };
    const layers = page.locator('[data-layer]');
    await finish(layers.filter({ hasText: 'background' }).first(), /^Strips/);
    await finish(layers.filter({ hasNotText: 'background' }).first(), /^Flicker/);
    await goTo(page, 'Deliver');
    // The proposed move pushes in and would jump back; one press lets it return.
    await page.locator('[data-testid=seam][data-seen=true]').waitFor();
    await page.getByRole('button', { name: 'Let the camera go there and back' }).click();
    await page.locator('[data-testid=seam][data-seen=false]').waitFor();
    await page.getByRole('switch', { name: 'Limit the file size' }).click();
    await page.getByRole('textbox', { name: 'At most' }).fill('150');
    await page.keyboard.press('Enter');
    const video = await exported(page, [0.01, 1, 1.96], 'quay');
    const [first, middle, last] = video.pictures.map(({ data }) => data) as [Uint8Array, Uint8Array, Uint8Array];
    // Strips that go round leave nothing bare at the sides.
    for (const picture of video.pictures)
      expect(where(picture, video.width, (r, g, b) => Math.max(r, g, b) < 8)).to.have.length(0);
    expect(meanDifference(first, last)).to.be.below(0.4 * meanDifference(first, middle));
    await page
      .getByRole('button', { name: /^Put .* on a page$/ })
      .first()
      .click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Download page (ZIP)' }).click(),
    ]);
    const files = unzipSync(await readFile(await download.path()));
    expect(Object.keys(files).sort()).to.deep.equal(['index.html', 'poster.jpg', 'quay.mp4']);
    expect(files['quay.mp4']!.length).to.be.within(5000, 150_000);
  });
});

describe('scene 15, sign that swings', () => {
  const app = useApp();

  it('a sign in two halves, each in a window of its own, swings about a nail above it; four lines rise in turn', async () => {
    const board = { create: { width: 640, height: 420, channels: 3 as const, background: '#c83228' } };
    const page = await startWith(app, await sharp(board).png().toBuffer());
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: /Hang .* on the Stage/ }).click();
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await row(page, 'quay').click();
    await type(page, 'Scale', 60);
    // The nail lies above the frame.
    await type(page, 'Pivot Y', -300);
    await type(page, 'Rotation', 12);
    await page.getByRole('button', { name: 'Rotation keyframe here' }).click();
    await goToFrame(page, 15);
    await type(page, 'Rotation', -12);
    await page.getByRole('button', { name: 'Rotation keyframe at frame 0' }).click();
    await page.getByRole('combobox', { name: 'Easing' }).selectOption('wind-up-overshoot');
    await unfold(page, 'Motion');
    await page.getByRole('combobox', { name: 'Without keyframes' }).selectOption('rotation');
    await page.getByRole('combobox', { name: 'Cycle' }).selectOption('swing');
    await unfold(page, 'Layer');
    await page.getByLabel('Selection').getByRole('button', { name: 'Duplicate', exact: true }).click();
    await row(page, 'quay 2').waitFor();
    // A copy is laid a little aside: back to where the first is.
    await type(page, 'X', 0);
    await unfold(page, 'Ties');
    for (const [side, name] of ['quay', 'quay 2'].entries()) {
      const pane = side === 0 ? 'Rectangle' : 'Rectangle 2';
      await row(page, name).click();
      await page.getByRole('button', { name: 'New layer' }).click();
      await page.getByRole('menuitem', { name: 'Rectangle' }).click();
      await row(page, pane).waitFor();
      await type(page, 'Width', 110);
      await type(page, 'Height', 400);
      await type(page, 'X', side === 0 ? -70 : 70);
      await page.getByRole('button', { name: `Hide ${pane}`, exact: true }).click();
      await row(page, name).click();
      await page.getByRole('combobox', { name: 'Window' }).selectOption({ label: pane });
    }
    const lines = ['Lantern Week', 'Tide at nine', 'Boats at ten', 'All aboard'];
    for (const [k, line] of lines.entries()) {
      await addText(page, line);
      await type(page, 'Size', 26);
      await type(page, 'Depth', 2);
      await type(page, 'Y', -90 + 60 * k);
      await arrive(page, /^Rise/);
    }
    await row(page, lines[0]!).click();
    for (const line of lines.slice(1)) await row(page, line).click({ modifiers: ['Shift'] });
    await type(page, 'Frames', 10);
    await page.getByRole('button', { name: 'Stagger' }).click();
    const video = await exported(page, [0.1, 0.5, 1.1, 1.9], 'quay');
    const { width, height } = video;
    const signs = video.pictures.map((picture) => where(picture, width, isRed));
    // Nothing of the sign between the windows, something in each of them, in every frame.
    for (const sign of signs) {
      const at = (from: number, to: number): number => sign.filter(([x]) => x > from * width && x < to * width).length;
      expect(at(0.485, 0.515)).to.equal(0);
      expect(at(0.25, 0.48)).to.be.greaterThan(500);
      expect(at(0.52, 0.75)).to.be.greaterThan(500);
    }
    // It swings: what is seen of its lower edge goes over from one side to the other.
    const tilt = (k: number): number => {
      const low = (from: number, to: number): number =>
        Math.max(...signs[k]!.filter(([x]) => x > from * width && x < to * width).map(([, y]) => y));
      return low(0.3, 0.4) - low(0.6, 0.7);
    };
    expect(Math.sign(tilt(0))).to.not.equal(Math.sign(tilt(1)));
    expect(Math.abs(tilt(0))).to.be.greaterThan(height * 0.02);
    const ink = video.pictures.map((picture) => countOf(picture, isWhite));
    expect(ink[1]).to.be.greaterThan(ink[0]!);
    expect(ink[2]).to.be.greaterThan(ink[1]! * 1.3);
    expect(ink[3]).to.be.greaterThan(ink[2]! * 1.1);
  });
});

describe('scene 20, shards', () => {
  const app = useApp();

  it('a photo parts in strips that slide outwards by different lengths, and words arrive between them', async () => {
    const page = await startWith(app, await letteredBoards());
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: /Hang .* on the Stage/ }).click();
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await page.locator('[data-layer]').first().click();
    await unfold(page, 'Cut apart');
    await type(page, 'Strips', 6);
    await type(page, 'Unevenness', 40);
    await page.getByRole('switch', { name: 'Shadow under each' }).click();
    await page.getByRole('button', { name: 'Cut into strips' }).click();
    const strips = page.locator('[data-layer]').filter({ hasText: /strip \d/ });
    await strips.nth(5).waitFor();
    // All of them are selected: from the playhead on they slide outwards, each by a length of its own.
    await goToFrame(page, 8);
    await page.getByRole('combobox', { name: 'Direction' }).selectOption('sideways');
    await type(page, 'Distance', 380);
    await type(page, 'Duration', 1.1);
    await page.getByRole('button', { name: 'Slide apart', exact: true }).click();
    // A ground behind, and words between it and the strips.
    await addText(page, 'Lantern Week');
    await type(page, 'Depth', 12);
    await type(page, 'Size', 60);
    await arrive(page, /^Grow/);
    await page.getByRole('combobox', { name: 'By', exact: true }).selectOption('word');
    await unfold(page, 'Time');
    await type(page, 'Start', 0.6);
    const video = await exported(page, [0.02, 1.9], 'quay');
    const [first, last] = video.pictures as [DecodedVideo['pictures'][0], DecodedVideo['pictures'][0]];
    const dark = (picture: { data: Uint8Array }): number => countOf(picture, (r, g, b) => Math.max(r, g, b) < 14);
    // At first the strips are the photo: nothing is bare, no seam is seen.
    expect(dark(first)).to.be.below(video.width * video.height * 0.002);
    expect(dark(last)).to.be.greaterThan(video.width * video.height * 0.2);
    const words = where(last, video.width, isWhite);
    expect(words.length).to.be.greaterThan(400);
    const [left, right] = spread(words, 0);
    expect((left + right) / 2).to.be.closeTo(video.width / 2, video.width * 0.08);
    expect(countOf(first, isWhite)).to.be.below(words.length / 4);
  });
});
