import { blockHeight, bluePlane, mixture, redPlane, screen, side, stride, subject } from './frame';
import { bytesOf, everyBlue, everyGreen, everyRed, everySecond } from './pixels';
import { greenOf, lumaOf } from './vectors';

/** The channels of the screen's light: 0 red, 1 green, 2 blue, strongest first. */
let high: i32 = 0;
let middle: i32 = 0;
let low: i32 = 0;
/** Whether the screen's light is in one channel, or in two like magenta's. */
let single: bool = true;
/** Share of the screen's hue that is taken off; 0 for screens without hue too. */
let spill: f32 = 0;
export function describeSpill(amount: f32, highest: i32, second: i32, lowest: i32, inOneChannel: bool): void {
  spill = amount;
  high = highest;
  middle = second;
  low = lowest;
  single = inOneChannel;
}

/**
 * Straight colours of the subject with its alpha.
 * @param solid a byte a block with margins, or 0 when colour is there for every pixel  @param out RGBA
 */
export function coloursOf(picture: usize, alpha: usize, solid: usize, out: usize): void {
  for (let by = 0; by < blockHeight; by++) {
    for (let cx = 0; cx < stride / side; cx++) {
      const a = alpha + <usize>(by * 4 * stride + cx * 8);
      const b = a + <usize>(2 * stride);
      const top = load<u64>(a);
      const below = load<u64>(b);
      const at = <usize>(by * stride * 16 + cx * 32);
      const next = at + <usize>(stride * 8);
      if ((top | below) == 0) {
        const zero = i32x4.splat(0);
        v128.store(out + at, zero);
        v128.store(out + at + 16, zero);
        v128.store(out + next, zero);
        v128.store(out + next + 16, zero);
        continue;
      }
      const whole = (top & below) == ~(<u64>0);
      const certain = solid != 0 && load<u8>(mixture + <usize>((by / side) * (stride / side) + cx)) == 1;
      const quiet = certain || solid == 0 ? i32x4.splat(-1) : quietBlocks(solid, by, cx);
      if (whole && i32x4.all_true(quiet)) {
        for (let k: usize = 0; k < 32; k += 16) {
          v128.store(out + at + k, withoutHue(v128.load(picture + at + k)));
          v128.store(out + next + k, withoutHue(v128.load(picture + next + k)));
        }
        continue;
      }
      coloursOfUnit(picture, at, next, a, b, by, cx, solid != 0, quiet, out);
    }
  }
}

/** Lanes of ones for the blocks of a unit that are solid and lie among solid blocks. */
function quietBlocks(solid: usize, by: i32, cx: i32): v128 {
  const wide = <usize>(stride + 2 * side);
  const at = solid + <usize>(by + 1) * wide + <usize>(side + cx * side);
  const rows = load<u32>(at) & load<u32>(at - wide) & load<u32>(at + wide);
  const before = load<u32>(at - 1) & load<u32>(at - 1 - wide) & load<u32>(at - 1 + wide);
  const after = load<u32>(at + 1) & load<u32>(at + 1 - wide) & load<u32>(at + 1 + wide);
  const flags = i32x4.splat(<i32>(rows & before & after));
  return i32x4.ne(v128.and(flags, i32x4(1, 0x100, 0x10000, 0x1000000)), i32x4.splat(0));
}

function coloursOfUnit(
  picture: usize,
  at: usize,
  next: usize,
  a: usize,
  b: usize,
  by: i32,
  cx: i32,
  halved: bool,
  quiet: v128,
  out: usize,
): void {
  const topLeft = shareOf(a, 0);
  const topRight = shareOf(a, 1);
  const lowLeft = shareOf(b, 0);
  const lowRight = shareOf(b, 1);
  const sum = f32x4.add(f32x4.add(topLeft, topRight), f32x4.add(lowLeft, lowRight));
  const cover = f32x4.mul(sum, f32x4.splat(0.25));
  const k0 = solved(everySecond(picture + at, 0), topLeft, by, cx, cover, halved, quiet);
  const k1 = solved(everySecond(picture + at, 1), topRight, by, cx, cover, halved, quiet);
  const k2 = solved(everySecond(picture + next, 0), lowLeft, by, cx, cover, halved, quiet);
  const k3 = solved(everySecond(picture + next, 1), lowRight, by, cx, cover, halved, quiet);
  v128.store(out + at, v128.shuffle<i32>(k0, k1, 0, 4, 1, 5));
  v128.store(out + at + 16, v128.shuffle<i32>(k0, k1, 2, 6, 3, 7));
  v128.store(out + next, v128.shuffle<i32>(k2, k3, 0, 4, 1, 5));
  v128.store(out + next + 16, v128.shuffle<i32>(k2, k3, 2, 6, 3, 7));
}

