import { join } from 'node:path';
import type { Page } from 'playwright-core';

/* What the scenes export, kept to be looked at when EXPORTS names a folder: bash scripts/test.sh scenes then fills it. */

/** Keeps what a page downloads. @returns waits until all of it is there */
export function keepExports(page: Page, folder: string, test: string): () => Promise<void> {
  const name = test.replace(/[^\w]+/g, '-').slice(0, 48);
  const kept: Promise<void>[] = [];
  page.on('download', (download) => {
    kept.push(download.saveAs(join(folder, `${name}-${kept.length + 1}-${download.suggestedFilename()}`)));
  });
  return async () => void (await Promise.all(kept));
}
