import type { Browser } from 'playwright-core';
import { covered, dropFiles, goTo, liftOut } from '../../e2e/harness.ts';
import type { Rgba } from '../../core/pixels/raster.ts';
import { recordClip } from '../../scripts/record-clip.ts';
import { screenKinds, screenShot } from '../truth/screens.ts';
import { timedPage } from './rooms-page.ts';

const [width, height, rate, frames] = [1920, 1080, 30, 75];
/** Seconds that are counted: not all of the clip, so that nothing is shown a second time. */
const counted = 2;

/** A shot before a screen that rises by a pixel in each frame. */
async function clipBeforeScreen(browser: Browser): Promise<Buffer> {
  const { picture } = await screenShot(screenKinds[1]!, width);
  const frame = (k: number): Rgba => {
    const from = Math.min(k, picture.height - height) * width * 4;
    return { width, height, data: picture.data.slice(from, from + width * height * 4) };
  };
  return recordClip(browser, { width, height, rate, frames, format: 'mp4', bitrate: 12e6, frame });
}

/** Frames of a keyed clip that the Stage paints in a second while it is played for the first time, of 30 that it has. */
export async function keyedClipPlayed(browser: Browser, url: string): Promise<number> {
  const bytes = await clipBeforeScreen(browser);
  const { page, close } = await timedPage(browser);
  await page.goto(url);
  await dropFiles(page, 'header', [{ name: 'before_green.mp4', type: 'video/mp4', bytes }]);
  await page.getByTestId('cut-view').waitFor();
  await page.getByRole('button', { name: /^Colour/ }).click();
  await page.getByRole('button', { name: 'Remove screen' }).click();
  await covered(page);
  await liftOut(page);
  await goTo(page, 'Stage');
  await page.locator('[data-painted="0"]').waitFor();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const painted = await page.evaluate(async (seconds) => {
    const seen = new Set<string>();
    const view = document.querySelector('[data-painted]')!;
    const watch = new MutationObserver(() => seen.add(view.getAttribute('data-painted')!));
    watch.observe(view, { attributes: true, attributeFilter: ['data-painted'] });
    await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
    watch.disconnect();
    return seen.size;
  }, counted);
  await close();
  return painted / counted;
}
