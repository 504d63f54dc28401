import { at } from '../memory';

/* The rounds of core/pixels/superpixels.ts. Colours are three planes of f32, one after another; everything is reckoned in f64. */

/** Two floats as doubles. */
// @ts-ignore: a decorator of the compiler
@inline
function two(address: usize): v128 {
  return f64x2.promote_low_f32x4(v128.load64_zero(address));
}

// @ts-ignore: a decorator of the compiler
@inline
function square(value: v128): v128 {
  return f64x2.mul(value, value);
}

/**
 * @param colours the planes, with room for a vector behind them  @param count how many superpixels
 * @param centre, lab f32 of each superpixel: two and three  @param size f32 of each, written
 * @param best f32 of each pixel, with room for a vector behind them  @param labels i32 of each, likewise
 * @param sums memory for five doubles each
 */
export function clusters(
  colours: usize,
  width: i32,
  height: i32,
  count: i32,
  centre: usize,
  lab: usize,
  size: usize,
  step: f64,
  spatial: f64,
  rounds: i32,
  best: usize,
  labels: usize,
  sums: usize,
): void {
  for (let round = 0; round < rounds; round++) {
    for (let i = 0; i < width * height; i++) store<f32>(at(best, i, 4), Infinity);
    for (let k = 0; k < count; k++) assign(colours, width, height, k, at(centre, k, 8), at(lab, k, 12), step, spatial, best, labels);
    recentre(colours, width, height, count, centre, lab, size, labels, sums);
  }
}

/** Takes the pixels around a superpixel that are nearer to it than to those before it. */
function assign(colours: usize, width: i32, height: i32, k: i32, centre: usize, lab: usize, step: f64, spatial: f64, best: usize, labels: usize): void {
  const cx = <f64>load<f32>(centre);
  const cy = <f64>load<f32>(centre, 4);
  const lightness = f64x2.splat(<f64>load<f32>(lab));
  const a = f64x2.splat(<f64>load<f32>(lab, 4));
  const b = f64x2.splat(<f64>load<f32>(lab, 8));
  const plane = <usize>(width * height * 4);
  const left = max(0, <i32>floor<f64>(cx - step * 1.5));
  const right = min(width - 1, <i32>ceil<f64>(cx + step * 1.5));
  const bottom = min(height - 1, <i32>ceil<f64>(cy + step * 1.5));
  const label = i32x4.splat(k);
  for (let y = max(0, <i32>floor<f64>(cy - step * 1.5)); y <= bottom; y++) {
    const dy = <f64>y - cy;
    const down = f64x2.splat(dy * dy);
    for (let x = left; x <= right; x += 2) {
      const i = at(0, y * width + x, 4);
      const dx = f64x2.sub(f64x2(<f64>x, <f64>(x + 1)), f64x2.splat(cx));
      const dl = square(f64x2.sub(two(colours + i), lightness));
      const da = square(f64x2.sub(two(colours + plane + i), a));
      const db = square(f64x2.sub(two(colours + 2 * plane + i), b));
      const away = f64x2.mul(f64x2.add(square(dx), down), f64x2.splat(spatial));
      const distance = f64x2.add(f64x2.add(f64x2.add(dl, da), db), away);
      const known = v128.load64_zero(best + i);
      let nearer = f64x2.lt(distance, f64x2.promote_low_f32x4(known));
      // The second of a pair may lie beyond.
      if (x == right) nearer = v128.and(nearer, i64x2(-1, 0));
      if (!v128.any_true(nearer)) continue;
      const both = v128.shuffle<i32>(nearer, nearer, 0, 2, 0, 2);
      v128.store64_lane(best + i, v128.bitselect(f32x4.demote_f64x2_zero(distance), known, both), 0);
      v128.store64_lane(labels + i, v128.bitselect(label, v128.load64_zero(labels + i), both), 0);
    }
  }
}

/** Colours and places become the means of what was taken. */
function recentre(colours: usize, width: i32, height: i32, count: i32, centre: usize, lab: usize, size: usize, labels: usize, sums: usize): void {
  const plane = <usize>(width * height * 4);
  memory.fill(sums, 0, <usize>(count * 40));
  memory.fill(size, 0, <usize>(count * 4));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = at(0, y * width + x, 4);
      const k = load<i32>(labels + i);
      const sum = at(sums, k, 40);
      store<f32>(at(size, k, 4), load<f32>(at(size, k, 4)) + 1);
      store<f64>(sum, load<f64>(sum) + <f64>load<f32>(colours + i));
      store<f64>(sum, load<f64>(sum, 8) + <f64>load<f32>(colours + plane + i), 8);
      store<f64>(sum, load<f64>(sum, 16) + <f64>load<f32>(colours + 2 * plane + i), 16);
      store<f64>(sum, load<f64>(sum, 24) + <f64>x, 24);
      store<f64>(sum, load<f64>(sum, 32) + <f64>y, 32);
    }
  for (let k = 0; k < count; k++) {
    const n = <f64>load<f32>(at(size, k, 4));
    if (n == 0) continue;
    const sum = at(sums, k, 40);
    for (let c = 0; c < 3; c++) store<f32>(at(lab, 3 * k + c, 4), <f32>(load<f64>(at(sum, c, 8)) / n));
    for (let c = 0; c < 2; c++) store<f32>(at(centre, 2 * k + c, 4), <f32>(load<f64>(at(sum, 3 + c, 8)) / n));
  }
}
