import { makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';

interface Level {
  width: number;
  height: number;
  front: Float32Array;
  back: Float32Array;
}

/**
 * The piece's own colours, free of the old background: multi-level foreground estimation (Germer, Uelwer, Conrad &
 * Harmeling 2020). From one pixel upwards, every level starts from the coarser one and solves, for each pixel, the 2x2
 * system that balances the compositing equation with smoothness to the four neighbours.
 * @param alpha 0..255, size of the picture
 * @returns the picture with cleaned colours and `alpha`; pixels of alpha 255 keep theirs exactly
 */
export function cleanColours(picture: Rgba, alpha: Bytes): Rgba {
  const { width, height } = picture;
  const depth = Math.ceil(Math.log2(Math.max(width, height)));
  let level: Level = { width: 1, height: 1, front: new Float32Array(3), back: new Float32Array(3) };
  seedLevel(level, picture, alpha);
  for (let k = 0; k < depth; k++) {
    const w = Math.max(1, Math.round(width ** (k / depth)));
    const h = Math.max(1, Math.round(height ** (k / depth)));
    level = solveLevel(level, picture, alpha, w, h, Math.max(w, h) <= 32 ? 10 : 2);
  }
  if (Math.max(width, height) > settledBeyond) return solveLast(level, picture, alpha);
  return shown(
    solveLevel(level, picture, alpha, width, height, Math.max(width, height) <= 32 ? 10 : 2),
    picture,
    alpha,
  );
}

function shown({ front }: Level, picture: Rgba, alpha: Bytes): Rgba {
  const out = makeRgba(picture.width, picture.height);
  for (let i = 0; i < alpha.data.length; i++) {
    const a = alpha.data[i]!;
    for (let c = 0; c < 3; c++) out.data[i * 4 + c] = a === 255 ? picture.data[i * 4 + c]! : front[i * 3 + c]! * 255;
    out.data[i * 4 + 3] = a;
  }
  return out;
}

/** The single pixel of the coarsest level starts with the mean colours of both sides. */
function seedLevel(level: Level, picture: Rgba, alpha: Bytes): void {
  const sums = new Float64Array(8);
  for (let i = 0; i < alpha.data.length; i += 7) {
    const side = alpha.data[i]! > 127 ? 0 : 4;
    for (let c = 0; c < 3; c++) sums[side + c]! += picture.data[i * 4 + c]! / 255;
    sums[side + 3]! += 1;
  }
  for (let c = 0; c < 3; c++) {
    level.front[c] = sums[c]! / Math.max(1, sums[3]!);
    level.back[c] = sums[4 + c]! / Math.max(1, sums[7]!);
  }
}

function solveLevel(coarse: Level, picture: Rgba, alpha: Bytes, width: number, height: number, rounds: number): Level {
  const level: Level = {
    width,
    height,
    front: new Float32Array(width * height * 3),
    back: new Float32Array(width * height * 3),
  };
  const a = new Float32Array(width * height);
  const color = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    const py = Math.min(picture.height - 1, Math.floor(((y + 0.5) * picture.height) / height));
    const cy = Math.min(coarse.height - 1, Math.floor((y * coarse.height) / height));
    for (let x = 0; x < width; x++) {
      const px = Math.min(picture.width - 1, Math.floor(((x + 0.5) * picture.width) / width));
      const cx = Math.min(coarse.width - 1, Math.floor((x * coarse.width) / width));
      const i = y * width + x;
      const p = py * picture.width + px;
      const q = (cy * coarse.width + cx) * 3;
      a[i] = alpha.data[p]! / 255;
      for (let c = 0; c < 3; c++) {
        color[i * 3 + c] = picture.data[p * 4 + c]! / 255;
        level.front[i * 3 + c] = coarse.front[q + c]!;
        level.back[i * 3 + c] = coarse.back[q + c]!;
      }
    }
  }
  // Where alpha is 0 or 1 one side is the picture itself; on large levels only the pixels in between need solving.
  const soft = Math.max(width, height) > settledBeyond ? settleOpaque(level, a, color) : null;
  for (let round = 0; round < rounds; round++) sweep(level, a, color, soft);
  return level;
}

/** Levels longer than this are solved between clear and opaque alone. */
const settledBeyond = 128;

/**
 * The picture's own level, which is the largest by far: as `solveLevel`, but only soft pixels have a place in memory; what lies around
 * them is read from the picture and from the coarser level.
 */
function solveLast(coarse: Level, picture: Rgba, alpha: Bytes): Rgba {
  const below = placesBelow(coarse, picture);
  const out = sureColours(coarse, picture, alpha, below);
  const soft: number[] = [];
  for (let i = 0; i < alpha.data.length; i++) if (alpha.data[i]! > 0 && alpha.data[i]! < 255) soft.push(i);
  const front = solveSoft(soft, coarse, picture, alpha, below);
  soft.forEach((i, k) => {
    for (let c = 0; c < 3; c++) out.data[i * 4 + c] = front[k * 3 + c]! * 255;
  });
  return out;
}

/** Where in the colours of a coarser level a pixel's own lie. */
function placesBelow(coarse: Level, { width, height }: Rgba): (i: number) => number {
  const columns = Int32Array.from({ length: width }, (_, x) =>
    Math.min(coarse.width - 1, Math.floor((x * coarse.width) / width)),
  );
  const rows = Int32Array.from({ length: height }, (_, y) =>
    Math.min(coarse.height - 1, Math.floor((y * coarse.height) / height)),
  );
  return (i) => (rows[(i / width) | 0]! * coarse.width + columns[i % width]!) * 3;
}

