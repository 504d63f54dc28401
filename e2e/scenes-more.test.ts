import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { covered, goTo, liftOut, onPage, startWith, useApp } from './harness.ts';
import { farHeadlandAt, nearHeadlandAt, twoHeadlands } from './photos.ts';
import {
  addProp,
  addText,
  arrive,
  countOf,
  exported,
  isRed,
  isWhite,
  liftedFloat,
  spread,
  where,
} from './scene-maker.ts';
import { goToFrame, row, type, unfold } from './stage-world.ts';

/* Scenes of words and weather, from a picture as it comes to a played file, through the interface alone. */

describe('scene 2, title between headlands', () => {
  const app = useApp();

  /** Cuts what lies under a line from one side of it to the other by a path of points. */
  async function cutBelow(page: Page, at: (x: number) => number, from: number, to: number, low: number): Promise<void> {
    const view = page.getByTestId('cut-view');
    await page.keyboard.press('p');
    const line = Array.from({ length: 13 }, (_, k): [number, number] => {
      const x = from + ((to - from) * k) / 12;
      return [x, at(x)];
    });
    for (const place of [...line, [to, low], [from, low]] as [number, number][])
      await page.mouse.click(...(await onPage(view, place)));
    await page.keyboard.press('Enter');
    await page.getByRole('list', { name: 'Outlines' }).waitFor();
    await covered(page);
  }

  it('two words come in from the right behind a headland each, the second later, by arriving and by two poses', async () => {
    const page = await startWith(app, await twoHeadlands(), 'bay.png');
    await cutBelow(page, nearHeadlandAt, 250, 638, 418);
    await liftOut(page);
    await page.getByRole('button', { name: 'New piece' }).click();
    await cutBelow(page, farHeadlandAt, 20, 330, 214);
    await liftOut(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 2);
    // The camera stands: only the words move.
    await page.getByRole('button', { name: /^Lens/ }).first().click();
    for (const name of ['Size', 'X', 'Y'])
      for (const one of await page.getByLabel(name, { exact: true }).all()) {
        await one.fill(name === 'Size' ? '100' : '0');
        await one.press('Enter');
      }
    await row(page, 'Piece 1').click();
    await type(page, 'Depth', 2);
    await row(page, 'Piece 2').click();
    await type(page, 'Depth', 5);
    const word = async (text: string, depth: number, x: number, y: number): Promise<void> => {
      await addText(page, text);
      await type(page, 'Size', 54);
      await type(page, 'Depth', depth);
      await type(page, 'X', x);
      await type(page, 'Y', y);
      await page.getByRole('button', { name: 'Add finish', exact: true }).click();
      await page
        .getByRole('dialog')
        .getByRole('button', { name: /^Drop shadow/ })
        .click();
    };
    // The first arrives, slow at both ends, and ends half behind the near headland.
    await word('HARBOUR', 3, 60, 40);
    await arrive(page, /^Slide in/);
    await page.getByRole('combobox', { name: 'By', exact: true }).selectOption('whole');
    const way = page.getByRole('group', { name: 'Arrive' });
    await way.getByRole('textbox', { name: 'Comes from' }).fill('0');
    await way.getByRole('textbox', { name: 'Distance' }).fill('420');
    await page.keyboard.press('Enter');
    await type(page, 'Duration', 1);
    await page.getByRole('combobox', { name: 'Easing' }).selectOption('ease-in-out');
    // The second goes from one pose to another, a little later.
    await word('LIGHTS', 5.5, 420, -62);
    await goToFrame(page, 12);
    await page.keyboard.press('Escape');
    await unfold(page, 'Poses');
    await page.getByRole('button', { name: 'Store a pose here' }).click();
    await goToFrame(page, 45);
    await row(page, 'LIGHTS').click();
    await type(page, 'X', -60);
    // Leaving the field, then the layer.
    for (let k = 0; k < 2; k++) await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Store a pose here' }).click();
    const video = await exported(page, [0.02, 0.6, 1.95], 'bay');
    const { width, height } = video;
    const parts = video.pictures.map((picture) => {
      const white = where(picture, width, (r, g, b) => Math.min(r, g, b) > 225);
      const low = white.filter(([, y]) => y > height * 0.46);
      return { near: low, far: white.filter(([, y]) => y <= height * 0.46) };
    });
    expect(parts[0]!.near.length + parts[0]!.far.length, 'neither is there at first').to.be.below(60);
    expect(parts[2]!.near.length).to.be.greaterThan(500);
    expect(parts[2]!.far.length).to.be.greaterThan(300);
    // The first is nearly there when the second is still on its way.
    const left = (points: [number, number][]): number => spread(points, 0)[0] / width;
    expect(left(parts[1]!.near) - left(parts[2]!.near)).to.be.below(0.35);
    expect(parts[1]!.near.length).to.be.greaterThan(200);
    // Nothing of a word lies over the headland before it.
    const shown = (x: number, y: number): [number, number] => [(x / width) * 640, (y / height) * 420];
    const over = parts[2]!.near.filter((place) => {
      const [x, y] = shown(...place);
      return y > nearHeadlandAt(x) + 6;
    });
    expect(over.length).to.be.below(10);
    const overFar = parts[2]!.far.filter((place) => {
      const [x, y] = shown(...place);
      return y > farHeadlandAt(x) + 6 && y < 210;
    });
    expect(overFar.length).to.be.below(10);
  });
});

