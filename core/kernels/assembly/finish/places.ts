import { at, ditherAt, within } from './vectors';

/* What depends on where a pixel is. */

// @ts-ignore: a decorator of the compiler
@inline
function smooth(t: f32): f32 {
  return t * t * (3 - 2 * t);
}

/**
 * Shade that rises outwards from an ellipse, dithered by less than a step of 8 bits where there is any.
 * @param size, softness in radii
 */
export function ellipse(
  plane: usize,
  width: i32,
  height: i32,
  cx: f32,
  cy: f32,
  rx: f32,
  ry: f32,
  size: f32,
  softness: f32,
  strength: f32,
): void {
  for (let y = 0; y < height; y++) {
    const v = (<f32>y + <f32>0.5 - cy) / ry;
    for (let x = 0; x < width; x++) {
      const u = (<f32>x + <f32>0.5 - cx) / rx;
      const value = smooth(within((sqrt<f32>(u * u + v * v) - size) / softness, 0, 1)) * strength;
      const noise = value > 0 ? ditherAt(x, y) * <f32>(1.0 / 128.0) : 0;
      store<f32>(at(plane, y * width + x, 4), max<f32>(0, value + noise));
    }
  }
}

/** Gives the pixels of a rectangle their mean, colours by their alpha. */
export function evenOut(data: usize, width: i32, left: i32, top: i32, right: i32, bottom: i32): void {
  let red: u64 = 0;
  let green: u64 = 0;
  let blue: u64 = 0;
  let sum: u64 = 0;
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) {
      const i = at(data, y * width + x, 4);
      const alpha = <u32>load<u8>(i, 3);
      red += <u64>(load<u8>(i) * alpha);
      green += <u64>(load<u8>(i, 1) * alpha);
      blue += <u64>(load<u8>(i, 2) * alpha);
      sum += <u64>alpha;
    }
  }
  const count = <f64>max(1, (right - left) * (bottom - top));
  const share: f64 = sum > 0 ? 1 / <f64>sum : 0;
  const colour: u32 =
    <u32>nearest<f64>(<f64>red * share) |
    (<u32>nearest<f64>(<f64>green * share) << 8) |
    (<u32>nearest<f64>(<f64>blue * share) << 16) |
    (<u32>nearest<f64>(<f64>sum / count) << 24);
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) store<u32>(at(data, y * width + x, 4), colour);
  }
}

/** Red from one side and blue from the other, both by their alpha; there is as much as the most of the three. */
export function pullApart(source: usize, width: i32, height: i32, dx: i32, dy: i32, data: usize): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const own = at(source, y * width + x, 4);
      const reds = placeIn(source, width, height, x + dx, y + dy);
      const blues = placeIn(source, width, height, x - dx, y - dy);
      const alpha = <u32>load<u8>(own, 3);
      const redAlpha: u32 = reds ? load<u8>(reds, 3) : 0;
      const blueAlpha: u32 = blues ? load<u8>(blues, 3) : 0;
      const most = max(alpha, max(redAlpha, blueAlpha));
      const to = at(data, y * width + x, 4);
      if (most == 0) {
        store<u32>(to, 0);
        continue;
      }
      const share: f32 = <f32>1 / <f32>most;
      store<u8>(to, <u8>nearest<f32>(reds ? <f32>(load<u8>(reds) * redAlpha) * share : 0));
      store<u8>(to, <u8>nearest<f32>(<f32>(load<u8>(own, 1) * alpha) * share), 1);
      store<u8>(to, <u8>nearest<f32>(blues ? <f32>(load<u8>(blues, 2) * blueAlpha) * share : 0), 2);
      store<u8>(to, <u8>most, 3);
    }
  }
}

/** Address of a pixel, 0 outside. */
// @ts-ignore: a decorator of the compiler
@inline
function placeIn(data: usize, width: i32, height: i32, x: i32, y: i32): usize {
  return x >= 0 && y >= 0 && x < width && y < height ? at(data, y * width + x, 4) : 0;
}

/**
 * Lays pixels over what they were, by a share at each place; colours count by their alpha.
 * @param settings f32: round (1) or along a line (0), whether the rest of it is meant (1), then for a line what x, y and 1 are
 *   times, for an ellipse its middle, radii, and size; last 1 / softness
 */
export function mixBack(data: usize, before: usize, width: i32, height: i32, settings: usize): void {
  const round = load<f32>(settings) > 0;
  const rest = load<f32>(settings, 4) > 0;
  const a = load<f32>(settings, 8);
  const b = load<f32>(settings, 12);
  const c = load<f32>(settings, 16);
  const d = load<f32>(settings, 20);
  const size = load<f32>(settings, 24);
  const sharp = load<f32>(settings, 28);
  for (let y = 0; y < height; y++) {
    const v = <f32>y + <f32>0.5;
    for (let x = 0; x < width; x++) {
      const u = <f32>x + <f32>0.5;
      const dx = (u - a) * c;
      const dy = (v - b) * d;
      const along: f32 = round ? size - sqrt<f32>(dx * dx + dy * dy) : u * a + v * b + c;
      const rise = smooth(within(along * sharp + <f32>0.5, 0, 1));
      const share: f32 = rest ? <f32>1 - rise : rise;
      if (share < 1) mixPixel(at(data, y * width + x, 4), at(before, y * width + x, 4), share);
    }
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function mixPixel(now: usize, before: usize, share: f32): void {
  const was = <f32>load<u8>(before, 3) * (1 - share);
  const is = <f32>load<u8>(now, 3) * share;
  const alpha = was + is;
  const part: f32 = alpha > 0 ? <f32>1 / alpha : 0;
  for (let c: usize = 0; c < 3; c++)
    store<u8>(now + c, <u8>nearest<f32>((<f32>load<u8>(before + c) * was + <f32>load<u8>(now + c) * is) * part));
  store<u8>(now, <u8>nearest<f32>(alpha), 3);
}
