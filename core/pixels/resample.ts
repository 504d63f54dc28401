import { filterKernel } from './filter-kernel.ts';
import { makeBytes, makePlane, makeRgba, type Bytes, type Plane, type Rgba } from './raster.ts';

/**
 * Half the size (rounded up) by averaging 2x2 blocks; an odd last row or column is averaged with itself.
 * Colours are averaged as stored (gamma encoded), which is what the colour models are fitted on.
 */
export function halve(picture: Rgba): Rgba {
  const { width, height, data } = picture;
  const out = makeRgba((width + 1) >> 1, (height + 1) >> 1);
  const made = out.data;
  const byKernel = filterKernel.within([data, made.length], (kernel, from, to) => {
    kernel.halve(from, width, height, to);
    made.set(new Uint8Array(kernel.memory.buffer, to, made.length));
    return out;
  });
  if (byKernel) return byKernel;
  for (let y = 0; y < out.height; y++) {
    const row0 = y * 2 * width;
    const row1 = Math.min(height - 1, y * 2 + 1) * width;
    for (let x = 0; x < out.width; x++) {
      const x0 = x * 2;
      const x1 = Math.min(width - 1, x0 + 1);
      const o = (y * out.width + x) * 4;
      const a = (row0 + x0) * 4;
      const b = (row0 + x1) * 4;
      const c = (row1 + x0) * 4;
      const d = (row1 + x1) * 4;
      // Written out: this runs over every pixel of every picture and clip.
      made[o] = (data[a]! + data[b]! + data[c]! + data[d]! + 2) >> 2;
      made[o + 1] = (data[a + 1]! + data[b + 1]! + data[c + 1]! + data[d + 1]! + 2) >> 2;
      made[o + 2] = (data[a + 2]! + data[b + 2]! + data[c + 2]! + data[d + 2]! + 2) >> 2;
      made[o + 3] = (data[a + 3]! + data[b + 3]! + data[c + 3]! + data[d + 3]! + 2) >> 2;
    }
  }
  return out;
}

/** Half the size (rounded up) of a mask: a block is set when at least two of its four pixels are. */
export function halveMask(mask: Bytes): Bytes {
  const { width, height, data } = mask;
  const out = makeBytes((width + 1) >> 1, (height + 1) >> 1);
  for (let y = 0; y < out.height; y++) {
    const row0 = y * 2 * width;
    const row1 = Math.min(height - 1, y * 2 + 1) * width;
    for (let x = 0; x < out.width; x++) {
      const x0 = x * 2;
      const x1 = Math.min(width - 1, x0 + 1);
      out.data[y * out.width + x] =
        data[row0 + x0]! + data[row0 + x1]! + data[row1 + x0]! + data[row1 + x1]! >= 2 ? 1 : 0;
    }
  }
  return out;
}

/** A mask at another size, each pixel the one in its middle. */
export function resizedMask(bytes: Bytes, width: number, height: number): Bytes {
  if (bytes.width === width && bytes.height === height) return bytes;
  const out = makeBytes(width, height);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(((y + 0.5) * bytes.height) / height) * bytes.width;
    for (let x = 0; x < width; x++)
      out.data[y * width + x] = bytes.data[row + Math.floor(((x + 0.5) * bytes.width) / width)]!;
  }
  return out;
}

/** Halved as often as needed until its longest side is at most `size`; how often is said by `halvings`. */
export function halvedTo(picture: Rgba, size: number): { picture: Rgba; halvings: number } {
  let halvings = 0;
  let small = picture;
  for (; Math.max(small.width, small.height) > size; halvings++) small = halve(small);
  return { picture: small, halvings };
}

/** Between which of `from` pixels of a row each of `to` lies, and how far from the first to the second. */
function betweenPixels(from: number, to: number) {
  const [first, second, share] = [new Int32Array(to), new Int32Array(to), new Float64Array(to)];
  for (let k = 0; k < to; k++) {
    const at = Math.max(0, Math.min(from - 1, ((k + 0.5) * from) / to - 0.5));
    first[k] = Math.floor(at);
    second[k] = Math.min(from - 1, first[k]! + 1);
    share[k] = at - first[k]!;
  }
  return { first, second, share };
}

