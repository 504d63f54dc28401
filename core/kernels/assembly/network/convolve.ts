/**
 * Convolutions over rows of places with their channels side by side. Weights stand as [tap][channel in][channel out], so that
 * one value in meets a vector of weights out. `outs` is a multiple of 8 in `convolve`, `channels` one of 4 in the others.
 */
export function convolve(
  from: usize,
  weights: usize,
  bias: usize,
  to: usize,
  height: i32,
  width: i32,
  ins: i32,
  outs: i32,
  side: i32,
  stride: i32,
  top: i32,
  left: i32,
  outHeight: i32,
  outWidth: i32,
): void {
  if (side == 1 && stride == 1) {
    const places = height * width;
    let place = 0;
    for (; place + 4 <= places; place += 4) fourPlaces(from, weights, bias, to, place, ins, outs);
    for (; place < places; place++)
      onePlace(from + <usize>(place * ins * 4), weights, bias, to + <usize>(place * outs * 4), ins, outs);
    return;
  }
  for (let y = 0; y < outHeight; y++) {
    for (let x = 0; x < outWidth; x++) {
      const target = to + <usize>((y * outWidth + x) * outs * 4);
      memory.copy(target, bias, <usize>(outs * 4));
      for (let dy = 0; dy < side; dy++) {
        const v = y * stride - top + dy;
        if (v < 0 || v >= height) continue;
        for (let dx = 0; dx < side; dx++) {
          const u = x * stride - left + dx;
          if (u < 0 || u >= width) continue;
          const tap = weights + <usize>((dy * side + dx) * ins * outs * 4);
          addPlace(from + <usize>((v * width + u) * ins * 4), tap, target, ins, outs);
        }
      }
    }
  }
}

function fourPlaces(from: usize, weights: usize, bias: usize, to: usize, place: i32, ins: i32, outs: i32): void {
  const row = <usize>(ins * 4);
  const step = <usize>(outs * 4);
  const a = from + <usize>place * row;
  for (let o = 0; o < outs; o += 8) {
    const at = <usize>(o * 4);
    const b0 = v128.load(bias + at);
    const b1 = v128.load(bias + at, 16);
    let a0 = b0;
    let a1 = b1;
    let c0 = b0;
    let c1 = b1;
    let d0 = b0;
    let d1 = b1;
    let e0 = b0;
    let e1 = b1;
    let w = weights + at;
    for (let i: usize = 0; i < row; i += 4) {
      const w0 = v128.load(w);
      const w1 = v128.load(w, 16);
      w += step;
      const x0 = v128.load32_splat(a + i);
      a0 = f32x4.add(a0, f32x4.mul(x0, w0));
      a1 = f32x4.add(a1, f32x4.mul(x0, w1));
      const x1 = v128.load32_splat(a + row + i);
      c0 = f32x4.add(c0, f32x4.mul(x1, w0));
      c1 = f32x4.add(c1, f32x4.mul(x1, w1));
      const x2 = v128.load32_splat(a + 2 * row + i);
      d0 = f32x4.add(d0, f32x4.mul(x2, w0));
      d1 = f32x4.add(d1, f32x4.mul(x2, w1));
      const x3 = v128.load32_splat(a + 3 * row + i);
      e0 = f32x4.add(e0, f32x4.mul(x3, w0));
      e1 = f32x4.add(e1, f32x4.mul(x3, w1));
    }
    const out = to + <usize>place * step + at;
    v128.store(out, a0);
    v128.store(out, a1, 16);
    v128.store(out + step, c0);
    v128.store(out + step, c1, 16);
    v128.store(out + 2 * step, d0);
    v128.store(out + 2 * step, d1, 16);
    v128.store(out + 3 * step, e0);
    v128.store(out + 3 * step, e1, 16);
  }
}

function onePlace(from: usize, weights: usize, bias: usize, to: usize, ins: i32, outs: i32): void {
  memory.copy(to, bias, <usize>(outs * 4));
  addPlace(from, weights, to, ins, outs);
}

function addPlace(from: usize, weights: usize, to: usize, ins: i32, outs: i32): void {
  for (let o = 0; o < outs; o += 4) {
    let sum = v128.load(to + <usize>(o * 4));
    for (let i = 0; i < ins; i++) {
      const x = v128.load32_splat(from + <usize>(i * 4));
      sum = f32x4.add(sum, f32x4.mul(x, v128.load(weights + <usize>((i * outs + o) * 4))));
    }
    v128.store(to + <usize>(o * 4), sum);
  }
}

/** Every channel by itself. Weights stand as [tap][channel]. */
export function convolveDepthwise(
  from: usize,
  weights: usize,
  bias: usize,
  to: usize,
  height: i32,
  width: i32,
  channels: i32,
  side: i32,
  stride: i32,
  top: i32,
  left: i32,
  outHeight: i32,
  outWidth: i32,
): void {
  const step = <usize>(channels * 4);
  for (let y = 0; y < outHeight; y++) {
    const firstRow = max(0, top - y * stride);
    const lastRow = min(side, height + top - y * stride);
    for (let x = 0; x < outWidth; x++) {
      const firstColumn = max(0, left - x * stride);
      const lastColumn = min(side, width + left - x * stride);
      const target = to + <usize>(y * outWidth + x) * step;
      for (let c: usize = 0; c < step; c += 16) {
        let sum = v128.load(bias + c);
        for (let dy = firstRow; dy < lastRow; dy++) {
          let at = from + <usize>((y * stride - top + dy) * width + x * stride - left + firstColumn) * step + c;
          let w = weights + <usize>(dy * side + firstColumn) * step + c;
          for (let dx = firstColumn; dx < lastColumn; dx++) {
            sum = f32x4.add(sum, f32x4.mul(v128.load(at), v128.load(w)));
            at += step;
            w += step;
          }
        }
        v128.store(target + c, sum);
      }
    }
  }
}

/** Each place becomes side x side values of one channel. Weights stand as [tap][channel]; `bias` is one value. */
export function convolveTransposed(
  from: usize,
  weights: usize,
  bias: usize,
  to: usize,
  height: i32,
  width: i32,
  channels: i32,
  side: i32,
): void {
  const start = load<f32>(bias);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = from + <usize>((y * width + x) * channels * 4);
      for (let tap = 0; tap < side * side; tap++) {
        const w = weights + <usize>(tap * channels * 4);
        let sum = f32x4.splat(0);
        for (let c = 0; c < channels; c += 4)
          sum = f32x4.add(sum, f32x4.mul(v128.load(at + <usize>(c * 4)), v128.load(w + <usize>(c * 4))));
        const total =
          f32x4.extract_lane(sum, 0) +
          f32x4.extract_lane(sum, 1) +
          f32x4.extract_lane(sum, 2) +
          f32x4.extract_lane(sum, 3);
        const place = (y * side + tap / side) * width * side + x * side + (tap % side);
        store<f32>(to + <usize>(place * 4), start + total);
      }
    }
  }
}
