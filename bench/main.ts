/**
 * npm run bench [-- cut press key rebuild shadows paint finish words props depth clips deliver rooms] [--quick]: measures and writes docs/bench.md; sections that did not run keep their
 * last figures there. --quick leaves the marched scenes out and writes nothing.
 */
import { readFile, writeFile } from 'node:fs/promises';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { markdownOf, type Section } from './report.ts';
import { clipsSection } from './sections/clips.ts';
import { cutSection } from './sections/cut.ts';
import { deliverSection } from './sections/deliver.ts';
import { depthSection } from './sections/depth.ts';
import { finishSection } from './sections/finish.ts';
import { keySection } from './sections/key.ts';
import { onePressSection } from './sections/one-press.ts';
import { paintSection } from './sections/paint.ts';
import { propsSection } from './sections/props.ts';
import { rebuildSection } from './sections/rebuild.ts';
import { roomsSection } from './sections/rooms.ts';
import { shadowNoticesSection } from './sections/shadow-notices.ts';
import { wordsSection } from './sections/words.ts';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { quick: { type: 'boolean', default: false } },
});
const say = (line: string): void => console.error(line);
const all: Record<string, () => Promise<Section>> = {
  cut: () => cutSection(say, !values.quick),
  press: () => onePressSection(say),
  key: () => keySection(say),
  rebuild: () => rebuildSection(say, !values.quick),
  shadows: () => shadowNoticesSection(say),
  paint: () => paintSection(say),
  finish: () => finishSection(say),
  words: () => wordsSection(say),
  props: () => propsSection(say),
  depth: () => depthSection(say),
  clips: () => clipsSection(say),
  deliver: () => deliverSection(say),
  rooms: () => roomsSection(say),
};
const wanted = positionals.length > 0 ? positionals : Object.keys(all);
const sections: Section[] = [];
for (const name of wanted) {
  const section = all[name];
  if (!section) throw new Error(`There is no section "${name}"; there are ${Object.keys(all).join(', ')}.`);
  sections.push(await section());
}
const file = join(import.meta.dirname, '../docs/bench.md');
const before = await readFile(file, 'utf8').catch(() => '');
const text = markdownOf(sections, `${cpus().length} cores without a GPU, Node ${process.version}`, before);
console.log(text);
if (!values.quick) await writeFile(file, text);
