/** What is done to every value alone. Counts are rounded up to whole vectors: whoever lays memory out leaves room. */

export function rectify(from: usize, to: usize, count: i32): void {
  for (let i = 0; i < count; i += 4) {
    const at = <usize>(i * 4);
    v128.store(to + at, f32x4.max(v128.load(from + at), f32x4.splat(0)));
  }
}

/** x * min(max(x + 3, 0), 6) / 6 (Howard et al. 2019). */
export function hardSwish(from: usize, to: usize, count: i32): void {
  for (let i = 0; i < count; i += 4) {
    const at = <usize>(i * 4);
    const x = v128.load(from + at);
    const gate = f32x4.min(f32x4.max(f32x4.add(x, f32x4.splat(3)), f32x4.splat(0)), f32x4.splat(6));
    v128.store(to + at, f32x4.mul(f32x4.mul(x, gate), f32x4.splat(1.0 / 6.0)));
  }
}

export function logistic(from: usize, to: usize, count: i32): void {
  for (let i = 0; i < count; i++) {
    const at = <usize>(i * 4);
    store<f32>(to + at, 1 / (1 + Mathf.exp(-load<f32>(from + at))));
  }
}

export function addInPlace(a: usize, b: usize, to: usize, count: i32): void {
  for (let i = 0; i < count; i += 4) {
    const at = <usize>(i * 4);
    v128.store(to + at, f32x4.add(v128.load(a + at), v128.load(b + at)));
  }
}

/** Every place's channels times one factor a channel. `channels` is a multiple of 4. */
export function scaleChannels(from: usize, factors: usize, to: usize, places: i32, channels: i32): void {
  for (let place = 0; place < places; place++) {
    for (let c = 0; c < channels; c += 4) {
      const at = <usize>((place * channels + c) * 4);
      v128.store(to + at, f32x4.mul(v128.load(from + at), v128.load(factors + <usize>(c * 4))));
    }
  }
}

/** Mean of every channel over all places. `channels` is a multiple of 4. */
export function mean(from: usize, to: usize, places: i32, channels: i32): void {
  for (let c = 0; c < channels; c += 4) {
    let sum = f32x4.splat(0);
    for (let place = 0; place < places; place++)
      sum = f32x4.add(sum, v128.load(from + <usize>((place * channels + c) * 4)));
    v128.store(to + <usize>(c * 4), f32x4.mul(sum, f32x4.splat(1 / <f32>places)));
  }
}
