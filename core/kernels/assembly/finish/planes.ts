import { at, colourOf, ditherAt, mixed, opaqueOf, pixel, storePixel, within } from './vectors';

/* Planes hold one float a pixel: coverage 0..1, or distances. */

/** Alpha as numbers 0..1. */
export function alphaOf(data: usize, pixels: i32, to: usize): void {
  const share = f32x4.splat(1.0 / 255.0);
  for (let k = 0; k < pixels; k += 4) {
    const alphas = f32x4.convert_i32x4_s(i32x4.shr_u(v128.load(at(data, k, 4)), 24));
    v128.store(at(to, k, 4), f32x4.mul(alphas, share));
  }
}

/** Writes the part of a picture that is not clear as four numbers (i32): left, top, and behind its right and bottom. */
export function seenPart(data: usize, width: i32, height: i32, to: usize): void {
  let left = width;
  let top = height;
  let right = 0;
  let bottom = 0;
  for (let y = 0; y < height; y++) {
    const row = at(data, y * width, 4);
    const first = firstSeen(row, width);
    if (first == width) continue;
    let last = width - 1;
    while (load<u8>(at(row, last, 4), 3) == 0) last--;
    left = min(left, first);
    right = max(right, last + 1);
    if (top == height) top = y;
    bottom = y + 1;
  }
  store<i32>(to, left);
  store<i32>(to, top, 4);
  store<i32>(to, right, 8);
  store<i32>(to, bottom, 12);
}

function firstSeen(row: usize, width: i32): i32 {
  let x = 0;
  while (x + 4 <= width && !v128.any_true(i32x4.shr_u(v128.load(at(row, x, 4)), 24))) x += 4;
  while (x < width && load<u8>(at(row, x, 4), 3) == 0) x++;
  return x;
}

/** A plane moved by whole pixels; what comes in is 0. */
export function shift(from: usize, width: i32, height: i32, dx: i32, dy: i32, to: usize): void {
  memory.fill(to, 0, <usize>(width * height * 4));
  const count = width - abs(dx);
  if (count <= 0) return;
  for (let y = max(0, dy); y < min(height, height + dy); y++) {
    const row = at(from, (y - dy) * width + max(0, -dx), 4);
    memory.copy(at(to, y * width + max(0, dx), 4), row, <usize>(count * 4));
  }
}

/** Every value 0..1 through a table of `steps` + 1 floats, between which it is mixed. */
export function throughTable(plane: usize, count: i32, table: usize, steps: i32): void {
  for (let k = 0; k < count; k++) {
    const i = at(plane, k, 4);
    const place = within(load<f32>(i), 0, 1) * <f32>steps;
    const n = min(<i32>place, steps - 1);
    const low = load<f32>(at(table, n, 4));
    store<f32>(i, low + (load<f32>(at(table, n, 4), 4) - low) * (place - <f32>n));
  }
}

/** a - b, never below 0, written into b. */
export function difference(a: usize, b: usize, count: i32): void {
  for (let k = 0; k < count; k += 4) {
    const i = at(b, k, 4);
    v128.store(i, f32x4.pmax(f32x4.splat(0), f32x4.sub(v128.load(at(a, k, 4)), v128.load(i))));
  }
}

/** 1 between two distances, falling to 0 over `ramp` about both, in place. */
export function band(plane: usize, count: i32, from: f32, to: f32, ramp: f32): void {
  const share = f32x4.splat(1 / ramp);
  const one = f32x4.splat(1);
  const none = f32x4.splat(0);
  const half = f32x4.splat(0.5);
  for (let k = 0; k < count; k += 4) {
    const i = at(plane, k, 4);
    const d = v128.load(i);
    const enter = f32x4.add(f32x4.mul(f32x4.sub(d, f32x4.splat(from)), share), half);
    const leave = f32x4.add(f32x4.mul(f32x4.sub(f32x4.splat(to), d), share), half);
    const both = f32x4.mul(f32x4.pmax(none, f32x4.pmin(one, enter)), f32x4.pmax(none, f32x4.pmin(one, leave)));
    v128.store(i, both);
  }
}

