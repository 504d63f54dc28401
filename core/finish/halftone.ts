import { defineFinish, set } from './finish.ts';
import { lightOf } from './operations/colour.ts';
import { kernelOf, laid } from './operations/memory.ts';

/** Share of a cell of side 1 that a dot about its middle covers; beyond a radius of 1/2 it is cut off at the sides. */
function dotArea(radius: number): number {
  if (radius <= 0.5) return Math.PI * radius * radius;
  if (radius >= Math.SQRT1_2) return 1;
  const cut = radius * radius * Math.acos(0.5 / radius) - 0.5 * Math.sqrt(radius * radius - 0.25);
  return Math.PI * radius * radius - 4 * cut;
}

/** The radius of a dot for a tone 0..255, by bisection. */
function radiusOf(tone: number): number {
  let [low, high] = [0, Math.SQRT1_2];
  for (let k = 0; k < 30; k++) {
    const middle = (low + high) / 2;
    if (dotArea(middle) < tone / 255) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

let radiiOfTones: Float64Array | null = null;
/** Of all tones: not made before one is asked for, as every page reads this file. */
const dotRadii = (): Float64Array => (radiiOfTones ??= Float64Array.from({ length: 256 }, (_, tone) => radiusOf(tone)));

/** Amplitude-modulated screening: dots or lines on a turned grid, as large as the tone is dark. */
export const halftone = defineFinish({
  id: 'halftone',
  name: 'Halftone',
  family: 'texture',
  purpose: 'Prints the picture in dots or lines of two colours.',
  settings: {
    size: { kind: 'number', name: 'Size', unit: 'px', least: 2, most: 200, start: 10 },
    angle: set.angle('Angle', 45),
    form: { kind: 'choice', name: 'Form', options: ['dots', 'lines'], start: 'dots' },
    ink: set.colour('Ink', 28, 42, 48),
    paper: set.colour('Paper', 245, 242, 235),
  },
  apply({ data, width, height }, { size, angle, form, ink, paper }, { scale, box }) {
    const cell = Math.max(1.5, size * scale);
    const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    const kernel = kernelOf(data);
    const numbers = Float32Array.of(box.x, box.y, cos, sin, cell, 0, 0, 0, ...ink, ...paper);
    const radii = dotRadii();
    const byKernel = (at: number, laidRadii: number): void =>
      kernel!.halftone(data.byteOffset, width, height, at, form === 'dots' ? laidRadii : 0);
    if (kernel && laid([numbers, Float32Array.from(radii)], byKernel)) return;
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const i = (y * width + x) * 4;
        if (data[i + 3] === 0) continue;
        const dark = 1 - lightOf(data[i]!, data[i + 1]!, data[i + 2]!) / 255;
        const [dx, dy] = [x - box.x, y - box.y];
        const u = (dx * cos + dy * sin) / cell;
        const v = (dy * cos - dx * sin) / cell;
        const [pu, pv] = [u - Math.floor(u) - 0.5, v - Math.floor(v) - 0.5];
        // The covered share is the tone: pi r^2 of a cell for dots, a width of it for lines.
        const covered =
          form === 'dots'
            ? (radii[Math.round(dark * 255)]! - Math.hypot(pu, pv)) * cell + 0.5
            : (dark / 2 - Math.abs(pv)) * cell + 0.5;
        const t = Math.max(0, Math.min(1, covered));
        const opacity = paper[3]! + (ink[3]! - paper[3]!) * t;
        for (let c = 0; c < 3; c++) data[i + c] = paper[c]! + (ink[c]! - paper[c]!) * t;
        data[i + 3] = data[i + 3]! * opacity;
      }
    }
  },
});
