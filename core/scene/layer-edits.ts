import { withKey, withKeyMoved, withoutKey, withValueAt, type Point, type Property } from '../motion/property.ts';
import type { Easing } from '../motion/easing.ts';
import { enlargementToCover } from './bare.ts';
import type { BlendMode, Document, Framing, Layer } from './document.ts';
import { defineEdit, find, type Edit } from './edit.ts';
import { placeAt } from './evaluate.ts';
import { dropLayers } from './project-edits.ts';

/** The properties of a layer that can have keys. */
export const animated = ['position', 'scale', 'rotation', 'opacity'] as const;
export type Animated = (typeof animated)[number];
export type AnimatedValue<P extends Animated> = P extends 'position' ? Point : number;

export const propertyNames: Record<Animated, string> = {
  position: 'Position',
  scale: 'Scale',
  rotation: 'Rotation',
  opacity: 'Opacity',
};

function layerIn(document: Document, shotId: string, layerId: string): Layer {
  return find(find(document.shots, 'shot', shotId).layers, 'layer', layerId);
}

export const renameLayer = defineEdit('Rename layer', (draft, shot: string, layer: string, name: string) => {
  const found = layerIn(draft, shot, layer);
  found.name = name.trim() || found.name;
});

export const setDepth = defineEdit('Change depth', (draft, shot: string, layer: string, depth: number) => {
  layerIn(draft, shot, layer).depth = Math.max(0.2, Math.min(100, depth));
});

export const setHidden = defineEdit('Hide or show layer', (draft, shot: string, layer: string, hidden: boolean) => {
  layerIn(draft, shot, layer).hidden = hidden;
});

export const setLocked = defineEdit('Lock or unlock layer', (draft, shot: string, layer: string, locked: boolean) => {
  layerIn(draft, shot, layer).locked = locked;
});

export const removeLayer = defineEdit('Delete layer', (draft, shotId: string, layer: string) => {
  find(find(draft.shots, 'shot', shotId).layers, 'layer', layer);
  dropLayers(draft, (l) => l.id === layer);
});

/** Fastens a layer to another with its place kept; `null` lets it go where it is at `frame`. */
export function fastenLayer(shotId: string, layerId: string, to: string | null, frame: number): Edit {
  return defineEdit(to ? 'Fasten layer' : 'Let layer go', (draft: Document) => {
    const shot = find(draft.shots, 'shot', shotId);
    const layer = layerIn(draft, shotId, layerId);
    layer.fastened = to
      ? { to, place: placeAt(find(shot.layers, 'layer', to), frame), follow: [1, 1], fade: 0, shrink: 0 }
      : null;
  })();
}

export const setFastening = defineEdit(
  'Change fastening',
  (draft, shot: string, layer: string, change: Partial<NonNullable<Layer['fastened']>>) => {
    const found = layerIn(draft, shot, layer);
    if (found.fastened) found.fastened = { ...found.fastened, ...change };
  },
);

function changeProperty<P extends Animated>(
  name: string,
  shot: string,
  layer: string,
  property: P,
  change: (before: Property<AnimatedValue<P>>) => Property<AnimatedValue<P>>,
): Edit {
  return defineEdit(name, (draft: Document) => {
    const found = layerIn(draft, shot, layer) as unknown as Record<P, Property<AnimatedValue<P>>>;
    found[property] = change(found[property]);
  })();
}

const stepNames: Record<Animated, string> = {
  position: 'Move',
  scale: 'Scale',
  rotation: 'Rotate',
  opacity: 'Change opacity',
};

/** Sets a property at a frame: its constant, or the key there. */
export function setProperty<P extends Animated>(
  shot: string,
  layer: string,
  property: P,
  frame: number,
  value: AnimatedValue<P>,
): Edit {
  return changeProperty(`${stepNames[property]} layer`, shot, layer, property, (before) =>
    withValueAt(before, frame, value),
  );
}

export function addKey<P extends Animated>(
  shot: string,
  layer: string,
  property: P,
  frame: number,
  value: AnimatedValue<P>,
): Edit {
  return changeProperty('Add keyframe', shot, layer, property, (before) => withKey(before, frame, value));
}

export function removeKey(shot: string, layer: string, property: Animated, frame: number): Edit {
  return changeProperty('Delete keyframe', shot, layer, property, (before) => withoutKey(before, frame));
}

export function moveKey(shot: string, layer: string, property: Animated, from: number, to: number): Edit {
  return changeProperty('Move keyframe', shot, layer, property, (before) => withKeyMoved(before, from, to));
}

export function setKeyEasing(shot: string, layer: string, property: Animated, frame: number, easing: Easing): Edit {
  return changeProperty('Change easing', shot, layer, property, (before) =>
    'value' in before ? before : { keys: before.keys.map((key) => (key.frame === frame ? { ...key, easing } : key)) },
  );
}

export const setBlend = defineEdit('Change blend mode', (draft, shotId: string, layerId: string, blend: BlendMode) => {
  layerIn(draft, shotId, layerId).blend = blend;
});

export const setFraming = defineEdit(
  'Change framing',
  (draft, shotId: string, which: 'first' | 'last', framing: Framing) => {
    const size = Math.max(0.05, Math.min(4, framing.size));
    find(draft.shots, 'shot', shotId).camera[which] = { ...framing, size };
  },
);

export const swapFramings = defineEdit('Swap framings', (draft, shotId: string) => {
  const { camera } = find(draft.shots, 'shot', shotId);
  [camera.first, camera.last] = [camera.last, camera.first];
});

export const setCameraEasing = defineEdit('Change camera easing', (draft, shotId: string, easing: Easing) => {
  find(draft.shots, 'shot', shotId).camera.easing = easing;
});

/** Enlarges a layer about its pivot just enough that it covers the frame in every frame of the shot. */
export const enlargeToCover = defineEdit('Enlarge to cover', (draft, shotId: string, layerId: string) => {
  const shot = find(draft.shots, 'shot', shotId);
  const layer = layerIn(draft, shotId, layerId);
  const factor = enlargementToCover(draft, shot, layer);
  if (factor <= 1 || !Number.isFinite(factor)) return;
  // A hair more than exact, so that rounding in the painter cannot show a line at the border.
  const k = factor * 1.002;
  layer.scale =
    'value' in layer.scale
      ? { value: layer.scale.value * k }
      : { keys: layer.scale.keys.map((key) => ({ ...key, value: key.value * k })) };
});
