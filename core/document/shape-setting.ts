import { z } from 'zod';
import { schemaOf, type StoredSettings } from '../settings/setting.ts';
import { shapeKinds } from '../shapes/shape-kinds.ts';
import { oneOfKinds } from './schema-parts.ts';

/** Which shape a layer shows where it is made from numbers, how it is set, and how large it is in its own pixels. */
export interface ShapeSetting {
  shape: string;
  settings: StoredSettings;
  width: number;
  height: number;
}

const side = z.number().min(1).max(20_000);

export const shapeSettingSchema = oneOfKinds<ShapeSetting>('shape', () =>
  shapeKinds.map(({ id, settings }) =>
    z.object({ shape: z.literal(id), settings: schemaOf(settings), width: side, height: side }),
  ),
);
