import type { Rgba } from '../pixels/raster.ts';

/**
 * How a picture's colour was stored before it became red, green and blue: for every pixel, or once for every 2 x 2 pixels
 * and then repeated or blended over them, as photographs and films nearly always are.
 */
export type ColourSampling = 'full' | 'repeated' | 'blended';

/** What enlarging leaves behind along one direction: mean squares of two differences, at even and at odd pixels. */
export interface Traces {
  repeated: readonly [number, number];
  blended: readonly [number, number];
  /** How many edges were looked at, at even and at odd pixels. */
  count: readonly [number, number];
}

/**
 * Below this share even pixels have so little of a difference that they were computed from their neighbours: in both
 * directions together, and in each; a very soft edge may hide it in one.
 */
const [traceless, tracelessAlone] = [0.25, 0.6];
/** Fewer edges than this say nothing. */
const leastEdges = 16;
/** Least difference across four pixels at which a trace is looked for, bytes. */
const leastStep = 20;
/** Weights of red, green and blue in what is stored at half size: no screen is like its subject in both. */
export const colourDifferences = [
  [0.7, -0.59, -0.11],
  [-0.21, -0.42, 0.63],
] as const;
/** Neighbouring lines that are looked at together, and about how many such groups. */
const group = 4;
export const [groupsOfRows, groupsOfColumns] = [24, 12];

/** Of so many rows, or columns, one group is looked at. */
export const everyLine = (lines: number, groups: number): number =>
  Math.max(group, Math.round(lines / groups) & ~(group - 1));

/**
 * Tells how colour was stored by what enlarging it leaves behind (Gallagher 2005, "Detection of Linear and Cubic
 * Interpolation in JPEG Compressed Images"): between enlarged samples a certain difference of neighbours is always zero, but
 * only at every other pixel. Edges are looked at; a picture without any counts as full.
 */
export function colourSamplingOf(picture: Rgba): ColourSampling {
  const { width, height } = picture;
  const across = tracesOf(picture, 4, width * 4, width, height, 1, everyLine(height, groupsOfRows));
  return samplingBy(across, () =>
    tracesOf(picture, width * 4, 4, height, width, group, everyLine(width, groupsOfColumns)),
  );
}

/** @param down is only asked for where `across` shows anything */
export function samplingBy(across: Traces, down: () => Traces): ColourSampling {
  for (const kind of ['blended', 'repeated'] as const) {
    const first = shareOf(across, kind);
    if (first >= tracelessAlone) continue;
    const second = shareOf(down(), kind);
    if (second < tracelessAlone && Math.sqrt(first * second) < traceless) return kind;
  }
  return 'full';
}

/** Energy at even pixels as a share of that at odd ones. */
function shareOf({ count, ...energy }: Traces, kind: 'repeated' | 'blended'): number {
  if (count[0] < leastEdges || count[1] < leastEdges) return 1;
  const [even, odd] = energy[kind];
  return even / count[0] / Math.max(1e-6, odd / count[1]);
}

/**
 * @param step bytes from a pixel to the next along a line  @param stride bytes from one line to the next
 * @param together neighbouring lines that are looked at, once in `every` lines
 */
function tracesOf(
  { data }: Rgba,
  step: number,
  stride: number,
  length: number,
  lines: number,
  together: number,
  every: number,
): Traces {
  const traces = {
    repeated: [0, 0] as [number, number],
    blended: [0, 0] as [number, number],
    count: [0, 0] as [number, number],
  };
  for (const weights of colourDifferences) {
    for (let first = together; first + together <= lines; first += every) {
      for (let line = first; line < first + together; line++)
        addTraces(data, weights, line * stride, step, length, traces);
    }
  }
  return traces;
}

/** Adds the traces of one colour difference along one line. */
function addTraces(
  data: Uint8ClampedArray,
  [wr, wg, wb]: readonly [number, number, number],
  start: number,
  step: number,
  length: number,
  { repeated, blended, count }: { repeated: [number, number]; blended: [number, number]; count: [number, number] },
): void {
  const colour = (k: number): number => {
    const o = start + k * step;
    return wr * data[o]! + wg * data[o + 1]! + wb * data[o + 2]!;
  };
  let [before, here, next] = [colour(0), colour(1), colour(2)];
  for (let k = 1; k + 2 < length; k++) {
    const after = colour(k + 2);
    const across = before - after;
    if (Math.abs(across) >= leastStep) {
      const phase = k & 1;
      repeated[phase]! += (here - next) ** 2;
      blended[phase]! += (1.5 * (here - next) - 0.5 * across) ** 2;
      count[phase]!++;
    }
    before = here;
    here = next;
    next = after;
  }
}
