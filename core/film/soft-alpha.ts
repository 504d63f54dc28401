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
import { enlargedPlane } from '../pixels/resample.ts';

/** Squared deviation of colour, of 0..1, from which an edge of the picture is an edge of the alpha. */
const regularity = (9 / 255) ** 2;

/**
 * Alpha of a frame at full size from a soft mask at a smaller one: inside a band around its edge the colour guided filter
 * (He, Sun & Tang 2010), so that the edge lies where the picture has one; elsewhere the mask.
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
  const guided = guidedFilter(cropRgba(picture, area), wanted, radius);
  const near = boxBlur(wanted, 2 * radius).data;
  for (let y = 0; y < area.height; y++)
    for (let x = 0; x < area.width; x++) {
      const i = y * area.width + x;
      const sure = near[i]! < 0.002 || near[i]! > 0.998;
      // What the filter leaves of one side on the other is taken away.
      const value = sure ? wanted.data[i]! : Math.max(0, Math.min(1, (guided[i]! - 0.12) / 0.76));
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

/** The linear function of the colours around each pixel that comes nearest to `target`, taken at the pixel. */
function guidedFilter(picture: Rgba, target: Plane, radius: number): Float32Array {
  const { width, height } = picture;
  const n = width * height;
  const plane = (of: (i: number) => number): Plane => {
    const out = makePlane(width, height);
    for (let i = 0; i < n; i++) out.data[i] = of(i);
    return out;
  };
  const channels = [0, 1, 2].map((c) => plane((i) => picture.data[i * 4 + c]! / 255));
  const mean = (p: Plane): Float32Array => boxBlur(p, radius).data;
  const means = channels.map(mean);
  const meanTarget = mean(target);
  const covers = channels.map((channel, c) => {
    const product = mean(plane((i) => channel.data[i]! * target.data[i]!));
    return product.map((v, i) => v - means[c]![i]! * meanTarget[i]!);
  });
  const pairs = [
    [0, 0],
    [0, 1],
    [0, 2],
    [1, 1],
    [1, 2],
    [2, 2],
  ] as const;
  const variances = pairs.map(([a, b]) => {
    const product = mean(plane((i) => channels[a]!.data[i]! * channels[b]!.data[i]!));
    return product.map((v, i) => v - means[a]![i]! * means[b]![i]! + (a === b ? regularity : 0));
  });
  const slopes = [0, 1, 2].map(() => makePlane(width, height));
  const offset = makePlane(width, height);
  for (let i = 0; i < n; i++) {
    const [rr, rg, rb, gg, gb, bb] = variances.map((v) => v[i]!) as [number, number, number, number, number, number];
    const [x, y, z] = covers.map((v) => v[i]!) as [number, number, number];
    const [c00, c01, c02] = [gg * bb - gb * gb, rb * gb - rg * bb, rg * gb - rb * gg];
    const [c11, c12, c22] = [rr * bb - rb * rb, rb * rg - rr * gb, rr * gg - rg * rg];
    const determinant = rr * c00 + rg * c01 + rb * c02;
    const s = [
      (c00 * x + c01 * y + c02 * z) / determinant,
      (c01 * x + c11 * y + c12 * z) / determinant,
      (c02 * x + c12 * y + c22 * z) / determinant,
    ];
    let rest = meanTarget[i]!;
    for (let c = 0; c < 3; c++) {
      slopes[c]!.data[i] = s[c]!;
      rest -= s[c]! * means[c]![i]!;
    }
    offset.data[i] = rest;
  }
  const meanSlopes = slopes.map(mean);
  const meanOffset = mean(offset);
  return meanOffset.map((v, i) => {
    let sum = v;
    for (let c = 0; c < 3; c++) sum += meanSlopes[c]![i]! * channels[c]!.data[i]!;
    return sum;
  });
}
