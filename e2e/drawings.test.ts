import { readFile } from 'node:fs/promises';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { becomes, saved, useApp } from './harness.ts';
import { card, isColour, onPage, openStage, projectWith, row, seen, stored, type, unfold } from './stage-world.ts';

const svg = (body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100" width="400" height="200">${body}</svg>`;
const buoys = svg(
  '<g id="left"><rect x="10" y="20" width="70" height="60" fill="#c81e1e"/></g>' +
    '<g id="right"><circle cx="150" cy="50" r="35" fill="#1e64c8"/><rect x="140" y="40" width="20" height="20" fill="#f5f2eb"/></g>',
);

async function bring(page: Page, text: string, name: string): Promise<void> {
  await page.getByRole('button', { name: 'New layer' }).click();
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('menuitem', { name: 'Drawing (SVG)' }).click(),
  ]);
  await chooser.setFiles({ name, mimeType: 'image/svg+xml', buffer: Buffer.from(text) });
}

/** Pixels of an SVG file as a public renderer draws it on white. */
const rendered = (text: string): Promise<Buffer> =>
  sharp(Buffer.from(text)).flatten({ background: '#ffffff' }).resize(400, 200).raw().toBuffer();

describe('drawings on the Stage', () => {
  const app = useApp();
  const open = async (): Promise<Page> =>
    openStage(app, await projectWith(app, (d) => [card(d, 'board', [0, 0, 0], 9)]));

  it('an SVG comes in, is recoloured and taken apart, and goes out again as it is shown', async () => {
    const page = await open();
    await bring(page, buoys, 'buoys.svg');
    await row(page, 'buoys').waitFor();
    // As large as it goes in 0.6 of the frame: 576 wide, of 360 that are painted.
    const at = await seen(page);
    expect(isColour(at(-150, 0), [200, 30, 30])).to.equal(true);
    expect(isColour(at(110, 60), [30, 100, 200])).to.equal(true);
    const colour = page.getByLabel('#c81e1e', { exact: true });
    await colour.fill('#22aa55');
    await page.getByRole('button', { name: 'Reset #c81e1e' }).waitFor();
    expect(isColour((await seen(page))(-150, 0), [34, 170, 85])).to.equal(true);
    await unfold(page, 'Layer');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Export SVG' }).click(),
    ]);
    expect(download.suggestedFilename()).to.equal('buoys.svg');
    const out = await readFile(await download.path(), 'utf8');
    expect(await rendered(out)).to.deep.equal(await rendered(buoys.replace('#c81e1e', '#22aa55')));
    // Undone, it is as it came; done again, it stays.
    await page.keyboard.press('Control+z');
    expect(isColour((await seen(page))(-150, 0), [200, 30, 30])).to.equal(true);
    await page.keyboard.press('Control+Shift+z');
    const whole = await seen(page);
    await page.getByRole('button', { name: 'Take apart into 2 layers' }).click();
    await row(page, 'left').waitFor();
    await row(page, 'right').waitFor();
    const apart = await seen(page);
    for (const [x, y] of [
      [-150, 0],
      [110, 60],
      [150, 0],
      [0, 0],
    ] as const)
      expect(isColour(apart(x, y), whole(x, y), 6), `${x} ${y}`).to.equal(true);
    // Each is a layer: one moves, the other stays.
    await row(page, 'left').click();
    await type(page, 'Y', 180);
    const moved = await seen(page);
    expect(isColour(moved(-150, -60), [34, 170, 85])).to.equal(false);
    expect(isColour(moved(110, 60), [30, 100, 200])).to.equal(true);
  });

  it('a hostile file is refused or made harmless, in a sentence; what is not shown is said', async () => {
    const page = await open();
    await bring(page, `<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>${buoys}`, 'trap.svg');
    await page.getByText(/"trap\.svg": This SVG file defines entities/).waitFor();
    await bring(page, svg('<g>'.repeat(5000) + '</g>'.repeat(5000)), 'deep.svg');
    await page.getByText(/"deep\.svg": .*SVG file/).waitFor();
    await bring(page, 'not a drawing', 'note.svg');
    await page.getByText(/"note\.svg": /).waitFor();
    expect((await stored(page)).shots[0]!.layers).to.have.length(1);
    const asked: string[] = [];
    page.on('request', (request) => asked.push(request.url()));
    const live = buoys.replace(
      '</svg>',
      '<script>document.title = "run"</script><image href="http://127.0.0.1:9/x.png"/><text>Quay</text></svg>',
    );
    await bring(page, live.replace('<circle', '<circle onload="document.title = \'run\'"'), 'live.svg');
    await page.getByText(/live\.svg is here without its .*scripts/).waitFor();
    await row(page, 'live').waitFor();
    expect(isColour((await seen(page))(110, 60), [30, 100, 200])).to.equal(true);
    expect(await page.title()).to.not.contain('run');
    expect(asked.filter((url) => url.includes(':9/'))).to.deep.equal([]);
  });
});

