import type { Layer, Repeat } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { hueSaturation } from '../finish/hue-saturation.ts';
import { storedFrom, valuesAt } from '../settings/setting.ts';
import type { Colour, Draw } from './draw.ts';
import { compose, invert, type Matrix } from './matrix.ts';
import { movedDraw } from './moved-draw.ts';
import { placesAlong, type RepeatLine } from './repeat-line.ts';

/** One copy of a repeated layer: where it lies against the first, and how far it is along. */
export interface Copy {
  /** Maps pixels of the source, its pivot at the origin, to where the copy has them. */
  matrix: Matrix;
  opacity: number;
  /** Frames it is behind the first. */
  delay: number;
  /** Degrees its hue is turned. */
  hue: number;
}

/**
 * The copies of a repeated layer, the first one first. Steps in place are frame pixels.
 * @param size frame pixels per pixel of the source at rest
 * @param line they stand along, where they stand along one
 */
export function copiesOf(repeat: Repeat, size: number, line: RepeatLine | null = null): Copy[] {
  const { form, count, rows, step, radius, turn, scale, opacity, delay, mirrored, hue } = repeat;
  const stations = line && placesAlong(line, count);
  const total = form === 'grid' ? count * rows : count;
  return Array.from({ length: total }, (_, k) => {
    const [column, row] = form === 'grid' ? [k % count, Math.floor(k / count)] : [k, 0];
    // In a grid every column, and every row, is a step further.
    const steps = form === 'grid' ? column + row : k;
    const around = form === 'ring' ? (360 * k) / count : 0;
    const station = stations?.[k];
    const place: Matrix = station
      ? compose([1, 0, 0, 1, ...station.at], repeat.upright ? turned(0) : turned((station.angle * 180) / Math.PI))
      : form === 'ring'
        ? compose(turned(around), [1, 0, 0, 1, 0, -radius / size])
        : [1, 0, 0, 1, (step[0] * column) / size, (step[1] * (form === 'grid' ? row : k)) / size];
    const upright = form === 'ring' && repeat.upright ? turned(-around) : turned(0);
    const grown = scale ** steps;
    const side = mirrored && steps % 2 === 1 ? -1 : 1;
    const own = compose(upright, compose(turned(turn * steps), [grown * side, 0, 0, grown, 0, 0]));
    return {
      matrix: compose(place, own),
      opacity: Math.min(1, opacity ** steps),
      delay: delay * steps,
      hue: hue * steps,
    };
  });
}

function turned(degrees: number): Matrix {
  if (degrees === 0) return [1, 0, 0, 1, 0, 0];
  const radians = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  return [cos, sin, -sin, cos, 0, 0];
}

/** From so many on, copies that show the same are one draw that knows their places. */
const manyCopies = 64;

/** What a layer showed so many frames ago, and what maps its source, pivot at the origin, to frame pixels. */
interface Earlier {
  draws: Draw[];
  toFrame: Matrix;
}

/**
 * The draws of a layer and all its copies; the first lies over the others.
 * @param asItWas the layer so many frames ago
 */
export function repeated(
  repeat: Repeat,
  size: number,
  line: RepeatLine | null,
  asItWas: (delay: number) => Earlier | null,
): Draw[] {
  const copies = copiesOf(repeat, size, line).reverse();
  const now = repeat.delay === 0 ? asItWas(0) : null;
  const [only, ...more] = now?.draws ?? [];
  if (now && only && more.length === 0 && copies.length >= manyCopies && repeat.hue === 0 && isPlain(only))
    return [
      repeat.form === 'grid' && isEven(repeat)
        ? rowsTogether(only, now.toFrame, repeat, copies)
        : together(only, now.toFrame, copies),
    ];
  // Found once for all copies that are as late.
  const earlier = new Map<number, (Earlier & { back: Matrix }) | null>();
  const at = (delay: number) => {
    if (!earlier.has(delay)) {
      const was = asItWas(delay);
      earlier.set(delay, was && { ...was, back: invert(was.toFrame) });
    }
    return earlier.get(delay)!;
  };
  return copies.flatMap(({ matrix, opacity, delay, hue }) => {
    const was = at(delay);
    if (!was) return [];
    const by = compose(was.toFrame, compose(matrix, was.back));
    return was.draws.map((draw): Draw =>
      hueTurned({ ...movedDraw(draw, by), opacity: draw.opacity * opacity, opaque: false }, hue),
    );
  });
}

