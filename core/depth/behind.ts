import { dilate } from '../pixels/distance.ts';
import { emptyLike, withColoursGoingOn } from '../pixels/emptiness.ts';
import { windowLeast } from '../pixels/filters.ts';
import { eachNeighbour } from '../pixels/neighbours.ts';
import { makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { enlargedPlane } from '../pixels/resample.ts';

/** What lies behind the steps of a depth map: the picture and its closeness without the rims of what stands before. */
export interface BehindSteps {
  picture: Rgba;
  map: Plane;
}

/** What is to be continued, and how. */
export interface StepHole {
  /** 1 where something stands before what is further away. */
  hole: Bytes;
  /** 1 as far in from its border as a move uncovers. */
  seen: Bytes;
}

/** Continues the surroundings of a hole into it. */
export type FillSteps = (picture: Rgba, hole: StepHole) => Promise<Rgba>;

/** Closenesses so far apart, side by side, are a step from one thing to another and not a slope. */
const step = 0.12;
/** As shares of the longer side: how far in a move uncovers, and what is taken away, so that none of it shines through there. */
const [uncovered, taken] = [0.05, 0.2];
/** Pixels on the far side of a step that are mixed with what stands before. */
const mixed = 2;
/** Rounds in which the distance behind a step is evened out. */
const evened = 24;
/** Behind its steps a map is smooth: so many times finer than it was made is all it needs. */
const finerThanMap = 2;

/**
 * What comes to light where a picture is seen pixel by pixel through a moving lens: behind every step of its depth map what
 * is beside it goes on, at the distance it has there. Null where the map has no step.
 * @param map closeness 0..1 with the picture's proportions
 * @throws Cancelled, NothingToContinue
 */
export async function behindSteps(picture: Rgba, map: Plane, fill: FillSteps): Promise<BehindSteps | null> {
  const { width, height } = picture;
  const whole = enlargedPlane(map, width, height);
  const longer = Math.max(width, height);
  // A map smaller than its picture has no step that is sharper than its own pixels.
  const within = 1 + Math.ceil(longer / Math.max(map.width, map.height));
  const front = inFront(whole, within, taken * longer);
  if (!front) return null;
  const { far, way } = front;
  const closerThan = (most: number): Bytes => ({
    width,
    height,
    data: Uint8Array.from(way, (v) => (v <= most ? 1 : 0)),
  });
  const filled = await fill(withColoursGoingOn(picture), {
    hole: dilate(closerThan(never - 1), mixed),
    seen: dilate(closerThan(uncovered * longer), mixed),
  });
  const finer = Math.min(1, (finerThanMap * Math.max(map.width, map.height)) / longer);
  const size = [width, height].map((side) => Math.max(1, Math.round(side * finer))) as [number, number];
  return { picture: emptyLike(filled, picture), map: enlargedPlane(evenedOut(whole, far, way), ...size) };
}

/** A way that is never reached. */
const never = 65_535;

/**
 * What stands before something: from every step inwards, as long as it is nearer than what lies behind the step.
 * @returns `way` pixels from the step, and `far` the closeness behind the nearest step; null where there is no step
 */
function inFront(map: Plane, within: number, reach: number): { far: Plane; way: Uint16Array } | null {
  const { width, height, data } = map;
  const beside = windowLeast(map, within);
  // A step is seldom sharp: what lies behind it is found at its foot, some pixels further.
  const foot = windowLeast(beside, 2 * within);
  const far = makePlane(width, height);
  const way = new Uint16Array(data.length).fill(never);
  const queue = new Int32Array(data.length);
  let [first, end] = [0, 0];
  for (let i = 0; i < data.length; i++) {
    if (data[i]! - beside.data[i]! <= step) continue;
    [way[i], far.data[i]] = [0, foot.data[i]!];
    queue[end++] = i;
  }
  if (end === 0) return null;
  while (first < end) {
    const i = queue[first++]!;
    if (way[i]! >= reach) continue;
    eachNeighbour(i, width, data.length, (j) => {
      if (way[j] !== never || data[j]! <= far.data[i]! + step / 2) return;
      [way[j], far.data[j]] = [way[i]! + 1, far.data[i]!];
      queue[end++] = j;
    });
  }
  return { far, way };
}

/** The closeness behind: that of the nearest step wherever something stood before, without jumps from one to the next. */
function evenedOut(whole: Plane, far: Plane, way: Uint16Array): Plane {
  const { width, height } = whole;
  const out: Plane = { width, height, data: whole.data.slice() };
  const covered: number[] = [];
  for (let i = 0; i < way.length; i++) {
    if (way[i] === never) continue;
    out.data[i] = far.data[i]!;
    covered.push(i);
  }
  for (let round = 0; round < evened; round++) {
    // From corner to corner and back, so that what is evened out travels both ways.
    if (round > 0) covered.reverse();
    for (const i of covered) {
      let [sum, count] = [0, 0];
      eachNeighbour(i, width, way.length, (j) => {
        sum += out.data[j]!;
        count++;
      });
      // What is nearer by a step is another thing that still stands there.
      const mean = sum / count;
      if (mean - out.data[i]! < step) out.data[i] = (out.data[i]! + mean) / 2;
    }
  }
  return out;
}
