import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { buoyPhoto, goTo, liftOut, startWithPhoto, useApp } from './harness.ts';
import { row } from './stage-world.ts';

const axe = await readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  impact: string;
  nodes: { html: string; failureSummary: string }[];
}

/** What a checker of WCAG 2.2 finds on a page, in lines. */
async function faultsOn(page: Page): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe);
  const violations = await page.evaluate(async () => {
    const { axe } = window as unknown as { axe: { run(options: object): Promise<{ violations: Violation[] }> } };
    const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
    // Where what is right lies is not asked for: to say it takes half of the time.
    const asked = { resultTypes: ['violations'], selectors: false };
    return (await axe.run({ runOnly: { type: 'tag', values: tags }, ...asked })).violations;
  });
  return violations.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`));
}

describe('what a checker of accessibility finds', () => {
  const app = useApp();
  it('is nothing, in no room, with things selected and sheets open', async () => {
    const page = await startWithPhoto(app, await buoyPhoto(640, 360));
    await liftOut(page);
    const found: Record<string, string[]> = { cut: await faultsOn(page) };
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: '9:16' }).waitFor();
    found.pictures = await faultsOn(page);
    await goTo(page, 'Stage');
    await page.locator('[data-painted]').waitFor();
    found.stage = await faultsOn(page);
    await row(page, 'Piece 1').click();
    found['a layer'] = await faultsOn(page);
    await page.keyboard.press('?');
    await page.getByRole('heading', { name: 'Place layers in depth' }).waitFor();
    found.guide = await faultsOn(page);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'New shot', exact: true }).click();
    await page.getByText('Nothing hangs in this shot yet').waitFor();
    found['an empty shot'] = await faultsOn(page);
    await goTo(page, 'Deliver');
    await page.getByText(/^About/).waitFor();
    found.deliver = await faultsOn(page);
    await page.goto(app.server.url);
    await page.getByRole('button', { name: /^Open marker/ }).waitFor();
    found.shelf = await faultsOn(page);
    expect(found).to.deep.equal(Object.fromEntries(Object.keys(found).map((room) => [room, []])));
  });
});
