import type { Property } from '../motion/property.ts';
import type { Settings, StoredSettings, Unit } from '../settings/setting.ts';

/** Settings that count a unit count so many times as many, at every key; for drafts of edits. */
export function timesSettings(kinds: Settings | undefined, settings: StoredSettings, unit: Unit, by: number): void {
  for (const [key, setting] of Object.entries(kinds ?? {})) {
    if (setting.kind !== 'number' || setting.unit !== unit) continue;
    const property = settings[key] as Property<number>;
    if ('keys' in property) for (const k of property.keys) k.value *= by;
    else property.value *= by;
  }
}
