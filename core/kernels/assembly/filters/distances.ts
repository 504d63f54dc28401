import { at } from '../memory';

/* Squared distances to the nearest set pixel (Felzenszwalb & Huttenlocher 2012), as core/pixels/distance.ts finds them. */

const far: f32 = 1e12;

/** Squared distances along columns: going down, then going up. @param since memory for an i32 a column */
function alongColumns(mask: usize, width: i32, height: i32, since: usize, to: usize): void {
  for (let x = 0; x < width; x++) store<i32>(at(since, x, 4), -1);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (load<u8>(at(mask, i, 1))) store<i32>(at(since, x, 4), y);
      const last = load<i32>(at(since, x, 4));
      const away = <f64>(y - last);
      store<f32>(at(to, i, 4), last < 0 ? far : <f32>(away * away));
    }
  for (let x = 0; x < width; x++) store<i32>(at(since, x, 4), -1);
  for (let y = height - 1; y >= 0; y--)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (load<u8>(at(mask, i, 1))) store<i32>(at(since, x, 4), y);
      const next = load<i32>(at(since, x, 4));
      if (next < 0) continue;
      const away = <f64>(next - y);
      const own = at(to, i, 4);
      store<f32>(own, min<f32>(load<f32>(own), <f32>(away * away)));
    }
}

/** Lower envelope of the parabolas along a row. @param f its values  @param v, z memory for an i32 and an f32 more than it has */
function alongRow(f: usize, n: i32, v: usize, z: usize, out: usize): void {
  let k = 0;
  store<i32>(v, 0);
  store<f32>(z, -Infinity);
  store<f32>(z, Infinity, 4);
  for (let q = 1; q < n; q++) {
    const own = <f64>load<f32>(at(f, q, 4)) + <f64>(q * q);
    let s: f64 = 0;
    for (;;) {
      const p = load<i32>(at(v, k, 4));
      s = (own - (<f64>load<f32>(at(f, p, 4)) + <f64>(p * p))) / <f64>(2 * q - 2 * p);
      if (s > <f64>load<f32>(at(z, k, 4))) break;
      k--;
    }
    k++;
    store<i32>(at(v, k, 4), q);
    store<f32>(at(z, k, 4), <f32>s);
    store<f32>(at(z, k + 1, 4), Infinity);
  }
  k = 0;
  for (let q = 0; q < n; q++) {
    while (load<f32>(at(z, k + 1, 4)) < <f32>q) k++;
    const p = load<i32>(at(v, k, 4));
    const away = <f64>(q - p);
    store<f32>(at(out, q, 4), min<f32>(far, <f32>(away * away + <f64>load<f32>(at(f, p, 4)))));
  }
}

/** @param room memory for three numbers a pixel of a row, and three more  @param to f32 of each pixel */
export function squaredDistance(mask: usize, width: i32, height: i32, room: usize, to: usize): void {
  alongColumns(mask, width, height, room, to);
  const v = at(room, width, 4);
  const z = at(v, width + 1, 4);
  for (let y = 0; y < height; y++) {
    const row = at(to, y * width, 4);
    memory.copy(room, row, <usize>(width * 4));
    alongRow(room, width, v, z, row);
  }
}

/** Which pixels lie within a distance, whose square is given: 0 or 1. @param distances memory for an f32 a pixel */
export function within(mask: usize, width: i32, height: i32, limit: f64, room: usize, distances: usize, to: usize): void {
  squaredDistance(mask, width, height, room, distances);
  for (let i = 0; i < width * height; i++) store<u8>(at(to, i, 1), <f64>load<f32>(at(distances, i, 4)) <= limit ? 1 : 0);
}
