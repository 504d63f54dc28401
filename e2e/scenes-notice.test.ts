import { expect } from 'chai';
import { recordClip } from '../scripts/record-clip.ts';
import { goTo, useApp } from './harness.ts';
import { floatBeforeGreen } from './photos.ts';
import {
  addFinish,
  addNew,
  addProp,
  addShapeOf,
  addText,
  arrive,
  countOf,
  exported,
  isRed,
  liftFromScreen,
  startWithFilm,
  where,
} from './scene-maker.ts';
import { row, type, unfold } from './stage-world.ts';

/* A notice in four shots, through the interface alone. */

describe('scene 9, tide clock notice', () => {
  const app = useApp();

  it('turning shapes leave mist between them, a filmed figure behind, letters on an arc; three shots of words', async () => {
    const film = { width: 320, height: 180, rate: 12, frames: 24, format: 'webm' as const, bitrate: 4e6 };
    const bytes = await recordClip(app.browser, { ...film, frame: floatBeforeGreen });
    const page = await startWithFilm(app, 'figure.webm', bytes);
    await liftFromScreen(page);
    await goTo(page, 'Stage');
    await type(page, 'Length', 1.2);
    await row(page, 'Piece 1').click();
    await type(page, 'Depth', 8);
    await addNew(page, 'Colour');
    await page.getByLabel('Colour', { exact: true }).fill('#14283c');
    // Two rosettes that turn for ever, the second the other way; mist is what is seen between them.
    for (const [k, x] of [-320, 320].entries()) {
      await addShapeOf(page, /^Rosette/);
      const name = k ? 'Rosette 2' : 'Rosette';
      await row(page, name).waitFor();
      await type(page, 'Depth', 4);
      await type(page, 'Scale', 200);
      await type(page, 'X', x);
      await unfold(page, 'Motion');
      await page.getByRole('combobox', { name: 'Without keyframes' }).selectOption('rotation');
      await type(page, 'Spin per second', k ? -60 : 60);
    }
    await row(page, 'Rosette').click({ modifiers: ['Shift'] });
    await page.getByRole('button', { name: 'Group', exact: true }).click();
    await addProp(page, /^Mist/);
    await type(page, 'Depth', 3);
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Window' }).selectOption({ label: 'Group' });
    await page.getByRole('combobox', { name: 'Visible' }).selectOption('outside');
    await addText(page, 'TIDE CLOCK');
    await type(page, 'Depth', 2.5);
    await page.getByRole('combobox', { name: 'Along' }).selectOption('arc');
    for (const [k, colour] of ['#0e5b50', '#ffffff'].entries()) {
      await addFinish(page, 'TIDE CLOCK', /^Outline/);
      const outline = page.getByRole('listitem', { name: 'Outline', exact: true }).nth(k);
      await outline.getByLabel('Colour', { exact: true }).fill(colour);
    }
    // Three more shots of unlike lengths, each with words that arrive in their own way.
    for (const [words, by, seconds] of [
      ['High water at nine', 'letter', 0.7],
      ['Boats leave at ten', 'word', 1],
      ['Lamps at dusk', 'line', 0.5],
    ] as const) {
      await page.getByRole('button', { name: 'New shot', exact: true }).click();
      await type(page, 'Length', seconds);
      await addNew(page, 'Colour');
      await page.getByLabel('Colour', { exact: true }).fill('#0e5b50');
      await addText(page, words);
      await arrive(page, /^Rise/);
      await page.getByRole('combobox', { name: 'By', exact: true }).selectOption(by);
      await type(page, 'Duration', 0.4);
      await page.keyboard.press('Escape');
      await page.keyboard.press('Escape');
    }
    const video = await exported(page, [0.05, 1.1, 1.3, 1.85, 2.1, 2.8, 3.35], 'figure');
    expect(video.duration).to.be.closeTo(1.2 + 0.7 + 1 + 0.5, 0.05);
    const { width, pictures } = video;
    const count = (is: (r: number, g: number, b: number) => boolean) => pictures.map((one) => countOf(one, is));
    // The shapes turn: what is theirs at first is not theirs later, and yet they are as large.
    const isPetal = (r: number, g: number, b: number): boolean => r > 190 && g > 130 && g < 180 && b < 60;
    const petals = count(isPetal);
    expect(petals[1]).to.be.within(0.93 * petals[0]!, 1.07 * petals[0]!);
    const places = [0, 1].map((k) => new Set(where(pictures[k]!, width, isPetal).map(([x, y]) => y * width + x)));
    expect([...places[0]!].filter((at) => !places[1]!.has(at)).length).to.be.above(0.02 * petals[0]!);
    // Mist lies round them and never over them; the filmed figure stands behind them without its green.
    expect(count((r, g, b) => Math.min(r, g, b) > 90 && b > r)[0]).to.be.above(5000);
    const red = count(isRed);
    expect(red[0]).to.be.above(2000);
    expect(red[1]).to.be.below(0.3 * red[0]!);
    expect(count((r, g, b) => g > r + 60 && g > b + 60)[0]).to.be.below(20);
    // Letters have a ring in a ring: green inside white.
    expect(count((r, g, b) => Math.abs(r - 14) + Math.abs(g - 91) + Math.abs(b - 80) < 50)[0]).to.be.above(400);
    // Words arrive in each of the other shots: by letter and by word part of them first.
    const ink = count((r, g, b) => Math.min(r, g, b) > 170);
    expect(ink[2]).to.be.within(50, 0.6 * ink[3]!);
    expect(ink[4]).to.be.within(200, 0.85 * ink[5]!);
    expect(ink[6]).to.be.above(1000);
  });
});
