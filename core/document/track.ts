import { z } from 'zod';
import { id, name, pointSchema } from './schema-parts.ts';

/** A point followed through a clip, in pixels of its frames. */
export const trackSchema = z.object({
  id,
  picture: id,
  name,
  /** Half the side of the patch that is followed, pixels. */
  radius: z.number().min(3).max(200),
  /** Where it was marked by hand, at different frames of the clip. */
  marks: z
    .array(z.object({ frame: z.number().int().min(0), at: pointSchema }))
    .min(1)
    .max(2000),
  /** For each frame of the clip x, y and how much that is to be doubted, 0..1; empty until it was followed. */
  points: z.array(z.number()).max(300_000),
});
export type Track = z.infer<typeof trackSchema>;

/** Doubt from which a frame is pointed out. */
export const doubtful = 0.3;

/** Where a point is in a frame of its clip; where it was not followed, where it was marked nearest to that frame. */
export function placeInClip({ points, marks }: Track, frame: number): [number, number] {
  const [x, y] = [points[frame * 3], points[frame * 3 + 1]];
  if (x !== undefined && y !== undefined) return [x, y];
  const nearest = marks.reduce((a, b) => (Math.abs(b.frame - frame) < Math.abs(a.frame - frame) ? b : a));
  return nearest.at;
}

/** Frames of the clip in which a point is to be looked at, in order. */
export const doubtfulFrames = ({ points }: Track): number[] =>
  Array.from({ length: points.length / 3 }, (_, frame) => frame).filter((frame) => points[frame * 3 + 2]! >= doubtful);
