/** Changes weighted sums into means, and weights into 0..1. @returns whether any cell has a weight */
export function settle(values: usize, weight: usize, count: i32, full: f32): bool {
  let any = false;
  for (let i = 0; i < count; i++) {
    const w = load<f32>(weight + <usize>(i * 4));
    if (w == 0) continue;
    any = true;
    const o = values + <usize>(i * 16);
    v128.store(o, f32x4.div(v128.load(o), f32x4.splat(w)));
    store<f32>(weight + <usize>(i * 4), min<f32>(1, w / full));
  }
  return any;
}

/**
 * Continues what is known over what is not, in place ("pull-push", Gortler et al. 1996).
 * @param values four floats a cell  @param weight one float a cell, 0..1  @param scratch for the coarser cells: 20 bytes for
 * each of at most width * height / 2 + 64 of them
 */
export function continueCells(values: usize, weight: usize, width: i32, height: i32, scratch: usize): void {
  if (width <= 1 && height <= 1) return;
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const count = w * h;
  const coarse = scratch;
  const coarseWeight = coarse + <usize>(count * 16);
  const next = (coarseWeight + <usize>(count * 4) + 15) & ~15;
  memory.fill(coarse, 0, <usize>(count * 20));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const own = load<f32>(weight + <usize>(i * 4));
      if (own == 0) continue;
      const j = (y >> 1) * w + (x >> 1);
      const o = coarse + <usize>(j * 16);
      v128.store(o, f32x4.add(v128.load(o), f32x4.mul(v128.load(values + <usize>(i * 16)), f32x4.splat(own))));
      const p = coarseWeight + <usize>(j * 4);
      store<f32>(p, load<f32>(p) + own);
    }
  }
  settle(coarse, coarseWeight, count, 1);
  continueCells(coarse, coarseWeight, w, h, next);
  fillFrom(values, weight, width, height, coarse, w, h);
}

function fillFrom(values: usize, weight: usize, width: i32, height: i32, coarse: usize, w: i32, h: i32): void {
  for (let y = 0; y < height; y++) {
    const near = coarse + <usize>((y >> 1) * w * 16);
    const far = coarse + <usize>(neighbour(y, h) * w * 16);
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const own = load<f32>(weight + <usize>(i * 4));
      if (own == 1) continue;
      const here = <usize>((x >> 1) * 16);
      const beside = <usize>(neighbour(x, w) * 16);
      const three = f32x4.splat(3);
      let blend = f32x4.mul(v128.load(near + here), f32x4.splat(9));
      blend = f32x4.add(blend, f32x4.mul(v128.load(near + beside), three));
      blend = f32x4.add(blend, f32x4.mul(v128.load(far + here), three));
      blend = f32x4.mul(f32x4.add(blend, v128.load(far + beside)), f32x4.splat(1.0 / 16.0));
      const o = values + <usize>(i * 16);
      v128.store(o, f32x4.add(f32x4.mul(v128.load(o), f32x4.splat(own)), f32x4.mul(blend, f32x4.splat(1 - own))));
    }
  }
}

// @ts-ignore: decorator
@inline
function neighbour(at: i32, length: i32): i32 {
  return max(0, min(length - 1, (at >> 1) + (at & 1 ? 1 : -1)));
}

/** Smoothed by weights 1, 2, 1 along both directions, `rounds` times, in place. @param scratch as large as `values` */
export function smoothCells(values: usize, width: i32, height: i32, rounds: i32, scratch: usize): void {
  for (let round = 0; round < rounds; round++) {
    smoothAlong(values, scratch, width, height, 1, width);
    smoothAlong(scratch, values, height, width, width, 1);
  }
}

/** @param step cells to the next along a line  @param stride cells to the next line */
function smoothAlong(from: usize, to: usize, length: i32, lines: i32, step: i32, stride: i32): void {
  for (let line = 0; line < lines; line++) {
    for (let k = 0; k < length; k++) {
      const i = line * stride + k * step;
      const before = v128.load(from + <usize>((k > 0 ? i - step : i) * 16));
      const after = v128.load(from + <usize>((k + 1 < length ? i + step : i) * 16));
      const ends = f32x4.mul(f32x4.add(before, after), f32x4.splat(0.25));
      const middle = f32x4.mul(v128.load(from + <usize>(i * 16)), f32x4.splat(0.5));
      v128.store(to + <usize>(i * 16), f32x4.add(ends, middle));
    }
  }
}
