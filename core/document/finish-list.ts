import { z } from 'zod';
import { finishKinds } from '../finish/finishes.ts';
import { schemaOf, type StoredSettings } from '../settings/setting.ts';
import { id } from './schema-parts.ts';

/** A finish on a layer: which kind, and how it is set. A list of them is applied in order. */
export interface Finish {
  id: string;
  kind: string;
  muted: boolean;
  settings: StoredSettings;
}

const schemas = finishKinds.map((kind) =>
  z.object({ id, kind: z.literal(kind.id), muted: z.boolean(), settings: schemaOf(kind.settings) }),
);

export const finishSchema = z.discriminatedUnion(
  'kind',
  schemas as unknown as [(typeof schemas)[number]],
) as unknown as z.ZodType<Finish>;

/** More than anybody needs, and few enough to be painted. */
export const mostFinishes = 40;
