import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import type { Browser, Locator, Page } from 'playwright-core';
import { expect } from 'chai';
import sharp from 'sharp';
import { pino } from 'pino';
import { start } from '../server/start.ts';
import { anotherSharedBrowser, openPage, openSharedPage, patience, sharedBrowser, type OpenPage } from './browser.ts';
import { keepExports } from './kept-exports.ts';
import { notePresses } from './presses.ts';

const root = join(import.meta.dirname, '..');

declare global {
  interface Uint8ArrayConstructor {
    /** In pages, where it takes a hundredth of the time of going from letter to letter (ECMAScript 2026). */
    fromBase64(text: string): Uint8Array<ArrayBuffer>;
  }
}

/** A server on a data folder of its own, which is gone when it has stopped. */
export interface TestedServer {
  readonly url: string;
  readonly data: string;
  stop(): Promise<void>;
}

/** Where the server of the suite before answered: at one address the browser keeps what it compiled of the application. */
let portBefore = '0';

/** The server within the process of the tests: it is there at once. */
async function serverHere(): Promise<TestedServer> {
  const data = await mkdtemp(join(tmpdir(), 'clyvo-e2e-'));
  const startOn = (port: string) =>
    start({
      dataFolder: data,
      port,
      webFolder: join(root, 'dist/web'),
      version: '0.0.0',
      log: pino({ level: 'warn' }),
    });
  // Another program may have taken the port meanwhile.
  const clyvo = await startOn(portBefore).catch(() => startOn('0'));
  portBefore = String(clyvo.port);
  const stop = async (): Promise<void> => {
    await clyvo.stop();
    await rm(data, { recursive: true, force: true });
  };
  return { url: `http://127.0.0.1:${clyvo.port}`, data, stop };
}

/** The real server as a process of its own, which can be killed. */
export class RunningServer implements TestedServer {
  private constructor(
    private child: ChildProcess,
    readonly port: number,
    readonly data: string,
  ) {}

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  static async start(data?: string, wantedPort?: number): Promise<RunningServer> {
    const folder = data ?? (await mkdtemp(join(tmpdir(), 'clyvo-e2e-')));
    const port = wantedPort ?? (await freePort());
    const server = new RunningServer(spawnServer(folder, port), port, folder);
    await server.ready();
    return server;
  }

  /** Ends the process at once, as a power cut would, and starts it again on the same data. */
  async killAndRestart(): Promise<void> {
    await this.kill();
    await this.restart();
  }

  kill(): Promise<void> {
    return this.end('SIGKILL');
  }

  async restart(): Promise<void> {
    this.child = spawnServer(this.data, this.port);
    await this.ready();
  }

  async stop(): Promise<void> {
    await this.end('SIGTERM');
    await rm(this.data, { recursive: true, force: true });
  }

  private async end(signal: 'SIGKILL' | 'SIGTERM'): Promise<void> {
    const gone = new Promise((resolve) => this.child.once('exit', resolve));
    this.child.kill(signal);
    await gone;
  }

