import { squaredScreenDistance } from './screen.ts';

/** Distances up to which all is screen, and from which on all is subject; below `noise` nothing can be told. */
export interface Thresholds {
  core: number;
  edge: number;
  noise: number;
}

/** How far a colour may lie beside the way from screen to subject and still be a mixture of them, bytes. */
const onTheWay = 20;
/** Square of the distance below which screen and subject are too alike to tell mixtures of them, bytes. */
const tooAlike = 400;
/** Alpha near an end is that end: a veil of nearly nothing shows as dirt, a nearly solid body as a ghost. */
const [firstSeen, solidFrom] = [0.02, 0.94];

/** Share of the way from core to edge that a distance has come, 0..1. */
export function betweenThresholds(distance: number, { core, edge }: Thresholds): number {
  return clamped((distance - core) / Math.max(1, edge - core));
}

/** 0 where a distance may be noise of the screen alone, 1 from twice as far on. */
export const aboveNoise = (distance: number, { noise }: Thresholds): number => clamped(distance / noise - 1);

/**
 * How much of a colour is subject (Smith & Blinn 1996, "Blue Screen Matting"): where it lies on the way from the screen to
 * the subject's own colour there.
 * @param r,g,b the colour less the screen's  @param wr,wg,wb the subject's less the screen's
 * @param thresholds decide alone where the two are alike
 */
export function mixedShare(
  r: number,
  g: number,
  b: number,
  wr: number,
  wg: number,
  wb: number,
  thresholds: Thresholds,
): number {
  const square = squaredScreenDistance(r, g, b);
  const distance = Math.sqrt(square);
  const sure = aboveNoise(distance, thresholds);
  const length = wr * wr + wg * wg + wb * wb;
  if (length < tooAlike) return sure * betweenThresholds(distance, thresholds);
  const mixed = (r * wr + g * wg + b * wb) / length;
  // A colour beside the way from the one to the other is no mixture of them: a thing of its own colour, like a wire.
  const beside = Math.sqrt(Math.max(0, r * r + g * g + b * b - mixed * mixed * length));
  const own = clamped((beside - onTheWay) / onTheWay);
  // Of what it is a mixture then nobody knows; other subjects are about as far from the screen as the one that is known.
  const unlike = Math.sqrt(square / Math.max(1, squaredScreenDistance(wr, wg, wb)));
  const alpha = mixed + own * (Math.max(mixed, unlike) - mixed);
  return sure * clamped((alpha - firstSeen) / (solidFrom - firstSeen));
}

export const clamped = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);
