import type { Plane } from '../pixels/raster.ts';
import { defineFinish, set, type FinishPixels } from './finish.ts';
import { gaussian } from './operations/gaussian.ts';
import { floatsLike, zerosLike } from './operations/memory.ts';
import { layUnder, mixThree } from './operations/planes.ts';

/** The lowest row that has something in it, and how high it stands. */
function standing({ data, width, height }: FinishPixels): { foot: number; tall: number } | null {
  const filled = (y: number): boolean => {
    for (let i = y * width * 4 + 3; i < (y + 1) * width * 4; i += 4) if (data[i]! > 76) return true;
    return false;
  };
  let foot = height - 1;
  while (foot >= 0 && !filled(foot)) foot--;
  let top = 0;
  while (top < foot && !filled(top)) top++;
  return foot < 0 ? null : { foot, tall: Math.max(1, foot - top) };
}

/** The silhouette sheared about its foot and laid down; blurred in steps, wider the further it falls. */
export const castShadow = defineFinish({
  id: 'cast-shadow',
  name: 'Cast shadow',
  family: 'edge',
  purpose: 'Lays the silhouette on the ground, its foot where the layer stands.',
  heavy: true,
  settings: {
    lean: { kind: 'number', name: 'Lean', unit: '°', least: -80, most: 80, start: 35 },
    length: set.percent('Length', 0.5, 3, -3),
    softness: set.pixels('Softness', 16, 200),
    fade: set.percent('Fade', 0.5),
    colour: set.colour('Colour', 16, 24, 30, 0.6),
  },
  reach: ({ lean, length, softness }, { height }) => {
    const aside = height * Math.abs(length) * Math.tan((lean * Math.PI) / 180);
    const soft = 3 * softness + 2;
    return {
      left: Math.max(0, -aside) + soft,
      right: Math.max(0, aside) + soft,
      top: height * Math.max(0, length - 1) + soft,
      bottom: height * Math.max(0, -length) + soft,
    };
  },
  apply(pixels, { lean, length, softness, fade, colour }, { scale }) {
    const found = standing(pixels);
    if (!found || length === 0) return;
    const { foot, tall } = found;
    const sigma = softness * scale;
    const { data, width, height } = pixels;
    // Only the rows it falls on, and as many more as it is soft.
    const [from, to] = [Math.min(foot, foot - tall * length), Math.max(foot, foot - tall * length)];
    const top = Math.max(0, Math.floor(from - 3 * sigma - 2));
    const bottom = Math.min(height, Math.ceil(to + 3 * sigma + 3));
    const rows = { data: data.subarray(top * width * 4, bottom * width * 4), width, height: bottom - top };
    const [fallen, far] = [zerosLike(rows), zerosLike(rows)];
    const slope = Math.tan((lean * Math.PI) / 180) * Math.sign(length);
    for (let y = top; y < bottom; y++) {
      // How high up the thing stands what casts this row.
      const up = (foot - y) / length;
      const source = foot - Math.round(up);
      if (up < 0 || up > tall || source < 0) continue;
      const aside = Math.round((foot - y) * slope);
      const row = (y - top) * width;
      const share = (1 - (fade * up) / tall) / 255;
      for (let x = Math.max(0, aside); x < Math.min(width, width + aside); x++) {
        fallen.data[row + x] = data[(source * width + x - aside) * 4 + 3]! * share;
        far.data[row + x] = up / tall;
      }
    }
    layUnder(rows, softer(rows, fallen, far, sigma), colour);
  },
});

/** A mixture of three blurs by how far each place is from the foot. */
function softer(rows: FinishPixels, sharp: Plane, far: Plane, sigma: number): Plane {
  const blurred = (by: number): Plane => {
    const out = floatsLike(rows);
    out.data.set(sharp.data);
    gaussian(out, by);
    return out;
  };
  const [near, middle] = [blurred(sigma * 0.08 + 0.4), blurred(sigma * 0.45)];
  gaussian(sharp, sigma);
  gaussian(far, sigma * 0.5);
  mixThree(near, middle, sharp, far);
  return sharp;
}
