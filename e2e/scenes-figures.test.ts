import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { covered, goTo, liftOut, onPage, saved, startWith, useApp } from './harness.ts';
import { exportFormats } from '../core/formats/exports.ts';
import { takeGroundFrom } from './plates.ts';
import {
  addFinish,
  addNew,
  addProp,
  addShapeOf,
  addText,
  arrive,
  duplicateAs,
  countOf,
  exported,
  isWhite,
  liftSubject,
  spread,
  where,
} from './scene-maker.ts';
import { keeperPortrait, onPier, twelveFloats, twoOnThePier } from './scene-photos.ts';
import { goToFrame, nameOfRow, row, type, unfold } from './stage-world.ts';

/* Scenes of figures cut out of photographs, from pictures as they come to a played file, through the interface alone. */

/** Finds what lies in a box that is drawn by hand, in pixels of the picture. */
async function findInBox(page: Page, [x0, y0]: [number, number], [x1, y1]: [number, number]): Promise<void> {
  const view = page.getByTestId('cut-view');
  await page.keyboard.press('b');
  await page.mouse.move(...(await onPage(view, [x0, y0])));
  await page.mouse.down();
  await page.mouse.move(...(await onPage(view, [x1, y1])), { steps: 12 });
  await page.mouse.up();
  await covered(page);
}

describe('scene 13, two on the pier', () => {
  const app = useApp();

  it('two figures on their shadows before a clean plate: the near one grows more, the far end is soft', async () => {
    const page = await startWith(app, await twoOnThePier(), 'pier.png');
    for (const who of ['near', 'far'] as const) {
      const { x, feet, tall } = onPier[who];
      if (who === 'far') await page.getByRole('button', { name: 'New piece' }).click();
      await findInBox(page, [x - tall * 0.26, feet - tall * 1.05], [x + tall * 0.26, feet + tall * 0.03]);
      await liftOut(page);
      await page.getByRole('link', { name: 'Lift its shadow too' }).click();
      await page.getByRole('button', { name: 'Start over' }).waitFor();
      await page.getByRole('button', { name: 'Lift shadow' }).click();
      await page.getByRole('button', { name: 'Undo: Lift shadow' }).waitFor();
      await goTo(page, 'Cut');
    }
    await takeGroundFrom(page, await twoOnThePier(true));
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    // The near one stands nearer, the far one farther: in the push of the proposed move they grow unlike.
    await row(page, 'Piece 1').click();
    await type(page, 'Depth', 2);
    await row(page, 'Piece 2').click();
    await type(page, 'Depth', 4.5);
    await row(page, 'pier background').click();
    await page.getByRole('button', { name: 'Add finish', exact: true }).click();
    await page.getByRole('dialog').getByRole('button', { name: /^Blur/ }).click();
    const blur = page.getByRole('listitem', { name: 'Blur', exact: true });
    await blur.getByRole('combobox', { name: 'Border' }).selectOption('goes on');
    await blur.getByRole('combobox', { name: 'Area', exact: true }).selectOption('one side');
    await blur.getByRole('textbox', { name: 'Area centre Y' }).fill('45');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: /^Lens/ }).first().click();
    await unfold(page, 'Shake');
    await type(page, 'Amount', 6);
    const video = await exported(page, [0.02, 1.95], 'pier');
    const { width, height } = video;
    /** Left, right, top and bottom of what has a colour. */
    const box = (k: number, is: (r: number, g: number, b: number) => boolean): number[] => {
      const points = where(video.pictures[k]!, width, is);
      return [...spread(points, 0), ...spread(points, 1)];
    };
    const isCoat = (r: number, g: number, b: number): boolean => r > 140 && g < 90 && b < 80;
    const isYellow = (r: number, g: number, b: number): boolean => r > 170 && g > 130 && b < 110 && r - b > 90;
    const growth = [isCoat, isYellow].map((is) => {
      const [first, last] = [box(0, is), box(1, is)];
      return (last[3]! - last[2]!) / (first[3]! - first[2]!);
    });
    expect(growth[0]).to.be.above(1.1);
    expect(growth[0]! - 1).to.be.above(1.5 * (growth[1]! - 1));
    // Each stands on its shadow in both pictures: beside its feet the boards are darker than further out.
    const luma = (k: number, x: number, y: number): number => {
      let sum = 0;
      for (let v = -4; v <= 4; v++)
        sum += video.pictures[k]!.data[((Math.round(y) + v) * width + Math.round(x)) * 4 + 1]! / 9;
      return sum;
    };
    for (const k of [0, 1])
      for (const is of [isCoat, isYellow]) {
        const [left, right, top, foot] = box(k, is) as [number, number, number, number];
        const tall = foot - top;
        const shade = luma(k, right - 0.03 * tall, foot + 0.01 * tall);
        expect(shade, `picture ${k}`).to.be.below(0.82 * luma(k, left - 0.3 * tall, foot + 0.01 * tall));
      }
    // The far end is soft: where sea meets sky the steps are small, between the near boards they are not.
    const steepest = (from: number, to: number, low: number, high: number): number => {
      let most = 0;
      for (let x = Math.round(from * width); x < to * width; x++)
        for (let y = Math.round(low * height); y < high * height; y++) {
          const at = (v: number): number => video.pictures[0]!.data[(v * width + x) * 4]!;
          most = Math.max(most, Math.abs(at(y + 1) - at(y)));
        }
      return most;
    };
    expect(steepest(0.1, 0.3, 0.28, 0.44)).to.be.below(0.5 * steepest(0.4, 0.5, 0.75, 0.95));
  });
});

