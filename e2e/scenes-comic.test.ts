import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { goTo, startWith, useApp } from './harness.ts';
import { addFinish, addNew, addProp, addText, arrive, exported, liftFromScreen, spread, where } from './scene-maker.ts';
import { row, type, unfold } from './stage-world.ts';

/* A comic page from a keyed photograph, through the interface alone. */

describe('scene 17, comic page', () => {
  const app = useApp();

  it('a drawn heron half out of a ring before dots, stripes that shoot in, mist, a bubble that springs, a trembling page', async () => {
    const heron = sharp(join(import.meta.dirname, '../demo/pictures/heron-green.jpg')).resize(720);
    const page = await startWith(app, await heron.png().toBuffer(), 'heron.png');
    await liftFromScreen(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await addFinish(page, 'Piece 1', /^Drawn/);
    await addNew(page, 'Colour');
    await page.getByLabel('Colour', { exact: true }).fill('#f3e6c8');
    await addProp(page, /^Stripes/);
    await type(page, 'Depth', 9);
    await arrive(page, /^Slide in/);
    await page.getByRole('combobox', { name: 'Easing' }).selectOption('ease-out');
    await type(page, 'Duration', 0.6);
    // Dots that fade at the rim: a round gradient as a halftone.
    await addNew(page, 'Ellipse');
    await type(page, 'Depth', 7);
    await type(page, 'Scale', 220);
    await page.getByLabel('Colour', { exact: true }).fill('#ae3b27');
    await page.getByRole('combobox', { name: 'Fill', exact: true }).selectOption('radial');
    await addFinish(page, 'Ellipse', /^Halftone/);
    await addNew(page, 'Ellipse');
    await type(page, 'Depth', 6);
    await type(page, 'Scale', 170);
    await page.getByRole('combobox', { name: 'Fill', exact: true }).selectOption('none');
    await type(page, 'Stroke', 16);
    // A pane that nobody sees: the heron stands in it and breaks out of it above.
    await addNew(page, 'Ellipse');
    await type(page, 'Scale', 170);
    await page.getByRole('button', { name: 'Hide Ellipse 3', exact: true }).click();
    await row(page, 'Piece 1').click();
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Window' }).selectOption({ label: 'Ellipse 3' });
    await page.getByRole('switch', { name: 'Partly breaks out' }).click();
    // A number as if painted on the plate, under a rope.
    await addText(page, '17');
    await type(page, 'Size', 90);
    await type(page, 'Depth', 5);
    await type(page, 'X', -250);
    await type(page, 'Y', 150);
    await page.getByLabel('Colour', { exact: true }).fill('#0e5b50');
    await page.getByRole('combobox', { name: 'Blend mode' }).selectOption('multiply');
    await addNew(page, 'Rectangle');
    await type(page, 'Width', 260);
    await type(page, 'Height', 16);
    await page.getByLabel('Colour', { exact: true }).fill('#5a3c28');
    await type(page, 'Depth', 4.5);
    await type(page, 'X', -250);
    await type(page, 'Y', 150);
    for (const depth of [8, 1.6]) {
      await addProp(page, /^Mist/);
      await type(page, 'Depth', depth);
      await type(page, 'Opacity', 55);
    }
    await addNew(page, 'Speech bubble');
    await row(page, 'Bubble').waitFor();
    await type(page, 'Depth', 1.4);
    await type(page, 'X', 230);
    await type(page, 'Y', -150);
    await arrive(page, /^Spring/);
    await unfold(page, 'Time');
    await type(page, 'Start', 0.7);
    await page.getByRole('button', { name: /^Lens/ }).first().click();
    await unfold(page, 'Shake');
    await type(page, 'Amount', 4);
    const video = await exported(page, [0.02, 0.3, 1, 1.9], 'heron');
    const { width, height, pictures } = video;
    const inPart = (points: [number, number][], [x0, x1]: [number, number], [y0, y1]: [number, number]) =>
      points.filter(([x, y]) => x > x0 * width && x < x1 * width && y > y0 * height && y < y1 * height);
    const found = (is: (r: number, g: number, b: number) => boolean) => pictures.map((one) => where(one, width, is));
    // Stripes: not there, then all over, and at rest the same from then on.
    const stripes = found((r, g, b) => r > 200 && g > 130 && g < 185 && b < 80).map((points) => points.length);
    expect(stripes[0]).to.be.below(0.02 * width * height);
    expect(stripes[2]).to.be.above(0.1 * width * height);
    // The bubble springs up later, with ink in it.
    const white = found((r, g, b) => Math.min(r, g, b) > 232).map((points) =>
      inPart(points, [0.68, 0.92], [0.05, 0.35]),
    );
    expect(white[3]!.length).to.be.above(white[0]!.length + 0.01 * width * height);
    // The crest breaks out above the ring; below, nothing of the heron leaves it.
    const dark = found((r, g, b) => Math.max(r, g, b) < 110);
    const ring = spread(inPart(dark[0]!, [0.2, 0.8], [0.1, 0.98]), 1);
    expect(inPart(dark[0]!, [0.3, 0.5], [0, 0.17]).length).to.be.above(60);
    expect(inPart(dark[0]!, [0.2, 0.8], [(ring[1] + 0.06 * height) / height, 0.99]).length).to.be.below(40);
    // The number lies under its rope, above and below it is seen.
    const rope = spread(
      inPart(found((r, g, b) => r > 60 && r < 130 && r > b + 25 && g < 95)[0]!, [0, 0.3], [0.7, 1]),
      1,
    );
    const paint = inPart(found((r, g, b) => g > r + 25 && g > b - 10 && g < 140)[0]!, [0, 0.3], [0.6, 1]);
    const middle = (rope[0] + rope[1]) / 2;
    expect(paint.filter(([, y]) => y < rope[0] - 3).length).to.be.above(60);
    expect(paint.filter(([, y]) => y > rope[1] + 3).length).to.be.above(60);
    expect(paint.filter(([, y]) => Math.abs(y - middle) < 2).length).to.be.below(12);
  });
});
