/** Lines a dragged box may catch, in frame pixels. */
export interface SnapLines {
  x: number[];
  y: number[];
}

export interface Snapped {
  dx: number;
  dy: number;
  /** The lines that caught it; null where none did. */
  x: number | null;
  y: number | null;
}

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Borders, centre and thirds of a frame. */
export function frameLines(width: number, height: number): SnapLines {
  const of = (length: number): number[] => [0, length / 3, length / 2, (2 * length) / 3, length];
  return { x: of(width), y: of(height) };
}

/** By how much a box moves so that an edge or its middle lies on the nearest line within `reach`. */
export function snap(box: Box, lines: SnapLines, reach: number): Snapped {
  const x = nearest([box.left, (box.left + box.right) / 2, box.right], lines.x, reach);
  const y = nearest([box.top, (box.top + box.bottom) / 2, box.bottom], lines.y, reach);
  return { dx: x?.by ?? 0, dy: y?.by ?? 0, x: x?.line ?? null, y: y?.line ?? null };
}

function nearest(places: number[], lines: number[], reach: number): { by: number; line: number } | null {
  let best: { by: number; line: number } | null = null;
  for (const place of places) {
    for (const line of lines) {
      const by = line - place;
      if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, line };
    }
  }
  return best;
}
