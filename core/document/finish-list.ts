import { z } from 'zod';
import { finishKinds } from '../finish/finishes.ts';
import { schemaOf, type StoredSettings } from '../settings/setting.ts';
import { id, oneOfKinds } from './schema-parts.ts';

/** A finish on a layer: which kind, and how it is set. A list of them is applied in order. */
export interface Finish {
  id: string;
  kind: string;
  muted: boolean;
  settings: StoredSettings;
}

export const finishSchema = oneOfKinds<Finish>('kind', () =>
  finishKinds.map((kind) =>
    z.object({ id, kind: z.literal(kind.id), muted: z.boolean(), settings: schemaOf(kind.settings) }),
  ),
);

/** More than anybody needs, and few enough to be painted. */
export const mostFinishes = 40;
