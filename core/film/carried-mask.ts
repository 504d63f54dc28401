import { contrastScale, FREE, solveGraphCut } from '../cut/graph-cut.ts';
import { dropSpecks } from '../cut/thin-parts.ts';
import { squaredDistance } from '../pixels/distance.ts';
import { planeOfBytes } from '../pixels/filters.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  makeBytes,
  makePlane,
  pasteBytes,
  type Bytes,
  type Plane,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
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
/** How much further out what is strange to the ground is looked at. */
const wider = 3;
/** Levels a frame may differ from its ground's plate by grain and coding alone. */
const leastSpread = 5;
const smoothness = 9;

/** Pixels around the figure that are looked at. */
const margin = 44;

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
  hints: Hints,
): { mask: Bytes; changed: number } {
  const { width, height } = picture;
  const mask = makeBytes(width, height);
  const there = boundsOf(before.mask);
  if (!there) return { mask, changed: 1 };
  const area = growRect(there, margin + Math.ceil(furthest(field)), width, height);
  const part = carriedWithin(area, picture, before, field, hints);
  pasteBytes(mask, part.mask, area.x, area.y);
  return { mask, changed: part.changed };
}

const furthest = ({ dx, dy, seen }: FlowField): number =>
  seen.reduce((most, one, k) => (one ? Math.max(most, Math.hypot(dx[k]!, dy[k]!)) : most), 0);

function carriedWithin(
  area: Rect,
  whole: Rgba,
  before: CarriedFrame,
  field: FlowField,
  hints: Hints,
): { mask: Bytes; changed: number } {
  const picture = cropRgba(whole, area);
  const old = planeOfBytes(cropBytes(before.mask, area));
  const ground = hints.ground && croppedGround(hints.ground, area);
  const { width, height } = picture;
  const carried = carriedBy(field, planeOfBytes(before.mask), area);
  const shape = makeBytes(width, height);
  for (let i = 0; i < shape.data.length; i++) shape.data[i] = carried.data[i]! >= 0.5 ? 1 : 0;
  const distance = signedDistance(shape);
  const strange = ground && strangeness(picture, ground, distance);
  const band = bandOf(distance, strange);
  const colours = new LocalColours(width, height);
  colours.learn(cropRgba(before.picture, area), old);
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
  dropStrangers(mask, distance);
  let [differs, covered] = [0, 0];
  for (let i = 0; i < mask.data.length; i++) {
    if (mask.data[i] !== shape.data[i]) differs++;
    covered += mask.data[i]!;
  }
  return { mask, changed: differs / Math.max(1, covered) };
}

function croppedGround({ colours, spread }: NonNullable<Hints['ground']>, area: Rect): NonNullable<Hints['ground']> {
  const part = makePlane(area.width, area.height);
  for (let y = 0; y < area.height; y++) {
    const from = (area.y + y) * spread.width + area.x;
    part.data.set(spread.data.subarray(from, from + area.width), y * area.width);
  }
  return { colours: cropRgba(colours, area), spread: part };
}

/** Pixels from the edge, above 0 inside. */
function signedDistance(mask: Bytes): Float32Array {
  const outside = squaredDistance(mask);
  const inside = squaredDistance({ ...mask, data: mask.data.map((v) => 1 - v) });
  return outside.map((d, i) => (mask.data[i] ? Math.sqrt(inside[i]!) - 0.5 : 0.5 - Math.sqrt(d)));
}

/**
 * Log odds that a pixel is not of the ground, by how far it is from what the plate has there or beside it: the lens's way is
 * known to a pixel only. Bounded, and 0 where the plate says nothing.
 */
function strangeness(
  { width, height, data }: Rgba,
  { colours, spread }: NonNullable<Hints['ground']>,
  distance: Float32Array,
): Float32Array {
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++) {
    const own = spread.data[i]!;
    if (own === Infinity || Math.abs(distance[i]!) > reach * wider) continue;
    const x = i % width;
    let nearest = Infinity;
    for (let v = -1; v <= 1; v++)
      for (let u = -1; u <= 1; u++) {
        const j = i + v * width + u;
        if (x + u < 0 || x + u >= width || j < 0 || j >= out.length || spread.data[j] === Infinity) continue;
        let square = 0;
        for (let c = 0; c < 3; c++) square += (data[i * 4 + c]! - colours.data[j * 4 + c]!) ** 2;
        if (square < nearest) nearest = square;
      }
    const away = Math.sqrt(nearest / 3) / (leastSpread + own);
    // Ground that itself moves a lot says little.
    out[i] = Math.max(-3.5, Math.min(6, 2.2 * (away - 1.6))) / (1 + own / 14);
  }
  return out;
}

/** Takes away what does not hang together with the carried shape: it is something else that moves. */
function dropStrangers({ width, height, data }: Bytes, distance: Float32Array): void {
  const kept = new Uint8Array(data.length);
  const queue: number[] = [];
  for (let i = 0; i < data.length; i++)
    if (data[i] && distance[i]! > 0) {
      kept[i] = 1;
      queue.push(i);
    }
  for (let i = queue.pop(); i !== undefined; i = queue.pop()) {
    const x = i % width;
    const y = (i - x) / width;
    for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
      for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
        const j = ny * width + nx;
        if (!data[j] || kept[j]) continue;
        kept[j] = 1;
        queue.push(j);
      }
  }
  for (let i = 0; i < data.length; i++) if (!kept[i]) data[i] = 0;
}

/** What is looked at: around the carried edge, and further out where something strange hangs together with it. */
function bandOf(distance: Float32Array, strange: Float32Array | null): Int32Array {
  const found: number[] = [];
  for (let i = 0; i < distance.length; i++) {
    const d = distance[i]!;
    const wide = strange && strange[i]! > 2.5 && d < 0 ? wider : 1;
    if (Math.abs(d) <= reach * wide) found.push(i);
  }
  return Int32Array.from(found);
}
