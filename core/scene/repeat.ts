import type { Layer, Repeat } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import type { Draw } from './draw.ts';
import { compose, invert, type Matrix } from './matrix.ts';
import { movedDraw } from './moved-draw.ts';

/** One copy of a repeated layer: where it lies against the first, and how far it is along. */
export interface Copy {
  /** Maps pixels of the source, its pivot at the origin, to where the copy has them. */
  matrix: Matrix;
  opacity: number;
  /** Frames it is behind the first. */
  delay: number;
}

/**
 * The copies of a repeated layer, the first one first. Steps in place are frame pixels.
 * @param size frame pixels per pixel of the source at rest
 */
export function copiesOf(repeat: Repeat, size: number): Copy[] {
  const { form, count, rows, step, radius, turn, scale, opacity, delay, mirrored } = repeat;
  const total = form === 'grid' ? count * rows : count;
  return Array.from({ length: total }, (_, k) => {
    const [column, row] = form === 'grid' ? [k % count, Math.floor(k / count)] : [k, 0];
    // In a grid every column, and every row, is a step further.
    const steps = form === 'grid' ? column + row : k;
    const around = form === 'ring' ? (360 * k) / count : 0;
    const place: Matrix =
      form === 'ring'
        ? compose(turned(around), [1, 0, 0, 1, 0, -radius / size])
        : [1, 0, 0, 1, (step[0] * column) / size, (step[1] * (form === 'grid' ? row : k)) / size];
    const upright = form === 'ring' && repeat.upright ? turned(-around) : turned(0);
    const grown = scale ** steps;
    const side = mirrored && steps % 2 === 1 ? -1 : 1;
    const own = compose(upright, compose(turned(turn * steps), [grown * side, 0, 0, grown, 0, 0]));
    return { matrix: compose(place, own), opacity: Math.min(1, opacity ** steps), delay: delay * steps };
  });
}

function turned(degrees: number): Matrix {
  if (degrees === 0) return [1, 0, 0, 1, 0, 0];
  const radians = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  return [cos, sin, -sin, cos, 0, 0];
}

/**
 * The draws of a layer and all its copies; the first lies over the others.
 * @param asItWas the layer so many frames ago, and what maps its source, pivot at the origin, to frame pixels
 */
export function repeated(
  repeat: Repeat,
  size: number,
  asItWas: (delay: number) => { draws: Draw[]; toFrame: Matrix } | null,
): Draw[] {
  // Found once for all copies that are as late.
  const earlier = new Map<number, { draws: Draw[]; toFrame: Matrix; back: Matrix } | null>();
  const at = (delay: number) => {
    if (!earlier.has(delay)) {
      const was = asItWas(delay);
      earlier.set(delay, was && { ...was, back: invert(was.toFrame) });
    }
    return earlier.get(delay)!;
  };
  return copiesOf(repeat, size)
    .reverse()
    .flatMap(({ matrix, opacity, delay }) => {
      const was = at(delay);
      if (!was) return [];
      const by = compose(was.toFrame, compose(matrix, was.back));
      return was.draws.map((draw): Draw => ({
        ...movedDraw(draw, by),
        opacity: draw.opacity * opacity,
        opaque: false,
      }));
    });
}

/** A layer without a bar of its own is there all the time: copies that are late, or early, wait at the ends of the shot. */
export const withinShot = (frame: number, shot: Shot, { timing }: Layer): number =>
  timing.bar || timing.like ? frame : Math.max(0, Math.min(shot.length - 1, frame));