describe("scene 4, keeper's portrait", () => {
  const app = useApp();

  it('a glowing figure before fans and a locked grid over a drawn copy of itself; all arrives together; a square GIF', async () => {
    const page = await startWith(app, await keeperPortrait(), 'keeper.png');
    await liftSubject(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await addNew(page, 'Piece or picture');
    await page.getByRole('dialog').getByRole('button', { name: 'keeper', exact: true }).click();
    await addFinish(page, 'keeper', /^Drawn/);
    for (const [k, turn] of [-20, 20].entries()) {
      if (k === 0) {
        await addShapeOf(page, /^Fan/);
        await page.getByLabel('Colour', { exact: true }).fill('#0e5b50');
        await type(page, 'Scale', 170);
      } else {
        await duplicateAs(page, 'Fan 2');
        await page.getByRole('button', { name: 'Flip horizontally' }).click();
      }
      await type(page, 'Depth', 4 + k * 0.5);
      await type(page, 'Rotation', turn);
      await type(page, 'X', k ? 290 : -290);
      await type(page, 'Y', -60);
    }
    await addProp(page, /^Grid/);
    await type(page, 'Depth', 5);
    await type(page, 'Opacity', 40);
    await page.getByRole('button', { name: 'Lock Grid', exact: true }).click();
    // The glow moves nothing: the handles of the figure are where they were.
    await row(page, 'Piece 1').click();
    const handles = async (): Promise<unknown> => [
      await page.getByTestId('pivot').boundingBox(),
      await page.getByTestId('stage-view').locator('path[d$="Z"]').first().getAttribute('d'),
    ];
    const before = await handles();
    await addFinish(page, 'Piece 1', /^Edge glow/);
    await page.getByRole('listitem', { name: 'Edge glow', exact: true }).waitFor();
    expect(await handles()).to.deep.equal(before);
    for (const name of ['Fan', 'Fan 2']) await row(page, name).click({ modifiers: ['Shift'] });
    await page.getByRole('button', { name: 'Choose how they arrive' }).click();
    await page.getByRole('dialog').getByRole('button', { name: /^Grow/ }).click();
    await saved(page);
    await goTo(page, 'Deliver');
    await page.getByRole('radio', { name: exportFormats.gif.hint }).click();
    await page.getByRole('button', { name: 'Export GIF' }).click();
    await page.getByText(/GIF is ready/).waitFor();
    const link = page.getByRole('link', { name: /Download keeper\.gif/ });
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
    const file = await download.path();
    const { width, height, pages } = await sharp(file, { animated: true }).metadata();
    expect([width, height! / pages!]).to.deep.equal([640, 640]);
    const isFan = (r: number, g: number, b: number): boolean =>
      Math.abs(r - 14) + Math.abs(g - 91) + Math.abs(b - 80) < 40;
    const isGlow = (r: number, g: number, b: number): boolean => r > 215 && g > 165 && b > 85 && r - b > 35;
    const [first, middle, last] = await Promise.all(
      [0, 8, pages! - 1].map(async (page) => ({ data: await sharp(file, { page }).ensureAlpha().raw().toBuffer() })),
    );
    const [fans, glows] = [isFan, isGlow].map((is) => [first, middle, last].map((one) => where(one!, 640, is)));
    // Before they arrived there is the drawn copy only; then both fans grow with the figure.
    expect(fans![0]!.length).to.be.below(100);
    expect(fans![1]!.length).to.be.within(8000, 0.95 * fans![2]!.length);
    expect(glows![2]!.length).to.be.above(glows![0]!.length + 1500);
    // One stands on each side of the figure, the other way round.
    const sides = [fans![2]!.filter(([x]) => x < 320).length, fans![2]!.filter(([x]) => x > 320).length];
    expect(Math.min(...sides)).to.be.above(0.8 * Math.max(...sides));
    // The copy behind is drawn in flats: a patch of the wall beside it has few colours.
    const patch = await sharp(file, { page: 0 }).extract({ left: 20, top: 20, width: 60, height: 60 }).raw().toBuffer();
    expect(new Set(Array.from(patch)).size).to.be.below(40);
  });
});

describe('scene 18, twelve floats', () => {
  const app = useApp();

  it('twelve cut in one press; a word slams in, then they scatter on bowed ways, turning, on twos, under one warm light', async () => {
    const page = await startWith(app, await twelveFloats(), 'floats.png');
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await page.getByRole('button', { name: 'Split by object' }).click();
    await page.getByText('Parted into 12 pieces, each with its own layer.').waitFor();
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    // The ground becomes a slanting gradient.
    await addNew(page, 'Rectangle');
    await row(page, 'Rectangle').waitFor();
    await type(page, 'Depth', 5);
    await type(page, 'Width', 1200);
    await type(page, 'Height', 900);
    await page.getByRole('combobox', { name: 'Fill', exact: true }).selectOption('linear');
    await type(page, 'Direction', 60);
    await page.getByLabel('From', { exact: true }).fill('#e8c070');
    await page.getByLabel('To', { exact: true }).fill('#d08030');
    await page.getByRole('textbox', { name: 'To opacity' }).fill('100');
    // Two shadows and light on the edge of one of them, then of all.
    const floats = page.locator('[data-layer]').filter({ hasText: /Piece/ });
    const first = await nameOfRow(floats.first());
    await addFinish(page, first, /^Drop shadow/);
    await addFinish(page, first, /^Drop shadow/);
    await addFinish(page, first, /^Edge light/);
    await page.getByRole('button', { name: 'Copy finishes' }).click();
    await floats.nth(1).click();
    await floats.last().click({ modifiers: ['Shift'] });
    await page.getByRole('button', { name: 'Paste finishes' }).click();
    await floats.first().click();
    await floats.last().click({ modifiers: ['Shift'] });
    await page.getByRole('heading', { name: '12 layers' }).waitFor();
    await goToFrame(page, 20);
    await type(page, 'Distance', 420);
    await type(page, 'Bend', 30);
    await type(page, 'Turn', 160);
    await type(page, 'Column delay', 1);
    await type(page, 'Duration', 1);
    await page.getByRole('button', { name: 'Slide apart', exact: true }).click();
    await unfold(page, 'Time');
    await type(page, 'Hold frames', 2);
    await addText(page, 'Tide Week');
    await type(page, 'Size', 100);
    await type(page, 'Depth', 2.5);
    await page.getByLabel('Colour', { exact: true }).fill('#ffffff');
    await arrive(page, /^Slam/);
    await page.getByRole('combobox', { name: 'By', exact: true }).selectOption('whole');
    await type(page, 'Duration', 0.5);
    await addNew(page, 'Grade layer');
    await addFinish(page, 'Grade', /^Temperature/);
    await addFinish(page, 'Grade', /^Grain/);
    const video = await exported(page, [0.02, 0.6, 1.001, 1.04, 1.95], 'floats');
    const { width, height, pictures } = video;
    const isPaint = (r: number, g: number, b: number): boolean =>
      (b > r + 25 && b > 60) || (r > 130 && g < 85 && b < 85);
    const paint = pictures.map((picture) => where(picture, width, isPaint));
    // The word is not there, slams in over twelve floats that lie still, and rests when they have scattered.
    const white = pictures.map((picture) => countOf(picture, isWhite));
    expect(white[0]).to.be.below(0.5 * white[1]!);
    expect(white[4]).to.be.within(0.8 * white[2]!, 1.25 * white[2]!);
    expect(paint[1]!.length).to.be.above(0.7 * paint[0]!.length);
    expect(paint[2]!.length).to.be.within(0.05 * paint[0]!.length, 0.6 * paint[0]!.length);
    expect(paint[4]!.length).to.be.below(0.02 * paint[0]!.length);
    // On twos: two frames in a row show them at the same place.
    const places = [2, 3].map((k) => [...spread(paint[k]!, 0), ...spread(paint[k]!, 1)]);
    for (const [k, place] of places[0]!.entries()) expect(place).to.be.closeTo(places[1]![k]!, 3);
    // The ground slants: it darkens along its direction, and far less across it.
    const green = (x: number, y: number): number => {
      let sum = 0;
      for (let v = -6; v <= 6; v++)
        for (let u = -6; u <= 6; u++)
          sum += pictures[4]!.data[((Math.round(y * height) + v) * width + Math.round(x * width) + u) * 4 + 1]! / 169;
      return sum;
    };
    expect(green(0.3, 0.1) - green(0.7, 0.9)).to.be.above(15);
  });
});