/** A plane at another size, bilinear between the middles of its pixels. */
export function enlargedPlane(plane: Plane, width: number, height: number): Plane {
  const out = makePlane(width, height);
  const { data } = plane;
  const columns = betweenPixels(plane.width, width);
  const rows = betweenPixels(plane.height, height);
  for (let y = 0, o = 0; y < height; y++) {
    const [top, below] = [rows.first[y]! * plane.width, rows.second[y]! * plane.width];
    const fy = rows.share[y]!;
    for (let x = 0; x < width; x++, o++) {
      const left = columns.first[x]!;
      const right = columns.second[x]!;
      const fx = columns.share[x]!;
      const above = data[top + left]! * (1 - fx) + data[top + right]! * fx;
      const under = data[below + left]! * (1 - fx) + data[below + right]! * fx;
      out.data[o] = above * (1 - fy) + under * fy;
    }
  }
  return out;
}

interface Shares {
  /** Of each of the new pixels: the first pixel it covers, and where its shares begin. */
  first: Int32Array;
  start: Int32Array;
  share: Float64Array;
}

/** What of a row of `from` pixels falls onto each of `to`: first pixel and the share of each from there on. */
function sharesOf(from: number, to: number): Shares {
  const scale = from / to;
  const [firsts, starts, shares]: [number[], number[], number[]] = [[], [0], []];
  for (let k = 0; k < to; k++) {
    // A picture that is made larger takes the nearest pixel: nothing finer is known.
    const [start, end] = scale >= 1 ? [k * scale, (k + 1) * scale] : nearestTo(k, scale, from);
    const first = Math.floor(start + 1e-9);
    const last = Math.min(from - 1, Math.ceil(end - 1e-9) - 1);
    for (let i = first; i <= last; i++) shares.push((Math.min(end, i + 1) - Math.max(start, i)) / (end - start));
    firsts.push(first);
    starts.push(shares.length);
  }
  return { first: Int32Array.from(firsts), start: Int32Array.from(starts), share: Float64Array.from(shares) };
}

function nearestTo(k: number, scale: number, from: number): [number, number] {
  const nearest = Math.min(from - 1, Math.floor((k + 0.5) * scale));
  return [nearest, nearest + 1];
}

/** The picture at exactly this size, every pixel the mean of the area it covers (gamma encoded, as stored). */
export function averagedTo(picture: Rgba, width: number, height: number): Rgba {
  const columns = sharesOf(picture.width, width);
  const rows = sharesOf(picture.height, height);
  const out = makeRgba(width, height);
  const { data } = picture;
  const shares = [columns, rows].flatMap(({ first, start, share }) => [first, start, share]);
  const byKernel = filterKernel.within([out.data.length, data, ...shares], (kernel, to, from, ...addresses) => {
    kernel.averaged(from, picture.width, ...addresses, width, height, to);
    out.data.set(new Uint8Array(kernel.memory.buffer, to, out.data.length));
    return out;
  });
  if (byKernel) return byKernel;
  for (let y = 0, o = 0; y < height; y++) {
    for (let x = 0; x < width; x++, o += 4) {
      let r = 0;
      let g = 0;
      let b = 0;
      let a = 0;
      for (let j = rows.start[y]!, line = rows.first[y]!; j < rows.start[y + 1]!; j++, line++) {
        let from = (line * picture.width + columns.first[x]!) * 4;
        for (let i = columns.start[x]!; i < columns.start[x + 1]!; i++, from += 4) {
          const share = rows.share[j]! * columns.share[i]!;
          r += data[from]! * share;
          g += data[from + 1]! * share;
          b += data[from + 2]! * share;
          a += data[from + 3]! * share;
        }
      }
      out.data[o] = r;
      out.data[o + 1] = g;
      out.data[o + 2] = b;
      out.data[o + 3] = a;
    }
  }
  return out;
}
