import { expect } from 'chai';
import { recordClip } from '../scripts/record-clip.ts';
import { goTo, startWith, useApp } from './harness.ts';
import { driftingFloat } from './photos.ts';
import {
  addFinish,
  addNew,
  addText,
  arrive,
  duplicateAs,
  countOf,
  exported,
  isRed,
  isWhite,
  liftFromScreen,
  spread,
  startWithFilm,
  where,
} from './scene-maker.ts';
import { fishFlag, hullOnGreen, quayWall } from './scene-photos.ts';
import { goToFrame, row, type, unfold } from './stage-world.ts';

/* Scenes of things that travel, from pictures as they come to a played file, through the interface alone. */
describe('scene 8, five flags', () => {
  const app = useApp();

  it('a flag and its mirror image swing through five poses, each another colour of one hue; a word goes against them', async () => {
    const page = await startWith(app, await quayWall(), 'quay.png');
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: /Hang .* on the Stage/ }).click();
    await page
      .getByLabel('Choose pictures')
      .setInputFiles({ name: 'flag.png', mimeType: 'image/png', buffer: await fishFlag() });
    const item = page.getByRole('listitem').filter({ hasText: 'flag' });
    await item.getByRole('button', { name: /Hang .* on the Stage/ }).click();
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await row(page, 'flag').click();
    await type(page, 'Depth', 2);
    await type(page, 'Scale', 90);
    await type(page, 'X', -230);
    await duplicateAs(page, 'flag 2');
    await page.getByRole('button', { name: 'Flip horizontally' }).click();
    await type(page, 'X', 230);
    await type(page, 'Y', 0);
    await row(page, 'flag').click({ modifiers: ['Shift'] });
    await page.getByRole('button', { name: 'Group', exact: true }).click();
    await row(page, 'Group').click();
    await addFinish(page, 'Group', /^Recolour/);
    const to = page.getByRole('listitem', { name: 'Recolour', exact: true }).getByLabel('To', { exact: true });
    await addText(page, 'LANTERN WEEK');
    await type(page, 'Size', 110);
    await type(page, 'Depth', 4);
    await type(page, 'Y', 40);
    const colours = ['#c83c28', '#2850a0', '#288c50', '#a028a0', '#c89628'];
    await page.getByLabel('Colour', { exact: true }).fill(colours[1]!);
    for (const [k, colour] of colours.entries()) {
      await goToFrame(page, k * 14);
      await row(page, 'Group').click();
      await type(page, 'X', k % 2 ? 70 : -70);
      await type(page, 'Rotation', k % 2 ? 7 : -7);
      await to.fill(colour);
      await row(page, 'LANTERN WEEK').click();
      await type(page, 'X', k % 2 ? -160 : 160);
      for (let press = 0; press < 2; press++) await page.keyboard.press('Escape');
      await unfold(page, 'Poses');
      await page.getByRole('button', { name: 'Store a pose here' }).click();
    }
    const video = await exported(page, [0.02, 14 / 30, 28 / 30, 42 / 30, 1.9], 'quay');
    const { width } = video;
    /** Pixels of the flags, of the fish and of the word in each picture. */
    const found = video.pictures.map((picture, k) => {
      const wanted = colours[k]!.match(/[0-9a-f]{2}/g)!.map((two) => parseInt(two, 16)) as [number, number, number];
      const strongest = wanted.indexOf(Math.max(...wanted));
      const flags = where(picture, width, (...rgb) => {
        const rest = rgb.filter((_, c) => c !== strongest && wanted[c]! < 100);
        return rest.every((v) => rgb[strongest]! - v > 55);
      });
      const fish = where(picture, width, (r, g, b) => Math.min(r, g, b) > 205);
      return { flags, fish };
    });
    for (const [k, { flags, fish }] of found.entries()) {
      expect(flags.length, `picture ${k}`).to.be.above(20_000);
      // Only the one hue was turned: the fish is white in every colour.
      expect(fish.length, `picture ${k}`).to.be.above(5_000);
    }
    // To and fro: where the flags begin goes from side to side, and what is seen of the word goes the other way.
    const lefts = found.map(
      ({ fish }) =>
        spread(
          fish.filter(([x]) => x > width * 0.25 && x < width * 0.9),
          0,
        )[0],
    );
    for (let k = 1; k < 5; k++) expect(Math.sign(lefts[k]! - lefts[k - 1]!), `pose ${k}`).to.equal(k % 2 ? -1 : 1);
    // The edge of the wall never shows.
    for (const picture of video.pictures) expect(countOf(picture, (r, g, b) => Math.max(r, g, b) < 8)).to.equal(0);
  });
});

