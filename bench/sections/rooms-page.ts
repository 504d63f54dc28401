import type { Browser, Page } from 'playwright-core';
import { openPage } from '../../e2e/browser.ts';

/** A page that notes when it asked for and got its pictures; `close` fails on anything it complained of. */
export async function timedPage(browser: Browser): Promise<{ page: Page; close: () => Promise<void> }> {
  const { page, context, problems } = await openPage(browser);
  await page.addInitScript({ content: 'globalThis.__name ??= (named) => named;' });
  await page.addInitScript(noteTimes);
  const close = async (): Promise<void> => {
    await context.close();
    if (problems.length > 0) throw new Error(problems.join('\n'));
  };
  return { page, close };
}

interface Noted {
  pressed: number;
  shown: number[];
  firstPainted: number;
}

/** Runs in the page: from a key press to the answer that nothing further is to be painted, and when it was first painted. */
function noteTimes(): void {
  const noted: Noted = { pressed: 0, shown: [], firstPainted: 0 };
  Object.assign(globalThis, { noted });
  addEventListener('keydown', () => (noted.pressed = performance.now()), true);
  new MutationObserver((changes) => {
    for (const { target, attributeName } of changes) {
      const view = target as HTMLElement;
      if (attributeName === 'data-painted' && noted.firstPainted === 0) noted.firstPainted = performance.now();
      if (attributeName !== 'data-busy' || view.dataset.busy !== 'false' || noted.pressed === 0) continue;
      noted.shown.push(performance.now() - noted.pressed);
      noted.pressed = 0;
    }
  }).observe(document, { subtree: true, attributes: true, attributeFilter: ['data-busy', 'data-painted'] });
}

const noted = (page: Page): Promise<Noted> => page.evaluate(() => (globalThis as unknown as { noted: Noted }).noted);

/** Milliseconds from each of some presses of an arrow key to the picture. */
export async function nudges(page: Page, count: number): Promise<number[]> {
  const before = (await noted(page)).shown.length;
  for (let k = 0; k < count; k++) {
    await page.keyboard.press(k % 2 ? 'ArrowLeft' : 'ArrowRight');
    await page.waitForFunction(
      (wanted) => (globalThis as unknown as { noted: Noted }).noted.shown.length >= wanted,
      before + k + 1,
    );
  }
  return (await noted(page)).shown.slice(before);
}

/** Milliseconds from the start of the navigation to the first painted frame. */
export async function openedAfter(page: Page, url: string): Promise<number> {
  await page.goto(url);
  await page.locator('[data-painted]').waitFor();
  return (await noted(page)).firstPainted;
}

/** What the page's own thread works in each second of a span of time, milliseconds. */
export interface Work {
  /** In scripts, styles and layout. */
  own: number;
  /** With what the browser does to bring it on the screen, here without a GPU. */
  all: number;
}

export async function workOfMainThread(page: Page, seconds: number): Promise<Work> {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable', { timeDomain: 'timeTicks' });
  const read = async (): Promise<{ at: number } & Work> => {
    const { metrics } = await session.send('Performance.getMetrics');
    const of = (name: string): number => metrics.find((m) => m.name === name)!.value;
    const own = of('ScriptDuration') + of('LayoutDuration') + of('RecalcStyleDuration');
    return { at: of('Timestamp'), own, all: of('TaskDuration') };
  };
  const first = await read();
  await page.waitForTimeout(seconds * 1000);
  const last = await read();
  await session.detach();
  const each = 1000 / (last.at - first.at);
  return { own: (last.own - first.own) * each, all: (last.all - first.all) * each };
}
