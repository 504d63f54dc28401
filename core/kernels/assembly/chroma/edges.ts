// The edge network: what it sees of blocks, and what it tells of their pixels. Whole numbers, so that it answers as the plain
// one in core/key/edge-network.ts does.
import { blockHeight, blockWidth, bluePlane, noise, redPlane, screen, side, stride, subject } from './frame';
import { everyBlue, everyGreen, everyRed, everySecond } from './pixels';
import { lumaOf } from './vectors';

/** Whole steps in one of what is seen and kept, and bits of those of a weight. */
const unit: f32 = 512;
const weightBits: i32 = 11;
const mostTold: i32 = 16 * 512 - 1;
/** Channels lie in pairs of 16 bits; of the first as many blocks are looked at on each side, and of the others one. */
const pairs: i32 = 5;
const wideReach: i32 = 2;
/** Blocks repeated around the planes. */
const margin: i32 = 2;
/** Vectors of what is seen of four blocks: 25 places of the first pair, 9 of the other four, 3 of facts. */
const seenVectors: i32 = 64;

/** Where things lie: planes of the pairs, the network, and room for what its layers tell. */
let picturePlane: usize = 0;
let coverPlane: usize = 0;
/** A byte for every four blocks: whether they are described. */
let described: usize = 0;
let planes: usize = 0;
let planeBytes: usize = 0;
let rowBytes: usize = 0;
/** How many neurons each layer has, then what they weigh. */
let network: usize = 0;
let layers: i32 = 0;
let told: usize = 0;
/** Bytes from what is seen and told of one unit to that of the other. */
let otherUnit: usize = 0;

/** Bytes of the planes of what is seen. */
export function edgeBytes(rowBlocks: i32, rows: i32): usize {
  return <usize>(pairs * (rowBlocks + 2 * side) * (rows + 2 * margin) * 4);
}

/**
 * @param cover with margins, from `coverOfBlocks`  @param seen `edgeBytes`  @param flags a byte for every four blocks
 * @param weights how many neurons each layer has, then the layers one after another, as `tell` reads them
 * @param count of layers  @param room for what layers tell of two units
 */
export function describeEdges(
  picture: usize,
  cover: usize,
  seen: usize,
  flags: usize,
  weights: usize,
  count: i32,
  room: usize,
): void {
  picturePlane = picture;
  coverPlane = cover;
  described = flags;
  memory.fill(flags, 0, <usize>(blockHeight * (stride / side)));
  planes = seen;
  rowBytes = <usize>((stride + 2 * side) * 4);
  planeBytes = rowBytes * <usize>(blockHeight + 2 * margin);
  network = weights;
  layers = count;
  told = room;
  otherUnit = <usize>((seenVectors + 4) * 16);
  for (let k = 0; k < layers - 1; k++) otherUnit += <usize>(load<i32>(network + <usize>(k * 4)) * 8);
}

/** Address of a block in the first pair's plane. */
// @ts-ignore: decorator
@inline
function placeOf(bx: i32, by: i32): usize {
  return planes + <usize>(by + margin) * rowBytes + <usize>((bx + side) * 4);
}

/** Describes the blocks that are looked at around a unit, unless they are described. */
function describeAround(by: i32, cx: i32): void {
  const columns = stride / side;
  for (let y = max(0, by - margin); y <= min(blockHeight - 1, by + margin); y++) {
    for (let x = max(0, cx - 1); x <= min(columns - 1, cx + 1); x++) {
      const at = described + <usize>(y * columns + x);
      if (load<u8>(at) != 0) continue;
      store<u8>(at, 1);
      describeUnit(y, x);
      if (x == 0 || x == columns - 1) repeatEnds(y);
      if (y == 0) for (let k = 1; k <= margin; k++) repeatRow(y, x, -k);
      if (y == blockHeight - 1) for (let k = 1; k <= margin; k++) repeatRow(y, x, k);
    }
  }
}

/** Repeats a unit of the first or last row, with what lies beside it, beyond the picture. */
function repeatRow(by: i32, cx: i32, rows: i32): void {
  for (let pair = 0; pair < pairs; pair++) {
    const from = placeOf(cx * side, by) + <usize>pair * planeBytes - <usize>(margin * 4);
    memory.copy(from + <usize>(rows * <i32>rowBytes), from, <usize>((side + 2 * margin) * 4));
  }
}

