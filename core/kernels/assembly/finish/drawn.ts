import { at, lightOf, mixed, pixel, storePixel, within } from './vectors';

/* A photo as if drawn: flats by a four-sector Kuwahara filter (Kuwahara 1976), a few levels of light, and ink lines. */

/** Light 0..1 times alpha 0..1. */
export function lightsOf(data: usize, pixels: i32, to: usize): void {
  for (let k = 0; k < pixels; k++) {
    const i = at(data, k, 4);
    store<f32>(at(to, k, 4), lightOf(pixel(i)) * <f32>load<u8>(i, 3) * <f32>(1.0 / 65025.0));
  }
}

/** Premultiplied colours, alpha, and beside them (two doubles) light and its square times alpha, for a row. */
// @ts-ignore: a decorator of the compiler
@inline
function addRow(data: usize, width: i32, sums: usize, sign: f32): void {
  for (let x = 0; x < width; x++) {
    const i = at(data, x, 4);
    const alpha = <f32>load<u8>(i, 3) * <f32>(1.0 / 255.0) * sign;
    if (alpha == 0) continue;
    const colour = pixel(i);
    const s = at(sums, x, 32);
    v128.store(s, f32x4.add(v128.load(s), f32x4.mul(f32x4.replace_lane(colour, 3, 1), f32x4.splat(alpha))));
    // How little light varies is a small difference of large sums: those are doubles.
    const light = <f64>lightOf(colour) - 128;
    const more = f64x2.replace_lane(f64x2.splat(light), 1, light * light);
    v128.store(s, f64x2.add(v128.load(s, 16), f64x2.mul(more, f64x2.splat(<f64>alpha))), 16);
  }
}

/**
 * For a row of places, the mean colour of the square of `side` pixels whose upper left corner each is, and in its fourth number how
 * much light varies in it; where nothing is there, it varies without end.
 * @param sums of columns, 32 bytes each
 */
function meansOfRow(sums: usize, width: i32, side: i32, to: usize): void {
  let colours = f32x4.splat(0);
  let lights = f64x2.splat(0);
  for (let x = width - 1; x > -side; x--) {
    if (x >= 0) {
      colours = f32x4.add(colours, v128.load(at(sums, x, 32)));
      lights = f64x2.add(lights, v128.load(at(sums, x, 32), 16));
    }
    if (x + side < width) {
      colours = f32x4.sub(colours, v128.load(at(sums, x + side, 32)));
      lights = f64x2.sub(lights, v128.load(at(sums, x + side, 32), 16));
    }
    const weight = f32x4.extract_lane(colours, 3);
    const out = at(to, x + side - 1, 16);
    if (weight <= 0.002) {
      v128.store(out, f32x4.splat(1e9));
      continue;
    }
    const share: f32 = <f32>1 / weight;
    const mean = f64x2.extract_lane(lights, 0) / <f64>weight;
    const varies = f64x2.extract_lane(lights, 1) / <f64>weight - mean * mean;
    v128.store(out, f32x4.replace_lane(f32x4.mul(colours, f32x4.splat(share)), 3, <f32>varies));
  }
}

/**
 * Each pixel takes the mean of that quarter of its surroundings that varies least.
 * @param means memory for (radius + 1) rows of width + radius vectors  @param sums for width x 32 bytes
 * @param source a copy of the pixels
 */
export function flatten(
  data: usize,
  width: i32,
  height: i32,
  radius: i32,
  source: usize,
  sums: usize,
  means: usize,
): void {
  const side = radius + 1;
  const row = (width + radius) * 16;
  memory.fill(sums, 0, <usize>width * 32);
  // A row of means belongs to the squares that end in a row of pixels; as many are kept as reach below a pixel.
  for (let bottom = 0; bottom < height + radius; bottom++) {
    if (bottom < height) addRow(at(source, bottom * width, 4), width, sums, 1);
    if (bottom - side >= 0) addRow(at(source, (bottom - side) * width, 4), width, sums, -1);
    meansOfRow(sums, width, side, at(means, bottom % side, row));
    const y = bottom - radius;
    if (y >= 0) takeLeast(at(data, y * width, 4), width, radius, at(means, y % side, row), at(means, bottom % side, row));
  }
}

/** @param above means of squares that end in this row  @param below of those that begin in it */
function takeLeast(data: usize, width: i32, radius: i32, above: usize, below: usize): void {
  for (let x = 0; x < width; x++) {
    const i = at(data, x, 4);
    const alpha = load<u8>(i, 3);
    if (alpha == 0) continue;
    // A square that ends at x begins `radius` before it, and the first of a row begins that far outside.
    let best = v128.load(at(above, x, 16));
    best = lesser(best, v128.load(at(above, x + radius, 16)));
    best = lesser(best, v128.load(at(below, x, 16)));
    best = lesser(best, v128.load(at(below, x + radius, 16)));
    storePixel(i, best);
    store<u8>(i, alpha, 3);
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function lesser(a: v128, b: v128): v128 {
  return f32x4.extract_lane(b, 3) < f32x4.extract_lane(a, 3) ? b : a;
}

/** Levels of light with soft steps (none below 1), then ink. @param ink 0..1 a pixel, from a fine and a coarse blur */
export function inkOver(
  data: usize,
  pixels: i32,
  fine: usize,
  coarse: usize,
  levels: f32,
  strength: f32,
  red: f32,
  green: f32,
  blue: f32,
): void {
  const ink = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(red), 1, green), 2, blue);
  const step: f32 = <f32>255 / max<f32>(1, levels);
  for (let k = 0; k < pixels; k++) {
    const i = at(data, k, 4);
    const alpha = load<u8>(i, 3);
    if (alpha == 0) continue;
    let colour = pixel(i);
    if (levels >= 1) {
      const now = lightOf(colour);
      const share = now / step;
      const low = floor<f32>(share);
      const wanted = step * (low + <f32>0.5 + <f32>0.5 * tanh(6 * (share - low - <f32>0.5)));
      colour = f32x4.mul(colour, f32x4.splat(<f32>0.35 + (<f32>0.65 * wanted) / max<f32>(8, now)));
      colour = f32x4.pmin(colour, f32x4.splat(255));
    }
    const difference = load<f32>(at(fine, k, 4)) * 19 - load<f32>(at(coarse, k, 4)) * 18 - <f32>0.42;
    if (difference < 0) colour = mixed(colour, ink, f32x4.splat(strength * min<f32>(1, -tanh(difference * 5))));
    storePixel(i, colour);
    store<u8>(i, alpha, 3);
  }
}

/** Hyperbolic tangent by a continued fraction (Lambert 1768) of five terms: within 1e-4 as far as it rises. */
// @ts-ignore: a decorator of the compiler
@inline
function tanh(x: f32): f32 {
  const t = within(x, -4.9, 4.9);
  const s = t * t;
  const over = t * (135135 + s * (17325 + s * (378 + s)));
  return within(over / (135135 + s * (62370 + s * (3150 + s * 28))), -1, 1);
}
