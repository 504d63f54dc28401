import { makePlane, makeRgba, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { inverseMotion, type Motion } from './camera-motion.ts';

/** The ground of a film without what moves before it, laid out as the lens went over it. */
export interface GroundPlate {
  colours: Rgba;
  /** How far single frames are from it, levels; Infinity where too few frames show a place. */
  spread: Plane;
  /** Where the first frame's corner lies in it. */
  x: number;
  y: number;
}

/** A frame that the plate is made of, and where its places lie in the first frame. */
export interface PlateFrame {
  picture: Rgba;
  motion: Motion;
  /** What is not ground, 0/1; null where that is not known. */
  figure: Bytes | null;
  /** What is so near to the figure that its shadow may lie there, 0/1: it counts only where no other frames show a place. */
  near?: Bytes;
}

/** Pixels a plate may have at most, so that a lens that turns for long does not take all memory. */
const mostPixels = 12e6;

/**
 * The colour most frames have at a place: the median over time, each frame laid where the lens was.
 * @param fewest frames that must show a place before anything is said about it
 * @returns null where the lens goes too far for one plate
 */
export function groundPlate(frames: readonly PlateFrame[], fewest = 3): GroundPlate | null {
  const { width, height } = frames[0]!.picture;
  const corners = frames.flatMap(({ motion: { a, b, tx, ty } }) =>
    [
      [0, 0],
      [width, 0],
      [0, height],
      [width, height],
    ].map(([x, y]) => [a * x! - b * y! + tx, b * x! + a * y! + ty] as const),
  );
  const left = Math.floor(Math.min(...corners.map(([x]) => x)));
  const top = Math.floor(Math.min(...corners.map(([, y]) => y)));
  const [w, h] = [
    Math.ceil(Math.max(...corners.map(([x]) => x))) - left,
    Math.ceil(Math.max(...corners.map(([, y]) => y))) - top,
  ];
  if (w * h > mostPixels) return null;
  const colours = makeRgba(w, h);
  const spread = makePlane(w, h, Infinity);
  const backs = frames.map(({ motion }) => inverseMotion(motion));
  const values = [0, 1, 2].map(() => new Float64Array(frames.length));
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let n = 0;
      const collect = (alsoNear: boolean): void => {
        n = 0;
        for (let k = 0; k < frames.length; k++) take(k, alsoNear);
      };
      const take = (k: number, alsoNear: boolean): void => {
        const { a, b, tx, ty } = backs[k]!;
        const { picture, figure, near } = frames[k]!;
        const u = Math.round(a * (x + left + 0.5) - b * (y + top + 0.5) + tx - 0.5);
        const v = Math.round(b * (x + left + 0.5) + a * (y + top + 0.5) + ty - 0.5);
        if (u < 0 || v < 0 || u >= width || v >= height || figure?.data[v * width + u]) return;
        if (!alsoNear && near?.data[v * width + u]) return;
        for (let c = 0; c < 3; c++) values[c]![n] = picture.data[(v * width + u) * 4 + c]!;
        n++;
      };
      collect(false);
      if (n < Math.max(2, fewest)) collect(true);
      if (n < fewest) continue;
      const i = y * w + x;
      let away = 0;
      for (let c = 0; c < 3; c++) {
        const list = values[c]!.subarray(0, n).sort();
        const median = list[n >> 1]!;
        colours.data[i * 4 + c] = median;
        for (let k = 0; k < n; k++) list[k] = Math.abs(list[k]! - median);
        away += list.sort()[n >> 1]!;
      }
      colours.data[i * 4 + 3] = 255;
      // 1.4826 median absolute deviations are one deviation of what is spread evenly around.
      spread.data[i] = 1.4826 * (away / 3);
    }
  return { colours, spread, x: left, y: top };
}

/** What of a plate a frame should show, and how far it may be from that. */
export function plateSeen(
  { colours, spread, x, y }: GroundPlate,
  { a, b, tx, ty }: Motion,
  width: number,
  height: number,
): { colours: Rgba; spread: Plane } {
  const out = { colours: makeRgba(width, height), spread: makePlane(width, height, Infinity) };
  for (let v = 0; v < height; v++)
    for (let u = 0; u < width; u++) {
      const px = Math.round(a * (u + 0.5) - b * (v + 0.5) + tx - x - 0.5);
      const py = Math.round(b * (u + 0.5) + a * (v + 0.5) + ty - y - 0.5);
      if (px < 0 || py < 0 || px >= colours.width || py >= colours.height) continue;
      const [from, to] = [py * colours.width + px, v * width + u];
      out.spread.data[to] = spread.data[from]!;
      for (let c = 0; c < 4; c++) out.colours.data[to * 4 + c] = colours.data[from * 4 + c]!;
    }
  return out;
}
