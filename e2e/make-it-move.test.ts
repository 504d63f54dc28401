import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { buoyPhoto, dropFiles, goTo, saved, useApp } from './harness.ts';
import { goToFrame } from './stage-world.ts';

describe('from a photo to a moving clip', () => {
  const app = useApp();
  const shelf = async (): Promise<Page> => {
    const page = await app.visit();
    await page.getByText('Drop a picture anywhere here').waitFor();
    return page;
  };
  const choose = async (page: Page): Promise<void> =>
    page
      .getByLabel('Photo to make move')
      .setInputFiles({ name: 'marker_buoy.jpg', mimeType: 'image/jpeg', buffer: await buoyPhoto(600, 400) });
  const framing = (page: Page, which: string, field: string) =>
    page.locator('section', { hasText: which }).getByLabel(field).first().inputValue();

  it('one press on the Shelf ends on the Stage, playing, with layers that can be opened; cancelled it leaves nothing', async () => {
    const page = await shelf();
    // Within the page: on a busy machine each step is said for too short a time to be seen from outside.
    const cancelled = page.evaluate(
      (inTheMiddle) =>
        new Promise<string[]>((resolve) => {
          const said = new Set<string>();
          const watch = new MutationObserver(() => {
            const status = document.querySelector<HTMLElement>('[role=status]');
            if (!status) return;
            said.add(status.innerText);
            if (!new RegExp(inTheMiddle).test(status.innerText)) return;
            watch.disconnect();
            [...status.querySelectorAll('button')].find((button) => button.textContent === 'Cancel')!.click();
            resolve([...said]);
          });
          watch.observe(document, { subtree: true, childList: true, characterData: true });
        }),
      'Continuing the surroundings|Looking for structure|Cutting',
    );
    await choose(page);
    expect((await cancelled).join()).to.contain('Finding the subject');
    await page.getByText('Making it move was cancelled; nothing changed.').waitFor();
    await page.getByText('No projects yet.').waitFor();
    expect((await (await page.request.get(`${app.server.url}/api/projects`)).json()) as unknown[]).to.deep.equal([]);

    await choose(page);
    await page.waitForURL(/\/stage$/);
    await page.getByRole('button', { name: 'Stop', exact: true }).waitFor();
    const rack = page.getByRole('complementary', { name: 'Depth rack' });
    for (const name of ['marker buoy slice 1', 'marker buoy behind'])
      await rack.getByText(name, { exact: true }).waitFor();
    // Space stops it; the clip moves, and no frame is bare.
    await page.keyboard.press('Space');
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor();
    await page.getByText('No bare frame').waitFor();
    await goTo(page, 'Cut');
    await page.getByText(/The piece covers/).waitFor();
    await goTo(page, 'Pictures');
    await page.getByText(/marker buoy, .*its background is rebuilt/).waitFor();
  });

  it('in Pictures one undo takes all of it back; a move from the sheet replaces the Framings as one step', async () => {
    const page = await shelf();
    await dropFiles(page, 'header', [
      { name: 'marker_buoy.jpg', type: 'image/jpeg', bytes: await buoyPhoto(600, 400) },
    ]);
    await page.getByTestId('cut-view').waitFor();
    await goTo(page, 'Pictures');
    await page.getByRole('button', { name: 'Make it move' }).click();
    await page.getByText('Finding the subject').waitFor();
    // Walking on does not stop it; what comes of it goes to its project and says so.
    await goTo(page, 'Deliver');
    await page.getByText('marker buoy moves now, on the Stage.').waitFor();
    await goTo(page, 'Stage');
    await goToFrame(page, 0);
    await page.getByRole('button', { name: /^Lens/ }).first().click();
    const before = await framing(page, 'Last frame', 'Size');
    await page.getByRole('button', { name: 'Moves to start from' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /Pull out/ })
      .click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    expect(Number(await framing(page, 'Last frame', 'Size'))).to.be.above(Number(before) + 5);
    await page.getByRole('button', { name: 'Undo: Change move' }).click();
    expect(await framing(page, 'Last frame', 'Size')).to.equal(before);
    await page.getByRole('button', { name: 'Undo: Make it move' }).click();
    await page
      .getByText(/Nothing hangs|empty/i)
      .first()
      .waitFor();
    await saved(page);
  });
});
