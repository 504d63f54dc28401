import { expect } from 'chai';
import sharp from 'sharp';
import { buoyPhoto, covered, goTo, liftOut, startWith, useApp } from './harness.ts';
import { storedPixels, storedPlate, storedProject } from './plates.ts';

const [width, height] = [600, 400];

/** A photo of a buoy as a PNG with an alpha of its own, 0..1 by place; nothing is said of colours where it is 0. */
async function withOwn(own: (x: number, y: number) => number): Promise<Buffer> {
  const { data, info } = await sharp(await buoyPhoto(width, height))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  for (let i = 0; i < width * height; i++) {
    const a = Math.round(255 * Math.max(0, Math.min(1, own(i % width, Math.floor(i / width)))));
    data.set(a === 0 ? [0, 0, 0, 0] : [...data.subarray(i * 4, i * 4 + 3), a], i * 4);
  }
  return sharp(data, { raw: info }).png().toBuffer();
}

describe('pictures that bring their own alpha along', () => {
  const app = useApp();

  it('what is empty stays empty: in a subject, a key and its inverse, and in the background', async () => {
    /** It ends, over six pixels, within the buoy. */
    const own = (x: number): number => (330 - x) / 6;
    const page = await startWith(app, await withOwn(own));
    await page.getByRole('button', { name: 'Find subject' }).click();
    expect(await covered(page)).to.be.within(6, 9);
    await liftOut(page);
    const most = (x: number): number => Math.round(255 * Math.max(0, Math.min(1, own(x))));
    const piece = async (k: number): Promise<(x: number, y: number) => number> => {
      const { cutout } = (await storedProject(app, page)).document.pieces[k]!;
      const pixels = await storedPixels(app, cutout!.file);
      const { x: left, y: top } = cutout!.bounds;
      return (x, y) =>
        x < left || y < top || x >= left + pixels.width || y >= top + pixels.height
          ? 0
          : pixels.at(x - left, y - top)[3]!;
    };
    const subject = await piece(0);
    // As softly as the picture ends, and no softer.
    for (let x = 320; x < 340; x++) expect(subject(x, 200), `${x}`).closeTo(most(x), 1);
    const plate = await storedPlate(app, page);
    for (const y of [20, 200, 260])
      for (const x of [100, 290, 322, 325, 328, 331, 420]) expect(plate.at(x, y)[3], `${x}, ${y}`).closeTo(most(x), 1);
    const [r, g] = plate.at(310, 200);
    expect(r! - g!, 'water behind the buoy').to.be.below(20);

    await page.getByRole('button', { name: 'New piece' }).click();
    await page.getByRole('button', { name: /^Brightness/ }).click();
    await page.getByRole('radio', { name: /Unveil/ }).click();
    for (const inverted of [false, true]) {
      if (inverted) await page.getByRole('checkbox', { name: 'Invert' }).check();
      await page.getByText(/The piece covers/).waitFor();
      await liftOut(page);
      const keyed = await piece(1);
      for (const [x, y] of [
        [336, 200],
        [420, 100],
        [590, 390],
      ] as const)
        expect(keyed(x, y), `${inverted} at ${x}, ${y}`).to.equal(0);
    }
  });

  it('what was cut out before is lifted without a background, and moves as the one thing it is', async () => {
    const buoy = (x: number, y: number): number => 96.5 - Math.hypot(x - 300, y - 200);
    const page = await startWith(app, await withOwn(buoy));
    await page.getByRole('button', { name: 'Find subject' }).click();
    expect(await covered(page)).closeTo((100 * Math.PI * 96 ** 2) / (width * height), 0.3);
    await page.getByRole('button', { name: 'Lift out' }).click();
    await page.getByRole('button', { name: 'Lift without' }).click();
    await page.getByText(/^Lifted out/).waitFor();
    const { cutout } = (await storedProject(app, page)).document.pieces[0]!;
    expect((await storedPixels(app, cutout!.file)).at(96, 96)[3]).to.equal(255);
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: 'Make it move' }).click();
    await page.waitForURL(/\/stage$/);
    await page.getByRole('button', { name: 'Stop', exact: true }).waitFor();
  });
});
