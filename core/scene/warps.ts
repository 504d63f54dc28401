import { invert } from './matrix.ts';
import type { Layer, Relief, Sway } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import type { DrawRelief, SwayNow } from './draw.ts';
import { movedBy, type Moment } from './moment.ts';
import { restMatrix } from './place.ts';
import type { SourceBox } from './source-pixels.ts';
import { heldFrame, layerValue } from './values.ts';

/** How the image of a layer waves at a moment. */
export function swaysOf({ shot, frame }: Moment, layer: Layer, pixels: SourceBox): SwayNow[] {
  return layer.sways.flatMap((sway) => {
    const settings = settingsOf(shot, sway);
    if (settings.strength === 0) return [];
    const { soft, direction, size, strength, pinned, shade, loops } = settings;
    const period = loops ? shot.length / Math.max(1, Math.round(shot.length / settings.period)) : settings.period;
    const turn = heldFrame(layer, frame) / period + sway.phase;
    const region = sway.region
      ? { ...sway.region, x: sway.region.x - pixels.x, y: sway.region.y - pixels.y }
      : { form: 'rectangle' as const, x: 0, y: 0, width: pixels.width, height: pixels.height };
    return [{ region, whole: !sway.region, soft, direction, size, strength, pinned, shade, turn }];
  });
}

/** How the pixels of a layer's image lie at distances of their own; null where they do not. */
export function reliefOf(
  { document, shot, frame, camera }: Moment,
  layer: Layer,
  pixels: SourceBox & { file: string },
): DrawRelief | null {
  const { relief } = layer;
  if (!relief?.file) return null;
  const depth = layerValue(shot, layer, 'depth', frame);
  const near = depth * relief.near;
  // What would be at or behind the lens has no picture.
  if (near <= camera.z) return null;
  const rest = movedBy(restMatrix(document, shot, layer, frame), pixels);
  return {
    file: relief.file,
    behind: behindOf(relief, pixels.file),
    camera,
    near,
    far: depth * relief.far,
    toImage: invert(rest),
  };
}

/** What was rebuilt behind the steps of a map, as long as it is that map's and that picture's. */
export function behindOf({ file, behind }: Relief, picture: string): DrawRelief['behind'] {
  if (!behind || behind.of.map !== file || behind.of.picture !== picture) return null;
  return { picture: behind.picture, depth: behind.depth };
}

/** A sway's settings: its own, or those of the one it is like. */
export function settingsOf(shot: Shot, sway: Sway, seen = new Set<string>()): Sway {
  if (!sway.like || seen.has(sway.id)) return sway;
  const like = shot.layers.flatMap((l) => l.sways).find((s) => s.id === sway.like);
  return like ? settingsOf(shot, like, new Set(seen).add(sway.id)) : sway;
}
