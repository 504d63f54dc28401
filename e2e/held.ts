import type { Page } from 'playwright-core';
import { goTo } from './harness.ts';

/** What a page says of itself, as seen from outside: by the protocol for its developers. */
export interface Held {
  /** Bytes of JavaScript that are still reached. */
  heap: number;
  nodes: number;
  listeners: number;
  workers: number;
}

/** What the page holds after its project was left, and everything that can go has gone. It is then in the project again. */
export async function heldBy(page: Page): Promise<Held> {
  await page.getByRole('link', { name: 'Shelf' }).click();
  await page.getByText('Drop a picture anywhere here').waitFor();
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  await session.send('HeapProfiler.collectGarbage');
  const { metrics } = await session.send('Performance.getMetrics');
  const of = (name: string): number => metrics.find((m) => m.name === name)!.value;
  const held = {
    heap: of('JSHeapUsedSize'),
    nodes: of('Nodes'),
    listeners: of('JSEventListeners'),
    workers: page.workers().length,
  };
  await session.detach();
  await page.goBack();
  return held;
}

/** Goes through all rooms and waits in each until it shows what it is for. */
export async function walkRooms(page: Page): Promise<void> {
  await goTo(page, 'Cut');
  await page.getByTestId('cut-view').waitFor();
  await goTo(page, 'Stage');
  await page.getByLabel('Depth rack').waitFor();
  await goTo(page, 'Deliver');
  await page.getByRole('radio', { name: /H.264/ }).waitFor();
  await goTo(page, 'Pictures');
  await page.getByRole('heading', { name: /Pictures/ }).waitFor();
}
