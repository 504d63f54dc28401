import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { corner, type Path, type Point } from '../path/path.ts';
import { plainShape } from '../path/shapes.ts';
import { seededRandom } from '../pixels/random.ts';
import { boxOf, type SourceBox } from '../scene/source-pixels.ts';
import { defineEdit } from './edit.ts';
import { freeId, layerIn, shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';

/** How a picture is cut into strips. */
export interface Strips {
  count: number;
  /** Degrees in which the cuts run: 90 upright, 0 level. */
  angle: number;
  /** How unlike their widths are, 0..1. */
  uneven: number;
  seed: number;
}

/** Source pixels a strip reaches under its neighbour, or between two soft edges what is behind would be seen. */
const overlap = 1.5;

/**
 * Cuts a layer into strips that lie exactly where it lay, each a layer of its own. They are numbered from the outside in,
 * and what the layer was fastened by, keyed and finished with, each of them keeps.
 */
export const cutIntoStrips = defineEdit(
  'Cut into strips',
  (draft: Document, shotId: string, layerId: string, strips: Strips) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    const box = boxOf(draft, layer);
    if (!box) return;
    const at = shot.layers.indexOf(layer);
    const paths = stripPaths(box, strips);
    const name = layer.name;
    const parts = outsideIn(paths.length).map((k, n): Layer => {
      const part = JSON.parse(JSON.stringify(layer)) as Layer;
      const how = part.masks.length === 0 ? ('add' as const) : ('within' as const);
      part.masks.push({ ...plainShape, id: `strip-${k}`, how, path: paths[k]! });
      part.id = n === 0 ? layer.id : freeId(draft, layerId, `s${n}`);
      part.sways = part.sways.map((sway) => (n === 0 ? sway : { ...sway, id: freeId(draft, sway.id, `s${n}`) }));
      return part;
    });
    shot.layers.splice(at, 1);
    parts.forEach((part, n) =>
      shot.layers.splice(at + n, 0, { ...part, name: freeName(draft, `${name} strip ${n + 1}`) }),
    );
  },
);

/** First the two outermost, then those within, until the middle. */
export function outsideIn(count: number): number[] {
  return Array.from({ length: count }, (_, n) => (n % 2 === 0 ? n / 2 : count - 1 - (n - 1) / 2));
}

/** The outlines of strips over a box, in order across it. */
export function stripPaths(box: SourceBox, { count, angle, uneven, seed }: Strips): Path[] {
  const radians = (angle * Math.PI) / 180;
  // The cuts run along u, the strips follow one another along v.
  const [ux, uy] = [Math.cos(radians), Math.sin(radians)];
  // From left to right, or from above.
  const side = uy > 1e-9 || (Math.abs(uy) <= 1e-9 && ux < 0) ? 1 : -1;
  const [vx, vy] = [side * uy, -side * ux];
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  const half = (Math.abs(vx) * box.width + Math.abs(vy) * box.height) / 2;
  const long = box.width + box.height;
  const random = seededRandom(seed);
  const widths = Array.from({ length: count }, () => 1 + uneven * 0.9 * (2 * random() - 1));
  const total = widths.reduce((sum, w) => sum + w, 0);
  let passed = 0;
  return widths.map((width, k) => {
    const from = -half + (2 * half * passed) / total;
    passed += width;
    const to = -half + (2 * half * passed) / total;
    const [a, b] = [k === 0 ? from - long : from, k === count - 1 ? to + long : to + overlap];
    const point = (u: number, v: number): Point => [cx + ux * u + vx * v, cy + uy * u + vy * v];
    return { closed: true, points: [point(-long, a), point(long, a), point(long, b), point(-long, b)].map(corner) };
  });
}
