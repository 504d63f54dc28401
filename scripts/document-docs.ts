import { z } from 'zod';
import { documentSchema } from '../core/document/document.ts';
import { arrivalKinds } from '../core/arrive/arrivals.ts';
import { framedPlane, framingSettings, lensSettings, shakeSettings } from '../core/document/camera-settings.ts';
import { layerSettings, ownSwaySettings, swaySettings } from '../core/document/layer-settings.ts';
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
  layers: [
    { id: 'layer', name: 'each layer', settings: layerSettings },
    { id: 'sway', name: 'a sway', settings: { ...ownSwaySettings, ...swaySettings } },
    { id: 'camera', name: 'the lens', settings: { ...framedPlane, ...lensSettings } },
    { id: 'framing', name: 'a Framing', settings: framingSettings },
    { id: 'shake', name: 'its unsteady hand', settings: shakeSettings },
  ],
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
  switch (setting.kind) {
    case 'number': {
      const { least, most, unit } = setting;
      const [from, to] = [Number.isFinite(least) ? ` ${least}` : '', Number.isFinite(most) ? ` to ${most}` : ''];
      const ends = to ? from + to : from && ` at least${from}`;
      return `${ends}${unit === '%' || unit === '' ? '' : ` ${unit === 's' ? 'frames' : unit}`}`;
    }
    case 'choice':
      return ` (${setting.options.join(', ')})`;
    case 'switch':
      return ' (on or off)';
    case 'numbers':
      return setting.count === null ? ' (numbers)' : ` (${setting.count} numbers)`;
    default:
      return ` (${setting.kind})`;
  }
}