describe('scene 16, whiteboard', () => {
  const app = useApp();

  it('words are wiped on from the left by a hand and its shadow, and another pose of the hand takes over', async () => {
    const page = await liftedFloat(app);
    await type(page, 'Length', 2.4);
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Colour' }).click();
    await type(page, 'Depth', 5);
    await page.getByLabel('Colour', { exact: true }).fill('#ffffff');
    await addText(page, 'High water');
    await page.getByLabel('Colour', { exact: true }).fill('#14283c');
    await type(page, 'Size', 70);
    await arrive(page, /^Wipe on/);
    await page.getByRole('combobox', { name: 'By', exact: true }).selectOption('whole');
    await type(page, 'Duration', 1.6);
    await unfold(page, 'Time');
    await type(page, 'Start', 0.2);
    const hand = page.locator('[data-layer]').filter({ hasText: 'Piece 1' });
    await hand.first().click();
    await type(page, 'Scale', 60);
    await page.getByRole('button', { name: 'Add finish', exact: true }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Drop shadow/ })
      .click();
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Follows the writing of' }).selectOption({ label: 'High water' });
    // Another pose of the hand: a copy, turned over, that takes over in the middle.
    await unfold(page, 'Layer');
    await page.getByLabel('Selection').getByRole('button', { name: 'Duplicate', exact: true }).click();
    await row(page, 'Piece 2').waitFor();
    await page.getByRole('button', { name: 'Flip horizontally' }).click();
    await type(page, 'Start', 1);
    await row(page, 'Piece 1').click();
    await type(page, 'End', 1);
    const video = await exported(page, [0.02, 0.7, 1.4, 2.35], 'quay');
    const { width } = video;
    const isInk = (r: number, g: number, b: number): boolean => Math.max(r, g, b) < 110 && b >= r;
    const ink = video.pictures.map((picture) => where(picture, width, isInk));
    const counts = ink.map((points) => points.length);
    expect(counts[0]).to.be.below(80);
    expect(counts[1]).to.be.greaterThan(150);
    expect(counts[2]).to.be.greaterThan(counts[1]! * 1.3);
    expect(counts[3]).to.be.greaterThan(counts[2]!);
    // In both halves a hand stands where the ink ends, with a shadow that is neither ink nor board beside it.
    for (const k of [1, 2]) {
      const red = where(video.pictures[k]!, width, isRed);
      expect(red.length, `a hand in picture ${k}`).to.be.greaterThan(300);
      const [from, to] = spread(red, 0);
      const edge = spread(ink[k]!, 0)[1];
      expect(edge).to.be.within(from - 60, to + 60);
      const shade = where(
        video.pictures[k]!,
        width,
        (r, g, b) => Math.max(r, g, b) < 235 && Math.min(r, g, b) > 120 && Math.max(r, g, b) - Math.min(r, g, b) < 20,
      );
      expect(shade.length).to.be.greaterThan(80);
    }
  });
});