  private async ready(): Promise<void> {
    for (let attempt = 0; attempt < 200; attempt++) {
      const answer = await fetch(`${this.url}/api/health`).catch(() => null);
      if (answer?.ok) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the server did not start');
  }
}

/** Node itself runs the server, without a wrapper in between, so that a signal reaches the server and nothing else. */
function spawnServer(data: string, port: number): ChildProcess {
  return spawn(process.execPath, ['dist/server.js'], {
    cwd: root,
    env: { ...process.env, CLYVO_DATA: data, PORT: String(port) },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });
}

export const subjectColour = { r: 200, g: 74, b: 38 };

/**
 * A photo nobody prepared for: a tin marker buoy over rippled water, drawn with noise. Its subject is round, at
 * (cx, cy) with radius r as shares of the picture.
 */
export async function buoyPhoto(width: number, height: number, format: 'jpeg' | 'png' = 'jpeg'): Promise<Buffer> {
  const pixels = Buffer.alloc(width * height * 3);
  let state = 12345;
  const random = (): number => (state = (state * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff;
  const [cx, cy, r] = [0.5 * width, 0.5 * height, 0.16 * width];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const inside = Math.hypot(x - cx, y - cy) < r;
      const ripple = 18 * Math.sin(y * 0.16 + 2.2 * Math.sin(x * 0.021)) + 10 * Math.sin(y * 0.41 + x * 0.05);
      const light = 1 - 0.25 * ((y - cy) / r);
      const grain = 10 * (random() + random() - 1);
      const color = inside
        ? [subjectColour.r * light, subjectColour.g * light, subjectColour.b * light]
        : [66 + ripple * 0.7, 104 + ripple, 122 + ripple];
      for (let c = 0; c < 3; c++) pixels[(y * width + x) * 3 + c] = Math.max(0, Math.min(255, color[c]! + grain));
    }
  }
  return sharp(pixels, { raw: { width, height, channels: 3 } })
    .toFormat(format, { quality: 92 })
    .toBuffer();
}

/** Drops files on an element as a drag from the desktop does. */
export async function dropFiles(
  page: Page,
  selector: string,
  files: { name: string; type: string; bytes: Buffer }[],
): Promise<void> {
  const carried = files.map((f) => ({ name: f.name, type: f.type, data: f.bytes.toString('base64') }));
  const transfer = await page.evaluateHandle((list) => {
    const data = new DataTransfer();
    for (const { name, type, data: text } of list) {
      const bytes = Uint8Array.fromBase64(text);
      data.items.add(new File([bytes], name, { type }));
    }
    return data;
  }, carried);
  for (const type of ['dragover', 'drop']) await page.dispatchEvent(selector, type, { dataTransfer: transfer });
}

/** From the Shelf with a dropped photo to a found subject in the Cut room. */
export async function startWithPhoto(app: App, photo: Buffer): Promise<Page> {
  const page = await app.visit();
  await dropAndFind(page, photo);
  return page;
}

/** The same on a page that is on its way to the Shelf. */
export async function dropAndFind(page: Page, photo: Buffer): Promise<void> {
  await shelfShown(page).waitFor();
  await dropFiles(page, 'header', [{ name: 'marker_buoy.jpg', type: 'image/jpeg', bytes: photo }]);
  await page.getByTestId('cut-view').waitFor();
  await page.getByRole('button', { name: 'Find subject' }).click();
  await covered(page);
}

/** Waits until what is read is as wanted: a page follows a change a moment later. Fails with what was read last. */
export async function becomes<T>(read: () => Promise<T>, wanted: T): Promise<void> {
  const until = Date.now() + patience;
  for (;;) {
    const found = await read();
    if (isDeepStrictEqual(found, wanted)) return;
    if (Date.now() > until) expect(found).to.deep.equal(wanted);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Waits for a finished cut and gives the share of the picture it covers, in per cent. */
export async function covered(page: Page): Promise<number> {
  const sentence = await page.getByText(/The piece covers/).textContent();
  return Number(/([\d.]+) %/.exec(sentence!)![1]);
}

/** Takes away what is said of something earlier, which must not be taken for what comes next. */
export async function dismissNotices(page: Page, text: RegExp): Promise<void> {
  const notice = page.getByRole('status').filter({ hasText: text });
  await dismissAll(notice.getByRole('button', { name: 'Dismiss' }));
}

/** Presses buttons that go when they are pressed, or by themselves. */
async function dismissAll(buttons: Locator): Promise<void> {
  while (await buttons.first().isVisible())
    await buttons
      .first()
      .click({ timeout: 1000 })
      .catch(() => undefined);
}

export async function liftOut(page: Page): Promise<void> {
  await dismissNotices(page, /^Lifted out/);
  await page.getByRole('button', { name: /^Lift (out|again)$/ }).click();
  await page.getByText(/^Lifted out/).waitFor();
}

/** What was made last in Deliver, which is open: the list may tell of it a moment later than the notice. @returns its path */
export async function newestExport(page: Page): Promise<{ path: string; name: string }> {
  const { origin, pathname } = new URL(page.url());
  const project = /^\/project\/([^/]+)/.exec(pathname)![1]!;
  const kept = (await (await fetch(`${origin}/api/projects/${project}/outputs`)).json()) as { id: string }[];
  const link = page.locator(`a[href="/api/outputs/${kept[0]!.id}/download"]`);
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
  return { path: await download.path(), name: download.suggestedFilename() };
}

export async function saved(page: Page): Promise<void> {
  await page
    .getByTestId('saved')
    .filter({ hasText: /^Saved$/ })
    .waitFor();
}

export async function goTo(page: Page, room: 'Pictures' | 'Cut' | 'Stage' | 'Deliver'): Promise<void> {
  await page.getByRole('navigation', { name: 'Rooms' }).getByRole('link', { name: room }).click();
}

/** Server and browser of one suite. */
export interface App<Server extends TestedServer = TestedServer> {
  server: Server;
  browser: Browser;
  /** A new page that finds nothing stored; it is closed after the test, which fails on anything the page complained of. */
  open(): Promise<Page>;
  /**
   * A page on the Shelf, or at an address of the application. It is the one of the test before, which goes on from there as
   * somebody goes on who works for hours: what one project leaves behind in the next one fails the test. A new one where there
   * is none, where that test failed, or had opened others beside it.
   */
  visit(url?: string): Promise<Page>;
}

/** Starts a server before the tests of a suite, and stops it after. */
export const useApp = (): App => useAppOn(serverHere);

/** The same with a server that can be killed. */
export const useKillableApp = (): App<RunningServer> => useAppOn(() => RunningServer.start());

function useAppOn<Server extends TestedServer>(startServer: () => Promise<Server>): App<Server> {
  let opened: OpenPage[] = [];
  /** The one of them that may go on. */
  let visiting: OpenPage | null = null;
  /** The one of the test before, which goes on where it is wanted. */
  let kept: OpenPage | null = null;
  let test = '';
  let exporting: (() => Promise<void>)[] = [];
  const closeKept = async (): Promise<void> => {
    const page = kept;
    kept = null;
    await page?.close();
  };
  const app = {
    open: async () => {
      await closeKept();
      // The first page of a test shares what the browser keeps of the application; a second one is a visitor of its own.
      const page = opened.length > 0 ? await openPage(app.browser) : await openSharedPage(app.browser, app.server.url);
      opened.push(page);
      if (process.env.EXPORTS) exporting.push(keepExports(page.page, process.env.EXPORTS, test));
      return page.page;
    },
    visit: async (url = app.server.url) => {
      if (kept && opened.length === 0 && (await isBackOnShelf(kept.page))) {
        visiting = kept;
        kept = null;
        opened.push(visiting);
        const { pathname } = new URL(url);
        if (pathname !== '/') await goInside(visiting.page, pathname);
        return visiting.page;
      }
      const page = await app.open();
      if (goesOn) visiting = opened.at(-1)!;
      await page.goto(url);
      if (url === app.server.url) await shelfShown(page).waitFor();
      return page;
    },
  } as App<Server>;
  before(async () => {
    [app.server, app.browser] = await Promise.all([startServer(), sharedBrowser()]);
  });
  beforeEach(function () {
    test = this.currentTest!.fullTitle();
  });
  afterEach(async function () {
    for (const wait of exporting) await wait();
    exporting = [];
    const pages = opened;
    const passed = this.currentTest!.isPassed();
    if (passed && pages.length === 1 && !visiting?.page.isClosed()) kept = visiting;
    [opened, visiting] = [[], null];
    if (!passed) app.browser = await anotherSharedBrowser();
    for (const page of pages) {
      if (page !== kept) await page.close();
      if (page.presses) await notePresses(process.env.PRESSES!, this.currentTest!.fullTitle(), page.presses);
    }
    expect(pages.flatMap(({ problems }) => problems.splice(0))).to.deep.equal([]);
  });
  after(async () => {
    await closeKept();
    await app.server.stop();
  });
  return app;
}

/** What is counted or kept of each test by itself begins with a page of its own. */
const goesOn = !process.env.EXPORTS && !process.env.PRESSES;

const shelfShown = (page: Page): Locator => page.getByText('Drop a picture anywhere here');

/** Takes a page to another address of the application, as a link in it does. */
const goInside = (page: Page, pathname: string): Promise<void> =>
  page.evaluate((to) => {
    history.pushState(null, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, pathname);

/**
 * Takes a page back to the Shelf, with nothing on it of what was told before, and no cut kept: each test looks for its own, also in
 * the picture of the one before. @returns false where it does not get there
 */
async function isBackOnShelf(page: Page): Promise<boolean> {
  try {
    await page.mouse.move(0, 0);
    // What is open over the room, or over the Shelf itself, is closed first.
    await page.keyboard.press('Escape');
    await page
      .locator('[role=dialog], [role=menu]')
      .first()
      .waitFor({ state: 'detached', timeout: patience / 4 });
    await goInside(page, '/');
    await shelfShown(page).waitFor({ timeout: patience / 4 });
    await dismissAll(page.getByRole('button', { name: 'Dismiss' }));
    await page.evaluate(async () => {
      for (const name of await caches.keys()) await caches.delete(name);
    });
    return true;
  } catch {
    return false;
  }
}

/** A page in the Cut room, with a picture dropped on the Shelf. */
export async function startWith(app: App, photo: Buffer, name = 'quay.png'): Promise<Page> {
  const page = await app.visit();
  await dropFiles(page, 'header', [{ name, type: 'image/png', bytes: photo }]);
  await page.getByTestId('cut-view').waitFor();
  return page;
}

/** Where a point of what a view shows lies on the page. */
export async function onPage(view: Locator, [u, v]: [number, number]): Promise<[number, number]> {
  const box = (await view.boundingBox())!;
  const [scale, x, y] = (await view.getAttribute('data-view'))!.split(',').map(Number) as [number, number, number];
  return [box.x + x + u * scale, box.y + y + v * scale];
}

/** Colour the Cut room shows at a point of the picture, in its pixels. */
export function colourShown(page: Page, u: number, v: number): Promise<number[]> {
  return page.getByTestId('cut-view').evaluate(
    (view: HTMLElement, [px, py]) => {
      const [scale, x, y] = view.dataset.view!.split(',').map(Number) as [number, number, number];
      const at = [Math.round(x + px! * scale), Math.round(y + py! * scale)] as const;
      const context = view.querySelector('canvas')!.getContext('2d')!;
      return [...context.getImageData(...at, 1, 1).data.slice(0, 3)];
    },
    [u, v],
  );
}
