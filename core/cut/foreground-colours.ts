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
  for (let k = 0; k <= depth; k++) {
    const w = k === depth ? width : Math.max(1, Math.round(width ** (k / depth)));
    const h = k === depth ? height : Math.max(1, Math.round(height ** (k / depth)));
    level = solveLevel(level, picture, alpha, w, h, Math.max(w, h) <= 32 ? 10 : 2);
  }
  const out = makeRgba(width, height);
  for (let i = 0; i < alpha.data.length; i++) {
    const a = alpha.data[i]!;
    for (let c = 0; c < 3; c++)
      out.data[i * 4 + c] = a === 255 ? picture.data[i * 4 + c]! : level.front[i * 3 + c]! * 255;
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
  const soft = Math.max(width, height) > 128 ? settleOpaque(level, a, color) : null;
  for (let round = 0; round < rounds; round++) sweep(level, a, color, soft);
  return level;
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

function sweep(level: Level, a: Float32Array, color: Float32Array, only: Int32Array | null): void {
  const { width, height, front, back } = level;
  const around = [0, 0, 0, 0];
  const count = only ? only.length : width * height;
  for (let k = 0; k < count; k++) {
    {
      const i = only ? only[k]! : k;
      const x = i % width;
      const y = (i / width) | 0;
      const a0 = a[i]!;
      const a1 = 1 - a0;
      around[0] = x > 0 ? i - 1 : i;
      around[1] = x + 1 < width ? i + 1 : i;
      around[2] = y > 0 ? i - width : i;
      around[3] = y + 1 < height ? i + width : i;
      let sum = 0;
      let f0 = 0;
      let f1 = 0;
      let f2 = 0;
      let b0 = 0;
      let b1 = 0;
      let b2 = 0;
      for (let n = 0; n < 4; n++) {
        const j = around[n]!;
        const w = regularisation + gradientWeight * Math.abs(a0 - a[j]!);
        sum += w;
        f0 += w * front[j * 3]!;
        f1 += w * front[j * 3 + 1]!;
        f2 += w * front[j * 3 + 2]!;
        b0 += w * back[j * 3]!;
        b1 += w * back[j * 3 + 1]!;
        b2 += w * back[j * 3 + 2]!;
      }
      const m00 = a0 * a0 + sum;
      const m01 = a0 * a1;
      const m11 = a1 * a1 + sum;
      const inverse = 1 / (m00 * m11 - m01 * m01);
      for (let c = 0; c < 3; c++) {
        const v = color[i * 3 + c]!;
        const fs = (c === 0 ? f0 : c === 1 ? f1 : f2) + a0 * v;
        const bs = (c === 0 ? b0 : c === 1 ? b1 : b2) + a1 * v;
        const f = (m11 * fs - m01 * bs) * inverse;
        const b = (m00 * bs - m01 * fs) * inverse;
        front[i * 3 + c] = f < 0 ? 0 : f > 1 ? 1 : f;
        back[i * 3 + c] = b < 0 ? 0 : b > 1 ? 1 : b;
      }
    }
  }
}
