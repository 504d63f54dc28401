import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { plainLayer } from '../core/document/layer.ts';
import { addKey, setLayer, setProperty } from '../core/edits/layer-edits.ts';
import { becomes, covered, goTo, liftOut, saved, startWith, useApp } from './harness.ts';
import { floatWithTip } from './photos.ts';
import { card, field, openStage, projectWith, row, stored, type, unfold } from './stage-world.ts';

/** Presses where the pointer is and walks in many small steps, as a hand does. */
async function walk(page: Page, from: [number, number], to: [number, number], steps = 40): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  for (let k = 1; k <= steps; k++) {
    const at = (a: number, b: number): number => a + ((b - a) * k) / steps;
    await page.mouse.move(at(from[0], to[0]), at(from[1], to[1]));
    // The page draws between the moves of a hand.
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
  }
  await page.mouse.up();
}

describe('the Stage under a slow hand', () => {
  const app = useApp();

  /** A card that goes aside by 50 in 20 frames. */
  const openFlag = async (): Promise<Page> => {
    const url = await projectWith(app, (d) => [
      card(d, 'flag', [200, 60, 40]),
      addKey(d.shots[0]!.id, 'flag', 'position', 0, [0, 0]),
      addKey(d.shots[0]!.id, 'flag', 'position', 20, [50, 0]),
    ]);
    return openStage(app, url);
  };

  const middle = async (page: Page, selector: string): Promise<[number, number]> => {
    const box = (await page.locator(selector).first().boundingBox())!;
    return [box.x + box.width / 2, box.y + box.height / 2];
  };

  it('a key and a bar follow the pointer all the way, and an end of the bar is trimmed', async () => {
    const page = await openFlag();
    await row(page, 'flag').click();
    const key = page.getByRole('button', { name: 'Position keyframe at frame 20' });
    const box = (await key.boundingBox())!;
    const from: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
    await walk(page, from, [from[0] + 260, from[1]]);
    const frames = await page
      .getByRole('button', { name: /Position keyframe at frame/ })
      .evaluateAll((keys) => keys.map((k) => Number(/\d+$/.exec(k.getAttribute('aria-label')!)![0])));
    expect(frames[1], 'the key went where the hand went').to.be.greaterThan(30);
    const there = (await page.getByRole('button', { name: `Position keyframe at frame ${frames[1]}` }).boundingBox())!;
    expect(there.x + there.width / 2).to.be.closeTo(from[0] + 260, 12);

    await page.getByRole('radio', { name: /^Bars/ }).click();
    const bar = page.locator('[data-bar=flag]');
    const end = (await bar.boundingBox())!;
    await walk(page, [end.x + end.width - 3, end.y + 8], [end.x + end.width / 2, end.y + 8]);
    expect((await bar.boundingBox())!.width).to.be.closeTo(end.width / 2, 14);
    const grip = await middle(page, '[data-bar=flag]');
    const before = (await bar.boundingBox())!;
    await walk(page, grip, [grip[0] + 120, grip[1]]);
    expect((await bar.boundingBox())!.x - before.x).to.be.closeTo(120, 10);
  });

  it('layers are copied into another shot with their keys, found there, and taken back in one step', async () => {
    const page = await openFlag();
    await row(page, 'flag').click();
    await unfold(page, 'Layer');
    expect(await page.getByLabel('Copy to shot').count(), 'there is no other shot yet').to.equal(0);
    await page.getByRole('button', { name: 'New shot', exact: true }).click();
    await page.getByLabel('Empty shot').waitFor();
    await page.getByRole('button', { name: /^Shot 1 / }).click();
    await row(page, 'flag').click();
    await page.getByLabel('Copy to shot').selectOption({ label: 'Shot 2' });
    await page.getByText('Copied to Shot 2.').waitFor();
    await page.getByRole('button', { name: 'Open Shot 2' }).click();
    await row(page, 'flag').waitFor();
    const keysIn = async (k: number): Promise<number[]> => {
      const [layer] = (await stored(page)).shots[k]!.layers;
      return layer && 'keys' in layer.position ? layer.position.keys.map(({ frame }) => frame) : [];
    };
    expect([await keysIn(0), await keysIn(1)]).to.deep.equal([
      [0, 20],
      [0, 20],
    ]);
    await page.keyboard.press('Control+z');
    await page.getByLabel('Empty shot').waitFor();
    expect([await keysIn(0), await keysIn(1)]).to.deep.equal([[0, 20], []]);
  });

  it('another frame says what hangs was placed for another one, and one press scales all of it; undo takes it back', async () => {
    const page = await openFlag();
    const flag = async (): Promise<{ at: number[]; scale: number }> => {
      const layer = (await stored(page)).shots[0]!.layers.find(({ id }) => id === 'flag')!;
      return {
        at: 'keys' in layer.position ? layer.position.keys[1]!.value : [],
        scale: 'value' in layer.scale ? layer.scale.value : 0,
      };
    };
    const before = await flag();
    await goTo(page, 'Pictures');
    const said = page.getByText(/What hangs in it was placed for 960 × 540/);
    const side = async (name: string, pixels: number): Promise<void> => {
      const entry = page.getByLabel('Frame', { exact: true }).getByRole('textbox', { name, exact: true });
      await entry.fill(String(pixels));
      await entry.press('Enter');
    };
    await side('Width', 1920);
    await said.waitFor();
    await side('Height', 1080);
    await said.waitFor();
    await page.getByRole('button', { name: 'Scale it to the frame' }).click();
    await said.waitFor({ state: 'detached' });
    await saved(page);
    expect(await flag()).to.deep.equal({ at: [100, 0], scale: 2 * before.scale });
    for (let k = 0; k < 3; k++) await page.keyboard.press('Control+z');
    await saved(page);
    expect(await flag()).to.deep.equal(before);
    expect(await said.count(), 'the frame is what it was').to.equal(0);
  });

  it('bars of several chosen layers are dragged together, and a press on one of them takes it alone', async () => {
    const bars = { flag: { first: 5, end: 25 }, sail: { first: 12, end: 30 } };
    const url = await projectWith(app, (d) =>
      Object.entries(bars).flatMap(([name, bar]) => [
        card(d, name, [200, 60, 40]),
        setLayer('Trim layer', d.shots[0]!.id, name, { timing: { ...plainLayer.timing, bar } }),
      ]),
    );
    const page = await openStage(app, url);
    await page.getByRole('radio', { name: /^Bars/ }).click();
    await page.locator('[data-bar=flag]').click();
    await page.locator('[data-bar=sail]').click({ modifiers: ['Control'] });
    const from = await middle(page, '[data-bar=sail]');
    // Further to the left than there is room: the first of them stops at the beginning, and the other as far from it as before.
    await walk(page, from, [from[0] - 400, from[1]]);
    const { layers } = (await stored(page)).shots[0]!;
    const barOf = (name: string) => layers.find((layer) => layer.name === name)!.timing.bar;
    expect(barOf('flag')).to.deep.equal({ first: 0, end: 20 });
    expect(barOf('sail')).to.deep.equal({ first: 7, end: 25 });
    await page.locator('[data-bar=flag]').click();
    await page.getByLabel('Selection').getByRole('heading', { name: 'flag' }).waitFor();
  });
});

