import { fontsOf } from './font-list.ts';
import { setText, type SetText } from './set-text.ts';
import type { TextSetting } from './text-setting.ts';

/** How many texts are kept as they were set. */
const mostKept = 300;
const kept = new Map<string, SetText>();

/** A text set in letters; undefined while its face was not loaded. What was set before is not set again. */
export function lettersOf(setting: TextSetting): SetText | undefined {
  const fonts = fontsOf(setting.face);
  if (!fonts) return undefined;
  const { text, face, size, align, leading, tracking, stroke, wrap, spans, along } = setting;
  const key = JSON.stringify([text, face, size, align, leading, tracking, stroke?.width, wrap, spans, along]);
  const known = kept.get(key);
  // Least recently used first.
  if (known) kept.delete(key);
  const set = known ?? setText(setting, fonts);
  kept.set(key, set);
  if (kept.size > mostKept) kept.delete(kept.keys().next().value!);
  return set;
}
