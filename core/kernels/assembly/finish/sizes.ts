import { at } from './vectors';

/* Half as large and twice as large, for pictures of 1 or 4 floats a pixel. */

/** Means of 2 x 2; at an odd end the last ones again. */
export function halve(from: usize, width: i32, height: i32, channels: i32, to: usize): void {
  const row = width * channels * 4;
  const columns = (width + 1) >> 1;
  for (let y = 0; 2 * y < height; y++) {
    const upper = at(from, 2 * y, row);
    const lower = at(from, min(height - 1, 2 * y + 1), row);
    const out = at(to, y, columns * channels * 4);
    if (channels == 4) halveRow4(upper, lower, width, out);
    else halveRow1(upper, lower, width, out);
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function halveRow4(upper: usize, lower: usize, width: i32, out: usize): void {
  for (let x = 0; x < width; x += 2) {
    const left = at(0, x, 16);
    const right = at(0, min(width - 1, x + 1), 16);
    const above = f32x4.add(v128.load(upper + left), v128.load(upper + right));
    const below = f32x4.add(v128.load(lower + left), v128.load(lower + right));
    v128.store(out + (left >> 1), f32x4.mul(f32x4.add(above, below), f32x4.splat(0.25)));
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function halveRow1(upper: usize, lower: usize, width: i32, out: usize): void {
  const columns = (width + 1) >> 1;
  let x = 0;
  for (; x + 4 <= width >> 1; x += 4) {
    const i = at(0, x, 8);
    const first = f32x4.add(v128.load(upper + i), v128.load(lower + i));
    const second = f32x4.add(v128.load(upper + i, 16), v128.load(lower + i, 16));
    const even = v128.shuffle<i32>(first, second, 0, 2, 4, 6);
    const odd = v128.shuffle<i32>(first, second, 1, 3, 5, 7);
    v128.store(at(out, x, 4), f32x4.mul(f32x4.add(even, odd), f32x4.splat(0.25)));
  }
  for (; x < columns; x++) {
    const left = at(0, 2 * x, 4);
    const right = at(0, min(width - 1, 2 * x + 1), 4);
    const sum = load<f32>(upper + left) + load<f32>(upper + right) + load<f32>(lower + left) + load<f32>(lower + right);
    store<f32>(at(out, x, 4), sum * 0.25);
  }
}

/**
 * Twice as large, between the middles of pixels (bilinear): every value is three quarters of one and a quarter of the next.
 * @param width, height of what is made: twice that of `from`, or one less
 * @param line memory for a row of `from` with a value more at both ends
 */
export function enlarge(from: usize, to: usize, width: i32, height: i32, channels: i32, line: usize): void {
  const columns = (width + 1) >> 1;
  const middle = line + 16;
  for (let y = 0; y < height; y++) {
    if (channels == 4) {
      enlargedRow(from, width, height, y, line, at(to, y * width, 16));
      continue;
    }
    betweenRows(from, columns * 4, height, y, middle);
    store<f32>(middle - 4, load<f32>(middle));
    store<f32>(at(middle, columns, 4), load<f32>(at(middle, columns - 1, 4)));
    enlargeRow1(middle, width, at(to, y * width, 4));
  }
}

/** What lies at a row of what is made, between two of `from`. @param row bytes of each */
// @ts-ignore: a decorator of the compiler
@inline
function betweenRows(from: usize, row: i32, height: i32, y: i32, to: usize): void {
  const rows = (height + 1) >> 1;
  const near = at(from, y >> 1, row);
  const other = at(from, min(rows - 1, max(0, (y & 1) == 0 ? (y >> 1) - 1 : (y >> 1) + 1)), row);
  for (let i: usize = 0; i < <usize>row; i += 16) {
    const a = v128.load(near + i);
    const b = v128.load(other + i);
    v128.store(to + i, f32x4.add(a, f32x4.mul(f32x4.sub(b, a), f32x4.splat(0.25))));
  }
}

/** One row of a picture of four floats a pixel, twice as large. @param line as `enlarge` takes it */
export function enlargedRow(from: usize, width: i32, height: i32, y: i32, line: usize, out: usize): void {
  const columns = (width + 1) >> 1;
  const middle = line + 16;
  betweenRows(from, columns * 16, height, y, middle);
  v128.store(line, v128.load(middle));
  v128.store(at(middle, columns, 16), v128.load(at(middle, columns - 1, 16)));
  enlargeRow4(middle, width, out);
}

// @ts-ignore: a decorator of the compiler
@inline
function enlargeRow4(line: usize, width: i32, out: usize): void {
  for (let x = 0; x < width; x++) {
    const i = at(line, x >> 1, 16);
    const own = v128.load(i);
    const next = v128.load((x & 1) == 0 ? i - 16 : i + 16);
    v128.store(at(out, x, 16), f32x4.add(own, f32x4.mul(f32x4.sub(next, own), f32x4.splat(0.25))));
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function enlargeRow1(line: usize, width: i32, out: usize): void {
  const quarter = f32x4.splat(0.25);
  let x = 0;
  for (; x + 8 <= width; x += 8) {
    const i = at(line, x >> 1, 4);
    const own = v128.load(i);
    const left = f32x4.add(own, f32x4.mul(f32x4.sub(v128.load(i - 4), own), quarter));
    const right = f32x4.add(own, f32x4.mul(f32x4.sub(v128.load(i + 4), own), quarter));
    v128.store(at(out, x, 4), v128.shuffle<i32>(left, right, 0, 4, 1, 5));
    v128.store(at(out, x, 4), v128.shuffle<i32>(left, right, 2, 6, 3, 7), 16);
  }
  for (; x < width; x++) {
    const i = at(line, x >> 1, 4);
    const own = load<f32>(i);
    const next = load<f32>((x & 1) == 0 ? i - 4 : i + 4);
    store<f32>(at(out, x, 4), own + (next - own) * <f32>0.25);
  }
}
