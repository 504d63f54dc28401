import { join } from 'node:path';
import { expect } from 'chai';
import type { Locator } from 'playwright-core';
import sharp from 'sharp';
import { padToRatio } from '../core/rebuild/widen.ts';
import { baySigns, bayMast, squareBay } from './photos.ts';
import { idle, openBackground } from './plates.ts';
import { covered, goTo, liftOut, onPage, startWith, useApp } from './harness.ts';
import { addProp, countOf, exported, spread, where } from './scene-maker.ts';
import { goToFrame, row, type, unfold } from './stage-world.ts';

/* Scenes that live from one photograph in depth, from the picture as it comes to a played file. */

/** A photograph of the quay, smaller than it was taken so that a run stays short. */
const photograph = (name: string, width = 900): Promise<Buffer> =>
  sharp(join(import.meta.dirname, `../demo/pictures/${name}.jpg`))
    .resize(width)
    .jpeg({ quality: 92 })
    .toBuffer();

type Decoded = Awaited<ReturnType<typeof exported>>;

/** By how many pixels a part of a picture went down from one picture to another: the shift at which they differ least. */
function wentDown(
  { width, pictures }: Decoded,
  from: number,
  to: number,
  part: { x: number; y: number; w: number; h: number },
): number {
  const luma = (k: number, x: number, y: number): number => pictures[k]!.data[(y * width + x) * 4 + 1]!;
  let [best, found] = [Infinity, 0];
  for (let shift = -40; shift <= 40; shift++) {
    let sum = 0;
    for (let y = part.y; y < part.y + part.h; y += 2)
      for (let x = part.x; x < part.x + part.w; x += 2) sum += Math.abs(luma(from, x, y) - luma(to, x, y + shift));
    if (sum < best) [best, found] = [sum, shift];
  }
  return found;
}

