import { boxBlur } from '../pixels/filters.ts';
import {
  boundsOf,
  cropRgba,
  growRect,
  makeBytes,
  makePlane,
  type Bytes,
  type Plane,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { enlargedPlane, halve } from '../pixels/resample.ts';

/** Squared deviation of colour, of 0..1, from which an edge of the picture is an edge of the alpha. */
const regularity = (9 / 255) ** 2;
/** How much steeper what the first look found is made before the second. */
const decided = 2.5;

/**
 * Alpha of a frame at full size from a soft mask at a smaller one: inside a band around its edge the colour guided filter
 * (He, Sun & Tang 2010), so that the edge lies where the picture has one; elsewhere the mask. Between a mask's edge and that of
 * the picture beside it one look leaves a veil: what it took for more than half of one side is nearly that before a second,
 * from nearer.
 * @param mask 0..1, of any size with the picture's proportions
 */
export function softAlpha(picture: Rgba, mask: Plane): Bytes {
  const { width, height } = picture;
  const scale = width / mask.width;
  const radius = Math.max(2, Math.round(2.2 * scale));
  const alpha = makeBytes(width, height);
  const some = makeBytes(mask.width, mask.height);
  for (let i = 0; i < some.data.length; i++) some.data[i] = mask.data[i]! > 0.02 ? 1 : 0;
  const small = boundsOf(some);
  if (!small) return alpha;
  const area = growRect(scaled(small, scale), 3 * radius, width, height);
  const wanted = part(mask, area, scale);
  const near = boxBlur(wanted, 2 * radius).data;
  const isSure = (i: number): boolean => near[i]! < 0.002 || near[i]! > 0.998;
  const cropped = cropRgba(picture, area);
  const guide = { picture: cropped, small: halve(cropped) };
  const seen = guidedAlpha(guide, wanted, radius);
  for (let i = 0; i < seen.data.length; i++)
    seen.data[i] = isSure(i) ? wanted.data[i]! : Math.max(0, Math.min(1, (seen.data[i]! - 0.5) * decided + 0.5));
  const guided = guidedAlpha(guide, seen, Math.max(2, radius >> 1)).data;
  for (let y = 0; y < area.height; y++)
    for (let x = 0; x < area.width; x++) {
      const i = y * area.width + x;
      // What the filter leaves of one side on the other is taken away.
      const value = isSure(i) ? wanted.data[i]! : Math.max(0, Math.min(1, (guided[i]! - 0.12) / 0.76));
      alpha.data[(area.y + y) * width + area.x + x] = Math.round(value * 255);
    }
  return alpha;
}

const scaled = ({ x, y, width, height }: Rect, by: number): Rect => ({
  x: Math.floor(x * by),
  y: Math.floor(y * by),
  width: Math.ceil(width * by),
  height: Math.ceil(height * by),
});

/** A part of an enlarged plane, in pixels of the large size. */
function part(mask: Plane, area: Rect, scale: number): Plane {
  if (scale === 1 && area.width === mask.width && area.height === mask.height) return mask;
  const x0 = Math.max(0, Math.floor(area.x / scale) - 1);
  const y0 = Math.max(0, Math.floor(area.y / scale) - 1);
  const x1 = Math.min(mask.width, Math.ceil((area.x + area.width) / scale) + 1);
  const y1 = Math.min(mask.height, Math.ceil((area.y + area.height) / scale) + 1);
  const crop = makePlane(x1 - x0, y1 - y0);
  for (let y = y0; y < y1; y++)
    crop.data.set(mask.data.subarray(y * mask.width + x0, y * mask.width + x1), (y - y0) * crop.width);
  const large = enlargedPlane(crop, Math.round(crop.width * scale), Math.round(crop.height * scale));
  const out = makePlane(area.width, area.height);
  const [dx, dy] = [area.x - Math.round(x0 * scale), area.y - Math.round(y0 * scale)];
  for (let y = 0; y < area.height; y++)
    for (let x = 0; x < area.width; x++) {
      const u = Math.max(0, Math.min(large.width - 1, x + dx));
      const v = Math.max(0, Math.min(large.height - 1, y + dy));
      out.data[y * area.width + x] = large.data[v * large.width + u]!;
    }
  return out;
}

/** The guided filter with its functions found at half the size and applied at the whole (He & Sun 2015). */
function guidedAlpha({ picture, small }: Record<'picture' | 'small', Rgba>, target: Plane, radius: number): Plane {
  const { width, height, data } = picture;
  const planes = guidingFunctions(small, enlargedPlane(target, small.width, small.height), Math.max(1, radius >> 1));
  const [u, v, w, offset] = planes.map((plane) => enlargedPlane(plane, width, height).data);
  const out = makePlane(width, height);
  for (let i = 0; i < out.data.length; i++) {
    const [r, g, b] = [data[i * 4]! / 255, data[i * 4 + 1]! / 255, data[i * 4 + 2]! / 255];
    out.data[i] = offset![i]! + u![i]! * r + v![i]! * g + w![i]! * b;
  }
  return out;
}

/** The linear function of the colours around each pixel that comes nearest to `target`: by red, green, blue, and its offset. */
function guidingFunctions(picture: Rgba, target: Plane, radius: number): Plane[] {
  const { width, height } = picture;
  const n = width * height;
  const [r, g, b] = [0, 1, 2].map((c) => channelOf(picture, c)) as [Float32Array, Float32Array, Float32Array];
  const mean = (data: Float32Array): Float32Array => boxBlur({ width, height, data }, radius).data;
  const meanOfProduct = (p: Float32Array, q: Float32Array): Float32Array => {
    const product = new Float32Array(n);
    for (let i = 0; i < n; i++) product[i] = p[i]! * q[i]!;
    return mean(product);
  };
  const t = target.data;
  const [mr, mg, mb, mt] = [mean(r), mean(g), mean(b), mean(t)];
  const [rt, gt, bt] = [meanOfProduct(r, t), meanOfProduct(g, t), meanOfProduct(b, t)];
  const [rr, rg, rb] = [meanOfProduct(r, r), meanOfProduct(r, g), meanOfProduct(r, b)];
  const [gg, gb, bb] = [meanOfProduct(g, g), meanOfProduct(g, b), meanOfProduct(b, b)];
  // The sums over windows give way to the function of each window: its slopes by colour, and its offset.
  for (let i = 0; i < n; i++) {
    const [a, c, e] = [mr[i]!, mg[i]!, mb[i]!];
    const [x, y, z] = [rt[i]! - a * mt[i]!, gt[i]! - c * mt[i]!, bt[i]! - e * mt[i]!];
    const s00 = rr[i]! - a * a + regularity;
    const s11 = gg[i]! - c * c + regularity;
    const s22 = bb[i]! - e * e + regularity;
    const [s01, s02, s12] = [rg[i]! - a * c, rb[i]! - a * e, gb[i]! - c * e];
    const [c00, c01, c02] = [s11 * s22 - s12 * s12, s02 * s12 - s01 * s22, s01 * s12 - s11 * s02];
    const [c11, c12, c22] = [s00 * s22 - s02 * s02, s02 * s01 - s00 * s12, s00 * s11 - s01 * s01];
    const scale = 1 / (s00 * c00 + s01 * c01 + s02 * c02);
    const u = (c00 * x + c01 * y + c02 * z) * scale;
    const v = (c01 * x + c11 * y + c12 * z) * scale;
    const w = (c02 * x + c12 * y + c22 * z) * scale;
    rt[i] = u;
    gt[i] = v;
    bt[i] = w;
    mt[i] = mt[i]! - u * a - v * c - w * e;
  }
  return [rt, gt, bt, mt].map((data) => ({ width, height, data: mean(data) }));
}

function channelOf({ width, height, data }: Rgba, channel: number): Float32Array {
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = data[i * 4 + channel]! / 255;
  return out;
}
