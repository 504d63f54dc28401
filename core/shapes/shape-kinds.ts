import { arrow } from './arrow.ts';
import { blob } from './blob.ts';
import { bow } from './bow.ts';
import { breaker } from './breaker.ts';
import { burst } from './burst.ts';
import { drip } from './drip.ts';
import { ellipse } from './ellipse.ts';
import { fan } from './fan.ts';
import { feather } from './feather.ts';
import { garland } from './garland.ts';
import { knot } from './knot.ts';
import { paperLantern } from './paper-lantern.ts';
import { pennant } from './pennant.ts';
import { polygon } from './polygon.ts';
import { rectangle } from './rectangle.ts';
import { ribbon } from './ribbon.ts';
import { rosette } from './rosette.ts';
import { scroll } from './scroll.ts';
import type { ShapeKind } from './shape-kind.ts';
import { shell } from './shell.ts';
import { star } from './star.ts';
import { wave } from './wave.ts';
import { windRose } from './wind-rose.ts';

/** Every shape that is made from numbers, in the order it is offered. A new one is one file and one line here. */
export const shapeKinds = [
  rectangle,
  ellipse,
  polygon,
  star,
  burst,
  arrow,
  ribbon,
  wave,
  blob,
  drip,
  fan,
  pennant,
  rosette,
  knot,
  scroll,
  shell,
  feather,
  garland,
  paperLantern,
  breaker,
  windRose,
  bow,
] as unknown as readonly ShapeKind[];

const byId = new Map(shapeKinds.map((kind) => [kind.id, kind]));

/** The shape of an id; undefined for one this version does not know. */
export const shapeKind = (id: string): ShapeKind | undefined => byId.get(id);
