import { rounded } from './vectors';

/* Hue, saturation and lightness of four pixels at once (HSL of CSS Color Module Level 4). Each vector holds one of them. */

let hue: v128 = f32x4.splat(0);
let saturation: v128 = f32x4.splat(0);
let lightness: v128 = f32x4.splat(0);

const one = f32x4.splat(1);
const none = f32x4.splat(0);

/** Channel of four pixels, 0..1. */
// @ts-ignore: a decorator of the compiler
@inline
function channel(pixels: v128, bits: i32): v128 {
  const bytes = v128.and(i32x4.shr_u(pixels, bits), i32x4.splat(255));
  return f32x4.mul(f32x4.convert_i32x4_s(bytes), f32x4.splat(1.0 / 255.0));
}

/** Four channels 0..1 as bytes in their place. */
// @ts-ignore: a decorator of the compiler
@inline
function bytesAt(values: v128, bits: i32): v128 {
  const clamped = f32x4.pmin(f32x4.pmax(values, none), one);
  return i32x4.shl(rounded(f32x4.mul(clamped, f32x4.splat(255))), bits);
}

// @ts-ignore: a decorator of the compiler
@inline
function toHsl(red: v128, green: v128, blue: v128): void {
  const most = f32x4.pmax(red, f32x4.pmax(green, blue));
  const least = f32x4.pmin(red, f32x4.pmin(green, blue));
  const range = f32x4.sub(most, least);
  const coloured = f32x4.gt(range, none);
  const share = f32x4.div(one, v128.bitselect(range, one, coloured));
  const fromRed = f32x4.mul(f32x4.sub(green, blue), share);
  const redTurn = v128.bitselect(f32x4.splat(6), none, f32x4.lt(green, blue));
  const fromGreen = f32x4.add(f32x4.mul(f32x4.sub(blue, red), share), f32x4.splat(2));
  const fromBlue = f32x4.add(f32x4.mul(f32x4.sub(red, green), share), f32x4.splat(4));
  const rest = v128.bitselect(fromGreen, fromBlue, f32x4.eq(most, green));
  const sixths = v128.bitselect(f32x4.add(fromRed, redTurn), rest, f32x4.eq(most, red));
  hue = v128.and(f32x4.mul(sixths, f32x4.splat(60)), coloured);
  lightness = f32x4.mul(f32x4.add(most, least), f32x4.splat(0.5));
  const room = f32x4.pmin(lightness, f32x4.sub(one, lightness));
  const open = v128.and(coloured, f32x4.gt(room, none));
  saturation = v128.and(f32x4.div(f32x4.sub(most, lightness), v128.bitselect(room, one, open)), open);
}

/** A channel of a colour: `start` is 0 for red, 8 for green, 4 for blue; `twelfths` is the hue / 30, `a` its strength. */
// @ts-ignore: a decorator of the compiler
@inline
function fromHsl(twelfths: v128, a: v128, light: v128, start: f32): v128 {
  const turned = f32x4.add(twelfths, f32x4.splat(start));
  const k = f32x4.sub(turned, f32x4.mul(f32x4.floor(f32x4.mul(turned, f32x4.splat(1.0 / 12.0))), f32x4.splat(12)));
  const inner = f32x4.pmin(f32x4.sub(k, f32x4.splat(3)), f32x4.sub(f32x4.splat(9), k));
  return f32x4.sub(light, f32x4.mul(a, f32x4.pmax(f32x4.splat(-1), f32x4.pmin(inner, one))));
}

/** How much of a range of hues a hue has: 1 up to `core` degrees from its middle, falling over `soft`. */
// @ts-ignore: a decorator of the compiler
@inline
function partOf(middle: f32, core: f32, soft: f32): v128 {
  const apart = f32x4.abs(f32x4.sub(hue, f32x4.splat(middle)));
  const way = f32x4.pmin(apart, f32x4.sub(f32x4.splat(360), apart));
  const t = f32x4.sub(one, f32x4.mul(f32x4.sub(way, f32x4.splat(core)), f32x4.splat(1 / soft)));
  const inside = f32x4.pmin(f32x4.pmax(t, none), one);
  return f32x4.mul(f32x4.mul(inside, inside), f32x4.sub(f32x4.splat(3), f32x4.add(inside, inside)));
}

// @ts-ignore: a decorator of the compiler
@inline
function within01(values: v128): v128 {
  return f32x4.pmin(f32x4.pmax(values, none), one);
}

