import { contrastScale, FREE, solveGraphCut } from '../cut/graph-cut.ts';
import { dropSpecks } from '../cut/thin-parts.ts';
import { squaredDistance } from '../pixels/distance.ts';
import { makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { carriedBy, type FlowField } from './flow-field.ts';
import { LocalColours } from './local-colours.ts';

/** A frame at the size masks are carried at. */
export interface CarriedFrame {
  picture: Rgba;
  /** 0/1 */
  mask: Bytes;
}

/** What else is known of a frame. */
export interface Hints {
  /** What the ground should look like, and how far it may be from that; null where it is not known. */
  ground: { colours: Rgba; spread: Plane } | null;
}

/** Pixels around the carried edge in which it is looked for. */
const reach = 9;
/** Levels a frame may differ from its ground's plate by grain and coding alone. */
const leastSpread = 5;
const smoothness = 9;

/**
 * The mask of a frame from the one before it: carried along by the flow, then its edge found again in a band by a minimum
 * cut over local colours, the ground's plate where there is one, and the carried shape itself.
 * @param field where the pixels of `picture` were in the frame before
 * @returns the mask, and by how much it differs from the carried one, as a share of its area
 */
export function carriedMask(
  picture: Rgba,
  before: CarriedFrame,
  field: FlowField,
  { ground }: Hints,
): { mask: Bytes; changed: number } {
  const { width, height } = picture;
  const soft = makePlane(width, height);
  for (let i = 0; i < soft.data.length; i++) soft.data[i] = before.mask.data[i]!;
  const carried = carriedBy(field, soft);
  const shape = makeBytes(width, height);
  for (let i = 0; i < shape.data.length; i++) shape.data[i] = carried.data[i]! >= 0.5 ? 1 : 0;
  const distance = signedDistance(shape);
  const strange = ground && strangeness(picture, ground);
  const band = bandOf(distance, strange);
  const colours = new LocalColours(width, height);
  const near = new Uint8Array(width * height);
  for (let i = 0; i < near.length; i++) near[i] = Math.abs(distance[i]!) < 60 ? 1 : 0;
  colours.learn(before.picture, soft, 1, near);
  const prior = makePlane(width, height);
  for (const i of band) {
    const byShape = Math.max(-4, Math.min(4, distance[i]! * 0.7));
    const byGround = strange ? strange[i]! : 0;
    prior.data[i] = 1.1 * colours.ratio(picture, i) + byGround + byShape;
  }
  const mask = { ...shape, data: shape.data.slice() };
  const seeds = makeBytes(width, height, FREE);
  const beta = contrastScale(picture);
  solveGraphCut({ picture, seeds, mask, active: band, colours: null, prior, smoothness, beta });
  dropSpecks(mask, seeds, 24, band);
  let [differs, area] = [0, 0];
  for (let i = 0; i < mask.data.length; i++) {
    if (mask.data[i] !== shape.data[i]) differs++;
    area += mask.data[i]!;
  }
  return { mask, changed: differs / Math.max(1, area) };
}

/** Pixels from the edge, above 0 inside. */
function signedDistance(mask: Bytes): Float32Array {
  const outside = squaredDistance(mask);
  const inside = squaredDistance({ ...mask, data: mask.data.map((v) => 1 - v) });
  return outside.map((d, i) => (mask.data[i] ? Math.sqrt(inside[i]!) - 0.5 : 0.5 - Math.sqrt(d)));
}

/** Log odds that a pixel is not of the ground, by how far it is from the plate; bounded, and 0 where the plate says nothing. */
function strangeness(picture: Rgba, { colours, spread }: NonNullable<Hints['ground']>): Float32Array {
  const out = new Float32Array(picture.width * picture.height);
  for (let i = 0; i < out.length; i++) {
    if (spread.data[i] === Infinity) continue;
    let square = 0;
    for (let c = 0; c < 3; c++) square += (picture.data[i * 4 + c]! - colours.data[i * 4 + c]!) ** 2;
    const deviation = leastSpread + spread.data[i]!;
    const away = Math.sqrt(square / 3) / deviation;
    // Ground that itself moves a lot says little.
    out[i] = Math.max(-3.5, Math.min(6, 2.2 * (away - 1.6))) / (1 + spread.data[i]! / 14);
  }
  return out;
}

/** What is looked at: around the carried edge, and further out where something strange hangs together with it. */
function bandOf(distance: Float32Array, strange: Float32Array | null): Int32Array {
  const found: number[] = [];
  for (let i = 0; i < distance.length; i++) {
    const d = distance[i]!;
    const wide = strange && strange[i]! > 2.5 && d < 0 ? 3 : 1;
    if (Math.abs(d) <= reach * wide) found.push(i);
  }
  return Int32Array.from(found);
}
