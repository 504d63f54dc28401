import { makePlane, type Plane } from '../pixels/raster.ts';
import { defineFinish, set } from './finish.ts';
import { alphaPlane, gaussian, layUnder } from './pixels.ts';

/** The lowest row that has something in it, and how high it stands. */
function standing({ data, width, height }: Plane): { foot: number; tall: number } | null {
  const filled = (y: number): boolean => {
    for (let x = 0; x < width; x++) if (data[y * width + x]! > 0.3) return true;
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
  // Its layer may be any height: as much room as a tall one needs is kept.
  reach: ({ length, softness }) => 120 + 400 * Math.abs(length) + 2 * softness,
  apply(pixels, { lean, length, softness, fade, colour }, { scale }) {
    const alpha = alphaPlane(pixels);
    const found = standing(alpha);
    if (!found || length === 0) return;
    const { foot, tall } = found;
    const { width, height } = alpha;
    const slope = Math.tan((lean * Math.PI) / 180);
    const fallen = makePlane(width, height);
    const far = makePlane(width, height);
    for (let y = 0; y < height; y++) {
      // How high up the thing stands what casts this row.
      const up = (foot - y) / length;
      if (up < 0 || up > tall) continue;
      const from = (foot - Math.round(up)) * width;
      const aside = Math.round((foot - y) * slope * Math.sign(length));
      for (let x = 0; x < width; x++) {
        const u = x - aside;
        if (u < 0 || u >= width || from < 0) continue;
        fallen.data[y * width + x] = alpha.data[from + u]! * (1 - (fade * up) / tall);
        far.data[y * width + x] = up / tall;
      }
    }
    layUnder(pixels, softer(fallen, far, softness * scale), colour);
  },
});

/** A mixture of three blurs by how far each place is from the foot. */
function softer(sharp: Plane, far: Plane, sigma: number): Plane {
  const levels = [gaussian(sharp, sigma * 0.08 + 0.4), gaussian(sharp, sigma * 0.45), gaussian(sharp, sigma)];
  const reach = gaussian(far, sigma * 0.5);
  const out = makePlane(sharp.width, sharp.height);
  for (let k = 0; k < out.data.length; k++) {
    const at = Math.min(1.999, Math.max(0, reach.data[k]! * 2));
    const n = Math.floor(at);
    out.data[k] = levels[n]!.data[k]! + (levels[n + 1]!.data[k]! - levels[n]!.data[k]!) * (at - n);
  }
  return out;
}
