import { withArea } from './area.ts';
import type { FinishKind } from './finish.ts';
import { castShadow } from './cast-shadow.ts';
import { coarsePixels } from './coarse-pixels.ts';
import { colourMap } from './colour-map.ts';
import { coloursApart } from './colours-apart.ts';
import { curves } from './curves.ts';
import { directionBlur } from './direction-blur.ts';
import { drawn } from './drawn.ts';
import { dropShadow } from './drop-shadow.ts';
import { edgeGlow } from './edge-glow.ts';
import { edgeLight } from './edge-light.ts';
import { flash } from './flash.ts';
import { flicker } from './flicker.ts';
import { gaussianBlur } from './gaussian-blur.ts';
import { glow } from './glow.ts';
import { grain } from './grain.ts';
import { grey } from './grey.ts';
import { halftone } from './halftone.ts';
import { hueSaturation } from './hue-saturation.ts';
import { innerShadow } from './inner-shadow.ts';
import { invert } from './invert.ts';
import { lightContrast } from './light-contrast.ts';
import { lightWrap } from './light-wrap.ts';
import { outline } from './outline.ts';
import { paper } from './paper.ts';
import { posterize } from './posterize.ts';
import { recolour } from './recolour.ts';
import { settleIn } from './settle-in.ts';
import { spinBlur } from './spin-blur.ts';
import { strips } from './strips.ts';
import { temperature } from './temperature.ts';
import { threshold } from './threshold.ts';
import { vignette } from './vignette.ts';
import { zoomBlur } from './zoom-blur.ts';

/** Every finish, in the order they are offered within their family. A new one is a file and a line here. */
const list = [
  lightContrast,
  curves,
  hueSaturation,
  recolour,
  temperature,
  grey,
  colourMap,
  posterize,
  threshold,
  invert,
  settleIn,
  lightWrap,
  outline,
  dropShadow,
  castShadow,
  edgeLight,
  innerShadow,
  edgeGlow,
  glow,
  vignette,
  flicker,
  flash,
  gaussianBlur,
  directionBlur,
  zoomBlur,
  spinBlur,
  grain,
  halftone,
  drawn,
  paper,
  coarsePixels,
  strips,
  coloursApart,
] as const;

export type FinishId = (typeof list)[number]['id'];

// Settings are known by their kind from here on: every function of a finish is only ever given its own.
export const finishKinds = (list as unknown as readonly FinishKind[]).map(withArea);

const byId = new Map(finishKinds.map((kind) => [kind.id, kind]));

/** The kind of a finish by its id; undefined for one this version does not know. */
export const finishKind = (id: string): FinishKind | undefined => byId.get(id);
