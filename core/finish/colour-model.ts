/** Hue in degrees, saturation and lightness 0..1 of a colour 0..255 (HSL of CSS Color Module Level 4); written into `out`. */
export function toHsl(r: number, g: number, b: number, out: number[]): void {
  const [red, green, blue] = [r / 255, g / 255, b / 255];
  const most = Math.max(red, green, blue);
  const least = Math.min(red, green, blue);
  const range = most - least;
  const lightness = (most + least) / 2;
  let hue = 0;
  if (range > 0) {
    if (most === red) hue = (green - blue) / range + (green < blue ? 6 : 0);
    else if (most === green) hue = (blue - red) / range + 2;
    else hue = (red - green) / range + 4;
  }
  out[0] = hue * 60;
  out[1] =
    range === 0 || lightness === 0 || lightness === 1 ? 0 : (most - lightness) / Math.min(lightness, 1 - lightness);
  out[2] = lightness;
}

/** The way back; channels 0..255 are written into `out`. */
export function fromHsl(hue: number, saturation: number, lightness: number, out: number[]): void {
  const turned = ((hue % 360) + 360) % 360;
  const a = saturation * Math.min(lightness, 1 - lightness);
  for (let c = 0; c < 3; c++) {
    const k = ([0, 8, 4][c]! + turned / 30) % 12;
    out[c] = 255 * (lightness - a * Math.max(-1, Math.min(k - 3, 9 - k, 1)));
  }
}

/** Shortest way between two hues, 0..180 degrees. */
export function hueDistance(a: number, b: number): number {
  const way = Math.abs(a - b) % 360;
  return way > 180 ? 360 - way : way;
}

/** 1 up to `core`, 0 from `core + soft` on, smooth between. */
export function falloff(distance: number, core: number, soft: number): number {
  if (distance <= core) return 1;
  if (distance >= core + soft) return 0;
  const t = 1 - (distance - core) / soft;
  return t * t * (3 - 2 * t);
}
