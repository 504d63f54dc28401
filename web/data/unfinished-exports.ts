import { z } from 'zod';
import { exportFormatIds, exportFormats } from '../../core/formats/exports.ts';
import { useExports } from './exports.ts';
import { notify } from './notices.ts';

const unfinishedSchema = z.array(z.object({ tab: z.string(), name: z.string(), format: z.enum(exportFormatIds) }));
type Unfinished = z.infer<typeof unfinishedSchema>;

/** Under this, the browser keeps which exports were under way, and in which tab. */
const key = 'clyvo unfinished exports';
const tab = crypto.randomUUID();
const lockOf = (tab: string): string => `${key} ${tab}`;

/**
 * Says which exports were under way in tabs that are closed, or close later, and from now on keeps which are under way in this
 * one. What was finished is with its project; what was not has to be made again.
 */
export function watchExports(): void {
  // A tab holds its lock as long as it is there: who gets it finds what it left behind.
  const others = new Set(kept().map((one) => one.tab));
  for (const other of others) void navigator.locks.request(lockOf(other), () => tellLeftBy(other));
  void navigator.locks.request(lockOf(tab), () => new Promise(() => undefined));
  useExports.subscribe(({ running, waiting }) => {
    const all = [...(running ? [running] : []), ...waiting];
    const mine = all.map(({ name, wanted }) => ({ tab, name, format: wanted.format }));
    keep([...kept().filter((one) => one.tab !== tab), ...mine]);
  });
}

function tellLeftBy(other: string): void {
  const lost = kept().filter((one) => one.tab === other);
  if (lost.length === 0) return;
  keep(kept().filter((one) => one.tab !== other));
  const which = lost.map(({ name, format }) => `${name} (${exportFormats[format].name})`).join(', ');
  notify('problem', `Clyvo was closed before this was exported: ${which}. Make it again in Deliver.`);
}

function kept(): Unfinished {
  try {
    return unfinishedSchema.parse(JSON.parse(localStorage.getItem(key) ?? '[]'));
  } catch {
    // Written by another version, or by somebody else: nothing is known then.
    return [];
  }
}

function keep(list: Unfinished): void {
  const text = JSON.stringify(list);
  try {
    if (localStorage.getItem(key) !== text) localStorage.setItem(key, text);
  } catch {
    // The browser stores nothing, or the page is on its way out: exports are made all the same, and only not told of later.
  }
}
