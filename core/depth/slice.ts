import { squaredDistance } from '../pixels/distance.ts';
import { eachNeighbour } from '../pixels/neighbours.ts';
import { asMuchAsThere, emptyLike, withColoursGoingOn } from '../pixels/emptiness.ts';
import type { Progress } from '../pixels/progress.ts';
import { makeBytes, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { depthRegions } from './regions.ts';

/** One layer of a sliced picture: all that hangs at one distance, as it is without what hung before it. */
export interface Slice {
  colours: Rgba;
  alpha: Bytes;
  /** Mean closeness of what it shows. */
  closeness: number;
}

export interface SlicedPicture {
  /** Nearest first. */
  slices: Slice[];
  /** The picture without any of them, and how near it is. */
  background: Rgba;
  backgroundCloseness: number;
}

/** Continues the surroundings of a hole into it. */
export type FillHole = (picture: Rgba, hole: Bytes) => Promise<Rgba>;

/**
 * Slices a picture by its depth map into at most `count` layers, the last of them the background. Each slice is made of
 * whole things. From near to far it is taken off and what was behind it is rebuilt, there as far as what surrounds it, so
 * that every layer is whole behind those before it. All laid over one another are the picture again; what that leaves empty
 * is empty in each of them.
 * @throws Cancelled, NothingToContinue
 */
export async function slicedByDepth(
  picture: Rgba,
  map: Plane,
  count: number,
  fill: FillHole,
  progress?: Progress,
): Promise<SlicedPicture> {
  let plate = withColoursGoingOn(picture);
  const { bands, closeness } = depthRegions(plate, map, count);
  const slices: Slice[] = [];
  let rest = bands;
  for (let band = 0; band < closeness.length - 1; band++) {
    progress?.report?.(`Slice ${band + 1} of ${closeness.length - 1}`, band / (closeness.length - 1));
    const soft = softened(rest, band);
    if (!soft) continue;
    const hole = { ...soft, data: soft.data.map((v) => (v > 0 ? 1 : 0)) };
    const behind = await fill(plate, hole);
    slices.push({ ...asFarAsThere(unmixed(plate, soft, behind), picture), closeness: closeness[band]! });
    rest = handedOn(rest, band);
    plate = behind;
  }
  return { slices, background: emptyLike(plate, picture), backgroundCloseness: closeness.at(-1)! };
}

/** Pixels beyond its border that go with a slice: they are mixed of it and what is behind. */
const margin = 1.5;
const ramp = 2;

/** Alpha of a band: whole within and a little beyond its border, then fading; null where nothing has that band. */
function softened({ width, height, data }: Bytes, band: number): Bytes | null {
  const own = { width, height, data: data.map((v) => (v === band ? 1 : 0)) };
  if (!own.data.includes(1)) return null;
  const distance = squaredDistance(own);
  const alpha = makeBytes(width, height);
  for (let i = 0; i < data.length; i++) {
    const share = (margin + ramp - Math.sqrt(distance[i]!)) / ramp;
    alpha.data[i] = Math.round(255 * Math.max(0, Math.min(1, share)));
  }
  return alpha;
}

/**
 * Colours that laid over `behind` with `alpha` are the picture again: colour = (picture - (1 - alpha) behind) / alpha (Porter
 * & Duff 1984, solved for the upper one). Where no colour is bright or dark enough for that, alpha is raised until one is.
 */
function unmixed(picture: Rgba, alpha: Bytes, behind: Rgba): { colours: Rgba; alpha: Bytes } {
  const colours = { ...picture, data: new Uint8ClampedArray(picture.data) };
  const raised = { ...alpha, data: alpha.data.slice() };
  for (let i = 0; i < alpha.data.length; i++) {
    let own = alpha.data[i]!;
    if (own > 0 && own < 255) {
      for (let c = 0; c < 3; c++) {
        const [front, back] = [picture.data[i * 4 + c]!, behind.data[i * 4 + c]!];
        const most = front > back ? 255 - back : back;
        if (front !== back) own = Math.max(own, Math.ceil((255 * Math.abs(front - back)) / most));
      }
      for (let c = 0; c < 3; c++) {
        const back = behind.data[i * 4 + c]!;
        colours.data[i * 4 + c] = back + ((picture.data[i * 4 + c]! - back) * 255) / own;
      }
    }
    raised.data[i] = own;
    colours.data[i * 4 + 3] = own;
  }
  return { colours, alpha: raised };
}

function asFarAsThere({ colours, alpha }: Pick<Slice, 'colours' | 'alpha'>, picture: Rgba) {
  const there = asMuchAsThere(alpha, picture);
  if (there !== alpha) there.data.forEach((a, i) => (colours.data[i * 4 + 3] = a));
  return { colours, alpha: there };
}

/** The bands once one was taken off: what is rebuilt behind it is as far as the nearest that is left beside it. */
function handedOn({ width, height, data }: Bytes, band: number): Bytes {
  const out = data.slice();
  const queue = new Int32Array(data.length);
  let [first, end] = [0, 0];
  for (let i = 0; i < data.length; i++) if (data[i] !== band) queue[end++] = i;
  while (first < end) {
    const i = queue[first++]!;
    eachNeighbour(i, width, data.length, (j) => {
      if (out[j] !== band) return;
      out[j] = out[i]!;
      queue[end++] = j;
    });
  }
  return { width, height, data: out };
}
