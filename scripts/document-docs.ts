import { z } from 'zod';
import { documentSchema } from '../core/document/document.ts';
import { finishKinds } from '../core/finish/finishes.ts';
import type { Setting } from '../core/settings/setting.ts';

/** The JSON Schema of a stored project. */
export const documentSchemaText = (): string =>
  `${JSON.stringify(z.toJSONSchema(documentSchema, { io: 'input', reused: 'ref' }), null, 2)}\n`;

const [begin, end] = ['<!-- finishes -->', '<!-- end of finishes -->'];

/** A page with the table of finishes between its two marks as the code has them now. */
export function withFinishTable(page: string): string {
  const rows = finishKinds.map(({ id, name, settings }) => `| \`${id}\` | ${name} | ${settingsOf(settings)} |`);
  const table = ['| kind | name | settings |', '| --- | --- | --- |', ...rows].join('\n');
  return page.replace(new RegExp(`${begin}[^]*${end}`), `${begin}\n\n${table}\n\n${end}`);
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
