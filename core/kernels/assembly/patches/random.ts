/* The stream of core/pixels/random.ts, gone on with from where it was left. */

let state: u32 = 0;

export function goOnFrom(left: u32): void {
  state = left;
}

export function left(): u32 {
  return state;
}

/** In [0, 1). */
export function random(): f64 {
  state += 0x6d2b79f5;
  let t = state;
  t = (t ^ (t >>> 15)) * (t | 1);
  t ^= t + (t ^ (t >>> 7)) * (t | 61);
  return <f64>(t ^ (t >>> 14)) / 4294967296.0;
}

/** A whole number from -window to window. */
export function within(window: i32): i32 {
  return <i32>Math.floor((random() * 2.0 - 1.0) * <f64>window + 0.5);
}