describe('scene 19, still into storm', () => {
  const app = useApp();

  it('flare, smoke and embers before and behind in the blends that suit; three flags sway, each in its own time', async () => {
    const page = await liftedFloat(app);
    await type(page, 'Length', 2);
    await page.getByRole('button', { name: /^Lens/ }).first().click();
    await page.getByRole('button', { name: 'Moves to start from' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /Near up, far down/ })
      .click();
    await page.getByText(/No bare frame|Bare in/).waitFor();
    for (const [prop, depth, name] of [
      [/Smoke/, 8, 'Smoke'],
      [/Sparks and embers/, 9, 'Sparks and embers'],
      [/Sparks and embers/, 1.5, 'Sparks and embers 2'],
      [/Lamp flare/, 1.2, 'Lamp flare'],
    ] as const) {
      await addProp(page, prop);
      await row(page, name).waitFor();
      await type(page, 'Depth', depth);
      // Light adds to what is behind it, as a film of it on black would.
      if (name !== 'Smoke') expect(await page.getByLabel('Blend mode').inputValue()).to.match(/screen|lighte/);
    }
    await goTo(page, 'Pictures');
    const flag = sharp({ create: { width: 200, height: 110, channels: 3, background: '#1e8c46' } });
    await page
      .getByLabel('Choose pictures')
      .setInputFiles({ name: 'flag.png', mimeType: 'image/png', buffer: await flag.png().toBuffer() });
    await page
      .getByRole('listitem')
      .filter({ hasText: 'flag' })
      .getByRole('button', { name: /Hang .* on the Stage/ })
      .click();
    await goTo(page, 'Stage');
    await row(page, 'flag').click();
    await type(page, 'Depth', 2);
    await type(page, 'Scale', 40);
    await type(page, 'X', -130);
    await type(page, 'Y', -90);
    await unfold(page, 'Sway');
    await page.getByRole('button', { name: 'Let it sway' }).click();
    await type(page, 'Strength', 34);
    for (const [k, period] of [0.7, 0.5].entries()) {
      await unfold(page, 'Layer');
      await page.getByLabel('Selection').getByRole('button', { name: 'Duplicate', exact: true }).click();
      await row(page, `flag ${k + 2}`).waitFor();
      await type(page, 'X', k * 130);
      await type(page, 'Y', -90);
      await page.getByRole('combobox', { name: 'Waves like' }).selectOption({ label: 'itself' });
      await type(page, 'Wave period', period);
    }
    const video = await exported(page, [0.05, 0.4, 0.8, 1.3], 'quay');
    const { width, height } = video;
    const isGreen = (r: number, g: number, b: number): boolean => g > r + 40 && g > b + 25;
    // Where the lower edge of each flag is at its middle, against where it is held, at four times: no two flags wave alike.
    const moves = [0, 1, 2].map((third) =>
      video.pictures.map((picture) => {
        const flag = where(picture, width, isGreen).filter(([x]) => Math.floor((x / width) * 3) === third);
        expect(flag.length, `flag ${third}`).to.be.greaterThan(200);
        const [left, right] = spread(flag, 0);
        const low = (share: number): number =>
          Math.max(...flag.filter(([x]) => Math.abs(x - left - share * (right - left)) < 3).map(([, y]) => y));
        return Math.round(((low(0.6) - low(0.03)) / height) * 500);
      }),
    );
    for (const flag of moves) expect(Math.max(...flag) - Math.min(...flag)).to.be.greaterThan(3);
    expect(new Set(moves.map(String)).size).to.equal(3);
    // Embers glow before and behind, elsewhere in every picture.
    const glow = video.pictures.map((picture) =>
      where(picture, width, (r, g, b) => r > 225 && g > 110 && b < 150 && r > b + 90),
    );
    for (const one of glow) expect(one.length).to.be.greaterThan(20);
    expect(countOf(video.pictures[0]!, isWhite)).to.be.below(width * height * 0.2);
  });
});
