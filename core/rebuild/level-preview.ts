import type { Bytes, Rect, Rgba } from '../pixels/raster.ts';
import { halvedStep } from './levels.ts';
import { patchRadius, type FillLevel } from './fill-level.ts';

/** What is shown meanwhile has at most this many pixels: it is looked at as a whole. */
const mostShown = 2.5e6;

/** Shows a picture with its hole as the levels of a rebuild have it, smaller than the picture where that is large. */
export class LevelPreview {
  private readonly picture: Rgba;
  private readonly hole: Bytes;
  /** Pixels of the picture to one that is shown, each way. */
  private readonly shrink: number;

  /** @param area what the levels are of, in pixels of the picture */
  constructor(
    picture: Rgba,
    hole: Bytes,
    private readonly area: Rect,
  ) {
    let step = { picture, hole, barred: null as Bytes | null };
    let shrink = 1;
    for (; step.picture.width * step.picture.height > mostShown; shrink *= 2) step = halvedStep(step);
    this.picture = step.picture;
    this.hole = step.hole;
    this.shrink = shrink;
  }

  /** A copy with the hole as a level has it, enlarged bilinearly. @param scale pixels of the picture to one of the level */
  of({ width, height, pixels }: FillLevel, scale: number): Rgba {
    const { picture, hole, area, shrink } = this;
    const copy: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
    const [first, end] = [Math.floor(area.y / shrink), Math.ceil((area.y + area.height) / shrink)];
    for (let y = first; y < Math.min(copy.height, end); y++) {
      const v = ((y + 0.5) * shrink - area.y) / scale - 0.5 + patchRadius;
      const top = Math.max(0, Math.min(height - 2, Math.floor(v)));
      for (let x = 0; x < copy.width; x++) {
        const i = y * copy.width + x;
        if (!hole.data[i]) continue;
        const u = ((x + 0.5) * shrink - area.x) / scale - 0.5 + patchRadius;
        const left = Math.max(0, Math.min(width - 2, Math.floor(u)));
        const p = (top * width + left) * 4;
        const [fx, fy] = [u - left, v - top];
        for (let c = 0; c < 3; c++) {
          const above = pixels[p + c]! * (1 - fx) + pixels[p + 4 + c]! * fx;
          const below = pixels[p + width * 4 + c]! * (1 - fx) + pixels[p + width * 4 + 4 + c]! * fx;
          copy.data[i * 4 + c] = above * (1 - fy) + below * fy;
        }
        copy.data[i * 4 + 3] = 255;
      }
    }
    return copy;
  }
}
