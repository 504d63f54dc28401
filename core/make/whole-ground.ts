import { groundPlate, type PlateFrame } from '../film/ground-plate.ts';
import type { Progress } from '../pixels/progress.ts';
import type { Rgba } from '../pixels/raster.ts';
import { quickFill } from '../rebuild/quick-fill.ts';

/** How far from a figure its shadow is thought to reach, as a share of the frame's width. */
export const shadowReach = 0.12;

/** Thrown where the lens goes so far that its way is no one picture. */
export class TooFar extends Error {
  constructor() {
    super('The lens goes too far in this clip for one picture of its background.');
    this.name = 'TooFar';
  }
}

/**
 * The ground of a clip from the frames in which it is seen, and continued from around where none shows it.
 * @returns its pixels, where the first of them lies in the first frame, and which share had to be continued
 * @throws TooFar, Cancelled
 */
export async function wholeGround(
  frames: readonly PlateFrame[],
  progress?: Progress,
): Promise<{ picture: Rgba; x: number; y: number; filled: number }> {
  const plate = groundPlate(frames, 1);
  if (!plate) throw new TooFar();
  const { colours, x, y } = plate;
  const hole = { width: colours.width, height: colours.height, data: new Uint8Array(colours.width * colours.height) };
  let missing = 0;
  for (let i = 0; i < hole.data.length; i++) {
    if (colours.data[i * 4 + 3] === 0) {
      hole.data[i] = 1;
      missing++;
    }
    colours.data[i * 4 + 3] = 255;
  }
  const picture = missing > 0 ? await quickFill(colours, hole, progress) : colours;
  return { picture, x, y, filled: missing / hole.data.length };
}
