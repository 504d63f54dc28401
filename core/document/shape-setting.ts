import { z } from 'zod';
import { schemaOf, type StoredSettings } from '../settings/setting.ts';
import { shapeKinds } from '../shapes/shape-kinds.ts';

/** Which shape a layer shows where it is made from numbers, how it is set, and how large it is in its own pixels. */
export interface ShapeSetting {
  shape: string;
  settings: StoredSettings;
  width: number;
  height: number;
}

const side = z.number().min(1).max(20_000);
const schemas = shapeKinds.map((kind) =>
  z.object({ shape: z.literal(kind.id), settings: schemaOf(kind.settings), width: side, height: side }),
);

export const shapeSettingSchema = z.discriminatedUnion(
  'shape',
  schemas as unknown as [(typeof schemas)[number]],
) as unknown as z.ZodType<ShapeSetting>;
