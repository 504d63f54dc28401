import type { ArrivalKind } from './arrival.ts';
import { drop } from './drop.ts';
import { fade } from './fade.ts';
import { flickerOn } from './flicker-on.ts';
import { fromSide } from './from-side.ts';
import { gather } from './gather.ts';
import { grow } from './grow.ts';
import { rise } from './rise.ts';
import { slam } from './slam.ts';
import { spring } from './spring.ts';
import { turnIn } from './turn-in.ts';
import { unroll } from './unroll.ts';
import { write } from './write.ts';

/** Every way to arrive, in the order they are offered. A new one is a file and a line here. */
const list = [fade, fromSide, rise, grow, turnIn, drop, unroll, write, gather, flickerOn, slam, spring] as const;

// Settings are known by their kind from here on: every function of an arrival is only ever given its own.
export const arrivalKinds = list as unknown as readonly ArrivalKind[];

const byId = new Map(arrivalKinds.map((kind) => [kind.id, kind]));

/** The kind of an arrival by its id; undefined for one this version does not know. */
export const arrivalKind = (id: string): ArrivalKind | undefined => byId.get(id);