function describeUnit(by: i32, cx: i32): void {
  const cell = <usize>((by / side) * (stride / side) + cx);
  const cover = coverPlane + <usize>(by + 1) * rowBytes + <usize>((side + cx * side) * 4);
  const behind = screen + cell * 16;
  const own = (subject == 0 ? screen : subject) + cell * 16;
  const step = load<f32>(own) - load<f32>(behind);
  const wayBlue = (load<f32>(own + 4) - load<f32>(behind + 4)) * <f32>(1.0 / 1.8556);
  const wayRed = (load<f32>(own + 8) - load<f32>(behind + 8)) * <f32>(1.0 / 1.5748);
  const square = wayBlue * wayBlue + wayRed * wayRed;
  const i = <usize>((by * stride + cx * side) * 4);
  const blue = f32x4.sub(v128.load(bluePlane + i), v128.load32_splat(behind + 4));
  const red = f32x4.sub(v128.load(redPlane + i), v128.load32_splat(behind + 8));
  const share: f32 = 1 / (square + 100);
  const along = f32x4.add(
    f32x4.mul(blue, f32x4.splat(wayBlue * share * <f32>(1.0 / 1.8556))),
    f32x4.mul(red, f32x4.splat(wayRed * share * <f32>(1.0 / 1.5748))),
  );
  const to = placeOf(cx * side, by);
  v128.store(to, paired(v128.load(cover), along));
  const top = picturePlane + <usize>(by * stride * 16 + cx * 32);
  const low = top + <usize>(stride * 8);
  const luma = v128.load32_splat(behind);
  const topLeft = f32x4.sub(lumaOfSecond(top, 0), luma);
  const topRight = f32x4.sub(lumaOfSecond(top, 1), luma);
  const lowLeft = f32x4.sub(lumaOfSecond(low, 0), luma);
  const lowRight = f32x4.sub(lumaOfSecond(low, 1), luma);
  const plain = f32x4.splat(step < 0 ? <f32>(-1.0 / 64.0) : <f32>(1.0 / 64.0));
  const solved = f32x4.splat(step / (step * step + 36));
  v128.store(to + planeBytes, paired(f32x4.mul(topLeft, plain), f32x4.mul(topRight, plain)));
  v128.store(to + 2 * planeBytes, paired(f32x4.mul(lowLeft, plain), f32x4.mul(lowRight, plain)));
  v128.store(to + 3 * planeBytes, paired(f32x4.mul(topLeft, solved), f32x4.mul(topRight, solved)));
  v128.store(to + 4 * planeBytes, paired(f32x4.mul(lowLeft, solved), f32x4.mul(lowRight, solved)));
}

// @ts-ignore: decorator
@inline
function lumaOfSecond(at: usize, odd: i32): v128 {
  const pixels = everySecond(at, odd);
  return lumaOf(everyRed(pixels), everyGreen(pixels), everyBlue(pixels));
}

/** Two times four numbers as whole steps of 16 bits, side by side. */
// @ts-ignore: decorator
@inline
function paired(even: v128, odd: v128): v128 {
  return v128.or(v128.and(whole(even), i32x4.splat(0xffff)), i32x4.shl(whole(odd), 16));
}

// @ts-ignore: decorator
@inline
function whole(v: v128): v128 {
  const kept = f32x4.min(f32x4.splat(2), f32x4.max(f32x4.splat(-2), v));
  return i32x4.trunc_sat_f32x4_s(f32x4.floor(f32x4.add(f32x4.mul(kept, f32x4.splat(unit)), f32x4.splat(0.5))));
}

/** Repeats the first and the last block of a row beyond it. */
function repeatEnds(by: i32): void {
  for (let pair = 0; pair < pairs; pair++) {
    const first = placeOf(0, by) + <usize>pair * planeBytes;
    const last = first + <usize>((blockWidth - 1) * 4);
    for (let k = 1; k <= margin; k++) {
      store<i32>(first - <usize>(k * 4), load<i32>(first));
      store<i32>(last + <usize>(k * 4), load<i32>(last));
    }
  }
}

/** Bytes from what is told of one unit to what is told of the other. */
// @ts-ignore: decorator
@inline
export function toldOfOther(): usize {
  return otherUnit;
}

/**
 * Asks the network about two units of four blocks beside one another.
 * @returns where it tells how much alpha lies beyond the course of the first: four vectors of whole steps, one a pixel of each
 * block; those of the other lie `toldOfOther` further
 */
export function tellOfUnits(by: i32, cx: i32, otherBy: i32, otherCx: i32): usize {
  collect(by, cx, told);
  collect(otherBy, otherCx, told + otherUnit);
  let from = told;
  let pairCount = seenVectors;
  let at = network + <usize>(layers * 4);
  for (let k = 0; k < layers; k++) {
    const neurons = load<i32>(network + <usize>(k * 4));
    const to = from + <usize>(pairCount * 16);
    at = tell(from, pairCount, at, neurons, to, k + 1 == layers);
    from = to;
    pairCount = neurons >> 1;
  }
  return from;
}

