import { z } from 'zod';
import { propKinds } from '../props/props.ts';
import { schemaOf, type StoredSettings } from '../settings/setting.ts';

/** Which prop a layer shows, and how it is set. */
export interface PropSetting {
  prop: string;
  settings: StoredSettings;
}

const schemas = propKinds.map((kind) => z.object({ prop: z.literal(kind.id), settings: schemaOf(kind.settings) }));

export const propSettingSchema = z.discriminatedUnion(
  'prop',
  schemas as unknown as [(typeof schemas)[number]],
) as unknown as z.ZodType<PropSetting>;
