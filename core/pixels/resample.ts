import { makeBytes, makePlane, makeRgba, type Bytes, type Plane, type Rgba } from './raster.ts';

/**
 * Half the size (rounded up) by averaging 2x2 blocks; an odd last row or column is averaged with itself.
 * Colours are averaged as stored (gamma encoded), which is what the colour models are fitted on.
 */
export function halve(picture: Rgba): Rgba {
  const { width, height, data } = picture;
  const out = makeRgba((width + 1) >> 1, (height + 1) >> 1);
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
      for (let k = 0; k < 4; k++) {
        out.data[o + k] = (data[a + k]! + data[b + k]! + data[c + k]! + data[d + k]! + 2) >> 2;
      }
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

/** The picture at exactly width x height: area average when smaller, bilinear when larger. Alpha-weighted. */
export function resizeRgba(picture: Rgba, width: number, height: number): Rgba {
  let source = picture;
  while (source.width >= width * 2 && source.height >= height * 2) source = halve(source);
  if (source.width === width && source.height === height) return source;
  const out = makeRgba(width, height);
  const sx = source.width / width;
  const sy = source.height / height;
  for (let y = 0; y < height; y++) {
    const fy = Math.max(0, Math.min(source.height - 1, (y + 0.5) * sy - 0.5));
    const y0 = Math.floor(fy);
    const y1 = Math.min(source.height - 1, y0 + 1);
    const v = fy - y0;
    for (let x = 0; x < width; x++) {
      const fx = Math.max(0, Math.min(source.width - 1, (x + 0.5) * sx - 0.5));
      const x0 = Math.floor(fx);
      const x1 = Math.min(source.width - 1, x0 + 1);
      const u = fx - x0;
      const corners = [y0 * source.width + x0, y0 * source.width + x1, y1 * source.width + x0, y1 * source.width + x1];
      const weights = [(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v];
      let r = 0;
      let g = 0;
      let b = 0;
      let a = 0;
      for (let k = 0; k < 4; k++) {
        const i = corners[k]! * 4;
        const w = weights[k]! * source.data[i + 3]!;
        r += w * source.data[i]!;
        g += w * source.data[i + 1]!;
        b += w * source.data[i + 2]!;
        a += w;
      }
      const o = (y * width + x) * 4;
      if (a > 0) {
        out.data[o] = r / a;
        out.data[o + 1] = g / a;
        out.data[o + 2] = b / a;
      }
      out.data[o + 3] = a;
    }
  }
  return out;
}

/** Bilinear resize of one channel; sample centres at half pixels. */
export function resizePlane(plane: Plane, width: number, height: number): Plane {
  const out = makePlane(width, height);
  const sx = plane.width / width;
  const sy = plane.height / height;
  for (let y = 0; y < height; y++) {
    const fy = Math.max(0, Math.min(plane.height - 1, (y + 0.5) * sy - 0.5));
    const y0 = Math.floor(fy);
    const y1 = Math.min(plane.height - 1, y0 + 1);
    const v = fy - y0;
    for (let x = 0; x < width; x++) {
      const fx = Math.max(0, Math.min(plane.width - 1, (x + 0.5) * sx - 0.5));
      const x0 = Math.floor(fx);
      const x1 = Math.min(plane.width - 1, x0 + 1);
      const u = fx - x0;
      const top = plane.data[y0 * plane.width + x0]! * (1 - u) + plane.data[y0 * plane.width + x1]! * u;
      const low = plane.data[y1 * plane.width + x0]! * (1 - u) + plane.data[y1 * plane.width + x1]! * u;
      out.data[y * width + x] = top * (1 - v) + low * v;
    }
  }
  return out;
}

/** Nearest-neighbour resize of a mask. */
export function resizeMask(mask: Bytes, width: number, height: number): Bytes {
  const out = makeBytes(width, height);
  for (let y = 0; y < height; y++) {
    const row = Math.min(mask.height - 1, Math.floor(((y + 0.5) * mask.height) / height)) * mask.width;
    for (let x = 0; x < width; x++) {
      const from = Math.min(mask.width - 1, Math.floor(((x + 0.5) * mask.width) / width));
      out.data[y * width + x] = mask.data[row + from]!;
    }
  }
  return out;
}