describe('scene 11, passing hull', () => {
  const app = useApp();

  it('a keyed hull travels across a film, its edge unveils a title that rises in and out; a second word stays', async () => {
    const film = await recordClip(app.browser, {
      width: 320,
      height: 180,
      rate: 12,
      frames: 24,
      format: 'webm',
      bitrate: 4e6,
      frame: driftingFloat,
    });
    const page = await startWithFilm(app, 'bay.webm', film);
    await goTo(page, 'Stage');
    await page.getByLabel('Empty shot').getByRole('button', { name: 'bay' }).click();
    await type(page, 'Depth', 6);
    await goTo(page, 'Pictures');
    await page
      .getByLabel('Choose pictures')
      .setInputFiles({ name: 'hull.png', mimeType: 'image/png', buffer: await hullOnGreen() });
    await page
      .getByRole('listitem')
      .filter({ hasText: 'hull' })
      .getByRole('button', { name: 'Cut', exact: true })
      .click();
    await page.getByTestId('cut-view').waitFor();
    await liftFromScreen(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await row(page, 'Piece 1').click();
    await type(page, 'Depth', 2);
    // It is large, and goes from beyond the left border to beyond the right one.
    await type(page, 'Scale', 150);
    await type(page, 'Y', 120);
    await type(page, 'X', -1900);
    await page.getByRole('button', { name: 'Position keyframe here' }).click();
    await goToFrame(page, 50);
    await type(page, 'X', 1900);
    await page.getByRole('button', { name: 'Position keyframe at frame 0' }).click();
    await page.getByRole('combobox', { name: 'Easing' }).selectOption('linear');
    // A pane behind its stern goes with it; the title is seen in it alone.
    await goToFrame(page, 25);
    await addNew(page, 'Rectangle');
    await row(page, 'Rectangle').waitFor();
    await type(page, 'Depth', 2);
    await type(page, 'Width', 3000);
    await type(page, 'Height', 1400);
    await type(page, 'X', -1500);
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Fastened to' }).selectOption({ label: 'Piece 1' });
    await page.getByRole('button', { name: 'Hide Rectangle', exact: true }).click();
    for (const words of ['HIGH WATER', 'at nine tonight']) {
      await addText(page, words);
      await type(page, 'Depth', 4);
      await type(page, 'Size', words === 'HIGH WATER' ? 170 : 80);
      await type(page, 'Y', words === 'HIGH WATER' ? -120 : 90);
    }
    await row(page, 'HIGH WATER').click();
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Window' }).selectOption({ label: 'Rectangle' });
    await arrive(page, /^Rise/);
    await page.getByRole('combobox', { name: 'By', exact: true }).selectOption('whole');
    await type(page, 'Duration', 0.4);
    await page.getByRole('switch', { name: 'Leaves as it arrived' }).click();
    await unfold(page, 'Time');
    await type(page, 'Start', 0.4);
    const video = await exported(page, [0.1, 0.83, 1.3, 1.95], 'bay');
    const { width, height } = video;
    const title = video.pictures.map((picture) =>
      where(picture, width, isWhite).filter(([, y]) => y > 0.3 * height && y < 0.5 * height),
    );
    const second = video.pictures.map((picture) =>
      where(picture, width, isWhite).filter(([, y]) => y > 0.54 * height && y < 0.64 * height),
    );
    const hull = video.pictures.map((picture) => where(picture, width, (r, g, b) => b > 70 && b > r + 30 && g < b));
    // Before the hull came there is no title; then only what its middle has left behind; at last it has gone again.
    expect(title[0]!.length).to.be.below(60);
    const [left, right] = spread(hull[1]!, 0);
    expect(title[1]!.length).to.be.above(100);
    expect(title[1]!.filter(([x]) => x > (left + right) / 2 + 12).length).to.be.below(30);
    expect(title[2]!.length).to.be.above(1.3 * title[1]!.length);
    expect(title[3]!.length).to.be.below(60);
    // The second word stays under its place, and nothing of what passed is left on the film.
    expect(second[3]!.length).to.be.within(0.85 * second[0]!.length, 1.15 * second[0]!.length);
    const red = where(video.pictures[3]!, width, isRed);
    const [from, to] = spread(red, 0);
    expect(to - from).to.be.below(0.2 * width);
    const [first, last] = [from - 0.03 * width, to + 0.03 * width];
    expect(red.filter(([x]) => x < first || x > last).length).to.be.below(3);
  });
});