describe('scene 1, breakwater rises', () => {
  const app = useApp();

  it('the whole foreground goes up while the far shore goes down, a cloud drifts between, and no frame is bare', async () => {
    const page = await startWith(app, await photograph('breakwater'), 'breakwater.png');
    await page.getByRole('radio', { name: /Whole foreground/ }).click();
    await covered(page);
    // The hills came along; three strokes leave them behind.
    await page.keyboard.press('d');
    const view = page.getByTestId('cut-view');
    for (const [from, to, v] of [
      [0.62, 0.97, 0.44],
      [0.5, 0.66, 0.51],
      [0.03, 0.25, 0.5],
    ] as const) {
      await page.mouse.move(...(await onPage(view, [from * 900, v * 600])));
      await page.mouse.down();
      await page.mouse.move(...(await onPage(view, [to * 900, v * 600])), { steps: 8 });
      await page.mouse.up();
    }
    await page.getByText('0 keep, 3 drop').waitFor();
    await page.keyboard.press('Escape');
    await covered(page);
    await liftOut(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await page.getByRole('button', { name: /^Lens/ }).first().click();
    await page.getByRole('button', { name: 'Moves to start from' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /Near up, far down/ })
      .click();
    await addProp(page, /Mist/);
    await type(page, 'Depth', 4.5);
    await page.getByText('No bare frame').waitFor();
    const order = await page.locator('[data-layer]').allInnerTexts();
    expect(order.findIndex((text) => /Mist/.test(text))).to.equal(1);
    const video = await exported(page, [0.02, 1.9], 'breakwater');
    const { width, height } = video;
    // Paving and rocks below, hills and sea behind: they part.
    const near = wentDown(video, 0, 1, {
      x: Math.round(width * 0.35),
      y: Math.round(height * 0.72),
      w: Math.round(width * 0.3),
      h: Math.round(height * 0.14),
    });
    const far = wentDown(video, 0, 1, {
      x: Math.round(width * 0.72),
      y: Math.round(height * 0.38),
      w: Math.round(width * 0.2),
      h: Math.round(height * 0.12),
    });
    expect(near - far, `near ${near}, far ${far}`).to.be.below(-4);
    const bare = video.pictures.map(({ data }) => countOf({ data }, (r, g, b) => Math.max(r, g, b) < 3));
    for (const count of bare) expect(count).to.be.below(width * height * 0.001);
  });
});

describe('scene 3, lantern lifts', () => {
  const app = useApp();
  const isPaper = (r: number, g: number, b: number): boolean => r > 190 && g > 120 && b < 150 && r - b > 75;

  it('a lantern and its soft shadow rise off the boards: it recedes, the shadow pales and shrinks, no ghost is left', async () => {
    const page = await startWith(app, await photograph('lantern'), 'lantern.png');
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await liftOut(page);
    await page.getByRole('button', { name: 'Lift it too' }).click();
    await page.getByRole('button', { name: 'Undo: Lift shadow' }).waitFor();
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    // The camera stands still: only the lantern moves.
    await page.getByRole('button', { name: /^Lens/ }).first().click();
    for (const size of await page.getByLabel('Size').all()) {
      await size.fill('100');
      await size.press('Enter');
    }
    for (const x of await page.getByLabel('X', { exact: true }).all()) {
      await x.fill('0');
      await x.press('Enter');
    }
    await row(page, 'Piece 1').click();
    const before = Number(await page.getByRole('textbox', { name: 'Y', exact: true }).inputValue());
    const scale = Number(await page.getByRole('textbox', { name: 'Scale', exact: true }).inputValue());
    await page.getByRole('button', { name: 'Position keyframe here' }).click();
    await page.getByRole('button', { name: 'Scale keyframe here' }).click();
    await goToFrame(page, 55);
    await type(page, 'Y', before - 170);
    await type(page, 'Scale', scale * 0.75);
    await unfold(page, 'Ties');
    const video = await exported(page, [0.02, 1.95], 'lantern');
    const { width, height } = video;
    const [first, last] = video.pictures.map((picture) => where(picture, width, isPaper));
    const size = (points: [number, number][]): number => {
      const [top, bottom] = spread(points, 1);
      return bottom - top;
    };
    // It rose and became smaller.
    expect(spread(last!, 1)[1]).to.be.below(spread(first!, 1)[1] - height * 0.1);
    expect(size(last!)).to.be.closeTo(size(first!) * 0.75, size(first!) * 0.08);
    // Where it stood there are boards: as grey as beside it, and as bright.
    const [left, right] = spread(first!, 0);
    const feet = spread(first!, 1)[1];
    const mean = (k: number, x0: number, x1: number, y0: number, y1: number): number[] => {
      const sum = [0, 0, 0, 0];
      for (let y = Math.round(y0); y < y1; y++)
        for (let x = Math.round(x0); x < x1; x++) {
          for (let c = 0; c < 3; c++) sum[c]! += video.pictures[k]!.data[(y * width + x) * 4 + c]!;
          sum[3]!++;
        }
      return sum.slice(0, 3).map((v) => v / sum[3]!);
    };
    const stood = mean(1, left, right, feet - height * 0.02, feet);
    const beside = mean(1, left - (right - left), left - 10, feet - height * 0.02, feet);
    for (let c = 0; c < 3; c++) expect(stood[c]!).to.be.closeTo(beside[c]!, 22);
    // Its shadow is paler than it was.
    const shade = (k: number): number => {
      const under = mean(k, left, right, feet + height * 0.02, feet + height * 0.07);
      const free = mean(k, left - (right - left), left - 10, feet + height * 0.02, feet + height * 0.07);
      return free[1]! - under[1]!;
    };
    expect(shade(1)).to.be.below(shade(0) * 0.8);
  });
});

describe('scene 10, wide harbour', () => {
  const app = useApp();

  it('letters and a twig go, a square photo is widened from one of four takes and cut, the mast is won back, a cloud drifts behind the trees', async () => {
    const page = await startWith(app, await squareBay(), 'bay.png');
    const cut = page.getByTestId('cut-view');
    const line = async (view: Locator, ...points: (readonly [number, number])[]): Promise<void> => {
      await page.mouse.move(...(await onPage(view, [...points[0]!])));
      await page.mouse.down();
      for (const point of points.slice(1)) await page.mouse.move(...(await onPage(view, [...point])), { steps: 10 });
      await page.mouse.up();
    };
    // First the picture is made whole: clean, and wider by one of four takes.
    const { letters, twig } = baySigns;
    const plate = await openBackground(page);
    await page.getByRole('button', { name: /^Retouch/ }).click();
    await page.keyboard.press('b');
    const strokes: (readonly [number, number])[][] = [
      [
        [letters.x - 2, letters.y + 6],
        [letters.x + 110, letters.y + 6],
      ],
      [
        [letters.x - 2, letters.y + 26],
        [letters.x + 110, letters.y + 26],
      ],
      [
        [letters.x - 2, letters.y + 46],
        [letters.x + 110, letters.y + 46],
      ],
      [[-14, twig.from[1] - 3], [...twig.to]],
    ];
    for (const stroke of strokes) {
      await line(plate, ...stroke);
      await page.getByRole('button', { name: 'Undo: Brush away' }).waitFor();
      await idle(page);
    }
    await page.keyboard.press('w');
    await page.getByRole('button', { name: '16:9', exact: true }).click();
    await page.getByRole('button', { name: 'Widen', exact: true }).click();
    await page.getByRole('radio', { name: 'Take 4' }).waitFor();
    await idle(page);
    await page.getByRole('radio', { name: 'Take 3' }).click();
    await page.getByRole('button', { name: /Undo: Choose take/ }).waitFor();
    await idle(page);
    // The trees are cut out of what it is now, where they go on to both sides.
    await page.getByRole('button', { name: 'Cut from this background' }).click();
    await cut.waitFor();
    await page.getByRole('radio', { name: /Whole foreground/ }).click();
    await covered(page);
    // The mast got lost, as thin things do; the ghost shows where it was.
    const { left } = padToRatio(480, 480, 16 / 9);
    await page.getByRole('radio', { name: 'On a colour' }).click();
    await page.getByRole('button', { name: 'Ghost of the picture' }).click();
    await page.keyboard.press('k');
    for (let k = 0; k < 12; k++) await page.keyboard.press('[');
    await line(cut, [left + bayMast.x, 300], [left + bayMast.x, bayMast.top + 4]);
    await page.getByText('1 keep, 0 drop').waitFor();
    await page.keyboard.press('Escape');
    await covered(page);
    await liftOut(page);
    await goTo(page, 'Pictures');
    await page.getByLabel('Frame', { exact: true }).getByRole('button', { name: /16:9/ }).click();
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    await addProp(page, /^Mist/);
    await type(page, 'Depth', 5);
    await type(page, 'Y', -180);
    await page
      .getByRole('slider', { name: 'Density' })
      .or(page.getByLabel('Selection').getByRole('textbox', { name: 'Density' }))
      .first()
      .fill('100');
    await page.keyboard.press('Enter');
    const { pictures, width, height } = await exported(page, [0.5, 1.5], 'bay');
    expect(width / height).to.be.closeTo(16 / 9, 0.01);
    for (const { data } of pictures) {
      expect(
        where({ data }, width, (r, g, b) => b > r + 45 && b < 160 && g < 90),
        'letters',
      ).to.have.length(0);
      expect(
        countOf({ data }, (r, g, b) => Math.max(r, g, b) < 3),
        'bare',
      ).to.be.below(width * height * 0.001);
      // The cloud is seen on the sky, and nowhere before the trees.
      const white = where({ data }, width, (r, g, b) => Math.min(r, g, b) > 186);
      expect(white.length, 'cloud').to.be.greaterThan(width * height * 0.004);
      const [, lowest] = spread(white, 1);
      expect(lowest / height).to.be.lessThan(0.72);
      // The trees go on to both sides.
      const dark = where({ data }, width, (r, g, b) => g > r && g < 90 && b < 70).filter(([, y]) => y > 0.85 * height);
      expect([dark.some(([x]) => x === 0), dark.some(([x]) => x === width - 1)], 'trees').to.deep.equal([true, true]);
    }
  });
});