describe('an export while one walks on', () => {
  const app = useApp();

  it('goes on in every room and on the Shelf, is seen there, and lies in Deliver when it is done', async () => {
    const url = await projectWith(app, (d) => [card(d, 'flag', [200, 60, 40])], 'Walking on');
    const page = await openStage(app, url);
    await page.getByRole('link', { name: /Deliver/ }).click();
    await page.getByRole('radio', { name: /VP9, smaller/ }).click();
    await page.getByRole('button', { name: 'Export WebM' }).click();
    await page.getByRole('link', { name: /Cut/ }).click();
    await page.getByRole('status', { name: 'Export of Walking on' }).waitFor();
    await page.getByRole('link', { name: 'Shelf' }).click();
    await page.getByRole('status', { name: 'Export of Walking on' }).waitFor();
    await page.getByText('WebM is ready').waitFor();
    await page.getByRole('status', { name: 'Export of Walking on' }).waitFor({ state: 'detached' });
    await page.goto(url.replace(/stage$/, 'deliver'));
    await page.getByText('Walking on.webm').waitFor();
  });
});

describe('a design that is meant to be partly empty', () => {
  const app = useApp();

  it('sets the bare check aside, keeps that, and takes it up again', async () => {
    const url = await projectWith(app, (d) => [card(d, 'flag', [200, 60, 40])]);
    const page = await openStage(app, url);
    const check = page.getByTestId('bare-check');
    await check.getByRole('button', { name: 'Other cures' }).click();
    await page.getByRole('menuitem', { name: 'It is meant to be empty there' }).click();
    await page.getByText('Bare check set aside').waitFor();
    await page
      .getByTestId('saved')
      .filter({ hasText: /^Saved$/ })
      .waitFor();
    await page.reload();
    await page.getByText('Bare check set aside').click();
    await check.getByText(/Bare in \d+ frames/).waitFor();
  });

  it('an empty shot offers what there is, and it hangs there in one press', async () => {
    const page = await startWith(app, await floatWithTip());
    await page.getByRole('button', { name: 'Find subject' }).click();
    await covered(page);
    await liftOut(page);
    await goTo(page, 'Stage');
    await page.locator('[data-layer]').nth(1).waitFor();
    await page.getByRole('button', { name: 'New shot' }).click();
    const empty = page.getByRole('region', { name: 'Empty shot' });
    await empty.getByRole('button', { name: /background$/ }).click();
    await page.locator('[data-layer]').first().waitFor();
    await page.locator('[data-painted]').waitFor();
    const { shots } = await stored(page);
    expect(shots.map((shot) => shot.layers.length)).to.deep.equal([2, 1]);
    expect(shots[1]!.layers[0]!.source.kind).to.equal('background');
  });
});

