/** Renders the demo clip: npm run demo:render-clip. Needs the browser of the tests, where the encoders are. */
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { launch } from '../e2e/harness.ts';
import { recordClip } from '../scripts/record-clip.ts';
import { sparksClip, sparksFrame } from './scenes/sparks.ts';

const browser = await launch();
const clip = await recordClip(browser, { ...sparksClip, format: 'webm', bitrate: 1.2e6, frame: sparksFrame });
await writeFile(join(import.meta.dirname, 'pictures', 'sparks.webm'), clip);
await browser.close();
