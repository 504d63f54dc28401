import { expect } from 'chai';
import sharp from 'sharp';
import { ellipse } from '../core/path/forms.ts';
import { addLayer } from '../core/edits/arrange-edits.ts';
import { setFraming } from '../core/edits/camera-edits.ts';
import { addKey, setLayer, setProperty } from '../core/edits/layer-edits.ts';
import { numbersOfPath } from '../core/document/points.ts';
import { restFraming } from '../core/document/shot.ts';
import { hangPicture } from '../core/edits/lift-edit.ts';
import { addPicture } from '../core/edits/project-edits.ts';
import { becomes, useApp } from './harness.ts';
import {
  card,
  field,
  goToFrame,
  isColour,
  onPage,
  openStage,
  projectWith,
  row,
  seen,
  type,
  unfold,
  pictureOf,
  storedPicture,
} from './stage-world.ts';

const red = [200, 40, 40] as const;
const green = [40, 160, 60] as const;
const blue = [40, 60, 190] as const;
const white = [240, 240, 240] as const;
const rgb = (c: readonly number[]): [number, number, number] => [c[0]!, c[1]!, c[2]!];

describe('the Stage in full', function () {
  this.timeout(180_000);
  const app = useApp();

  it('three planes, and a cloud let go between two of them on the rack', async () => {
    const url = await projectWith(app, (d) => [
      card(d, 'hill', rgb(blue), 6, [20, 10]),
      card(d, 'tree', rgb(green), 3, [0, 0]),
      card(d, 'railing', rgb(red), 2, [-20, -10]),
      card(d, 'cloud', rgb(white), 1, [10, 5]),
    ]);
    const page = await openStage(app, url);
    expect(isColour((await seen(page))(10, 5), white)).to.equal(true);
    const from = (await row(page, 'cloud').boundingBox())!;
    const behind = (await row(page, 'hill').boundingBox())!;
    const before = (await row(page, 'tree').boundingBox())!;
    await page.mouse.move(from.x + 80, from.y + 18);
    await page.mouse.down();
    await page.mouse.move(from.x + 80, (before.y + behind.y) / 2 + 18, { steps: 8 });
    await page.mouse.up();
    const at = await seen(page);
    expect(isColour(at(50, 36), green), 'the tree hides the cloud').to.equal(true);
    expect(isColour(at(66, 30), white), 'the cloud hides the hill').to.equal(true);
    // At rest everything stays where it was.
    await row(page, 'cloud').click();
    expect([await field(page, 'X').inputValue(), await field(page, 'Y').inputValue()]).to.deep.equal(['10', '5']);
  });

  it('feet stay on a fastened shadow while the near layer grows more than the far one', async () => {
    const url = await projectWith(app, (d) => [
      card(d, 'shadow', rgb(blue), 6, [0, 60]),
      card(d, 'figure', rgb(red), 2, [0, 0]),
      setFraming(d.shots[0]!.id, 'last', { ...restFraming, x: 40, y: 20, size: 0.6 }),
    ]);
    const page = await openStage(app, url);
    await row(page, 'shadow').click();
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Fastened to' }).selectOption({ label: 'figure' });
    await page.getByRole('switch', { name: 'Keeps touching it' }).click();
    await goToFrame(page, 59);
    const at = await seen(page);
    const [px] = await middleOf(at, red);
    const [sx] = await middleOf(at, blue);
    expect(Math.abs(px - sx)).to.be.below(4);
    const grown = (colour: readonly number[]): number => widthOf(at, colour);
    expect(grown(red)).to.be.greaterThan(grown(blue) * 1.2);
  });

  it('swings with wind-up and overshoot around a pivot outside it, for ever', async () => {
    const url = await projectWith(app, (d) => [card(d, 'seat', rgb(red), 3, [0, 90])]);
    const page = await openStage(app, url);
    await row(page, 'seat').click();
    const [px, py] = await onPage(page, 0, 90);
    const [tx, ty] = await onPage(page, 0, -150);
    await page.mouse.move(px, py);
    await page.mouse.down();
    await page.mouse.move(tx, ty, { steps: 6 });
    await page.mouse.up();
    expect(Number(await field(page, 'Y').inputValue())).to.be.closeTo(-150, 4);
    await type(page, 'Rotation', 30);
    await page.getByRole('button', { name: 'Rotation keyframe here' }).click();
    await goToFrame(page, 15);
    await type(page, 'Rotation', -30);
    const key = page.getByRole('button', { name: 'Rotation keyframe at frame 0' });
    await key.click();
    await page.getByRole('combobox', { name: 'Easing' }).selectOption('wind-up-overshoot');
    await unfold(page, 'Motion');
    await page.getByRole('combobox', { name: 'Without keyframes' }).selectOption('rotation');
    await page.getByRole('combobox', { name: 'Cycle' }).selectOption('swing');
    // The seat keeps its distance from the pivot, is at 30 degrees at every whole turn, and beyond it just after one.
    const angleAt = async (f: number): Promise<number> => {
      await goToFrame(page, f);
      const [x, y] = await middleOf(await seen(page), red);
      expect(Math.hypot(x, y + 150)).closeTo(240, 8);
      return (Math.atan2(-x, y + 150) * 180) / Math.PI;
    };
    expect(await angleAt(30)).closeTo(30, 2);
    expect(await angleAt(45)).closeTo(-30, 2);
    expect(await angleAt(33)).to.be.greaterThan(31.5);
  });

  it('a layer seen half inside and half outside a ring', async () => {
    const url = await projectWith(app, (d) => [
      card(d, 'lantern', rgb(red), 3, [0, 0]),
      addLayer(
        d.shots[0]!.id,
        { id: 'ring', name: 'ring', depth: 4, position: [0, 0] },
        {
          source: { kind: 'shape', made: null, closed: true, filled: true, gradient: null, stroke: null },
          colour: [...blue, 1],
          points: numbersOfPath(ellipse({ x: 0, y: 0, width: 80, height: 80 })),
          pivot: [40, 40],
        },
      ),
    ]);
    const page = await openStage(app, url);
    await row(page, 'lantern').click();
    await unfold(page, 'Ties');
    await page.getByRole('combobox', { name: 'Window' }).selectOption({ label: 'ring' });
    const inside = await seen(page);
    expect([isColour(inside(30, 10), red), isColour(inside(50, -30), red)]).to.deep.equal([true, false]);
    await page.getByRole('switch', { name: 'Partly breaks out' }).click();
    const half = await seen(page);
    expect(isColour(half(50, -30), red), 'out of the ring above').to.equal(true);
    expect(isColour(half(50, 30), red), 'inside it below').to.equal(false);
    expect(isColour(half(10, 25), red), 'seen in it').to.equal(true);
  });

  it('two opposite framings, near and far going opposite ways by one slider', async () => {
    const url = await projectWith(app, (d) => [
      card(d, 'far', rgb(blue), 9, [0, 120]),
      card(d, 'near', rgb(red), 2, [0, -120]),
      setFraming(d.shots[0]!.id, 'first', { ...restFraming, x: -60 }),
      setFraming(d.shots[0]!.id, 'last', { ...restFraming, x: 60 }),
    ]);
    const page = await openStage(app, url);
    const places = async (f: number): Promise<[number, number]> => {
      await goToFrame(page, f);
      const at = await seen(page);
      return [(await middleOf(at, red))[0], (await middleOf(at, blue))[0]];
    };
    const [first, last] = [await places(0), await places(59)];
    expect(Math.sign(last[0] - first[0])).to.equal(Math.sign(last[1] - first[1]));
    await page.getByRole('button', { name: /Lens/ }).click();
    await page.getByRole('slider', { name: 'How far near and far go opposite ways' }).fill('100');
    await page.keyboard.press('Escape');
    const [a, b] = [await places(0), await places(59)];
    expect(Math.sign(b[0] - a[0])).to.equal(-Math.sign(b[1] - a[1]));
    await page.getByRole('button', { name: /Lens/ }).click();
    await page.getByRole('button', { name: 'Swap first and last' }).click();
    await page.getByRole('button', { name: /Lens/ }).click();
    const swapped = await places(0);
    expect(swapped[0]).closeTo(b[0], 2);
  });

  it('a path drawn by hand while it plays is smoothed into a few keyframes', async () => {
    const url = await projectWith(app, (d) => [card(d, 'float', rgb(red), 3, [-300, 0])]);
    const page = await openStage(app, url);
    await row(page, 'float').click();
    await unfold(page, 'Motion');
    await type(page, 'Smoothing', 12);
    await page.getByRole('button', { name: 'Draw its path' }).click();
    const [sx, sy] = await onPage(page, -300, 0);
    await page.mouse.move(sx, sy);
    await page.mouse.down();
    for (let k = 1; k <= 36; k++) {
      const [x, y] = await onPage(page, -300 + k * 16, 120 * Math.sin((k / 36) * Math.PI) * -1 + (k % 2) * 5);
      await page.mouse.move(x, y);
      await page.evaluate(() => new Promise((done) => setTimeout(done, 25)));
    }
    await page.mouse.up();
    const keys = page.getByRole('button', { name: /^Position keyframe at frame/ });
    const count = await keys.count();
    expect(count).to.be.within(2, 9);
    await becomes(() => page.getByTestId('motion-path').count(), 1);
    await page.keyboard.press('Control+z');
    expect(await keys.count(), 'one undo step').to.equal(0);
  });

  it('A to B by poses, with one layer that only B has', async () => {
    const url = await projectWith(app, (d) => [
      card(d, 'boat', rgb(red), 3, [-200, 0]),
      card(d, 'buoy', rgb(green), 4, [0, 120]),
      card(d, 'moon', rgb(white), 5, [200, -150]),
    ]);
    const page = await openStage(app, url);
    await page.getByRole('button', { name: 'Hide moon' }).click();
    await unfold(page, 'Poses');
    await page.getByRole('button', { name: 'Store a pose here' }).click();
    await goToFrame(page, 40);
    await row(page, 'boat').click();
    await type(page, 'X', 180);
    await page.getByRole('button', { name: 'Show moon' }).click();
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Store a pose here' }).click();
    const list = await page.getByTestId('move-list').textContent();
    expect(list).to.match(/travels: boat/);
    expect(list).to.match(/appears: moon/);
    expect(list).to.match(/stays: buoy/);
    await goToFrame(page, 0);
    const first = await seen(page);
    expect([isColour(first(-200, 0), red), isColour(first(200, -150), white)]).to.deep.equal([true, false]);
    await goToFrame(page, 40);
    const last = await seen(page);
    expect([isColour(last(180, 0), red), isColour(last(200, -150), white)]).to.deep.equal([true, true]);
  });

  it('a flag sways from its pole, and ends a loop as it began', async () => {
    const flag = await sharp({ create: { width: 240, height: 120, channels: 3, background: { r: 200, g: 40, b: 40 } } })
      .png()
      .toBuffer();
    const file = await storedPicture(app, flag);
    const url = await projectWith(app, (d) => [
      addPicture({ ...pictureOf(file, 240, 120), id: 'flag', name: 'flag' }),
      hangPicture('flag', 'layer-flag'),
      setProperty(d.shots[0]!.id, 'layer-flag', 'scale', 0, 1.5),
    ]);
    const page = await openStage(app, url);
    await page.locator('[data-layer=layer-flag]').click();
    await unfold(page, 'Sway');
    await page.getByRole('button', { name: 'Let it sway' }).click();
    await type(page, 'Strength', 20);
    await type(page, 'Wave period', 1);
    const edge = (at: At, x: number): number => {
      for (let y = -160; y < 0; y++) if (isColour(at(x, y), red, 70)) return y;
      return 0;
    };
    const shown = async (f: number): Promise<At> => {
      await goToFrame(page, f);
      return seen(page);
    };
    const [first, half, whole] = [await shown(0), await shown(15), await shown(30)];
    expect(Math.abs(edge(first, -176) - edge(half, -176)), 'stays at its pole').to.be.at.most(2);
    const moved = [60, 100, 140, 170].map((x) => Math.abs(edge(first, x) - edge(half, x)));
    expect(Math.max(...moved)).to.be.greaterThan(8);
    for (const x of [60, 100, 140, 170]) expect(edge(whole, x)).to.equal(edge(first, x));
  });

  it('a bare edge is found, jumped to, and cured by the shortest move', async () => {
    const wall = await sharp({
      create: { width: 1200, height: 675, channels: 3, background: { r: 60, g: 90, b: 120 } },
    })
      .png()
      .toBuffer();
    const file = await storedPicture(app, wall);
    const url = await projectWith(app, (d) => [
      addPicture({ ...pictureOf(file, 1200, 675), id: 'wall', name: 'wall' }),
      hangPicture('wall', 'layer-wall'),
      setProperty(d.shots[0]!.id, 'layer-wall', 'scale', 0, 1),
      setFraming(d.shots[0]!.id, 'last', { ...restFraming, x: 300 }),
    ]);
    const page = await openStage(app, url);
    const check = page.getByTestId('bare-check');
    await check.getByRole('button', { name: /Bare in \d+ frames/ }).click();
    expect(Number(/frame (\d+)/.exec((await page.getByTestId('playhead').textContent())!)![1])).to.be.greaterThan(30);
    await page.getByLabel('Selection').getByRole('heading', { name: 'wall' }).waitFor();
    await check.getByRole('button', { name: 'Other cures' }).click();
    await page.getByRole('menuitem', { name: /Move it by/ }).click();
    await check.getByText('No bare frame').waitFor();
  });

  it('nine layers staggered by two frames', async () => {
    const names = Array.from({ length: 9 }, (_, k) => `float ${k + 1}`);
    const url = await projectWith(app, (d) => {
      const shot = d.shots[0]!.id;
      return names.flatMap((name, k) => {
        const id = name.replace(' ', '-');
        const x = -400 + k * 100;
        return [
          card(d, id, rgb(red), 3, [x, 0]),
          setLayer('Rename', shot, id, { name }),
          addKey(shot, id, 'position', 0, [x, 0]),
          addKey(shot, id, 'position', 20, [x, -120]),
        ];
      });
    });
    const page = await openStage(app, url);
    await row(page, names[0]!).click();
    for (const name of names.slice(1)) await row(page, name).click({ modifiers: ['Shift'] });
    await page.getByLabel('Selection').getByText('9 layers').waitFor();
    await type(page, 'Frames', 2);
    await page.getByRole('button', { name: 'Stagger' }).click();
    await page.getByRole('button', { name: 'float 9 Position keyframe at frame 36' }).waitFor();
    await goToFrame(page, 26);
    const at = await seen(page);
    const top = (x: number): number => {
      for (let y = -250; y < 200; y += 2) if (isColour(at(x, y), red)) return y;
      return 999;
    };
    const tops = names.map((_, k) => top(-400 + k * 100));
    for (let k = 1; k < 9; k++) expect(tops[k]!, tops.join()).to.be.at.least(tops[k - 1]! - 1);
    expect(tops[8]! - tops[0]!).to.be.greaterThan(40);
  });

  it('a played shot is kept and the same after a reload; words, shapes and a group are made on the spot', async () => {
    const url = await projectWith(app, (d) => [card(d, 'plain', rgb(blue), 5)]);
    const page = await openStage(app, url);
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Text' }).click();
    await page.getByRole('textbox', { name: 'Words', exact: true }).fill('Wendle Quay');
    await page.getByRole('combobox', { name: 'Font' }).focus();
    await page.getByRole('combobox', { name: 'Font' }).selectOption('slab');
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Ellipse' }).click();
    await row(page, 'Wendle Quay').click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+g');
    await row(page, 'Group').waitFor();
    await type(page, 'Opacity', 60);
    await type(page, 'Y', -60);
    const before = await seen(page);
    await page.reload();
    await page.locator('[data-painted]').waitFor();
    const after = await seen(page);
    for (let y = -200; y < 200; y += 7)
      for (let x = -300; x < 300; x += 7) expect(after(x, y)).to.deep.equal(before(x, y));
    expect(isColour(before(0, -60 - 70), [217, 154, 0], 120), 'the ellipse, over black at 60 %').to.equal(true);
  });
});

type At = (x: number, y: number) => number[];

/** Middle of everything of one colour, from the centre of the frame. */
async function middleOf(at: At, colour: readonly number[]): Promise<[number, number]> {
  let [n, sx, sy] = [0, 0, 0];
  for (let y = -266; y < 266; y += 2)
    for (let x = -476; x < 476; x += 2)
      if (isColour(at(x, y), colour)) {
        n++;
        sx += x;
        sy += y;
      }
  expect(n, 'the colour is seen').to.be.greaterThan(0);
  return [sx / n, sy / n];
}

function widthOf(at: At, colour: readonly number[]): number {
  let widest = 0;
  for (let y = -266; y < 266; y += 4) {
    let run = 0;
    for (let x = -476; x < 476; x += 2) {
      run = isColour(at(x, y), colour) ? run + 2 : 0;
      widest = Math.max(widest, run);
    }
  }
  return widest;
}
