import { z } from 'zod';
import { propKinds } from '../props/props.ts';
import { schemaOf, type StoredSettings } from '../settings/setting.ts';
import { oneOfKinds } from './schema-parts.ts';

/** Which prop a layer shows, and how it is set. */
export interface PropSetting {
  prop: string;
  settings: StoredSettings;
}

export const propSettingSchema = oneOfKinds<PropSetting>('prop', () =>
  propKinds.map((kind) => z.object({ prop: z.literal(kind.id), settings: schemaOf(kind.settings) })),
);