/** Alpha of every second of eight pixels, 0..1. */
// @ts-ignore: decorator
@inline
function shareOf(at: usize, odd: i32): v128 {
  const pairs = i32x4.extend_low_i16x8_u(v128.load64_zero(at));
  const bytes = v128.and(odd == 0 ? pairs : i32x4.shr_u(pairs, 8), i32x4.splat(255));
  return f32x4.mul(f32x4.convert_i32x4_s(bytes), f32x4.splat(1.0 / 255.0));
}

function solved(pixels: v128, a: v128, by: i32, cx: i32, cover: v128, halved: bool, quiet: v128): v128 {
  const cell = <usize>(((by / side) * (stride / side) + cx) * 16);
  const behind = screen + cell;
  const sl = v128.load32_splat(behind);
  const sb = v128.load32_splat(behind + 4);
  const sr = v128.load32_splat(behind + 8);
  const r = everyRed(pixels);
  const g = everyGreen(pixels);
  const b = everyBlue(pixels);
  const seen = lumaOf(r, g, b);
  const least = f32x4.max(f32x4.splat(0.06), a);
  const ownLuma = f32x4.add(sl, f32x4.div(f32x4.sub(seen, sl), least));
  let l: v128, u: v128, v: v128, kept: v128;
  if (halved) {
    const i = <usize>((by * stride + cx * side) * 4);
    const some = f32x4.max(f32x4.splat(0.1), cover);
    const ownBlue = f32x4.add(sb, f32x4.div(f32x4.sub(v128.load(bluePlane + i), sb), some));
    const ownRed = f32x4.add(sr, f32x4.div(f32x4.sub(v128.load(redPlane + i), sr), some));
    const known = (subject == 0 ? screen : subject) + cell;
    l = towards(v128.load32_splat(known), ownLuma, a);
    u = towards(v128.load32_splat(known + 4), ownBlue, cover);
    v = towards(v128.load32_splat(known + 8), ownRed, cover);
    kept = quiet;
  } else {
    l = ownLuma;
    u = f32x4.add(sb, f32x4.div(f32x4.sub(f32x4.sub(b, seen), sb), least));
    v = f32x4.add(sr, f32x4.div(f32x4.sub(f32x4.sub(r, seen), sr), least));
    kept = f32x4.eq(a, f32x4.splat(1));
  }
  const outRed = v128.bitselect(r, f32x4.add(l, v), kept);
  const outGreen = v128.bitselect(g, greenOf(l, u, v), kept);
  const outBlue = v128.bitselect(b, f32x4.add(l, u), kept);
  const bytes = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(a, f32x4.splat(255))));
  const there = i32x4.ne(bytes, i32x4.splat(0));
  return v128.and(there, withoutHueOf(inBytes(outRed), inBytes(outGreen), inBytes(outBlue), bytes));
}

// @ts-ignore: decorator
@inline
function towards(from: v128, to: v128, t: v128): v128 {
  return f32x4.add(from, f32x4.mul(f32x4.sub(to, from), t));
}

// @ts-ignore: decorator
@inline
function inBytes(v: v128): v128 {
  return f32x4.min(f32x4.splat(255), f32x4.max(f32x4.splat(0), v));
}

// @ts-ignore: decorator
@inline
function withoutHue(pixels: v128): v128 {
  const solid = v128.or(pixels, i32x4.splat(0xff000000));
  if (spill == 0) return solid;
  return withoutHueOf(everyRed(pixels), everyGreen(pixels), everyBlue(pixels), i32x4.splat(255));
}

/** Takes the screen's hue off colours and puts them together with their alpha (bytes in lanes). */
// @ts-ignore: decorator
@inline
function withoutHueOf(r: v128, g: v128, b: v128, alpha: v128): v128 {
  let strong = high == 0 ? r : high == 1 ? g : b;
  let second = middle == 0 ? r : middle == 1 ? g : b;
  const weak = low == 0 ? r : low == 1 ? g : b;
  let excess = single ? f32x4.sub(strong, f32x4.max(second, weak)) : f32x4.sub(f32x4.min(strong, second), weak);
  excess = f32x4.mul(f32x4.max(f32x4.splat(0), excess), f32x4.splat(spill));
  strong = f32x4.sub(strong, excess);
  if (!single) second = f32x4.sub(second, excess);
  let out = i32x4.shl(alpha, 24);
  out = v128.or(out, i32x4.shl(bytesOf(strong), high * 8));
  out = v128.or(out, i32x4.shl(bytesOf(second), middle * 8));
  return v128.or(out, i32x4.shl(bytesOf(weak), low * 8));
}