describe('shapes, bubbles and repeats on the Stage', () => {
  const app = useApp();

  it('a star is chosen by its picture, and handles in the view lead its points and its depth, slowly, undone in one', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'board', [0, 0, 0], 9)]));
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Shape' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.locator('canvas[data-ready=true]').nth(12).waitFor();
    await sheet.getByRole('button', { name: 'Star', exact: true }).click();
    await row(page, 'Star').waitFor();
    const numbers = async (): Promise<Record<string, { value: number }>> => {
      const { source } = (await stored(page)).shots[0]!.layers.find((l) => l.name === 'Star')!;
      return (source.kind === 'shape' && source.made ? source.made.settings : {}) as Record<string, { value: number }>;
    };
    const depth = page.locator('[data-shape-number=depth]');
    const box = (await depth.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    const middle = await onPage(page, 0, 0);
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let k = 1; k <= 20; k++) {
      await page.mouse.move(x + ((middle[0] - x) * k) / 40, y + ((middle[1] - y) * k) / 40);
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
    }
    await page.mouse.up();
    // Half way to the middle: what was 0.42 from it is 0.21.
    expect((await numbers()).depth!.value).to.be.closeTo(0.79, 0.03);
    await page.keyboard.press('Control+z');
    expect((await numbers()).depth!.value).to.equal(0.58);
    await type(page, 'Points', 8);
    expect((await numbers()).points!.value).to.equal(8);
    await page.getByRole('button', { name: 'Points keyframe here' }).click();
    await page.getByRole('button', { name: 'Turn into points' }).click();
    await page.getByRole('button', { name: 'Move points' }).click();
    await becomes(() => page.locator('[data-point]').count(), 16);
  });

  it('a bubble springs from its tail, fits itself to its words, and points at a layer wherever that is dragged', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'claw', [200, 60, 20], 3, [200, 120])]));
    await page.getByRole('button', { name: 'New layer' }).click();
    await page.getByRole('menuitem', { name: 'Speech bubble' }).click();
    await row(page, 'Bubble').waitFor();
    await type(page, 'X', -180);
    await type(page, 'Y', -80);
    const paper = [245, 242, 235];
    const width = async (): Promise<number> => {
      const at = await seen(page);
      let count = 0;
      for (let x = -470; x < 470; x += 2) if (isColour(at(x, -96), paper, 12)) count += 2;
      return count;
    };
    const before = await width();
    const words = page.getByRole('textbox', { name: 'Words', exact: true });
    await words.fill('High tide at nine');
    await words.press('Control+Enter');
    expect(await width()).to.be.greaterThan(before * 1.4);
    await page.getByRole('combobox', { name: 'Tail', exact: true }).selectOption({ label: 'at claw' });
    const tail = page.locator('[data-tail]');
    const middleOf = async (): Promise<[number, number]> => {
      const box = (await tail.boundingBox())!;
      return [box.x + box.width / 2, box.y + box.height / 2];
    };
    const near = async (x: number, y: number): Promise<void> => {
      const [wanted, got] = [await onPage(page, x, y), await middleOf()];
      expect(Math.hypot(wanted[0] - got[0], wanted[1] - got[1]), `${x} ${y}`).to.be.below(3);
    };
    await near(200, 120);
    // The claw is dragged by hand; the tail goes along.
    await row(page, 'claw').click();
    // Beside its pivot, which would be moved alone.
    const from = await onPage(page, 160, 100);
    await page.mouse.move(...from);
    await page.mouse.down();
    for (let k = 1; k <= 30; k++) await page.mouse.move(from[0] - 2 * k, from[1] + k);
    await page.mouse.up();
    await row(page, 'Bubble').click();
    const claw = (await stored(page)).shots[0]!.layers.find((l) => l.name === 'claw')!;
    const [cx, cy] = (claw.position as { value: [number, number] }).value;
    expect(cx).to.be.below(170);
    await near(cx, cy);
    await page.getByRole('button', { name: 'Choose how it arrives' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Spring/ })
      .click();
    await saved(page);
    await page.getByRole('slider', { name: 'Playhead' }).focus();
    await page.keyboard.press('Home');
    await page.keyboard.press('ArrowRight');
    await page.locator('[data-painted="1"]').waitFor();
    expect(await width()).to.be.below(before);
    await page.getByRole('slider', { name: 'Playhead' }).focus();
    await page.keyboard.press('End');
    expect(await width()).to.be.greaterThan(before * 1.4);
  });

  it('a ring of twelve is a ring of twelve, in hues that go round', async () => {
    const page = await openStage(app, await projectWith(app, (d) => [card(d, 'flag', [220, 30, 30])]));
    await row(page, 'flag').click();
    await type(page, 'Scale', 40);
    await unfold(page, 'Repeat');
    await page.getByRole('button', { name: 'Repeat this layer' }).click();
    await page.getByRole('combobox', { name: 'Form' }).selectOption('ring');
    await type(page, 'Copies', 12);
    await type(page, 'Ring radius', 200);
    await type(page, 'Hue each', 30);
    const at = await seen(page);
    const colours = Array.from({ length: 12 }, (_, k) => {
      const angle = (2 * Math.PI * k) / 12;
      return at(200 * Math.sin(angle), -200 * Math.cos(angle));
    });
    // Red above, green a third round, blue two thirds, each with the same strength.
    for (const [k, channel] of [
      [0, 0],
      [4, 1],
      [8, 2],
    ] as const) {
      expect(colours[k]![channel], `${k}`).to.be.closeTo(220, 12);
      expect(Math.max(...colours[k]!.filter((_, n) => n !== channel))).to.be.below(60);
    }
    expect(new Set(colours.map(String)).size).to.equal(12);
    await page.getByRole('button', { name: 'Take apart' }).click();
    await row(page, 'flag 2').waitFor();
    expect((await stored(page)).shots[0]!.layers).to.have.length(12);
  });
});
