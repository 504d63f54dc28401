import { launch } from './e2e/harness.ts';
const [, , url, out, ...steps] = process.argv;
const browser = await launch();
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
page.on('console', (m) => ['error','warning'].includes(m.type()) && console.log('console', m.text()));
page.on('pageerror', (e) => console.log('pageerror', e.message));
await page.goto(url!);
await page.waitForTimeout(1500);
for (const step of steps) { await eval(`(async()=>{${step}})()`); await page.waitForTimeout(400); }
await page.waitForTimeout(600);
await page.screenshot({ path: out! });
await browser.close();
