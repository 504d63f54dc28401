import type { Point } from '../path/path.ts';
import type { Along } from './text-setting.ts';

/**
 * Where something on a line comes to lie once the line is bent: `along` pixels from the line's left end, `down` pixels
 * below the top of the first line. The direction is that in which the line runs there, radians.
 */
export type Curve = (along: number, down: number) => { at: Point; turn: number };

/**
 * The curve for lines of a width.
 * @param baseline how far the first baseline lies below the top of the first line: that is what is bent
 */
export function curveAlong(along: Exclude<Along, { form: 'layer' }>, width: number, baseline: number): Curve {
  if (along.form === 'arc') return arc(width, (along.bend * Math.PI) / 180, baseline);
  if (along.form === 'circle') return circle(along, width, baseline);
  const line = along.form === 'wave' ? waveLine(along, width) : along;
  return onLine(line, baseline);
}

/** An arc as long as the line is wide; its middle is where the middle of the line was. */
function arc(width: number, bend: number, baseline: number): Curve {
  if (Math.abs(bend) < 1e-3) return (x, y) => ({ at: [x, y], turn: 0 });
  const radius = width / bend;
  const middle = width / 2;
  return (x, y) => {
    const angle = (x - middle) / radius;
    // Lines further down lie nearer to the middle of a rising arc.
    const out = radius - (y - baseline);
    return { at: [middle + out * Math.sin(angle), baseline + radius - out * Math.cos(angle)], turn: angle };
  };
}

function circle({ radius, start, inside }: Extract<Along, { form: 'circle' }>, width: number, baseline: number): Curve {
  const first = (start * Math.PI) / 180;
  return (x, y) => {
    const way = (x - width / 2) / radius;
    const angle = first + (inside ? -way : way);
    const out = inside ? radius + (y - baseline) : radius - (y - baseline);
    const turn = inside ? angle + Math.PI : angle;
    return { at: [out * Math.sin(angle), -out * Math.cos(angle)], turn };
  };
}

interface Line {
  points: readonly (readonly [number, number])[];
  closed: boolean;
  start: number;
  inside: boolean;
}

/** A sine wave that is as long, along its way, as the lines are wide. */
function waveLine({ height, length, shift }: Extract<Along, { form: 'wave' }>, width: number): Line {
  const count = Math.max(64, Math.ceil((width / length) * 64));
  const points = Array.from({ length: count + 1 }, (_, k): [number, number] => {
    const x = (k / count) * width;
    return [x, -(height / 2) * Math.sin(2 * Math.PI * (x / length + shift))];
  });
  return { points, closed: false, start: 0, inside: false };
}

/** Along a line of points, by the length of its way (chords); beyond its ends it goes straight on. */
function onLine({ points, closed, start, inside }: Line, baseline: number): Curve {
  const way = closed ? [...points, points[0]!] : [...points];
  if (inside) way.reverse();
  const lengths = [0];
  for (let k = 1; k < way.length; k++)
    lengths.push(lengths[k - 1]! + Math.hypot(way[k]![0] - way[k - 1]![0], way[k]![1] - way[k - 1]![1]));
  const total = lengths.at(-1)! || 1;
  return (x, y) => {
    const wanted = start * total + x;
    const s = closed ? ((wanted % total) + total) % total : wanted;
    let k = Math.max(
      1,
      lengths.findIndex((length) => length >= s),
    );
    if (s >= total) k = way.length - 1;
    const [a, b] = [way[k - 1]!, way[k]!];
    const length = lengths[k]! - lengths[k - 1]! || 1;
    const t = (s - lengths[k - 1]!) / length;
    const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const down = y - baseline;
    return {
      at: [a[0] + (b[0] - a[0]) * t - uy * down, a[1] + (b[1] - a[1]) * t + ux * down],
      turn: Math.atan2(uy, ux),
    };
  };
}
