import type { Browser, Page } from 'playwright-core';
import { launch } from '../../e2e/browser.ts';
import { RunningServer } from '../../e2e/harness.ts';
import { heldBy, walkRooms, type Held } from '../../e2e/held.ts';
import { median } from '../measures.ts';
import type { Bar, Section } from '../report.ts';
import { keyedClipPlayed } from './rooms-clip.ts';
import { nudges, openedAfter, timedPage, workOfMainThread, type Work } from './rooms-page.ts';
import { signalsProject, strokedProject } from './rooms-world.ts';

const visits = 30;
/** Visits after which everything that is kept on purpose, compiled code above all, is there. */
const warm = 10;

/** How soon the rooms answer, measured in a browser on the built application. */
export async function roomsSection(say: (line: string) => void): Promise<Section> {
  const [server, browser] = [await RunningServer.start(), await launch()];
  try {
    const { url } = server;
    const few = await nudging(browser, await signalsProject(url, { layers: 10, keys: 2 }));
    say(`10 layers: ${few.nudge.toFixed(0)} ms a nudge, opened after ${few.opened.toFixed(0)} ms`);
    const many = await nudging(browser, await signalsProject(url, { layers: 200, keys: 30 }));
    say(`200 layers: ${many.nudge.toFixed(0)} ms a nudge, opened after ${many.opened.toFixed(0)} ms`);
    const stroked = await nudging(browser, await strokedProject(url, { layers: 10, keys: 2 }, 22_000));
    say(`22 000 stroke points: ${stroked.nudge.toFixed(0)} ms a nudge`);
    const playing = await played(browser, await signalsProject(url, { layers: 19, keys: 12, words: true }));
    say(`playing: ${playing.own.toFixed(0)} ms of each second, ${playing.all.toFixed(0)} ms with drawing`);
    const keyed = await keyedClipPlayed(browser, url);
    say(`a keyed clip: ${keyed.toFixed(1)} frames a second`);
    const [early, late] = await visited(browser, await strokedProject(url, { layers: 10, keys: 2 }, 200));
    say(`visits: ${(early.heap / 1e6).toFixed(1)} MB, then ${(late.heap / 1e6).toFixed(1)} MB`);
    return section({ few, many, stroked, playing, keyed, early, late });
  } finally {
    await browser.close();
    await server.stop();
  }
}

interface Nudged {
  opened: number;
  nudge: number;
}

/** Opens the Stage of a project three times, chooses a layer and moves it by arrow keys. */
async function nudging(browser: Browser, url: string): Promise<Nudged> {
  const { page, close } = await timedPage(browser);
  const openings: number[] = [];
  for (let k = 0; k < 3; k++) openings.push(await openedAfter(page, url));
  await choose(page);
  await nudges(page, 4);
  const nudge = median(await nudges(page, 15));
  await close();
  return { opened: median(openings), nudge };
}

async function choose(page: Page): Promise<void> {
  await page.locator('[data-layer]').first().click();
  await page.getByTestId('stage-view').locator('svg').first().waitFor();
  await page.locator('[data-busy=false]').waitFor();
  await page.getByTestId('stage-view').focus();
}

async function played(browser: Browser, url: string): Promise<Work> {
  const { page, close } = await timedPage(browser);
  await openedAfter(page, url);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  // The first round paints and keeps what the next ones show.
  await workOfMainThread(page, 3);
  const busy = await workOfMainThread(page, 4);
  await close();
  return busy;
}

async function visited(browser: Browser, url: string): Promise<[Held, Held]> {
  const { page, close } = await timedPage(browser);
  await openedAfter(page, url);
  for (let k = 0; k < warm; k++) await walkRooms(page);
  const early = await heldBy(page);
  for (let k = warm; k < visits; k++) await walkRooms(page);
  const late = await heldBy(page);
  await close();
  return [early, late];
}

interface Measured {
  few: Nudged;
  many: Nudged;
  stroked: Nudged;
  playing: Work;
  keyed: number;
  early: Held;
  late: Held;
}

function section({ few, many, stroked, playing, keyed, early, late }: Measured): Section {
  const bar = (what: string, measured: number, most: number, unit: string): Bar => ({
    what,
    wanted: `at most ${most} ${unit}`,
    measured: `${measured.toFixed(0)} ${unit}`,
    reached: measured <= most,
  });
  const grown = late.heap / early.heap;
  return {
    title: 'Rooms',
    bars: [
      bar('from a nudge to the picture, 10 layers', few.nudge, 60, 'ms'),
      bar('from a nudge to the picture, 200 layers of 30 keys', many.nudge, 100, 'ms'),
      bar('opening that project on the Stage', many.opened, 1500, 'ms'),
      bar('what 22 000 stroke points add to a nudge', Math.max(0, stroked.nudge - few.nudge), 20, 'ms'),
      bar('scripts, styles and layout in a second of playing 19 layers', playing.own, 80, 'ms'),
      {
        what: 'frames a second of a keyed clip of 1920 x 1080 at 30 a second, played for the first time',
        wanted: 'at least 25',
        measured: keyed.toFixed(1),
        reached: keyed >= 25,
      },
      {
        what: `memory after ${visits} visits of each room, of that after ${warm}`,
        wanted: 'at most 1.1 x',
        measured: `${grown.toFixed(2)} x`,
        reached: grown <= 1.1 && late.workers <= early.workers,
      },
    ],
    table: {
      head: ['held by the page', `after ${warm} visits`, `after ${visits}`],
      rows: [
        ['JavaScript', `${(early.heap / 1e6).toFixed(1)} MB`, `${(late.heap / 1e6).toFixed(1)} MB`],
        ['nodes', String(early.nodes), String(late.nodes)],
        ['listeners', String(early.listeners), String(late.listeners)],
        ['workers', String(early.workers), String(late.workers)],
      ],
    },
    notes: [
      'Medians: of 15 nudges after 4, of 3 openings; playing is measured over 4 s after 3 s.',
      `While playing the main thread works ${playing.all.toFixed(0)} ms of each second with what the browser does to draw the page without a GPU.`,
    ],
  };
}
