import type { Page } from 'playwright-core';

/** What a page says of itself, as seen from outside: by the protocol for its developers. */
export interface Held {
  /** Bytes of JavaScript that are still reached. */
  heap: number;
  nodes: number;
  listeners: number;
  workers: number;
}

/** What the page holds after everything that can go has gone. */
export async function heldBy(page: Page): Promise<Held> {
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
  return held;
}
