import type { Draw } from './draw.ts';
import { compose, transform, type Matrix } from './matrix.ts';
import type { SourceBox } from './source-pixels.ts';

/** A draw seen elsewhere: everything of it goes through a further map of frame pixels. */
export function movedDraw(draw: Draw, by: Matrix): Draw {
  const { content, masks, clips } = draw;
  const moved = (draws: readonly Draw[]): Draw[] => draws.map((one) => movedDraw(one, by));
  const now = {
    ...draw,
    masks: masks && { ...masks, matrix: compose(by, masks.matrix) },
    clips: clips.map((clip) => ({ ...clip, matrix: compose(by, clip.matrix) })),
  };
  if (content.kind === 'together') return { ...now, content: { ...content, draws: moved(content.draws) } };
  if (content.kind === 'mean') return { ...now, content: { ...content, moments: moved(content.moments) } };
  // These cover the frame, wherever they hang.
  if (content.kind === 'flat' || content.kind === 'grade') return now;
  return { ...now, matrix: compose(by, draw.matrix) };
}

/** The box around draws, in frame pixels; a point where there are none. */
export function boundsOfDraws(draws: readonly Draw[]): SourceBox {
  const corners = draws.flatMap(cornersOf);
  if (corners.length === 0) return { x: 0, y: 0, width: 1, height: 1 };
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}

function cornersOf(draw: Draw): [number, number][] {
  const { content, matrix, width, height } = draw;
  if (content.kind === 'together') return content.draws.flatMap(cornersOf);
  if (content.kind === 'mean') return content.moments.flatMap(cornersOf);
  if (content.kind === 'copies') {
    const { of, places } = content;
    return Array.from({ length: places.length / 7 }, (_, k) => {
      const place = places.subarray(7 * k, 7 * k + 6) as unknown as Matrix;
      return cornersOf({ ...of, matrix: compose(matrix, place) });
    }).flat();
  }
  return [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ].map(([x, y]) => transform(matrix, x!, y!));
}
