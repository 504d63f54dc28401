import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Browser, type BrowserContext, type LaunchOptions, type Page } from 'playwright-core';
import { countPresses, type Presses } from './presses.ts';

/* The browser that tests look through, and its pages. */

/** Milliseconds a test waits for what must come: two files run at a time, on a machine that may be slow. */
export const patience = Number(process.env.PATIENCE ?? 120_000);

/**
 * One browser does for several suites. Now and then it is a new one, on the same profile: there the browser keeps what it
 * compiled of the application.
 */
let shared: BrowserContext | null = null;
let profile: string | null = null;
let suites = 0;
const suitesEach = 12;

export async function sharedBrowser(): Promise<Browser> {
  if (suites++ % suitesEach === 0) await shared?.close();
  if (!shared?.browser()?.isConnected())
    shared = await chromium.launchPersistentContext((profile ??= newProfile()), {
      ...howToLaunch(quickPages),
      ...visitor,
    });
  return shared.browser()!;
}

/** Another one, with nothing open: a page of the one before may hang, and with it all that would follow it there. */
export async function anotherSharedBrowser(): Promise<Browser> {
  await shared?.close();
  return sharedBrowser();
}

function newProfile(): string {
  const folder = mkdtempSync(join(tmpdir(), 'clyvo-browser-'));
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

// Registered for all suites, where this is loaded by the test runner.
if (typeof after === 'function') after(() => shared?.close());

/** A browser of its own, in which every page has a process of its own. */
export const launch = (): Promise<Browser> => chromium.launch(howToLaunch());

const quickPages = [
  // Pages of one application follow one another in one process, which saves a tenth of opening one.
  '--renderer-process-limit=1',
  // Scripts that are fetched past the page do not find what was compiled of them before.
  '--disable-features=BackgroundResourceFetch',
];

function howToLaunch(further: string[] = []): LaunchOptions {
  const executablePath = execFileSync('bash', [join(import.meta.dirname, '../scripts/chromium.sh')], {
    encoding: 'utf8',
  })
    .trim()
    .split('\n')
    .at(-1)!;
  const args = [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    ...further,
  ];
  return { executablePath, args };
}

export interface OpenPage {
  context: BrowserContext;
  page: Page;
  /** What it complained of in its console; a test fails on any. */
  problems: string[];
  /** What was pressed in it, when that is counted. */
  presses: Presses | null;
  close(): Promise<void>;
}

const visitor = { viewport: { width: 1280, height: 800 }, acceptDownloads: true };

/** A page that has nothing in common with any other. */
export async function openPage(from: Browser): Promise<OpenPage> {
  const context = await from.newContext(visitor);
  const presses = process.env.PRESSES ? await countPresses(context) : null;
  const page = await context.newPage();
  return { context, page, problems: problemsOf(page), presses, close: () => context.close() };
}

/**
 * A page that finds nothing stored at an address, in a browser that may have been there before: what it compiled of the
 * application then is not compiled anew, which saves a fifth of opening it. Only one is open at a time.
 */
export async function openSharedPage(from: Browser, url: string): Promise<OpenPage> {
  const context = shared;
  if (process.env.PRESSES || context?.browser() !== from) return openPage(from);
  const before = context.pages();
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  const storageTypes = 'cookies,local_storage,indexeddb,cache_storage,file_systems,service_workers';
  await session.send('Storage.clearDataForOrigin', { origin: new URL(url).origin, storageTypes });
  await session.detach();
  const close = async (): Promise<void> => {
    // Windows that the test opened beside it go too.
    for (const one of context.pages()) if (!before.includes(one)) await one.close();
  };
  return { context, page, problems: problemsOf(page), presses: null, close };
}

function problemsOf(page: Page): string[] {
  page.setDefaultTimeout(patience);
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('console', (message) => {
    // Refused uploads are reported by the browser itself; the application tells them in its own words.
    if (message.type() === 'error' && !message.text().includes('Failed to load resource'))
      problems.push(message.text());
  });
  return problems;
}
