import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { covered, goTo, liftOut, onPage, startWith, useApp } from './harness.ts';
import { addFinish, addProp, exported, where } from './scene-maker.ts';
import { nightBay, shoreAt } from './scene-photos.ts';
import { goToFrame, row, stored, type } from './stage-world.ts';

/* A night of made light over a photograph, through the interface alone. */

/** Moves the pointer along points of the page in small steps, pressed. */
async function draw(page: Page, points: [number, number][]): Promise<void> {
  await page.mouse.move(...points[0]!);
  await page.mouse.down();
  for (const point of points.slice(1)) await page.mouse.move(...point, { steps: 12 });
  await page.mouse.up();
}

describe('scene 5, night over the bay', () => {
  const app = useApp();

  it('a smooth feathered shore that glows, stars thicker in a band, a green curtain along it, a flare that crosses', async () => {
    const page = await startWith(app, await nightBay(), 'bay.png');
    await page.keyboard.press('p');
    const cut = page.getByTestId('cut-view');
    const top = [80, 240, 400, 560].map((x): [number, number] => [x, shoreAt(x)]);
    for (const place of [[2, shoreAt(2)], ...top, [638, shoreAt(638)], [638, 418], [2, 418]] as [number, number][])
      await page.mouse.click(...(await onPage(cut, place)));
    await page.keyboard.press('Enter');
    await page.getByRole('list', { name: 'Outlines' }).waitFor();
    for (const [k, place] of top.entries()) {
      if (k > 0) await page.keyboard.down('Shift');
      await page.mouse.click(...(await onPage(cut, place)));
      if (k > 0) await page.keyboard.up('Shift');
    }
    await page.getByRole('button', { name: 'Smooth', exact: true }).click();
    await page.getByRole('textbox', { name: 'Feather' }).fill('8');
    await page.keyboard.press('Enter');
    await covered(page);
    await liftOut(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await addFinish(page, 'Piece 1', /^Edge glow/);
    await page
      .getByRole('listitem', { name: 'Edge glow', exact: true })
      .getByLabel('Colour', { exact: true })
      .fill('#3c78ff');
    // Stars, thicker in a band that is painted.
    await addProp(page, /^Stars/);
    await type(page, 'Depth', 5.5);
    await type(page, 'Share in painted clusters', 70);
    await page.getByRole('button', { name: 'Paint', exact: true }).click();
    const view = (await page.getByTestId('stage-view').boundingBox())!;
    await draw(page, [
      [view.x + view.width * 0.25, view.y + view.height * 0.2],
      [view.x + view.width * 0.7, view.y + view.height * 0.25],
    ]);
    await page.keyboard.press('Escape');
    await addProp(page, /^Curtain of light/);
    await type(page, 'Depth', 5);
    await addProp(page, /^Lamp flare/);
    await type(page, 'Depth', 2.5);
    await type(page, 'Place X', 10);
    await page.getByRole('button', { name: 'Place keyframe here' }).click();
    await goToFrame(page, 55);
    await type(page, 'Place X', 85);
    // The shore grows towards the viewer with its upper corners pinned.
    await row(page, 'Piece 1').click();
    await goToFrame(page, 0);
    await page.getByRole('button', { name: 'Corners keyframe here' }).click();
    await page.getByRole('button', { name: 'Pin corners' }).click();
    const pull = async (corner: number, dx: number, dy: number): Promise<void> => {
      const { x, y, width, height } = (await page.locator(`[data-corner="${corner}"]`).boundingBox())!;
      const from: [number, number] = [x + width / 2, y + height / 2];
      await draw(page, [from, [from[0] + dx, from[1] + dy]]);
    };
    // Its lower corners lie beyond the view: a little further away they are seen.
    await page.mouse.move(view.x + view.width / 2, view.y + view.height / 2);
    await page.mouse.wheel(0, 400);
    await page.locator('[data-corner="2"]').waitFor();
    await goToFrame(page, 55);
    await pull(2, 70, 40);
    await pull(3, -70, 40);
    await page.getByRole('button', { name: 'Pin corners' }).click();
    const { shots } = await stored(page);
    const shore = shots[0]!.layers.find((layer) => layer.name === 'Piece 1')!;
    const keys = shore.corners && 'keys' in shore.corners ? shore.corners.keys : [];
    expect(keys.map((key) => key.frame)).to.deep.equal([0, 55]);
    // Its upper corners stay, its lower ones come nearer and outwards: to the right and down, to the left and down.
    const [first, last] = keys.map((key) => key.value);
    expect(last!.slice(0, 4)).to.deep.equal(first!.slice(0, 4));
    expect([last![4]! > 40, last![5]! > 20, last![6]! < -40, last![7]! > 20]).to.deep.equal([true, true, true, true]);

    const { width, height, pictures } = await exported(page, [0.02, 1, 1.9], 'bay');
    const found = (is: (r: number, g: number, b: number) => boolean) => pictures.map((one) => where(one, width, is));
    // The edge of the shore glows blue in every picture, light stands green in the sky, and never over the land.
    for (const blue of found((r, g, b) => b > 150 && b > r + 90 && b > g + 50)) expect(blue.length).to.be.above(1500);
    for (const green of found((r, g) => g > 90 && g > r + 45)) {
      expect(green.length).to.be.above(3000);
      expect(green.filter(([, y]) => y > 0.85 * height).length).to.be.below(20);
    }
    // Stars stand thicker where they were painted than below it.
    const light = found((r, g, b) => Math.min(r, g, b) > 190)[0]!.filter(([x]) => x > 0.2 * width);
    const between = (low: number, high: number): number =>
      light.filter(([, y]) => y > low * height && y < high * height).length;
    expect(between(0.1, 0.3)).to.be.above(5 * between(0.33, 0.53));
    // The flare crosses from left to right.
    const columns = found((r, g, b) => Math.min(r, g, b) > 240).map((points) => {
      const counts = new Array<number>(8).fill(0);
      for (const [x] of points) counts[Math.min(7, Math.floor((8 * x) / width))]!++;
      return counts;
    });
    expect(columns[0]![0]).to.be.above(columns[2]![0]! + 200);
    expect(columns[2]![7]).to.be.above(columns[0]![7]! + 200);
  });
});
