import { boxBlur } from '../pixels/filters.ts';
import { halvedTo } from '../pixels/resample.ts';
import { makePlane, type Plane, type Rgba } from '../pixels/raster.ts';

/** A colour in bytes. */
export type Rgb = readonly [number, number, number];

/** Weight of brightness against colour in the distance to the screen: screens are uneven in light, not in hue. */
const lightWeight = 0.35;

/** Luma and two colour differences (BT.709), in bytes; cheap, and closer to the eye than red, green and blue are. */
export function opponent(r: number, g: number, b: number, out: Float64Array): void {
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  out[0] = y * lightWeight;
  out[1] = (b - y) / 1.8556;
  out[2] = (r - y) / 1.5748;
}

const [first, second] = [new Float64Array(3), new Float64Array(3)];

/** Distance of two colours as a key sees it; about 0..160. */
export function screenDistance(a: Rgb, b: Rgb): number {
  opponent(a[0], a[1], a[2], first);
  opponent(b[0], b[1], b[2], second);
  return Math.hypot(first[0]! - second[0]!, first[1]! - second[1]!, first[2]! - second[2]!);
}

const bins = 32;

/**
 * The colour of the screen a picture was taken before: the most frequent colour along its borders, counted by colour
 * difference and coarse brightness, where strong colours count more; its mean is returned.
 */
export function findScreenColour(picture: Rgba): Rgb {
  const { width, height, data } = picture;
  const rim = Math.max(2, Math.round(0.06 * Math.min(width, height)));
  const count = new Float32Array(bins * bins * 4);
  const c = new Float64Array(3);
  const binOf = (i: number): number => {
    opponent(data[i]!, data[i + 1]!, data[i + 2]!, c);
    const u = Math.min(bins - 1, Math.max(0, Math.floor((c[1]! / 256 + 0.5) * bins)));
    const v = Math.min(bins - 1, Math.max(0, Math.floor((c[2]! / 256 + 0.5) * bins)));
    return (u * bins + v) * 4 + Math.min(3, Math.floor(c[0]! / lightWeight / 64));
  };
  const rimPixels: number[] = [];
  for (let y = 0; y < height; y += 2) {
    for (let x = 0; x < width; x += 2) {
      const inside = x >= rim && y >= rim && x < width - rim && y < height - rim;
      if (!inside) rimPixels.push((y * width + x) * 4);
    }
  }
  for (const i of rimPixels) {
    const bin = binOf(i);
    count[bin] = count[bin]! + 1 + Math.hypot(c[1]!, c[2]!) / 40;
  }
  let best = 0;
  for (let k = 1; k < count.length; k++) if (count[k]! > count[best]!) best = k;
  const sum = [0, 0, 0, 0];
  for (const i of rimPixels) {
    if (binOf(i) !== best) continue;
    for (let k = 0; k < 3; k++) sum[k]! += data[i + k]!;
    sum[3]! += 1;
  }
  return [sum[0]! / sum[3]!, sum[1]! / sum[3]!, sum[2]! / sum[3]!];
}

/**
 * The screen's colour at every pixel, measured where it is seen and continued smoothly behind the subject: a screen is
 * never even. Means over windows of growing size, each pixel taking the smallest window that saw enough of the screen.
 * Measured twice: what is near the samples first, then only what is very near that first measure, so that edges, which
 * are mixed with the subject, do not count.
 * @param colours samples of the screen  @param within distance up to which a pixel may be screen
 * @returns three floats a pixel
 */
export function measureScreen(picture: Rgba, colours: readonly Rgb[], within: number): Float32Array {
  // A screen is smooth: a small copy shows all there is to measure.
  const { picture: small } = halvedTo(picture, 300);
  const { width, height, data } = small;
  const colourAt = (i: number): Rgb => [data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!];
  const rough = plateOf(small, colours[0]!, (i) => colours.some((c) => screenDistance(c, colourAt(i)) < within));
  const near = Math.max(4, within / 5);
  const fine = plateOf(small, colours[0]!, (i) => {
    const there: Rgb = [rough[i * 3]!, rough[i * 3 + 1]!, rough[i * 3 + 2]!];
    return screenDistance(there, colourAt(i)) < near;
  });
  return enlarged(fine, width, height, picture.width, picture.height, picture.width / width);
}

/** The screen's colour at every pixel of a small picture. */
function plateOf(picture: Rgba, fallback: Rgb, isScreen: (i: number) => boolean): Float32Array {
  const { width, height, data } = picture;
  const seen = [0, 1, 2, 3].map(() => makePlane(width, height));
  for (let i = 0; i < width * height; i++) {
    if (!isScreen(i)) continue;
    for (let c = 0; c < 3; c++) seen[c]!.data[i] = data[i * 4 + c]!;
    seen[3]!.data[i] = 1;
  }
  return continued(seen, width, height, fallback);
}

/** Three floats a pixel, from the smallest window in which a fifth of the pixels are screen. */
function continued(seen: readonly Plane[], w: number, h: number, fallback: Rgb): Float32Array {
  const out = new Float32Array(w * h * 3);
  const done = new Uint8Array(w * h);
  const most = Math.max(w, h);
  let left = done.length;
  for (let radius = 4; left > 0 && radius < 2 * most; radius *= 2) {
    const blurred = seen.map((plane) => boxBlur(plane, Math.min(radius, most)).data);
    for (let i = 0; i < done.length; i++) {
      if (done[i] || blurred[3]![i]! < 0.2) continue;
      done[i] = 1;
      left--;
      for (let c = 0; c < 3; c++) out[i * 3 + c] = blurred[c]![i]! / blurred[3]![i]!;
    }
  }
  for (let i = 0; i < done.length; i++) if (!done[i]) out.set(fallback, i * 3);
  // The windows change from place to place; a last smoothing takes their steps away.
  for (let c = 0; c < 3; c++) {
    const plane = makePlane(w, h);
    for (let i = 0; i < w * h; i++) plane.data[i] = out[i * 3 + c]!;
    const soft = boxBlur(boxBlur(plane, 4), 4).data;
    for (let i = 0; i < w * h; i++) out[i * 3 + c] = soft[i]!;
  }
  return out;
}

/** Three floats a pixel, enlarged by `scale` to width x height between the pixels of the small plate. */
function enlarged(
  small: Float32Array,
  w: number,
  h: number,
  width: number,
  height: number,
  scale: number,
): Float32Array {
  const out = new Float32Array(width * height * 3);
  const place = (at: number, count: number): { first: number; second: number; share: number } => {
    const t = Math.max(0, Math.min(count - 1, (at + 0.5) / scale - 0.5));
    const first = Math.floor(t);
    return { first, second: Math.min(count - 1, first + 1), share: t - first };
  };
  const columns = Array.from({ length: width }, (_, x) => place(x, w));
  const row = new Float32Array(w * 3);
  for (let y = 0; y < height; y++) {
    const { first, second, share } = place(y, h);
    for (let k = 0; k < row.length; k++)
      row[k] = small[first * w * 3 + k]! * (1 - share) + small[second * w * 3 + k]! * share;
    for (let x = 0, o = y * width * 3; x < width; x++, o += 3) {
      const column = columns[x]!;
      const [p, q, t] = [column.first * 3, column.second * 3, column.share];
      out[o] = row[p]! + (row[q]! - row[p]!) * t;
      out[o + 1] = row[p + 1]! + (row[q + 1]! - row[p + 1]!) * t;
      out[o + 2] = row[p + 2]! + (row[q + 2]! - row[p + 2]!) * t;
    }
  }
  return out;
}
