import { boxBlur, windowLeast, windowMost } from '../pixels/filters.ts';
import { bondsWithin, GridLaplacian } from '../pixels/grid-laplacian.ts';
import { lumaOf } from '../pixels/color.ts';
import type { Progress } from '../pixels/progress.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  makeBytes,
  makePlane,
  type Bytes,
  type Rgba,
} from '../pixels/raster.ts';

/** The darkest a shadow may be: below this nothing of the ground is left to be seen. */
const darkest = 0.92;

/**
 * How much light a shadow takes from the ground, 0..255: inside the region 1 - luma(picture) / luma(clean plate), smoothed
 * and running out to 0 at the region's rim. Under a lifted piece, where the shadow cannot be seen, it is continued smoothly.
 * Never so dark that lightening the picture by it would leave the range of a byte.
 * @param clean the picture without shadow and piece, at least about right in brightness
 * @param region 1 where the shadow is, generously  @param under 1 where a piece hid the ground
 */
export async function shadowAlpha(
  picture: Rgba,
  clean: Rgba,
  region: Bytes,
  under: Bytes,
  progress?: Progress,
): Promise<Bytes> {
  const out = makeBytes(picture.width, picture.height);
  const bounds = boundsOf(region);
  if (!bounds) return out;
  const area = growRect(bounds, 2, picture.width, picture.height);
  const [p, c] = [cropRgba(picture, area), cropRgba(clean, area)];
  const [inside, hidden] = [cropBytes(region, area), cropBytes(under, area)];
  const radius = Math.max(2, Math.round(Math.min(bounds.width, bounds.height) * 0.02));
  // What a smoothed first estimate leaves of a dark middle, the following ones find.
  let smooth = new Float32Array(p.width * p.height);
  const judged = inside.data.map((v, i) => (v && !hidden.data[i] ? 1 : 0));
  const plate = brightness(c, judged, radius);
  for (let pass = 0; pass < 6; pass++) {
    const rest = darkening(brightness(withoutDarkening(p, smooth), judged, radius), plate);
    const found = await screened(rest, inside, hidden, radius, progress);
    smooth = smooth.map((a, i) => 1 - (1 - a) * (1 - Math.min(darkest, Math.max(0, found[i]!))));
  }
  for (let y = 0; y < area.height; y++)
    for (let x = 0; x < area.width; x++)
      out.data[(y + area.y) * out.width + x + area.x] = Math.round(255 * smooth[y * area.width + x]!);
  return withinReach(out, picture, region, under);
}

/** Alpha that ends with its region, and by which no picture is lightened beyond the range of a byte. */
export function withinReach(alpha: Bytes, { data }: Rgba, region: Bytes, under: Bytes): Bytes {
  const least = 3;
  const within = alpha.data.map((a, i) => {
    if (!region.data[i]) return 0;
    const brightest = Math.max(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
    const most = under.data[i] ? 255 * darkest : Math.min(255 * darkest, 255 - brightest);
    const kept = Math.min(Math.round(most), a);
    return kept < least ? 0 : kept;
  });
  return { ...alpha, data: within };
}

/** Share of light missing, from the brightness of picture and plate in a window over the pixels that can be judged. */
const darkening = (picture: Float32Array, plate: Float32Array): Float32Array =>
  picture.map((v, i) => (plate[i]! > 1e-3 ? Math.max(0, 1 - v / plate[i]!) : 0));

/**
 * Sum over a window of the closed luma, counting judged pixels only. Lines darker than their surroundings (joints, cracks) are
 * closed first: they need not lie at the same place in the plate.
 */
function brightness(picture: Rgba, judged: Uint8Array, radius: number): Float32Array {
  const { width, height, data } = picture;
  const luma = makePlane(width, height);
  for (let i = 0; i < judged.length; i++)
    luma.data[i] = judged[i] ? lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!) + 1 : 0;
  const closed = windowLeast(windowMost(luma, radius), radius);
  for (let i = 0; i < judged.length; i++) if (!judged[i]) closed.data[i] = 0;
  return boxBlur(closed, Math.max(1, radius >> 1)).data;
}

/**
 * The smooth function nearest to `raw`: minimises (a - raw)^2 / r^2 + |grad a|^2 with a = 0 outside the region; hidden
 * pixels have no raw value and only continue their neighbours.
 */
async function screened(
  raw: Float32Array,
  inside: Bytes,
  hidden: Bytes,
  radius: number,
  progress: Progress | undefined,
): Promise<Float32Array> {
  const { width, height } = inside;
  const { right, down, anchor } = bondsWithin(inside);
  const wanted = new Float32Array(anchor.length);
  const hold = 1 / radius ** 2;
  for (let i = 0; i < wanted.length; i++) {
    if (!inside.data[i] || hidden.data[i]) continue;
    anchor[i] = anchor[i]! + hold;
    wanted[i] = hold * raw[i]!;
  }
  const grid = await GridLaplacian.over(width, height, right, down, anchor, progress);
  const share = await grid.solve(wanted, undefined, 1e-3, 60, progress);
  grid.release();
  return share;
}

function withoutDarkening(picture: Rgba, share: Float32Array): Rgba {
  const out: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  for (let i = 0; i < share.length; i++) {
    if (share[i] === 0) continue;
    for (let c = 0; c < 3; c++) out.data[i * 4 + c] = picture.data[i * 4 + c]! / (1 - share[i]!);
  }
  return out;
}
