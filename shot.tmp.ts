import { launch, openPage } from '/work/main/e2e/harness.ts';
import { execSync } from 'node:child_process';
const url = process.argv[2]!, out = process.argv[3]!;
const b = await launch(); const { page } = await openPage(b);
await page.goto(url); await page.waitForTimeout(Number(process.argv[4] ?? 1500));
await page.screenshot({ path: out }); await b.close();
