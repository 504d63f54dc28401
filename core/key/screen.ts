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

/**
 * Square of the distance a key sees between two colours, from their differences in red, green and blue: `opponent` is
 * linear, so that the difference alone decides.
 */
export function squaredScreenDistance(r: number, g: number, b: number): number {
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  const light = y * lightWeight;
  const blue = (b - y) / 1.8556;
  const red = (r - y) / 1.5748;
  return light * light + blue * blue + red * red;
}

/** Distance of two colours as a key sees it; about 0..160. */
export function screenDistance(a: Rgb, b: Rgb): number {
  return Math.sqrt(squaredScreenDistance(a[0] - b[0], a[1] - b[1], a[2] - b[2]));
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
 * The screen's colour everywhere, on a small copy; a screen is smooth, so that shows all there is to measure. Rows of it
 * are enlarged when they are needed.
 */
export class ScreenPlate {
  private readonly blended: Float32Array;

  /** @param data three floats a pixel */
  constructor(
    readonly width: number,
    readonly height: number,
    private readonly data: Float32Array,
  ) {
    this.blended = new Float32Array(width * 3);
  }

  /** Row `y` of the plate as it lies behind a picture of another size. @param out three floats a pixel of the picture */
  row(y: number, picture: { width: number; height: number }, out: Float32Array): void {
    const { blended, data } = this;
    const { width } = picture;
    const down = place(y, picture.height, this.height);
    const [p, q] = [down.first * this.width * 3, down.second * this.width * 3];
    for (let k = 0; k < blended.length; k++) blended[k] = data[p + k]! + (data[q + k]! - data[p + k]!) * down.share;
    const step = this.width / picture.width;
    const last = this.width - 1;
    for (let x = 0, o = 0; x < width; x++, o += 3) {
      const t = Math.max(0, Math.min(last, (x + 0.5) * step - 0.5));
      const left = t | 0;
      const share = t - left;
      const m = left * 3;
      const n = left < last ? m + 3 : m;
      out[o] = blended[m]! + (blended[n]! - blended[m]!) * share;
      out[o + 1] = blended[m + 1]! + (blended[n + 1]! - blended[m + 1]!) * share;
      out[o + 2] = blended[m + 2]! + (blended[n + 2]! - blended[m + 2]!) * share;
    }
  }
}

/** Between which two of `count` places a pixel of `length` lies. */
function place(at: number, length: number, count: number): { first: number; second: number; share: number } {
  const t = Math.max(0, Math.min(count - 1, ((at + 0.5) * count) / length - 0.5));
  const first = Math.floor(t);
  return { first, second: Math.min(count - 1, first + 1), share: t - first };
}

/**
 * The screen's colour everywhere, measured where it is seen and continued smoothly behind the subject: a screen is never
 * even. Means over windows of growing size, each pixel taking the smallest window that saw enough of the screen. Measured
 * twice: what is near the samples first, then only what is very near that first measure, so that edges, which are mixed
 * with the subject, do not count.
 * @param colours samples of the screen  @param within distance up to which a pixel may be screen
 */
export function measureScreen(picture: Rgba, colours: readonly Rgb[], within: number): ScreenPlate {
  const { picture: small } = halvedTo(picture, 300);
  const { width, height, data } = small;
  const colourAt = (i: number): Rgb => [data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!];
  const rough = plateOf(small, colours[0]!, (i) => colours.some((c) => screenDistance(c, colourAt(i)) < within));
  const near = Math.max(4, within / 5);
  const fine = plateOf(small, colours[0]!, (i) => {
    const there: Rgb = [rough[i * 3]!, rough[i * 3 + 1]!, rough[i * 3 + 2]!];
    return screenDistance(there, colourAt(i)) < near;
  });
  return new ScreenPlate(width, height, fine);
}

/** Three floats a pixel: the screen's colour on a small picture. */
function plateOf(picture: Rgba, fallback: Rgb, isScreen: (i: number) => boolean): Float32Array {
  return continued(maskedPlanes(picture, isScreen), fallback);
}

/** Red, green and blue of the pixels that count, and a plane of ones where they are. */
export function maskedPlanes({ width, height, data }: Rgba, counts: (i: number) => boolean): Plane[] {
  const planes = [0, 1, 2, 3].map(() => makePlane(width, height));
  const [red, green, blue, there] = planes.map((plane) => plane.data) as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  for (let i = 0; i < width * height; i++) {
    if (!counts(i)) continue;
    red[i] = data[i * 4]!;
    green[i] = data[i * 4 + 1]!;
    blue[i] = data[i * 4 + 2]!;
    there[i] = 1;
  }
  return planes;
}

/**
 * Gives every pixel that has no colour yet the mean of what counts in a window around it, where that is enough.
 * @param least share of the window that has to count  @param colours four floats a pixel, the last 1 once it is known
 * @returns how many pixels are still without
 */
export function takeMeans(planes: readonly Plane[], radius: number, least: number, colours: Float32Array): number {
  const [red, green, blue, there] = planes.map((plane) => boxBlur(plane, radius).data) as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  let left = 0;
  for (let i = 0, o = 0; i < there.length; i++, o += 4) {
    if (colours[o + 3]! > 0) continue;
    const n = there[i]!;
    if (n < least) {
      left++;
      continue;
    }
    colours[o] = red[i]! / n;
    colours[o + 1] = green[i]! / n;
    colours[o + 2] = blue[i]! / n;
    colours[o + 3] = 1;
  }
  return left;
}

/** Three floats a pixel, from the smallest window in which a fifth of the pixels are screen. */
function continued(seen: readonly Plane[], fallback: Rgb): Float32Array {
  const { width, height } = seen[0]!;
  const most = Math.max(width, height);
  const colours = new Float32Array(width * height * 4);
  let left = width * height;
  for (let radius = 4; left > 0 && radius < 2 * most; radius *= 2)
    left = takeMeans(seen, Math.min(radius, most), 0.2, colours);
  const out = new Float32Array(width * height * 3);
  // The windows change from place to place; a last smoothing takes their steps away.
  for (let c = 0; c < 3; c++) {
    const plane = makePlane(width, height);
    for (let i = 0; i < plane.data.length; i++)
      plane.data[i] = colours[i * 4 + 3]! > 0 ? colours[i * 4 + c]! : fallback[c]!;
    const soft = boxBlur(boxBlur(plane, 4), 4).data;
    for (let i = 0; i < soft.length; i++) out[i * 3 + c] = soft[i]!;
  }
  return out;
}
