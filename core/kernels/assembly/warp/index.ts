import { closenessAt } from './closeness';
import { sample, sampleFour } from './sample';

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

/** Of four: the share (0..255) of each that is not torn open. */
// @ts-ignore: a decorator of the compiler
@inline
function sharesInFront(stretch: v128): v128 {
  const share = f32x4.pmax(f32x4.splat(0), f32x4.pmin(f32x4.splat(1), f32x4.sub(f32x4.splat(2.6), stretch)));
  return i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(share, f32x4.splat(255)), f32x4.splat(0.5)));
}

/** Where four rays are at their closenesses. */
// @ts-ignore: a decorator of the compiler
@inline
function placeAt(start: v128, way: v128, q: v128): v128 {
  return f32x4.add(start, f32x4.mul(way, q));
}

/** Pixels of the surface a block is wide and high, whose rays are looked for between the same closenesses. */
const block: i32 = 8;

/**
 * A picture seen pixel by pixel at the distance its closeness says, as `traceRelief` in core/depth follows it. At `bounds`
 * lie for every block of the surface the least and the most closeness its rays can meet, and in how many steps they are looked
 * for there; a block of none is left clear. At `view` lie, as f32: the eight numbers of the step from the surface to rest
 * pixels (x, y and what x and y of the surface add to each, camera x and y), camera z, the six of rest pixels to the picture,
 * closeness near and far as 1 / distance, and where the picture begins in what the map is of, with the size of that. Where
 * `front` is not 0, the share of every pixel that is not torn open is written there.
 */
export function relieve(
  picture: usize,
  pictureWidth: i32,
  pictureHeight: i32,
  map: usize,
  mapWidth: i32,
  mapHeight: i32,
  bounds: usize,
  view: usize,
  out: usize,
  width: i32,
  height: i32,
  front: usize,
): void {
  const beginX = load<f32>(view + 68);
  const beginY = load<f32>(view + 72);
  const sx = <f32>mapWidth / load<f32>(view + 76);
  const sy = <f32>mapHeight / load<f32>(view + 80);
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
  const blocks = (width + block - 1) / block;
  const lanes = f32x4(0, 1, 2, 3);
  const mostX = f32x4.splat(<f32>mapWidth - 1.001);
  const mostY = f32x4.splat(<f32>mapHeight - 1.001);
  const far = f32x4.splat(qFar);
  const deep = f32x4.splat(qNear - qFar);
  for (let y = 0; y < height; y++) {
    for (let column = 0; column < blocks; column++) {
      const cell = bounds + <usize>(((y / block) * blocks + column) * 12);
      const low = load<f32>(cell);
      const high = load<f32>(cell + 4);
      const steps = <i32>load<f32>(cell + 8);
      const pace = (low - high) / <f32>steps;
      const end = min(width, (column + 1) * block);
      for (let x = column * block; x < end; x += 4) {
        const at = y * width + x;
        const count = min(4, end - x);
        const to = out + <usize>at * 4;
        if (steps == 0) {
          memory.fill(to, 0, <usize>count * 4);
          continue;
        }
        const px = f32x4.add(f32x4.splat(<f32>x), lanes);
        const startX = load<f32>(view) + load<f32>(view + 8) * <f32>y;
        const startY = load<f32>(view + 12) + load<f32>(view + 20) * <f32>y;
        const ox = f32x4.add(f32x4.splat(startX), f32x4.mul(f32x4.splat(load<f32>(view + 4)), px));
        const oy = f32x4.add(f32x4.splat(startY), f32x4.mul(f32x4.splat(load<f32>(view + 16)), px));
        const wx = f32x4.sub(f32x4.splat(cx), f32x4.mul(f32x4.splat(cz), ox));
        const wy = f32x4.sub(f32x4.splat(cy), f32x4.mul(f32x4.splat(cz), oy));
        const u0 = f32x4.add(f32x4.add(f32x4.mul(f32x4.splat(a), ox), f32x4.mul(f32x4.splat(c), oy)), f32x4.splat(e));
        const v0 = f32x4.add(f32x4.add(f32x4.mul(f32x4.splat(b), ox), f32x4.mul(f32x4.splat(d), oy)), f32x4.splat(f));
        const du = f32x4.add(f32x4.mul(f32x4.splat(a), wx), f32x4.mul(f32x4.splat(c), wy));
        const dv = f32x4.add(f32x4.mul(f32x4.splat(b), wx), f32x4.mul(f32x4.splat(d), wy));
        // In pixels of the map.
        const mapU = f32x4.mul(u0, f32x4.splat(sx));
        const mapV = f32x4.mul(v0, f32x4.splat(sy));
        const wayU = f32x4.mul(du, f32x4.splat(sx));
        const wayV = f32x4.mul(dv, f32x4.splat(sy));
        let k = f32x4.splat(high);
        let q = f32x4.add(far, f32x4.mul(k, deep));
        let gap = f32x4.sub(
          k,
          closenessAt(map, mapWidth, mostX, mostY, placeAt(mapU, wayU, q), placeAt(mapV, wayV, q)),
        );
        let above = gap;
        let before = k;
        // Those that have not met the relief yet.
        let going = f32x4.gt(gap, f32x4.splat(0));
        for (let n = 1; n <= steps && v128.any_true(going); n++) {
          before = v128.bitselect(k, before, going);
          above = v128.bitselect(gap, above, going);
          k = v128.bitselect(f32x4.splat(high + <f32>n * pace), k, going);
          q = f32x4.add(far, f32x4.mul(k, deep));
          const closeness = closenessAt(
            map,
            mapWidth,
            mostX,
            mostY,
            placeAt(mapU, wayU, q),
            placeAt(mapV, wayV, q),
          );
          gap = v128.bitselect(f32x4.sub(k, closeness), gap, going);
          going = v128.and(going, f32x4.gt(gap, f32x4.splat(0)));
        }
        const met = v128.and(f32x4.lt(gap, f32x4.splat(0)), f32x4.gt(above, f32x4.splat(0)));
        const sunk = f32x4.sub(above, gap);
        const gone = f32x4.sub(before, k);
        const stretch = v128.bitselect(f32x4.div(sunk, gone), f32x4.splat(1), met);
        const more = f32x4.div(f32x4.mul(gone, f32x4.neg(gap)), sunk);
        k = f32x4.add(k, v128.and(more, met));
        if (front) {
          const shares = sharesInFront(stretch);
          const into = front + <usize>at;
          store<u8>(into, <u8>i32x4.extract_lane(shares, 0));
          if (count > 1) store<u8>(into + 1, <u8>i32x4.extract_lane(shares, 1));
          if (count > 2) store<u8>(into + 2, <u8>i32x4.extract_lane(shares, 2));
          if (count > 3) store<u8>(into + 3, <u8>i32x4.extract_lane(shares, 3));
        }
        q = f32x4.add(far, f32x4.mul(k, deep));
        const u = f32x4.sub(placeAt(u0, du, q), f32x4.splat(beginX));
        const v = f32x4.sub(placeAt(v0, dv, q), f32x4.splat(beginY));
        sampleFour(picture, pictureWidth, pictureHeight, u, v, to, count);
      }
    }
  }
}
