import { everyBlue, everyGreen, everyRed } from './pixels';
import { sumOf } from './vectors';

/** Least difference across four pixels at which a trace is looked for, bytes. */
const leastStep: f32 = 20;

/**
 * Adds up, along rows, the energy of the two differences that are zero between enlarged samples, at even and at odd pixels.
 * @param wr,wg,wb weights of the colour difference that is looked at  @param width,height of the picture  @param wide pixels of a row in memory  @param every of so many rows one is looked at
 * @param row scratch, a float a pixel and 32 bytes  @param out six floats: repeated, blended and count, even before odd, added to
 */
export function tracesAcross(
  picture: usize,
  width: i32,
  height: i32,
  wide: i32,
  every: i32,
  row: usize,
  wr: f32,
  wg: f32,
  wb: f32,
  out: usize,
): void {
  let repeated = f32x4.splat(0);
  let blended = f32x4.splat(0);
  let count = f32x4.splat(0);
  for (let y = 1; y < height; y += every) {
    const from = picture + <usize>(y * wide * 4);
    for (let x = 0; x < wide; x += 4) v128.store(row + <usize>(x * 4), colourOf(from + <usize>(x * 4), wr, wg, wb));
    // Four pixels at once, from the second of the row on: lanes are odd, even, odd, even.
    for (let x = 1; x + 5 < width; x += 4) {
      const at = row + <usize>(x * 4);
      const across = f32x4.sub(v128.load(at - 4), v128.load(at + 8));
      const edge = f32x4.ge(f32x4.abs(across), f32x4.splat(leastStep));
      if (!v128.any_true(edge)) continue;
      const inner = f32x4.sub(v128.load(at), v128.load(at + 4));
      repeated = f32x4.add(repeated, v128.and(edge, f32x4.mul(inner, inner)));
      const trace = traceOf(inner, across);
      blended = f32x4.add(blended, v128.and(edge, f32x4.mul(trace, trace)));
      count = f32x4.add(count, v128.and(edge, f32x4.splat(1)));
    }
  }
  addByPhase(repeated, out);
  addByPhase(blended, out + 8);
  addByPhase(count, out + 16);
}

/** The same along columns, four neighbours at once; of every `every` columns one group is looked at. */
export function tracesDown(
  picture: usize,
  width: i32,
  height: i32,
  wide: i32,
  every: i32,
  wr: f32,
  wg: f32,
  wb: f32,
  out: usize,
): void {
  const stride = <usize>(wide * 4);
  for (let x = 4; x + 4 <= width; x += every & ~3) {
    let at = picture + <usize>(x * 4);
    let before = colourOf(at, wr, wg, wb);
    let here = colourOf(at + stride, wr, wg, wb);
    let next = colourOf(at + stride * 2, wr, wg, wb);
    for (let y = 1; y + 2 < height; y++) {
      const after = colourOf(at + stride * 3, wr, wg, wb);
      const across = f32x4.sub(before, after);
      const edge = f32x4.ge(f32x4.abs(across), f32x4.splat(leastStep));
      if (v128.any_true(edge)) {
        const inner = f32x4.sub(here, next);
        const trace = traceOf(inner, across);
        const phase = <usize>((y & 1) * 4);
        addTo(out + phase, v128.and(edge, f32x4.mul(inner, inner)));
        addTo(out + phase + 8, v128.and(edge, f32x4.mul(trace, trace)));
        addTo(out + phase + 16, v128.and(edge, f32x4.splat(1)));
      }
      before = here;
      here = next;
      next = after;
      at += stride;
    }
  }
}

// @ts-ignore: decorator
@inline
function traceOf(inner: v128, across: v128): v128 {
  return f32x4.sub(f32x4.mul(inner, f32x4.splat(1.5)), f32x4.mul(across, f32x4.splat(0.5)));
}

// @ts-ignore: decorator
@inline
function colourOf(at: usize, wr: f32, wg: f32, wb: f32): v128 {
  const pixels = v128.load(at);
  const red = f32x4.mul(everyRed(pixels), f32x4.splat(wr));
  const green = f32x4.mul(everyGreen(pixels), f32x4.splat(wg));
  return f32x4.add(f32x4.add(red, green), f32x4.mul(everyBlue(pixels), f32x4.splat(wb)));
}

function addByPhase(v: v128, out: usize): void {
  store<f32>(out, load<f32>(out) + f32x4.extract_lane(v, 1) + f32x4.extract_lane(v, 3));
  store<f32>(out + 4, load<f32>(out + 4) + f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 2));
}

// @ts-ignore: decorator
@inline
function addTo(out: usize, v: v128): void {
  store<f32>(out, load<f32>(out) + sumOf(v));
}
