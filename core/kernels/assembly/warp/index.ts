import { closenessAt } from './closeness';
import { sample } from './sample';

export { freeFrom, reserve } from '../memory';

/**
 * A picture pushed about: the push (x, y) and the light of every `step`-th pixel stand in a lattice of triples, and those
 * between are linear. The result is `room` pixels larger on every side.
 */
export function sway(
  picture: usize,
  pictureWidth: i32,
  pictureHeight: i32,
  lattice: usize,
  step: i32,
  room: i32,
  out: usize,
  width: i32,
  height: i32,
): void {
  const columns = (width + step - 1) / step + 1;
  const one: f32 = 1;
  const share = one / <f32>step;
  for (let y = 0; y < height; y++) {
    const row = y / step;
    const fy = <f32>(y - row * step) / <f32>step;
    let to = out + <usize>(y * width) * 4;
    for (let column = 0; column * step < width; column++) {
      // Along a row the push is linear between two nodes, so it is stepped instead of mixed anew for every pixel.
      const p = lattice + <usize>((row * columns + column) * 12);
      const q = p + <usize>(columns * 12);
      let dx = between(p, q, 0, fy);
      let dy = between(p, q, 4, fy);
      let light = between(p, q, 8, fy);
      const stepX = (between(p, q, 12, fy) - dx) * share;
      const stepY = (between(p, q, 16, fy) - dy) * share;
      const stepLight = (between(p, q, 20, fy) - light) * share;
      const end = min(width, (column + 1) * step);
      for (let x = column * step; x < end; x++) {
        const u = <f32>(x - room) + 0.5 - dx;
        const v = <f32>(y - room) + 0.5 - dy;
        sample(picture, pictureWidth, pictureHeight, u, v, <f32>1 + light, to);
        to += 4;
        dx += stepX;
        dy += stepY;
        light += stepLight;
      }
    }
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function between(p: usize, q: usize, at: usize, share: f32): f32 {
  const above = load<f32>(p + at);
  return above + (load<f32>(q + at) - above) * share;
}

/** A picture through a projective map: nine f64 at `map` lead from pixels of the result to pixels of the picture. */
export function project(
  picture: usize,
  pictureWidth: i32,
  pictureHeight: i32,
  map: usize,
  out: usize,
  width: i32,
  height: i32,
): void {
  const g0 = load<f64>(map);
  const g3 = load<f64>(map + 24);
  const g6 = load<f64>(map + 48);
  for (let y = 0; y < height; y++) {
    const py = <f64>y + 0.5;
    let u = load<f64>(map + 8) * py + load<f64>(map + 16) + g0 * 0.5;
    let v = load<f64>(map + 32) * py + load<f64>(map + 40) + g3 * 0.5;
    let w = load<f64>(map + 56) * py + load<f64>(map + 64) + g6 * 0.5;
    let to = out + <usize>(y * width) * 4;
    for (let x = 0; x < width; x++) {
      const k = <f64>1 / w;
      sample(picture, pictureWidth, pictureHeight, <f32>(u * k), <f32>(v * k), 1, to);
      to += 4;
      u += g0;
      v += g3;
      w += g6;
    }
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function cellOf(v: f32, cells: i32): i32 {
  return max(0, min(cells - 1, <i32>floor<f32>(v * 0.0625)));
}

// @ts-ignore: a decorator of the compiler
@inline
function shareInFront(stretch: f32): u8 {
  return <u8>floor<f32>(255 * max<f32>(0, min<f32>(1, 2.6 - stretch)) + 0.5);
}

/**
 * A picture seen pixel by pixel at the distance its closeness says, as `traceRelief` in core/depth follows it. At `bounds`
 * lie the least and the most closeness of every cell of 16 pixels of the map. At `view`
 * lie, as f32: the eight numbers of the step from the surface to rest pixels (x, y and what x and y of the surface add to
 * each, camera x and y), camera z, the six of rest pixels to the picture, closeness near and far as 1 / distance, how often a
 * ray is looked at, and where the picture begins in what the map is of, with the size of that. Where `front` is not 0, the share
 * of every pixel that is not torn open is written there.
 */
export function relieve(
  picture: usize,
  pictureWidth: i32,
  pictureHeight: i32,
  map: usize,
  mapWidth: i32,
  mapHeight: i32,
  bounds: usize,
  columns: i32,
  rows: i32,
  view: usize,
  out: usize,
  width: i32,
  height: i32,
  front: usize,
): void {
  const beginX = load<f32>(view + 72);
  const beginY = load<f32>(view + 76);
  const sx = <f32>mapWidth / load<f32>(view + 80);
  const sy = <f32>mapHeight / load<f32>(view + 84);
  const cx = load<f32>(view + 24);
  const cy = load<f32>(view + 28);
  const cz = load<f32>(view + 32);
  const a = load<f32>(view + 36);
  const b = load<f32>(view + 40);
  const c = load<f32>(view + 44);
  const d = load<f32>(view + 48);
  const e = load<f32>(view + 52);
  const f = load<f32>(view + 56);
  const qNear = load<f32>(view + 60);
  const qFar = load<f32>(view + 64);
  const looks = load<f32>(view + 68);
  let to = out;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const ox = load<f32>(view) + load<f32>(view + 4) * <f32>x + load<f32>(view + 8) * <f32>y;
      const oy = load<f32>(view + 12) + load<f32>(view + 16) * <f32>x + load<f32>(view + 20) * <f32>y;
      const wx = cx - cz * ox;
      const wy = cy - cz * oy;
      const u0 = a * ox + c * oy + e;
      const v0 = b * ox + d * oy + f;
      const du = a * wx + c * wy;
      const dv = b * wx + d * wy;
      const cellX = cellOf((u0 + du * qFar) * sx, columns);
      const cell = bounds + <usize>((cellOf((v0 + dv * qFar) * sy, rows) * columns + cellX) * 8);
      const low = load<f32>(cell);
      const high = load<f32>(cell + 4);
      const steps = <i32>ceil<f32>(looks * (high - low)) + 1;
      const pace = (low - high) / <f32>steps;
      let k = high;
      const first = qFar + k * (qNear - qFar);
      let above = k - closenessAt(map, mapWidth, mapHeight, (u0 + du * first) * sx, (v0 + dv * first) * sy);
      let before = k;
      let gap = above;
      for (let n = 1; n <= steps && gap > 0; n++) {
        before = k;
        above = gap;
        k = high + <f32>n * pace;
        const q = qFar + k * (qNear - qFar);
        gap = k - closenessAt(map, mapWidth, mapHeight, (u0 + du * q) * sx, (v0 + dv * q) * sy);
      }
      let stretch: f32 = 1;
      if (gap < 0 && above > 0) {
        stretch = (above - gap) / (before - k);
        k += ((before - k) * -gap) / (above - gap);
      }
      if (front) store<u8>(front + <usize>(y * width + x), shareInFront(stretch));
      const q = qFar + k * (qNear - qFar);
      sample(picture, pictureWidth, pictureHeight, u0 + du * q - beginX, v0 + dv * q - beginY, 1, to);
      to += 4;
    }
  }
}
