import { z } from 'zod';
import { arrivalKind, arrivalKinds } from '../arrive/arrivals.ts';
import { orders, unitsBy, type Order, type UnitsBy } from '../arrive/course.ts';
import { easingSchema, type Easing } from '../motion/easing.ts';
import { schemaOf, storedFrom, type StoredSettings } from '../settings/setting.ts';
import { oneOfKinds, seed } from './schema-parts.ts';

/** How a layer comes, or goes: what of it as one, in which order, and how long all of it takes. */
export interface ArrivalSetting {
  kind: string;
  settings: StoredSettings;
  by: UnitsBy;
  order: Order;
  /** Share of a unit's own time in which the next is already on its way. */
  overlap: number;
  easing: Easing;
  seed: number;
  /** Frames, at the beginning or at the end of the layer's bar. */
  length: number;
}

/** How a layer goes: the way it came, or another. */
export interface LeaveSetting extends ArrivalSetting {
  mirrors: boolean;
}

const timing = {
  by: z.enum(unitsBy),
  order: z.enum(orders),
  overlap: z.number().min(0).max(1),
  easing: easingSchema,
  seed,
  length: z.number().int().min(1).max(100_000),
};

const schemasWith = (more: z.ZodRawShape): z.ZodObject[] =>
  arrivalKinds.map((kind) =>
    z.object({ kind: z.literal(kind.id), settings: schemaOf(kind.settings), ...timing, ...more }),
  );

export const arrivalSchema = oneOfKinds<ArrivalSetting>('kind', () => schemasWith({}));

export const leaveSchema = oneOfKinds<LeaveSetting>('kind', () => schemasWith({ mirrors: z.boolean() }));

/** A new arrival of a kind. @param rate frames a second, from which its length follows */
export function newArrival(kind: string, by: UnitsBy, rate: number): ArrivalSetting {
  const found = arrivalKind(kind)!;
  return {
    kind,
    settings: storedFrom(found.settings),
    by: found.writes ? 'whole' : by,
    order: 'first to last',
    overlap: 0.6,
    easing: found.writes ? 'linear' : 'ease-out',
    seed: 1,
    length: Math.max(1, Math.round(rate * (found.writes ? 3 : by === 'whole' ? 0.8 : 1.4))),
  };
}

/** How a layer really goes: what mirrors its coming has everything of it but its own length. */
export function leavingOf(arrive: ArrivalSetting | null, leave: LeaveSetting | null): ArrivalSetting | null {
  if (!leave?.mirrors || !arrive) return leave;
  return { ...arrive, length: leave.length };
}