// @ts-ignore: a decorator of the compiler
@inline
function storeColours(address: usize, before: v128, red: v128, green: v128, blue: v128, changed: v128): void {
  const colours = v128.or(v128.or(bytesAt(red, 0), bytesAt(green, 8)), bytesAt(blue, 16));
  const made = v128.or(colours, v128.and(before, i32x4.splat(0xff000000)));
  v128.store(address, v128.bitselect(made, before, changed));
}

/**
 * Hues turned, colours stronger or paler, lighter or darker, all (`whole`) or a range of them.
 * @param settings f32: middle, core, soft, whole (1 or 0), turn, saturation, lightness
 */
export function turnHues(data: usize, pixels: i32, settings: usize): void {
  const whole = f32x4.gt(f32x4.splat(load<f32>(settings, 12)), none);
  const turn = f32x4.splat(load<f32>(settings, 16));
  const stronger = f32x4.splat(load<f32>(settings, 20));
  const lighter = f32x4.splat(load<f32>(settings, 24));
  const lights = load<f32>(settings, 24) > 0;
  for (let k = 0; k < pixels; k += 4) {
    const address = data + <usize>(k * 4);
    const before = v128.load(address);
    if (!v128.any_true(i32x4.shr_u(before, 24))) continue;
    toHsl(channel(before, 0), channel(before, 8), channel(before, 16));
    const near = partOf(load<f32>(settings), load<f32>(settings, 4), load<f32>(settings, 8));
    // What is nearly grey has no hue to belong to a range by.
    const ranged = f32x4.mul(near, f32x4.pmin(one, f32x4.mul(saturation, f32x4.splat(6))));
    const part = v128.bitselect(one, ranged, whole);
    const changed = v128.and(f32x4.gt(part, none), i32x4.ne(i32x4.shr_u(before, 24), i32x4.splat(0)));
    if (!v128.any_true(changed)) continue;
    const s = within01(f32x4.mul(saturation, f32x4.add(one, f32x4.mul(stronger, part))));
    const room = lights ? f32x4.sub(one, lightness) : lightness;
    const l = within01(f32x4.add(lightness, f32x4.mul(f32x4.mul(lighter, part), room)));
    const a = f32x4.mul(s, f32x4.pmin(l, f32x4.sub(one, l)));
    const h = f32x4.mul(f32x4.add(hue, f32x4.mul(turn, part)), f32x4.splat(1.0 / 30.0));
    storeColours(address, before, fromHsl(h, a, l, 0), fromHsl(h, a, l, 8), fromHsl(h, a, l, 4), changed);
  }
}

/**
 * One range of hues becomes another, with its shades.
 * @param settings f32: middle, core, soft, turn, factor of the saturation, what is added to the lightness
 */
export function recolour(data: usize, pixels: i32, settings: usize): void {
  const turn = f32x4.splat(load<f32>(settings, 12));
  const stronger = f32x4.splat(load<f32>(settings, 16));
  const lighter = f32x4.splat(load<f32>(settings, 20) * 4);
  for (let k = 0; k < pixels; k += 4) {
    const address = data + <usize>(k * 4);
    const before = v128.load(address);
    if (!v128.any_true(i32x4.shr_u(before, 24))) continue;
    const red = channel(before, 0);
    const green = channel(before, 8);
    const blue = channel(before, 16);
    toHsl(red, green, blue);
    const near = partOf(load<f32>(settings), load<f32>(settings, 4), load<f32>(settings, 8));
    const part = f32x4.mul(near, f32x4.pmin(one, f32x4.mul(saturation, f32x4.splat(5))));
    const changed = v128.and(f32x4.gt(part, none), i32x4.ne(i32x4.shr_u(before, 24), i32x4.splat(0)));
    // Most of a picture is of other hues.
    if (!v128.any_true(changed)) continue;
    const s = within01(f32x4.mul(saturation, stronger));
    const room = f32x4.mul(lightness, f32x4.sub(one, lightness));
    const l = within01(f32x4.add(lightness, f32x4.mul(lighter, room)));
    const a = f32x4.mul(s, f32x4.pmin(l, f32x4.sub(one, l)));
    const h = f32x4.mul(f32x4.add(hue, turn), f32x4.splat(1.0 / 30.0));
    const r = f32x4.add(red, f32x4.mul(f32x4.sub(fromHsl(h, a, l, 0), red), part));
    const g = f32x4.add(green, f32x4.mul(f32x4.sub(fromHsl(h, a, l, 8), green), part));
    const b = f32x4.add(blue, f32x4.mul(f32x4.sub(fromHsl(h, a, l, 4), blue), part));
    storeColours(address, before, r, g, b, changed);
  }
}
