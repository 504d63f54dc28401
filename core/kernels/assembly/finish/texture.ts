import { at, hash, hashes, lightOf, mixed, pixel, rounded, storePixel, within } from './vectors';

/**
 * Grain, strongest in the middle tones.
 * @param row pixels from row to row
 * @param columns which cell each column lies in (i32), counted from the first  @param first its number
 * @param noise memory for three floats a cell of a row, and for three a pixel of a row, rounded up to vectors
 */
export function grain(
  data: usize,
  row: i32,
  width: i32,
  height: i32,
  columns: usize,
  cells: i32,
  first: i32,
  rows: usize,
  seed: i32,
  strength: f32,
  colour: f32,
  noise: usize,
): void {
  const stride = (<usize>width * 4 + 31) & ~15;
  const apart = (<usize>cells * 4 + 15) & ~15;
  const reds = noise + 3 * apart;
  let known = i32.MIN_VALUE;
  for (let y = 0; y < height; y++) {
    const v = load<i32>(at(rows, y, 4));
    if (v != known || y == 0) {
      noiseOfRow(noise, apart, cells, first, v, seed, colour);
      for (let x = 0; x < width; x++) {
        const cell = at(noise, load<i32>(at(columns, x, 4)), 4);
        const out = at(reds, x, 4);
        store<f32>(out, load<f32>(cell));
        store<f32>(out + stride, load<f32>(cell + apart));
        store<f32>(out + 2 * stride, load<f32>(cell + 2 * apart));
      }
    }
    known = v;
    for (let x = 0; x < width; x += 4) {
      const i = at(data, y * row + x, 4);
      const made = grained(v128.load(i), at(reds, x, 4), stride, strength);
      // The next row begins where this one ends: of the last vector only what belongs to it is stored.
      const rest = width - x;
      if (rest >= 4) v128.store(i, made);
      else storeSome(i, made, rest);
    }
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function storeSome(address: usize, pixels: v128, count: i32): void {
  v128.store32_lane(address, pixels, 0);
  if (count > 1) v128.store32_lane(address + 4, pixels, 1);
  if (count > 2) v128.store32_lane(address + 8, pixels, 2);
}

/**
 * What a row of cells adds to red, green and blue: a list of floats each, `apart` bytes from one another. Four cells at once.
 */
function noiseOfRow(noise: usize, apart: usize, cells: i32, first: i32, v: i32, seed: i32, colour: f32): void {
  const plain = f32x4.splat((1 - colour) * <f32>0.7);
  const coloured = f32x4.splat(colour);
  for (let k = 0; k < cells; k += 4) {
    const u = i32x4.add(i32x4.splat(first + k), i32x4(0, 1, 2, 3));
    const sum = f32x4.add(hashes(u, v, seed), hashes(u, v, seed + 3));
    const common = f32x4.mul(f32x4.sub(sum, f32x4.splat(1)), plain);
    for (let c = 0; c < 3; c++) {
      let made = common;
      if (colour > 0) {
        const own = f32x4.sub(hashes(u, v, seed + 5 + c), f32x4.splat(0.5));
        made = f32x4.add(made, f32x4.mul(own, coloured));
      }
      v128.store(at(noise, k, 4) + <usize>c * apart, made);
    }
  }
}

/** Four pixels with their grain. @param noise of the reds; of the greens and blues `stride` bytes on */
// @ts-ignore: a decorator of the compiler
@inline
function grained(pixels: v128, noise: usize, stride: usize, strength: f32): v128 {
  if (!v128.any_true(i32x4.shr_u(pixels, 24))) return pixels;
  const red = channel(pixels, 0);
  const green = channel(pixels, 8);
  const blue = channel(pixels, 16);
  const sum = f32x4.add(
    f32x4.add(f32x4.mul(red, f32x4.splat(0.2126)), f32x4.mul(green, f32x4.splat(0.7152))),
    f32x4.mul(blue, f32x4.splat(0.0722)),
  );
  const light = f32x4.mul(sum, f32x4.splat(1.0 / 255.0));
  const middle = f32x4.mul(light, f32x4.sub(f32x4.splat(1), light));
  const part = f32x4.add(f32x4.splat(strength * <f32>0.35), f32x4.mul(middle, f32x4.splat(strength * <f32>2.6)));
  const r = bytesAt(f32x4.add(red, f32x4.mul(part, v128.load(noise))), 0);
  const g = bytesAt(f32x4.add(green, f32x4.mul(part, v128.load(noise + stride))), 8);
  const b = bytesAt(f32x4.add(blue, f32x4.mul(part, v128.load(noise + 2 * stride))), 16);
  const made = v128.or(v128.or(r, g), v128.or(b, v128.and(pixels, i32x4.splat(0xff000000))));
  return v128.bitselect(pixels, made, i32x4.eq(i32x4.shr_u(pixels, 24), i32x4.splat(0)));
}

// @ts-ignore: a decorator of the compiler
@inline
function channel(pixels: v128, bits: i32): v128 {
  return f32x4.convert_i32x4_s(v128.and(i32x4.shr_u(pixels, bits), i32x4.splat(255)));
}

/** Four numbers as bytes in their place. */
// @ts-ignore: a decorator of the compiler
@inline
function bytesAt(values: v128, bits: i32): v128 {
  return i32x4.shl(rounded(f32x4.pmin(f32x4.pmax(values, f32x4.splat(0)), f32x4.splat(255))), bits);
}

/**
 * Noise between the corners of a lattice, added to a plane.
 * @param firstColumn, firstRow numbers of the first corner  @param left, top where the plane's corner lies after it, in cells
 * @param corners memory for them: `columns` x `rows` floats, for a row of them, and for 8 bytes a pixel of a row
 */
export function addNoise(
  plane: usize,
  width: i32,
  height: i32,
  seed: i32,
  firstColumn: i32,
  firstRow: i32,
  columns: i32,
  rows: i32,
  cell: f32,
  left: f32,
  top: f32,
  strength: f32,
  corners: usize,
): void {
  const line = at(corners, columns * rows, 4);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++)
      store<f32>(at(corners, r * columns + c, 4), hash(firstColumn + c, firstRow + r, seed));
  }
  const share: f32 = <f32>1 / cell;
  // Which corner is left of each column, and how much of the next one it has.
  const places = at(line, columns, 4);
  for (let x = 0; x < width; x++) {
    const u = <f32>x * share + left;
    store<i32>(at(places, x, 8), <i32>u * 4);
    store<f32>(at(places, x, 8), smooth(u - floor<f32>(u)), 4);
  }
  for (let y = 0; y < height; y++) {
    const v = <f32>y * share + top;
    const row = <i32>floor<f32>(v);
    const sy = smooth(v - <f32>row);
    const upper = at(corners, row * columns, 4);
    const lower = at(upper, columns, 4);
    // Between the rows once for each corner, then along the row.
    for (let k = 0; k < columns; k++) {
      const a = load<f32>(at(upper, k, 4));
      store<f32>(at(line, k, 4), (a + (load<f32>(at(lower, k, 4)) - a) * sy) * strength);
    }
    const out = at(plane, y * width, 4);
    for (let x = 0; x < width; x++) {
      const place = at(places, x, 8);
      const i = line + <usize>load<i32>(place);
      const a = load<f32>(i);
      const made = a + (load<f32>(i, 4) - a) * load<f32>(place, 4);
      store<f32>(at(out, x, 4), load<f32>(at(out, x, 4)) + made);
    }
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function smooth(t: f32): f32 {
  return t * t * (3 - 2 * t);
}

/** Colours times 1 and how much higher a surface is than `reach` pixels to the lower right, by a strength. */
export function lightSurface(data: usize, width: i32, height: i32, surface: usize, reach: i32, strength: f32): void {
  for (let y = 0; y < height; y++) {
    const below = min(height - 1, y + reach) * width;
    for (let x = 0; x < width; x++) {
      const i = at(data, y * width + x, 4);
      const alpha = load<u8>(i, 3);
      if (alpha == 0) continue;
      const beside = load<f32>(at(surface, below + min(width - 1, x + reach), 4));
      const light: f32 = <f32>1 + strength * (load<f32>(at(surface, y * width + x, 4)) - beside);
      storePixel(i, f32x4.mul(pixel(i), f32x4.splat(light)));
      store<u8>(i, alpha, 3);
    }
  }
}

/**
 * Dots (`radii`: 256 f32 by how dark it is) or lines of ink on paper, on a turned grid.
 * @param settings f32: x and y of the grid's corner, cosine, sine, cell; then ink and paper as vectors of r, g, b, opacity
 */
export function halftone(data: usize, width: i32, height: i32, settings: usize, radii: usize): void {
  const ox = load<f32>(settings);
  const oy = load<f32>(settings, 4);
  const cos = load<f32>(settings, 8);
  const sin = load<f32>(settings, 12);
  const cell = load<f32>(settings, 16);
  const share: f32 = <f32>1 / cell;
  const ink = v128.load(settings, 32);
  const paper = v128.load(settings, 48);
  for (let y = 0; y < height; y++) {
    const dy = <f32>y - oy;
    for (let x = 0; x < width; x++) {
      const i = at(data, y * width + x, 4);
      const alpha = load<u8>(i, 3);
      if (alpha == 0) continue;
      const dark: f32 = <f32>1 - lightOf(pixel(i)) * <f32>(1.0 / 255.0);
      const dx = <f32>x - ox;
      const u = (dx * cos + dy * sin) * share;
      const v = (dy * cos - dx * sin) * share;
      const pu = u - floor<f32>(u) - <f32>0.5;
      const pv = v - floor<f32>(v) - <f32>0.5;
      const width1 = radii
        ? load<f32>(at(radii, <i32>(within(dark, 0, 1) * 255 + <f32>0.5), 4)) - sqrt<f32>(pu * pu + pv * pv)
        : dark * <f32>0.5 - abs<f32>(pv);
      const made = mixed(paper, ink, f32x4.splat(within(width1 * cell + <f32>0.5, 0, 1)));
      storePixel(i, f32x4.replace_lane(made, 3, f32x4.extract_lane(made, 3) * <f32>alpha));
    }
  }
}