function collect(by: i32, cx: i32, seen: usize): void {
  describeAround(by, cx);
  let to = seen;
  for (let pair = 0; pair < pairs; pair++) {
    const reach = pair == 0 ? wideReach : 1;
    const plane = placeOf(cx * side, by) + <usize>pair * planeBytes;
    for (let dy = -reach; dy <= reach; dy++) {
      for (let dx = -reach; dx <= reach; dx++) {
        v128.store(to, v128.load(plane + <usize>(dy * <i32>rowBytes + dx * 4)));
        to += 16;
      }
    }
  }
  const cell = <usize>((by / side) * (stride / side) + cx) * 16;
  const behind = screen + cell;
  const own = (subject == 0 ? screen : subject) + cell;
  const step = abs<f32>(load<f32>(own) - load<f32>(behind));
  const blue = (load<f32>(own + 4) - load<f32>(behind + 4)) * <f32>(1.0 / 1.8556);
  const red = (load<f32>(own + 8) - load<f32>(behind + 8)) * <f32>(1.0 / 1.5748);
  const texture: f32 = subject == 0 ? 0 : max<f32>(0, load<f32>(own + 12) - load<f32>(own) * load<f32>(own));
  v128.store(to, factPair(step / 64, sqrt<f32>(blue * blue + red * red) / 64));
  v128.store(to + 16, factPair(sqrt<f32>(texture) / 32, 16 / (16 + step)));
  v128.store(to + 32, factPair(noise / 5, 0));
}

// @ts-ignore: decorator
@inline
function factPair(even: f32, odd: f32): v128 {
  return paired(f32x4.splat(even), f32x4.splat(odd));
}

/**
 * One layer for two units.
 * @param from pairs of 16 bits, a vector each  @param layer its starts, then for every four neurons their weights of each pair
 * @param to pairs again, or sums of 32 bits at the end  @returns where the next layer lies
 */
function tell(from: usize, pairCount: i32, layer: usize, neurons: i32, to: usize, end: bool): usize {
  const other = otherUnit;
  let w = layer + <usize>(neurons * 4);
  const stop = from + <usize>(pairCount * 16);
  for (let j = 0; j < neurons; j += 4) {
    const s = layer + <usize>(j * 4);
    let a = v128.load32_splat(s);
    let b = v128.load32_splat(s, 4);
    let c = v128.load32_splat(s, 8);
    let d = v128.load32_splat(s, 12);
    let e = a;
    let f = b;
    let g = c;
    let h = d;
    for (let x = from; x < stop; x += 16) {
      const one = v128.load(x);
      const two = v128.load(x + other);
      const wa = v128.load32_splat(w);
      const wb = v128.load32_splat(w, 4);
      const wc = v128.load32_splat(w, 8);
      const wd = v128.load32_splat(w, 12);
      a = i32x4.add(a, i32x4.dot_i16x8_s(one, wa));
      b = i32x4.add(b, i32x4.dot_i16x8_s(one, wb));
      c = i32x4.add(c, i32x4.dot_i16x8_s(one, wc));
      d = i32x4.add(d, i32x4.dot_i16x8_s(one, wd));
      e = i32x4.add(e, i32x4.dot_i16x8_s(two, wa));
      f = i32x4.add(f, i32x4.dot_i16x8_s(two, wb));
      g = i32x4.add(g, i32x4.dot_i16x8_s(two, wc));
      h = i32x4.add(h, i32x4.dot_i16x8_s(two, wd));
      w += 16;
    }
    const at = to + <usize>(j * (end ? 16 : 8));
    keep(at, a, b, c, d, end);
    keep(at + other, e, f, g, h, end);
  }
  return w;
}

/** Keeps what four neurons tell, for the next layer or as the end. */
// @ts-ignore: decorator
@inline
function keep(at: usize, a: v128, b: v128, c: v128, d: v128, end: bool): void {
  const sa = i32x4.shr_s(a, weightBits);
  const sb = i32x4.shr_s(b, weightBits);
  const sc = i32x4.shr_s(c, weightBits);
  const sd = i32x4.shr_s(d, weightBits);
  if (end) {
    v128.store(at, sa);
    v128.store(at, sb, 16);
    v128.store(at, sc, 32);
    v128.store(at, sd, 48);
  } else {
    v128.store(at, v128.or(rectified(sa), i32x4.shl(rectified(sb), 16)));
    v128.store(at, v128.or(rectified(sc), i32x4.shl(rectified(sd), 16)), 16);
  }
}

// @ts-ignore: decorator
@inline
function rectified(sum: v128): v128 {
  return i32x4.min_s(i32x4.splat(mostTold), i32x4.max_s(i32x4.splat(0), sum));
}
