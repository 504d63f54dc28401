import type { Letter, SetText } from '../text/set-text.ts';
import type { Stroke } from '../text/strokes.ts';
import { writingOf, writtenAt } from '../text/writing.ts';
import type { TextNow } from '../scene/words-now.ts';
import type { Surface2D } from './surface.ts';
import { trace } from './trace.ts';

/** How much wider than the letter a pen is: corners of a stroke lie further from its middle than its sides. */
const penWidth = 1.25;

/**
 * Draws what is written of a text: whole letters as they are, and of the one that is being written what a wide pen has
 * passed within its outline.
 * @param ink draws whole letters
 */
export function paintWritten<Image>(
  surface: Surface2D<Image>,
  set: SetText,
  { size, stroke }: TextNow,
  share: number,
  ink: (letters: readonly Letter[]) => void,
): void {
  const { done, current } = writtenAt(writingOf(set), share);
  ink(done);
  if (!current) return;
  surface.save();
  // The pen uncovers a stroke as well, which lies outside the outline.
  clipToStrokes(surface, current.drawn, size / 400 + (stroke?.width ?? 0) / 2);
  ink([current.letter]);
  surface.restore();
}

/** Lets a surface be drawn on only where a pen of the letter's width has been. */
function clipToStrokes<Image>(surface: Surface2D<Image>, strokes: readonly Stroke[], more: number): void {
  surface.beginPath();
  for (const { points } of strokes) {
    points.forEach(([x, y, radius], k) => {
      const r = radius * penWidth + more;
      disc(surface, x, y, r);
      const next = points[k + 1];
      if (next) bar(surface, x, y, r, next[0], next[1], next[2] * penWidth + more);
    });
  }
  surface.clip();
}

function disc<Image>(surface: Surface2D<Image>, x: number, y: number, radius: number): void {
  const k = 0.5522847498 * radius;
  surface.moveTo(x + radius, y);
  surface.bezierCurveTo(x + radius, y + k, x + k, y + radius, x, y + radius);
  surface.bezierCurveTo(x - k, y + radius, x - radius, y + k, x - radius, y);
  surface.bezierCurveTo(x - radius, y - k, x - k, y - radius, x, y - radius);
  surface.bezierCurveTo(x + k, y - radius, x + radius, y - k, x + radius, y);
  surface.closePath();
}

/** The part between two discs. Clockwise like they are, so that what overlaps is filled once. */
function bar<Image>(
  surface: Surface2D<Image>,
  ax: number,
  ay: number,
  ar: number,
  bx: number,
  by: number,
  br: number,
): void {
  const length = Math.hypot(bx - ax, by - ay);
  if (length < 1e-9) return;
  const [nx, ny] = [-(by - ay) / length, (bx - ax) / length];
  const corners = [
    [ax - nx * ar, ay - ny * ar],
    [bx - nx * br, by - ny * br],
    [bx + nx * br, by + ny * br],
    [ax + nx * ar, ay + ny * ar],
  ] as const;
  trace(surface, {
    closed: true,
    points: corners.map(([x, y]) => ({ at: [x, y], in: null, out: null, smooth: false })),
  });
}
