import { expect } from 'chai';
import sharp from 'sharp';
import { setFraming } from '../core/edits/camera-edits.ts';
import { hangPicture } from '../core/edits/lift-edit.ts';
import { addPicture } from '../core/edits/project-edits.ts';
import { restFraming } from '../core/document/shot.ts';
import { becomes, saved, useApp } from './harness.ts';
import {
  goToFrame,
  isColour,
  onPage,
  openStage,
  pictureOf,
  projectWith,
  seen,
  storedPicture,
  type,
  unfold,
} from './stage-world.ts';

const red = [200, 40, 40] as const;

describe('near and far in one picture', function () {
  this.timeout(120_000);
  const app = useApp();

  it('depth is painted with two strokes, moves pixel by pixel, goes out as a 16-bit PNG, and slices the picture', async () => {
    const strip = (r: number, g: number, b: number) => ({
      input: { create: { width: 960, height: 200, channels: 3 as const, background: { r, g, b } } },
      left: 0,
      top: 340,
    });
    const background = { r: 60, g: 90, b: 160 };
    const post = {
      input: { create: { width: 20, height: 150, channels: 3 as const, background } },
      left: 470,
      top: 365,
    };
    const far = {
      input: { create: { width: 20, height: 150, channels: 3 as const, background: { r: 200, g: 40, b: 40 } } },
    };
    const picture = await sharp({ create: { width: 960, height: 540, channels: 3, background } })
      .composite([strip(200, 40, 40), post, { ...far, left: 470, top: 60 }])
      .png()
      .toBuffer();
    const file = await storedPicture(app, picture);
    const url = await projectWith(app, (d) => [
      addPicture({ ...pictureOf(file, 960, 540), id: 'shore', name: 'shore' }),
      hangPicture('shore', 'layer-shore'),
      setFraming(d.shots[0]!.id, 'last', { ...restFraming, x: 60 }),
    ]);
    const page = await openStage(app, url);
    await page.locator('[data-layer=layer-shore]').click();
    await unfold(page, 'Depth map');
    await page.getByRole('button', { name: 'Paint near and far' }).click();
    const paint = async (level: string, ...points: [number, number][]): Promise<void> => {
      await page.getByRole('radio', { name: level, exact: true }).click();
      await page.mouse.move(...(await onPage(page, ...points[0]!)));
      await page.mouse.down();
      for (const point of points.slice(1)) await page.mouse.move(...(await onPage(page, ...point)), { steps: 4 });
      await page.mouse.up();
    };
    await paint('Near', [-400, 240], [400, 240], [0, 200], [0, 140]);
    await paint('Far', [-400, -240], [400, -240], [0, -240], [0, -90]);
    await page.getByTestId('depth-busy').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Paint near and far' }).click();
    await goToFrame(page, 59);
    // Both posts stood 10 left of the middle; the near one goes further to the left, once the strokes have their effect.
    await becomes(async () => {
      const at = await seen(page);
      const edge = (y: number, colour: readonly number[]): number => {
        for (let x = -300; x < 300; x++) if (isColour(at(x, y), colour, 60)) return x;
        return 999;
      };
      return edge(150, [60, 90, 160]) < edge(-150, red) - 15;
    }, true);
    // It is seen on the Shelf too.
    await saved(page);
    const shelf = await app.open();
    await shelf.goto(app.server.url);
    await becomes(async () => {
      const middle = await shelf
        .locator('canvas')
        .first()
        .evaluate((canvas: HTMLCanvasElement) => [...canvas.getContext('2d')!.getImageData(80, 80, 1, 1).data]);
      return isColour(middle.slice(0, 3), [60, 90, 160], 12);
    }, true);
    const [out] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Export', exact: true }).click(),
    ]);
    expect((await sharp(await out.path()).metadata()).depth).to.equal('ushort');
    await page.getByRole('button', { name: 'Fill what opens' }).click();
    await page.getByText('What opens behind things is filled.').waitFor({ timeout: 120_000 });
    await page.keyboard.press('Control+z');
    await page.getByText('What opens behind things is filled.').waitFor({ state: 'detached' });
    await page.keyboard.press('Control+Shift+z');
    await page.getByRole('button', { name: 'Stretch what opens' }).click();
    await page.getByRole('button', { name: 'Fill what opens' }).waitFor();
    await type(page, 'Layers', 2);
    await page.getByRole('button', { name: 'Slice into layers' }).click();
    await page.locator('[data-layer]').nth(2).waitFor({ timeout: 120_000 });
    await becomes(() => page.locator('[data-layer]').count(), 3);
  });
});
