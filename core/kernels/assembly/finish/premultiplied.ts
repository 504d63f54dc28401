import { at, ditherAt, lightOf, mixed, pixel, storePixel, withAlpha } from './vectors';

/* Pictures of four floats a pixel, 0..255: colours times alpha, and alpha. */

/** Adds straight pixels, premultiplied and times a weight, to a sum. */
export function addPremultiplied(sum: usize, data: usize, pixels: i32, weight: f32): void {
  const share = weight / 255;
  for (let k = 0; k < pixels; k++) {
    const alpha = <f32>load<u8>(at(data, k, 4), 3);
    if (alpha == 0) continue;
    const colour = f32x4.mul(pixel(at(data, k, 4)), f32x4.splat(alpha * share));
    const i = at(sum, k, 16);
    v128.store(i, f32x4.add(v128.load(i), f32x4.replace_lane(colour, 3, alpha * weight)));
  }
}

/** What is brighter than a threshold 0..1, premultiplied, by how much brighter it is. */
export function brightParts(data: usize, pixels: i32, threshold: f32, to: usize): void {
  const range: f32 = <f32>1 / max<f32>(0.02, <f32>1 - threshold);
  for (let k = 0; k < pixels; k++) {
    const i = at(data, k, 4);
    const alpha = <f32>load<u8>(i, 3);
    if (alpha == 0) {
      v128.store(at(to, k, 16), f32x4.splat(0));
      continue;
    }
    const colour = pixel(i);
    const part = max<f32>(0, (lightOf(colour) * <f32>(1.0 / 255.0) - threshold) * range) * alpha;
    const made = f32x4.mul(colour, f32x4.splat(part * <f32>(1.0 / 255.0)));
    v128.store(at(to, k, 16), f32x4.replace_lane(made, 3, part));
  }
}

/** Light screened over a picture, premultiplied: it adds and never clips hard. @param tint four factors of the light */
export function shine(data: usize, width: i32, height: i32, light: usize, tint: usize): void {
  const factors = v128.load(tint);
  const whole = f32x4.splat(255);
  const share = f32x4.splat(1.0 / 255.0);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      const added = f32x4.pmin(whole, f32x4.mul(v128.load(at(light, k, 16)), factors));
      if (!v128.any_true(f32x4.gt(added, f32x4.splat(0.01)))) continue;
      const i = at(data, k, 4);
      const own = premultipliedAt(i);
      storeStraight(i, f32x4.add(own, f32x4.mul(added, f32x4.sub(f32x4.splat(1), f32x4.mul(own, share)))), x, y);
    }
  }
}

/** Half as large: means of 2 x 2 straight pixels, premultiplied; at an odd end the last ones again. */
export function halvePremultiplied(data: usize, width: i32, height: i32, to: usize): void {
  const columns = (width + 1) >> 1;
  for (let y = 0; 2 * y < height; y++) {
    const upper = at(data, 2 * y * width, 4);
    const lower = at(data, min(height - 1, 2 * y + 1) * width, 4);
    const out = at(to, y * columns, 16);
    for (let x = 0; x < columns; x++) {
      const left = at(0, 2 * x, 4);
      const right = at(0, min(width - 1, 2 * x + 1), 4);
      const above = f32x4.add(premultipliedAt(upper + left), premultipliedAt(upper + right));
      const below = f32x4.add(premultipliedAt(lower + left), premultipliedAt(lower + right));
      v128.store(at(out, x, 16), f32x4.mul(f32x4.add(above, below), f32x4.splat(0.25)));
    }
  }
}

/** A picture half as large at a pixel of the whole one, between the middles of its own (bilinear, as sizes.ts enlarges). */
// @ts-ignore: a decorator of the compiler
@inline
function halfAt(half: usize, columns: i32, rows: i32, x: i32, y: i32): v128 {
  const u = x >> 1;
  const v = y >> 1;
  const beside = min(columns - 1, max(0, (x & 1) == 0 ? u - 1 : u + 1));
  const line = at(half, v * columns, 16);
  const next = at(half, min(rows - 1, max(0, (y & 1) == 0 ? v - 1 : v + 1)) * columns, 16);
  const quarter = f32x4.splat(0.25);
  const own = mixed(v128.load(at(line, u, 16)), v128.load(at(next, u, 16)), quarter);
  return mixed(own, mixed(v128.load(at(line, beside, 16)), v128.load(at(next, beside, 16)), quarter), quarter);
}

/**
 * Light of what lies behind, screened over colours near the edge.
 * @param inside how far inside a pixel is, 1/2 on the edge  @param halved whether `behind` is half as large
 */
export function wrap(data: usize, width: i32, height: i32, inside: usize, behind: usize, halved: i32, amount: f32): void {
  const whole = f32x4.splat(255);
  const columns = (width + 1) >> 1;
  const rows = (height + 1) >> 1;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      const edge = min<f32>(1, max<f32>(0, 2 * (1 - load<f32>(at(inside, k, 4))))) * amount;
      const i = at(data, k, 4);
      if (edge == 0 || load<u8>(i, 3) == 0) continue;
      const own = pixel(i);
      const light = halved ? halfAt(behind, columns, rows, x, y) : v128.load(at(behind, k, 16));
      const share = f32x4.mul(light, f32x4.splat(edge / 255));
      storePixel(i, withAlpha(f32x4.add(own, f32x4.mul(f32x4.sub(whole, own), share)), own));
    }
  }
}

/** Writes a picture as straight pixels, dithered by less than a step so that soft ramps show no bands. */
export function writeStraight(data: usize, width: i32, height: i32, sum: usize): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      storeStraight(at(data, k, 4), v128.load(at(sum, k, 16)), x, y);
    }
  }
}

/** The same, but as much of it as was there. */
export function writeColours(data: usize, width: i32, height: i32, sum: usize): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      const i = at(data, k, 4);
      const alpha = load<u8>(i, 3);
      if (alpha == 0) continue;
      storeStraight(i, v128.load(at(sum, k, 16)), x, y);
      store<u8>(i, alpha, 3);
    }
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function premultipliedAt(address: usize): v128 {
  const alpha = <f32>load<u8>(address, 3);
  const colour = f32x4.mul(pixel(address), f32x4.splat(alpha * <f32>(1.0 / 255.0)));
  return f32x4.replace_lane(colour, 3, alpha);
}

/** Stores a sum as a straight pixel, dithered. */
// @ts-ignore: a decorator of the compiler
@inline
export function storeStraight(address: usize, sum: v128, x: i32, y: i32): void {
  const alpha = f32x4.extract_lane(sum, 3);
  if (alpha <= 0) {
    store<u8>(address, 0, 3);
    return;
  }
  const noise = ditherAt(x, y);
  const colour = f32x4.add(f32x4.mul(sum, f32x4.splat(255 / alpha)), f32x4.splat(noise));
  storePixel(address, f32x4.replace_lane(colour, 3, alpha < 255 ? alpha + noise : alpha));
}
