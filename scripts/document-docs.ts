import { z } from 'zod';
import { documentSchema } from '../core/document/document.ts';
import { arrivalKinds } from '../core/arrive/arrivals.ts';
import { areaSettings } from '../core/finish/area.ts';
import { finishKinds } from '../core/finish/finishes.ts';
import { propKinds } from '../core/props/props.ts';
import { shapeKinds } from '../core/shapes/shape-kinds.ts';
import type { Setting } from '../core/settings/setting.ts';

/** The JSON Schema of a stored project. */
export const documentSchemaText = (): string =>
  `${JSON.stringify(z.toJSONSchema(documentSchema, { io: 'input', reused: 'ref' }), null, 2)}\n`;

interface Kind {
  id: string;
  name: string;
  settings: Record<string, Setting>;
}

/** The tables in the page, by the mark that stands around each. */
const tables: Record<string, readonly Kind[]> = {
  // What every finish has is said once.
  finishes: [{ id: '*', name: 'each of them', settings: areaSettings }, ...finishKinds.map(withoutArea)],
  props: propKinds,
  shapes: shapeKinds,
  arrivals: arrivalKinds,
};

function withoutArea(kind: Kind): Kind {
  const own = Object.entries(kind.settings).filter(([key]) => !(key in areaSettings));
  return { ...kind, settings: Object.fromEntries(own) };
}

/** A page with the tables of kinds between their marks as the code has them now. */
export function withKindTables(page: string): string {
  return Object.entries(tables).reduce((text, [mark, kinds]) => {
    const rows = kinds.map(({ id, name, settings }) => `| \`${id}\` | ${name} | ${settingsOf(settings)} |`);
    const table = ['| kind | name | settings |', '| --- | --- | --- |', ...rows].join('\n');
    const [begin, end] = [`<!-- ${mark} -->`, `<!-- end of ${mark} -->`];
    return text.replace(new RegExp(`${begin}[^]*${end}`), `${begin}\n\n${table}\n\n${end}`);
  }, page);
}

const settingsOf = (settings: Record<string, Setting>): string =>
  Object.entries(settings)
    .map(([key, setting]) => `\`${key}\`${limitsOf(setting)}`)
    .join(', ');

function limitsOf(setting: Setting): string {
  if (setting.kind === 'number')
    return ` ${setting.least} to ${setting.most}${setting.unit === '%' || setting.unit === '' ? '' : ` ${setting.unit}`}`;
  if (setting.kind === 'choice') return ` (${setting.options.join(', ')})`;
  return setting.kind === 'switch' ? ' (on or off)' : ` (${setting.kind})`;
}
