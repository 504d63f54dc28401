/** An sRGB picture with straight (not premultiplied) alpha, 4 bytes a pixel, rows from the top. */
export interface Rgba {
  width: number;
  height: number;
  data: Uint8ClampedArray;
}

/** One channel of bytes: a mask (0 or 1), labels, or alpha (0..255); which one, the name of the variable says. */
export interface Bytes {
  width: number;
  height: number;
  data: Uint8Array;
}

/** One channel of floats. */
export interface Plane {
  width: number;
  height: number;
  data: Float32Array;
}

/** A rectangle in whole pixels; the right and lower edges are exclusive. */
export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

export function makeRgba(width: number, height: number): Rgba {
  return { width, height, data: new Uint8ClampedArray(width * height * 4) };
}

export function makeBytes(width: number, height: number, fill = 0): Bytes {
  const data = new Uint8Array(width * height);
  if (fill !== 0) data.fill(fill);
  return { width, height, data };
}

export function makePlane(width: number, height: number, fill = 0): Plane {
  const data = new Float32Array(width * height);
  if (fill !== 0) data.fill(fill);
  return { width, height, data };
}

/** The smallest rectangle around all values above `threshold`, or null where there is none. */
export function boundsOf(bytes: Bytes, threshold = 0): Rect | null {
  const { width, height, data } = bytes;
  let left = width;
  let right = -1;
  let top = height;
  let bottom = -1;
  for (let y = 0; y < height; y++) {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (data[i]! <= threshold) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      bottom = y;
    }
  }
  return right < 0 ? null : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

/** `rect` grown by `margin` on every side, kept inside width x height. */
export function growRect(rect: Rect, margin: number, width: number, height: number): Rect {
  const x = Math.max(0, rect.x - margin);
  const y = Math.max(0, rect.y - margin);
  return {
    x,
    y,
    width: Math.min(width, rect.x + rect.width + margin) - x,
    height: Math.min(height, rect.y + rect.height + margin) - y,
  };
}

/** The smallest rectangle around both. */
/** What two rectangles share; null where that is nothing. */
export function intersectRect(a: Rect, b: Rect): Rect | null {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  const width = Math.min(a.x + a.width, b.x + b.width) - x;
  const height = Math.min(a.y + a.height, b.y + b.height) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

export function unionRect(a: Rect | null, b: Rect | null): Rect | null {
  if (!a) return b;
  if (!b) return a;
  const x = Math.min(a.x, b.x);
  const y = Math.min(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}

export function cropRgba(picture: Rgba, rect: Rect): Rgba {
  const out = makeRgba(rect.width, rect.height);
  for (let y = 0; y < rect.height; y++) {
    const from = ((rect.y + y) * picture.width + rect.x) * 4;
    out.data.set(picture.data.subarray(from, from + rect.width * 4), y * rect.width * 4);
  }
  return out;
}

export function cropBytes(bytes: Bytes, rect: Rect): Bytes {
  const out = makeBytes(rect.width, rect.height);
  for (let y = 0; y < rect.height; y++) {
    const from = (rect.y + y) * bytes.width + rect.x;
    out.data.set(bytes.data.subarray(from, from + rect.width), y * rect.width);
  }
  return out;
}

/** Writes `part` into `whole` with its top left corner at (x, y). */
export function pasteBytes(whole: Bytes, part: Bytes, x: number, y: number): void {
  for (let row = 0; row < part.height; row++) {
    whole.data.set(part.data.subarray(row * part.width, (row + 1) * part.width), (y + row) * whole.width + x);
  }
}

/** The same for colours. */
export function pasteRgba(whole: Rgba, part: Rgba, x: number, y: number): void {
  for (let row = 0; row < part.height; row++) {
    const from = row * part.width * 4;
    whole.data.set(part.data.subarray(from, from + part.width * 4), ((y + row) * whole.width + x) * 4);
  }
}

/** The alpha of a picture by itself. */
export function alphaOf(picture: Rgba): Bytes {
  const data = new Uint8Array(picture.width * picture.height);
  for (let i = 0; i < data.length; i++) data[i] = picture.data[i * 4 + 3]!;
  return { width: picture.width, height: picture.height, data };
}
