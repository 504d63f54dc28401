import { scaleLog } from 'd3-scale';

/** Of the rack, in CSS pixels. */
export const rowHeight = 40;
export const rulerWidth = 42;

/** From the lens down to the horizon: nearer distances get more room, as they change the picture more. */
export const nearest = 0.8;
export const horizon = 30;

export function depthScale(height: number) {
  return scaleLog([nearest, horizon], [0, Math.max(1, height)]).clamp(true);
}

export const depthTicks = [1, 2, 3, 4, 6, 8, 12, 20, 30];

/** Rows hang at their depth where there is room, otherwise just below the row before; order is by depth. */
export function placeRows(wanted: number[], rowHeight: number, height: number): number[] {
  const placed: number[] = [];
  for (const y of wanted) placed.push(Math.max(y - rowHeight / 2, placed.length > 0 ? placed.at(-1)! + rowHeight : 0));
  // Rows pushed below the lower edge come up again, taking those above with them.
  for (let k = placed.length - 1, limit = height - rowHeight; k >= 0; k--, limit = placed[k + 1]! - rowHeight) {
    if (placed[k]! > limit) placed[k] = limit;
    else break;
  }
  return placed;
}
