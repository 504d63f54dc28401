import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { useApp } from './harness.ts';

describe('the page each test begins with', () => {
  const app = useApp();
  const key = 'left by a test';

  /** What is stored where the application is, in all the ways it stores something. */
  const stored = (page: Page): Promise<unknown[]> =>
    page.evaluate(async () => [{ ...localStorage }, await caches.keys(), await indexedDB.databases()]);

  async function atHome(): Promise<Page> {
    const page = await app.open();
    await page.goto(app.server.url);
    await page.getByText('Drop a picture anywhere here').waitFor();
    return page;
  }

  // The second finds what the first left, if anything can.
  for (const turn of ['first', 'second'])
    it(`finds nothing stored by another, the ${turn} time, and a second page nothing of the first`, async () => {
      const page = await atHome();
      const before = await stored(page);
      expect(JSON.stringify(before)).to.not.contain(key);
      await page.evaluate(async (name) => {
        localStorage.setItem(name, name);
        await (await caches.open(name)).put('/left', new Response(name));
        await new Promise((resolve) => (indexedDB.open(name).onsuccess = resolve));
      }, key);
      expect(JSON.stringify(await stored(page)).split(key)).to.have.length(5);
      expect(JSON.stringify(await stored(await atHome()))).to.not.contain(key);
    });
});

describe('the page that goes on from test to test', () => {
  const app = useApp();
  const isMarked = (page: Page): Promise<boolean> => page.evaluate(() => 'marked' in window);

  it('is left with something open over it', async () => {
    const page = await app.visit();
    await page.evaluate(() => Object.assign(window, { marked: true }));
    await page.keyboard.press('?');
    await page.getByRole('dialog').waitFor({ state: 'attached' });
  });

  it('is the same one, back on the Shelf with nothing open, and beside it a visitor of its own', async () => {
    const page = await app.visit();
    expect(await isMarked(page)).to.equal(true);
    expect(await page.getByRole('dialog').count()).to.equal(0);
    expect(await isMarked(await app.visit())).to.equal(false);
  });
});
