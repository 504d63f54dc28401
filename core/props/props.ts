import type { PropKind } from './prop.ts';
import { chequer } from './chequer.ts';
import { confetti } from './confetti.ts';
import { curtain } from './curtain.ts';
import { dots } from './dots.ts';
import { dust } from './dust.ts';
import { flare } from './flare.ts';
import { grid } from './grid.ts';
import { lamp } from './lamp.ts';
import { mist } from './mist.ts';
import { paperSheet } from './paper-sheet.ts';
import { rain } from './rain.ts';
import { rays } from './rays.ts';
import { smoke } from './smoke.ts';
import { snow } from './snow.ts';
import { sparks } from './sparks.ts';
import { stars } from './stars.ts';
import { stripes } from './stripes.ts';

/** Every prop, in the order they are offered within their family. A new one is a file and a line here. */
const list = [
  mist,
  smoke,
  rain,
  snow,
  stars,
  lamp,
  flare,
  rays,
  curtain,
  sparks,
  dust,
  confetti,
  dots,
  stripes,
  grid,
  chequer,
  paperSheet,
] as const;

// Settings are known by their kind from here on: every function of a prop is only ever given its own.
export const propKinds = list as unknown as readonly PropKind[];

const byId = new Map(propKinds.map((kind) => [kind.id, kind]));

/** The kind of a prop by its id; undefined for one this version does not know. */
export const propKind = (id: string): PropKind | undefined => byId.get(id);