/** Whether a draw is nothing but its content where it lies. */
const isPlain = ({ content, blend, blur, masks, window, clips, finishes }: Draw): boolean =>
  ['shape', 'text', 'drawing'].includes(content.kind) &&
  blend === 'normal' &&
  blur === 0 &&
  !masks &&
  !window &&
  clips.length === 0 &&
  !finishes;

/** Many copies of one draw as one: where each lies is a matter of six numbers and its opacity. */
function together(draw: Draw, toFrame: Matrix, copies: readonly Copy[]): Draw {
  const places = new Float64Array(copies.length * 7);
  const own = compose(invert(toFrame), draw.matrix);
  copies.forEach(({ matrix, opacity }, k) => {
    const [a, b, c, d, e, f] = compose(matrix, own);
    places.set([a, b, c, d, e, f, opacity], k * 7);
  });
  return { ...draw, content: { kind: 'copies', of: { ...draw, opacity: 1 }, places }, matrix: toFrame, opaque: false };
}

/** Whether every row of a grid is like every other. */
const isEven = ({ turn, scale, opacity, mirrored }: Repeat): boolean =>
  turn === 0 && scale === 1 && opacity === 1 && !mirrored;

/** The same for an even grid: one row of copies, copied for every row. */
function rowsTogether(draw: Draw, toFrame: Matrix, { count, rows }: Repeat, copies: readonly Copy[]): Draw {
  // The furthest come first: the first row is the last of them.
  const row = together(draw, toFrame, copies.slice(-count));
  const at = ({ matrix }: Copy): Matrix => matrix;
  const first = at(copies.at(-1)!);
  const places = new Float64Array(rows * 7);
  for (let k = 0; k < rows; k++) {
    const [, , , , x, y] = at(copies[(k + 1) * count - 1]!);
    places.set([1, 0, 0, 1, x - first[4], y - first[5], 1], k * 7);
  }
  return { ...row, content: { kind: 'copies', of: { ...row, matrix: upright }, places } };
}

const upright: Matrix = [1, 0, 0, 1, 0, 0];

/** A draw with its hue turned: plain colours at once, everything else by a finish. */
function hueTurned(draw: Draw, degrees: number): Draw {
  if (degrees === 0) return draw;
  const { content, finishes } = draw;
  if (content.kind === 'shape' && !content.gradient && !finishes) {
    const stroke = content.stroke && { ...content.stroke, colour: turnedHue(content.stroke.colour, degrees) };
    return { ...draw, content: { ...content, fill: content.fill && turnedHue(content.fill, degrees), stroke } };
  }
  const { settings } = hueSaturation;
  const values = valuesAt(settings, storedFrom(settings, { hue: degrees }), 0);
  const list = [...(finishes?.list ?? []), { kind: hueSaturation.id, values, frame: null }];
  return { ...draw, finishes: { list, size: finishes?.size ?? 1, length: finishes?.length ?? 1 } };
}

/** A colour as the finish turns it. */
function turnedHue(colour: Colour, degrees: number): Colour {
  const { settings } = hueSaturation;
  const values = valuesAt(settings, storedFrom(settings, { hue: degrees }), 0);
  const data = new Uint8ClampedArray([...colour.slice(0, 3), 255]);
  const box = { x: 0, y: 0, width: 1, height: 1 };
  hueSaturation.apply({ data, width: 1, height: 1 }, values, { frame: 0, length: 1, scale: 1, box, behind: null });
  return [...data.slice(0, 3), colour[3] ?? 1];
}

/** A layer without a bar of its own is there all the time: copies that are late, or early, wait at the ends of the shot. */
export const withinShot = (frame: number, shot: Shot, { timing }: Layer): number =>
  timing.bar || timing.like ? frame : Math.max(0, Math.min(shot.length - 1, frame));
