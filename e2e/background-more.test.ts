import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { covered, liftOut, onPage, startWith, useApp } from './harness.ts';
import { floatBeforeStones, floatOverBoards, stonesAlone, letteredBoards, letters, tiltedHorizon } from './photos.ts';
import { draw, idle, openBackground, storedPixels, storedPlate, storedProject, takeGroundFrom } from './plates.ts';

describe('the background, further', () => {
  const app = useApp();

  async function lifted(photo?: Buffer): Promise<Page> {
    const page = await startWith(app, photo ?? (await floatOverBoards()));
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await liftOut(page);
    return page;
  }
  const steps = async (page: Page) => (await storedProject(app, page)).document.pictures[0]!.background!.steps;

  it('further takes of what is behind come in beside the first, and part of one is painted into another', async () => {
    const page = await lifted();
    const view = await openBackground(page);
    await page.getByRole('button', { name: /More takes|Other takes/ }).click();
    await page.getByRole('radio', { name: 'Take 5' }).waitFor();
    await idle(page);
    expect((await steps(page))[0]!.takes!.map((t) => t.seed)).to.deep.equal([1, 2, 3, 4, 5]);
    const first = (await steps(page))[0]!.file;
    await page.getByRole('radio', { name: 'Take 3' }).click();
    await page.getByRole('button', { name: 'Undo: Choose take' }).waitFor();
    expect((await steps(page))[0]!.file).to.not.equal(first);
    await page.getByRole('button', { name: 'Undo: Choose take' }).click();
    expect((await steps(page))[0]!.file).to.equal(first);
    await page.getByTitle('Paint parts of take 2 into the chosen one').click();
    await draw(page, view, [
      [300, 180],
      [340, 180],
    ]);
    await page.getByRole('button', { name: 'Undo: Paint take in' }).waitFor();
    const [mixed] = await steps(page);
    expect(mixed!.mix).to.have.length(1);
    expect(mixed!.file).to.not.equal(first);
  });

  it('only what will be seen is rebuilt when asked, and how much that is is said', async () => {
    const page = await lifted();
    await openBackground(page);
    await page
      .getByRole('button', { name: /^Background behind pieces/ })
      .first()
      .click();
    await page.getByRole('checkbox', { name: /Only what will be seen/ }).click();
    const said = await page.getByText(/Rebuilt what the shot shows: \d+ % of the hole/).textContent();
    expect(Number(/(\d+) %/.exec(said!)![1])).to.be.within(5, 95);
    expect((await steps(page))[0]!.onlySeen).to.equal(true);
  });

  it('a second photo without the subject shows what was really behind it', async () => {
    const page = await lifted(await floatBeforeStones());
    await takeGroundFrom(page, await stonesAlone());
    const ground = await storedPlate(app, page);
    // A red nail that only the other photo shows, in the middle of where the float hung.
    const [r, g] = ground.at(320, 200);
    expect(r! - g!).to.be.greaterThan(60);
  });

  it('clone copies from where Alt was pressed; the next stroke keeps its distance', async () => {
    const page = await startWith(app, await letteredBoards());
    const view = await openBackground(page);
    await page.keyboard.press('c');
    await draw(page, view, [[letters.x + 4, letters.y + 30]], 'Alt');
    await draw(page, view, [
      [100, 100],
      [101, 100],
    ]);
    await page.getByRole('button', { name: 'Undo: Clone' }).waitFor();
    await idle(page);
    const made = await storedPlate(app, page);
    const [r, , b] = made.at(100, 100);
    expect(b! - r!).to.be.greaterThan(40);
    await page.getByText('1 mark', { exact: true }).waitFor();
  });

  it('a tilted horizon is levelled by drawing along it, and the corners are continued', async () => {
    const page = await startWith(app, await tiltedHorizon());
    const view = await openBackground(page);
    await page.keyboard.press('w');
    await page.getByRole('button', { name: 'Draw along the horizon' }).click();
    await draw(page, view, [
      [60, 210 - 260 * 0.08],
      [580, 210 + 260 * 0.08],
    ]);
    await page.getByRole('button', { name: 'Undo: Level picture' }).waitFor();
    const { document } = await storedProject(app, page);
    const level = await storedPixels(app, document.pictures[0]!.file);
    const edgeAt = (x: number): number => {
      let y = 100;
      while (y < 330 && level.at(x, y)[2]! > 150) y++;
      return y;
    };
    expect(Math.abs(edgeAt(80) - edgeAt(560))).to.be.at.most(4);
    for (const [x, y] of [
      [1, 1],
      [638, 1],
      [1, 418],
      [638, 418],
    ] as const)
      expect(level.at(x, y)[3]).to.equal(255);
  });

  it('a lifted piece is retouched itself, and keeps it when it is lifted again', async () => {
    const page = await lifted();
    await page.getByRole('link', { name: 'Retouch the piece' }).click();
    const view = page.getByTestId('plate-view');
    await view.waitFor();
    const before = (await storedProject(app, page)).document.pieces[0]!.cutout!.file;
    await draw(page, view, [
      [320, 170],
      [330, 190],
    ]);
    await page.getByRole('button', { name: 'Undo: Retouch piece' }).waitFor();
    await idle(page);
    const after = (await storedProject(app, page)).document.pieces[0]!;
    expect(after.touches).to.have.length(1);
    expect(after.cutout!.file).to.not.equal(before);
    await page.getByRole('link', { name: 'Back to its cut' }).click();
    await covered(page);
    await liftOut(page);
    expect((await storedProject(app, page)).document.pieces[0]!.touches).to.have.length(1);
  });

  it('what a piece hides of another is continued on that one, in one press, and stays when it is lifted again', async () => {
    const page = await lifted();
    await page.getByRole('button', { name: 'New piece' }).click();
    await page.getByRole('button', { name: /^Shape/ }).click();
    await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
    const cut = page.getByTestId('cut-view');
    const [from, to] = [await onPage(cut, [180, 60]), await onPage(cut, [460, 380])];
    await page.mouse.move(...from);
    await page.mouse.down();
    await page.mouse.move(...to, { steps: 12 });
    await page.mouse.up();
    await covered(page);
    await liftOut(page);
    const colourAt = async (x: number, y: number): Promise<number[]> => {
      const { cutout } = (await storedProject(app, page)).document.pieces[1]!;
      const pixels = await storedPixels(app, cutout!.file);
      return pixels.at(x - cutout!.bounds.x, y - cutout!.bounds.y);
    };
    const orange = ([r, , b]: number[]): boolean => r! - b! > 90;
    expect(orange(await colourAt(320, 180))).to.equal(true);
    await page.getByRole('link', { name: 'Retouch the piece' }).click();
    await page.getByRole('button', { name: 'Rebuild behind Piece 1' }).click();
    await page.getByRole('button', { name: 'Undo: Retouch piece' }).waitFor();
    await idle(page);
    for (const [x, y] of [
      [320, 180],
      [330, 190],
    ] as const) {
      const found = await colourAt(x, y);
      expect(orange(found), `${found}`).to.equal(false);
      expect(found[3]).to.equal(255);
    }
    await page.getByRole('link', { name: 'Back to its cut' }).click();
    await covered(page);
    await liftOut(page);
    expect(orange(await colourAt(320, 180))).to.equal(false);
  });
});