/** Opaque pixels with their own colours, clear ones with those of the coarser level. */
function sureColours({ front }: Level, picture: Rgba, alpha: Bytes, below: (i: number) => number): Rgba {
  const out = makeRgba(picture.width, picture.height);
  for (let i = 0; i < alpha.data.length; i++) {
    const a = alpha.data[i]!;
    const q = a === 0 ? below(i) : 0;
    if (a === 0) for (let c = 0; c < 3; c++) out.data[i * 4 + c] = front[q + c]! * 255;
    else if (a === 255) for (let c = 0; c < 3; c++) out.data[i * 4 + c] = picture.data[i * 4 + c]!;
    out.data[i * 4 + 3] = a;
  }
  return out;
}

/** The piece's colours of the soft pixels, three each. */
function solveSoft(
  soft: readonly number[],
  coarse: Level,
  picture: Rgba,
  alpha: Bytes,
  below: (i: number) => number,
): Float32Array {
  const { width, height } = picture;
  const [front, back] = [new Float32Array(soft.length * 3), new Float32Array(soft.length * 3)];
  // From 1, so that 0 is none.
  const place = new Int32Array(width * height);
  soft.forEach((i, k) => {
    place[i] = k + 1;
    front.set(coarse.front.subarray(below(i), below(i) + 3), k * 3);
    back.set(coarse.back.subarray(below(i), below(i) + 3), k * 3);
  });
  const around = [0, 0, 0, 0];
  const [near, own] = [new Float32Array(6), new Float32Array(3)];
  /** Both sides at a pixel, into `near`. */
  const look = (j: number): void => {
    const at = place[j]! - 1;
    const q = at < 0 ? below(j) : 0;
    const opaque = alpha.data[j] === 255;
    for (let c = 0; c < 3; c++) {
      const colour = picture.data[j * 4 + c]! / 255;
      near[c] = at >= 0 ? front[at * 3 + c]! : opaque ? colour : coarse.front[q + c]!;
      near[c + 3] = at >= 0 ? back[at * 3 + c]! : opaque ? coarse.back[q + c]! : colour;
    }
  };
  const sums = new Float64Array(6);
  for (let round = 0; round < 2; round++)
    for (let k = 0; k < soft.length; k++) {
      const i = soft[k]!;
      const a0 = Math.fround(alpha.data[i]! / 255);
      lookAround(around, i, width, height);
      let sum = 0;
      sums.fill(0);
      for (const j of around) {
        const w = regularisation + gradientWeight * Math.abs(a0 - Math.fround(alpha.data[j]! / 255));
        look(j);
        sum += w;
        for (let c = 0; c < 6; c++) sums[c]! += w * near[c]!;
      }
      for (let c = 0; c < 3; c++) own[c] = picture.data[i * 4 + c]! / 255;
      balance(a0, sum, sums, own, 0, front, back, k * 3);
    }
  return front;
}

/** Both colours of a pixel that balance its own colour with its neighbours', whose weighted sums are given: a 2x2 system. */
function balance(
  a0: number,
  sum: number,
  sums: Float64Array,
  own: Float32Array,
  at: number,
  front: Float32Array,
  back: Float32Array,
  to: number,
): void {
  const a1 = 1 - a0;
  const m00 = a0 * a0 + sum;
  const m01 = a0 * a1;
  const m11 = a1 * a1 + sum;
  const inverse = 1 / (m00 * m11 - m01 * m01);
  for (let c = 0; c < 3; c++) {
    const v = own[at + c]!;
    const fs = sums[c]! + a0 * v;
    const bs = sums[c + 3]! + a1 * v;
    front[to + c] = Math.max(0, Math.min(1, (m11 * fs - m01 * bs) * inverse));
    back[to + c] = Math.max(0, Math.min(1, (m00 * bs - m01 * fs) * inverse));
  }
}

const regularisation = 1e-5;
const gradientWeight = 0.1;

/** Gives fully clear and fully opaque pixels their own colour; returns the indices of the others. */
function settleOpaque(level: Level, a: Float32Array, color: Float32Array): Int32Array {
  const soft: number[] = [];
  for (let i = 0; i < a.length; i++) {
    if (a[i]! > 0 && a[i]! < 1) soft.push(i);
    else (a[i] === 1 ? level.front : level.back).set(color.subarray(i * 3, i * 3 + 3), i * 3);
  }
  return Int32Array.from(soft);
}

/** The four neighbours of a pixel; at the frame the pixel itself. */
function lookAround(around: number[], i: number, width: number, height: number): void {
  const x = i % width;
  const y = (i / width) | 0;
  around[0] = x > 0 ? i - 1 : i;
  around[1] = x + 1 < width ? i + 1 : i;
  around[2] = y > 0 ? i - width : i;
  around[3] = y + 1 < height ? i + width : i;
}

function sweep(level: Level, a: Float32Array, color: Float32Array, only: Int32Array | null): void {
  const { width, height, front, back } = level;
  const around = [0, 0, 0, 0];
  const sums = new Float64Array(6);
  const count = only ? only.length : width * height;
  for (let k = 0; k < count; k++) {
    const i = only ? only[k]! : k;
    const a0 = a[i]!;
    lookAround(around, i, width, height);
    let sum = 0;
    sums.fill(0);
    for (let n = 0; n < 4; n++) {
      const j = around[n]!;
      const w = regularisation + gradientWeight * Math.abs(a0 - a[j]!);
      sum += w;
      for (let c = 0; c < 3; c++) {
        sums[c]! += w * front[j * 3 + c]!;
        sums[c + 3]! += w * back[j * 3 + c]!;
      }
    }
    balance(a0, sum, sums, color, i * 3, front, back, i * 3);
  }
}
