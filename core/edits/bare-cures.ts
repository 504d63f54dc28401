import { withEveryValue } from '../motion/keys.ts';
import type { Point } from '../motion/property.ts';
import { enlargementToCover, shiftToCover } from '../scene/bare.ts';
import { defineEdit } from './edit.ts';
import { layerIn, shotIn } from './layer-edits.ts';

/** A hair more than exact, so that rounding in the painter cannot show a line at the border. */
export const withHair = (factor: number): number => factor * 1.002;

/** Enlarges a layer about its pivot just enough that it covers the frame in every frame of the shot. */
export const enlargeToCover = defineEdit('Enlarge to cover', (draft, shotId: string, layerId: string) => {
  const shot = shotIn(draft, shotId);
  const layer = layerIn(draft, shotId, layerId);
  const factor = enlargementToCover(draft, shot, layer);
  if (factor <= 1 || !Number.isFinite(factor)) return;
  const k = withHair(factor);
  layer.scale = withEveryValue<number>(layer.scale, (scale) => scale * k);
});

/** Moves a layer just enough that it covers the frame in every frame of the shot. */
export const moveToCover = defineEdit('Move to cover', (draft, shotId: string, layerId: string) => {
  const shot = shotIn(draft, shotId);
  const layer = layerIn(draft, shotId, layerId);
  const way = shiftToCover(draft, shot, layer);
  if (!way) return;
  layer.position = withEveryValue<Point>(layer.position, ([x, y]) => [x + way[0], y + way[1]]);
});