/** Mixes three planes into the third by how far each place is: the first at 0, the second at 1/2, the third at 1. */
export function mixThree(near: usize, middle: usize, far: usize, count: i32, place: usize): void {
  const none = f32x4.splat(0);
  const one = f32x4.splat(1);
  for (let k = 0; k < count; k += 4) {
    const i = at(far, k, 4);
    const p = v128.load(at(place, k, 4));
    const share = f32x4.pmax(none, f32x4.pmin(f32x4.splat(2), f32x4.add(p, p)));
    const beyond = f32x4.gt(share, one);
    const second = v128.load(at(middle, k, 4));
    const from = v128.bitselect(second, v128.load(at(near, k, 4)), beyond);
    const to = v128.bitselect(v128.load(i), second, beyond);
    v128.store(i, mixed(from, to, f32x4.sub(share, v128.and(one, beyond))));
  }
}

/** Less coverage than this is none. */
const least: f32 = 0.001;

/** Whether none of four pixels is covered. */
// @ts-ignore: a decorator of the compiler
@inline
function bare(coverage: usize, k: i32, opacity: f32): bool {
  const covered = f32x4.gt(f32x4.mul(v128.load(at(coverage, k, 4)), f32x4.splat(opacity)), f32x4.splat(least));
  return !v128.any_true(covered);
}

/** Lays a colour with a coverage under what is there (Porter & Duff destination-over), dithered. */
export function layUnder(
  data: usize,
  width: i32,
  height: i32,
  coverage: usize,
  red: f32,
  green: f32,
  blue: f32,
  opacity: f32,
): void {
  const colour = colourOf(red, green, blue);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      const i = at(data, k, 4);
      if (x + 4 <= width && (bare(coverage, k, opacity) || i32x4.all_true(opaqueOf(v128.load(i))))) {
        x += 3;
        continue;
      }
      const own = <f32>load<u8>(i, 3) * <f32>(1.0 / 255.0);
      const under = load<f32>(at(coverage, k, 4)) * opacity;
      if (under <= least || own >= 1) continue;
      const added = under * (1 - own);
      const alpha = own + added;
      const made = mixed(pixel(i), colour, f32x4.splat(added / alpha));
      const noise = own == 0 ? ditherAt(x, y) * min<f32>(1, under * 8) : 0;
      storePixel(i, f32x4.replace_lane(made, 3, alpha * 255 + noise));
    }
  }
}

/** Lays a colour with a coverage over what is there (source-over). */
export function layOver(data: usize, count: i32, coverage: usize, red: f32, green: f32, blue: f32, opacity: f32): void {
  const colour = colourOf(red, green, blue);
  for (let k = 0; k < count; k++) {
    if (k + 4 <= count && bare(coverage, k, opacity)) {
      k += 3;
      continue;
    }
    const i = at(data, k, 4);
    const over = load<f32>(at(coverage, k, 4)) * opacity;
    if (over <= least) continue;
    const alpha = over + <f32>load<u8>(i, 3) * <f32>(1.0 / 255.0) * (1 - over);
    const made = mixed(pixel(i), colour, f32x4.splat(over / alpha));
    storePixel(i, f32x4.replace_lane(made, 3, alpha * 255));
  }
}

/** Lays a colour with a coverage over what is there and nowhere else (source-atop): alpha stays. */
export function layAtop(data: usize, count: i32, coverage: usize, red: f32, green: f32, blue: f32, opacity: f32): void {
  const colour = colourOf(red, green, blue);
  for (let k = 0; k < count; k++) {
    if (k + 4 <= count && bare(coverage, k, opacity)) {
      k += 3;
      continue;
    }
    const i = at(data, k, 4);
    const over = load<f32>(at(coverage, k, 4)) * opacity;
    const alpha = load<u8>(i, 3);
    if (over <= least || alpha == 0) continue;
    storePixel(i, mixed(pixel(i), colour, f32x4.splat(over)));
    store<u8>(i, alpha, 3);
  }
}