describe('the timeline under a slow hand', () => {
  const app = useApp();
  const names = ['flag', 'sail', 'buoy'];
  const keyed = (): Promise<string> =>
    projectWith(app, (d) =>
      names.flatMap((name, k) => [
        card(d, name, [200, 60, 40], 2 + k, [-200 + 150 * k, 0]),
        addKey(d.shots[0]!.id, name, 'position', 0, [-200 + 150 * k, 0]),
        addKey(d.shots[0]!.id, name, 'position', 20 + k, [-200 + 150 * k, 90]),
      ]),
    );
  const chosenRows = (page: Page): Promise<string[]> =>
    page
      .locator('[data-layer].border-pine')
      .evaluateAll((rows) => rows.map((one) => (one as HTMLElement).dataset.layer!));

  it('Shift takes the rows in between, a press on one of several takes it alone, and Ctrl adds one', async () => {
    const page = await openStage(app, await keyed());
    await row(page, 'buoy').click();
    await row(page, 'flag').click({ modifiers: ['Shift'] });
    expect(await chosenRows(page)).to.have.members(names);
    await row(page, 'sail').click();
    expect(await chosenRows(page)).to.deep.equal(['sail']);
    await row(page, 'flag').click({ modifiers: ['Control'] });
    expect(await chosenRows(page)).to.have.members(['sail', 'flag']);
    const sail = (await row(page, 'sail').boundingBox())!;
    await walk(page, [sail.x + 60, sail.y + 12], [sail.x + 60, sail.y + 50], 12);
    expect(await chosenRows(page), 'a drag takes all along and leaves them chosen').to.have.members(['sail', 'flag']);
  });

  it('a frame drawn from below the rows takes keys of several layers, which get one easing; no text is marked', async () => {
    const page = await openStage(app, await keyed());
    await row(page, 'flag').click();
    await row(page, 'buoy').click({ modifiers: ['Shift'] });
    const grip = (await page.getByRole('separator', { name: 'Height of the timeline' }).boundingBox())!;
    await walk(page, [640, grip.y + 2], [640, grip.y - 118]);
    const rows = (await page.getByTestId('rows').boundingBox())!;
    await walk(page, [rows.x + rows.width - 40, rows.y + rows.height - 8], [rows.x + 40, rows.y + 4]);
    const all = page.locator('[data-key][aria-pressed=true]');
    await becomes(() => all.count(), 6);
    expect(await page.evaluate(() => getSelection()!.toString())).to.equal('');
    await page.getByLabel('Selection').getByText('6 keyframes').waitFor();
    await page.getByLabel('Easing').selectOption('bounce');
    const { shots } = await stored(page);
    const easings = shots[0]!.layers.flatMap((l) => ('keys' in l.position ? l.position.keys.map((k) => k.easing) : []));
    expect(easings).to.deep.equal(Array(6).fill('bounce'));
  });

  it('arrow keys take a focused key along, with Shift by ten, as one step of undo, and it keeps the focus', async () => {
    const page = await openStage(app, await keyed());
    await row(page, 'flag').click();
    await page.getByRole('button', { name: 'Position keyframe at frame 20' }).press('Enter');
    for (const key of ['ArrowRight', 'ArrowRight', 'Shift+ArrowRight', 'ArrowLeft']) await page.keyboard.press(key);
    const there = page.getByRole('button', { name: 'Position keyframe at frame 31' });
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label')?.endsWith('frame 31'));
    await page.keyboard.press('Control+z');
    await page.getByRole('button', { name: 'Position keyframe at frame 20' }).waitFor();
    await becomes(() => there.count(), 0);
  });

  it('time is zoomed at the pointer, goes along with a sideways wheel, and fits again', async () => {
    const page = await openStage(app, await keyed());
    await row(page, 'flag').click();
    const key = page.getByRole('button', { name: /Position keyframe at frame/ }).nth(1);
    const at = async (): Promise<number> => {
      const box = (await key.boundingBox())!;
      return box.x + box.width / 2;
    };
    const before = await at();
    await page.mouse.move(before, (await key.boundingBox())!.y + 8);
    await page.keyboard.down('Control');
    for (let k = 0; k < 8; k++) await page.mouse.wheel(0, -60);
    await page.keyboard.up('Control');
    const ruler = (await page.getByTestId('ruler').boundingBox())!;
    await page.getByRole('button', { name: 'Fit the whole shot', disabled: false }).waitFor();
    expect(await at(), 'what is under the pointer stays there').to.be.closeTo(before, 3);
    // Ten frames are further apart than before, so the same walk moves the key by fewer frames.
    const dragged = await at();
    const y = (await key.boundingBox())!.y + 8;
    await walk(page, [dragged, y], [dragged + 100, y]);
    const moved = Number(/\d+$/.exec((await key.getAttribute('aria-label'))!)![0]) - 20;
    const whole = (ruler.width - 24) / 59;
    expect(moved).to.be.within(1, Math.floor(100 / whole / 2));
    await page.mouse.wheel(4000, 0);
    await page.mouse.move(ruler.x + ruler.width - 15, ruler.y + 20);
    await page.mouse.down();
    await page.mouse.up();
    await becomes(() => page.getByRole('slider', { name: 'Playhead' }).getAttribute('aria-valuenow'), '59');
    await page.getByRole('button', { name: 'Fit the whole shot' }).click();
    expect(await at()).to.be.closeTo(before + moved * whole, 3);
  });

  it('several layers say where they differ, and get one opacity, blend mode, start and carrier in one step each', async () => {
    const url = await projectWith(app, (d) => [
      ...names.map((name, k) => card(d, name, [200, 60, 40], 2 + k, [-200 + 150 * k, 0])),
      setProperty(d.shots[0]!.id, 'sail', 'opacity', 0, 0.5),
    ]);
    const page = await openStage(app, url);
    await row(page, 'flag').click();
    await row(page, 'sail').click({ modifiers: ['Shift'] });
    await becomes(() => field(page, 'Opacity').getAttribute('placeholder'), 'mixed');
    await becomes(() => field(page, 'Opacity').inputValue(), '');
    await field(page, 'Opacity').focus();
    await field(page, 'Opacity').blur();
    await type(page, 'Opacity', 40);
    await page.getByLabel('Blend mode').selectOption('multiply');
    await unfold(page, 'Time');
    await type(page, 'Start', 0.5);
    await unfold(page, 'Ties');
    await page.getByLabel('Fastened to').selectOption({ label: 'buoy' });
    const of = async (): Promise<unknown[]> => {
      const { layers } = (await stored(page)).shots[0]!;
      return ['flag', 'sail'].map((name) => {
        const { opacity, blend, timing, fastened } = layers.find((layer) => layer.name === name)!;
        return [opacity, blend, timing.bar?.first ?? null, fastened?.to ?? null];
      });
    };
    const one = [{ value: 0.4 }, 'multiply', 15, 'buoy'];
    expect(await of()).to.deep.equal([one, one]);
    for (let k = 0; k < 4; k++) await page.keyboard.press('Control+z');
    const back = (opacity: number) => [{ value: opacity }, 'normal', null, null];
    expect(await of()).to.deep.equal([back(1), back(0.5)]);
  });

  it('the mark between two shots says what it is, and a press opens it to be changed', async () => {
    const page = await openStage(app, await keyed());
    await page.getByRole('button', { name: 'Duplicate shot' }).click();
    const mark = page.getByRole('button', { name: /^Transition after/ });
    await mark.click();
    await page.getByLabel('Into the next shot').selectOption({ label: 'crossfade' });
    await type(page, 'Duration', 0.5);
    await becomes(() => mark.textContent(), 'Crossfade 0.5 s');
  });

  it('choices are gone through by arrows from the one that Tab goes to; pressed by the pointer they leave arrows to the room', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'buoy', [200, 80, 40])]));
    const shown = page.getByRole('radiogroup').filter({ has: page.getByRole('radio', { name: 'Graph' }) });
    const chosen = (): Promise<string | null> => shown.getByRole('radio', { checked: true }).textContent();
    await shown.getByRole('radio', { name: 'Keys' }).focus();
    await page.keyboard.press('ArrowRight');
    await becomes(chosen, 'Bars');
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('ArrowLeft');
    await becomes(chosen, 'Graph');
    expect(
      await shown
        .getByRole('radio')
        .evaluateAll((all) => all.filter((one) => (one as HTMLElement).tabIndex === 0).length),
    ).to.equal(1);

    await page.locator('[data-layer=buoy]').click();
    await shown.getByRole('radio', { name: 'Bars' }).click();
    await becomes(chosen, 'Bars');
    const x = page.getByLabel('Selection').getByRole('textbox', { name: 'X', exact: true });
    const before = Number(await x.inputValue());
    await page.keyboard.press('ArrowRight');
    await becomes(async () => Number(await x.inputValue()), before + 1);
    expect(await chosen()).to.equal('Bars');
  });
});
