import { at } from './vectors';

/*
 * Signed distance from an edge, exact up to a limit (Felzenszwalb & Huttenlocher 2012): down the columns by counting, along
 * the rows by the lower envelope of parabolas.
 */

const far: i32 = 30000;

/** Eight pixels: all bits where something is there. */
// @ts-ignore: a decorator of the compiler
@inline
function thereAt(pixels: usize): v128 {
  const low = i32x4.shr_s(v128.load(pixels), 31);
  return i16x8.narrow_i32x4_s(low, i32x4.shr_s(v128.load(pixels, 16), 31));
}

/** For a column: how many rows away the nearest pixel is that is (or is not) there. Rows are counted in whole vectors. */
function countColumns(data: usize, width: i32, height: i32, there: bool, stride: i32, to: usize): void {
  const flip = there ? i16x8.splat(0) : i16x8.splat(-1);
  const most = i16x8.splat(<i16>far);
  const one = i16x8.splat(1);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < stride; x += 8) {
      const is = v128.xor(thereAt(at(data, y * width + x, 4)), flip);
      const i = at(to, y * stride + x, 2);
      const above = y == 0 ? most : v128.load(i - at(0, stride, 2));
      v128.store(i, v128.andnot(i16x8.min_s(most, i16x8.add(above, one)), is));
    }
  }
  for (let y = height - 2; y >= 0; y--) {
    for (let x = 0; x < stride; x += 8) {
      const i = at(to, y * stride + x, 2);
      const below = i16x8.add(v128.load(i + at(0, stride, 2)), one);
      v128.store(i, i16x8.min_s(v128.load(i), below));
    }
  }
}

/** Whether eight places hold nothing that could be nearest: all further than the limit, or all within what is sought. */
// @ts-ignore: a decorator of the compiler
@inline
function nothingIn(counts: usize, x: i32, before: i32, limit: i32): bool {
  const eight = v128.load(at(counts, x, 2));
  if (i16x8.all_true(i16x8.gt_s(eight, i16x8.splat(<i16>limit)))) return true;
  return before == 0 && load<u16>(at(counts, x + 8, 2)) == 0 && !v128.any_true(eight);
}

/** The envelope over a row: where its parabolas stand, how high, and from where on each is the lowest. */
function envelope(counts: usize, width: i32, limit: i32, places: usize, starts: usize): i32 {
  let last = -1;
  let before = far;
  let own = <i32>load<u16>(counts);
  for (let x = 0; x < width; x++) {
    if ((x & 7) == 0 && x + 8 < width && nothingIn(counts, x, before, limit)) {
      x += 7;
      before = <i32>load<u16>(at(counts, x, 2));
      own = <i32>load<u16>(at(counts, x + 1, 2));
      continue;
    }
    const next = x + 1 < width ? <i32>load<u16>(at(counts, x + 1, 2)) : far;
    const height = own;
    const inner = height == 0 && before == 0 && next == 0;
    before = own;
    own = next;
    // Within a run of what is sought no parabola is the nearest to anything outside it.
    if (height > limit || inner) continue;
    const value = <f64>(height * height + x * x);
    let start: f64 = -1e9;
    while (last >= 0) {
      const q = load<i32>(at(places, last, 4));
      const g = <i32>load<u16>(at(counts, q, 2));
      start = (value - <f64>(g * g + q * q)) / <f64>(2 * (x - q));
      if (start > load<f64>(at(starts, last, 8))) break;
      last--;
    }
    if (last < 0) start = -1e9;
    last++;
    store<i32>(at(places, last, 4), x);
    store<f64>(at(starts, last, 8), start);
  }
  return last + 1;
}

/** Squared distances of a row's pixels that are not (`counts` above 0) what is sought. */
function alongRow(counts: usize, width: i32, limit: i32, places: usize, starts: usize, to: usize): void {
  const found = envelope(counts, width, limit, places, starts);
  const most = <f32>((limit + 1) * (limit + 1));
  if (found == 0) {
    for (let x = 0; x < width; x++) store<f32>(at(to, x, 4), most);
    return;
  }
  let n = 0;
  for (let x = 0; x < width; x++) {
    if (load<u16>(at(counts, x, 2)) == 0) {
      store<f32>(at(to, x, 4), 0);
      continue;
    }
    while (n + 1 < found && load<f64>(at(starts, n + 1, 8)) < <f64>x) n++;
    const q = load<i32>(at(places, n, 4));
    const g = <i32>load<u16>(at(counts, q, 2));
    store<f32>(at(to, x, 4), min(most, <f32>(g * g + (x - q) * (x - q))));
  }
}

/**
 * Distance in pixels from the edge of what is there, positive outside, negative inside; beyond the limit it is said to be a little
 * more than that. A pixel on the edge says by its alpha how far the edge is from its middle.
 * @param work memory for 4 bytes a pixel of rows of whole vectors and 24 bytes a pixel of a row
 */
export function edgeDistance(data: usize, width: i32, height: i32, limit: i32, work: usize, to: usize): void {
  const stride = (width + 7) & ~7;
  const inside = work;
  const outside = at(inside, stride * height, 2);
  const places = at(outside, stride * height, 2);
  const starts = at(places, width, 4);
  const within = at(starts, width + 1, 8);
  countColumns(data, width, height, true, stride, inside);
  countColumns(data, width, height, false, stride, outside);
  for (let y = 0; y < height; y++) {
    const row = at(to, y * width, 4);
    alongRow(at(inside, y * stride, 2), width, limit, places, starts, row);
    alongRow(at(outside, y * stride, 2), width, limit, places, starts, within);
    for (let x = 0; x < width; x++) {
      const alpha = <f32>load<u8>(at(data, y * width + x, 4), 3) * <f32>(1.0 / 255.0);
      const out = load<f32>(at(row, x, 4));
      const deep = load<f32>(at(within, x, 4));
      const edge = alpha > 0 && alpha < 1 && out <= 2 && deep <= 2;
      const away: f32 = deep > 0 ? <f32>0.5 - sqrt<f32>(deep) : sqrt<f32>(out) - <f32>0.5;
      store<f32>(at(row, x, 4), edge ? <f32>0.5 - alpha : away);
    }
  }
}
