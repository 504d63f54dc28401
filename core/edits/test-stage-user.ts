import { rectangle } from '../path/forms.ts';
import { plainShape } from '../path/shapes.ts';
import {
  addLayer,
  alignLayers,
  distributeLayers,
  duplicateLayers,
  flipLayers,
  groupLayers,
  hangBetween,
  putInGroup,
  ungroup,
} from './arrange-edits.ts';
import { setCamera, setFocus, setFocusKey, swapFramings } from './camera-edits.ts';
import type { Document } from '../document/document.ts';
import type { Edit } from './edit.ts';
import { addFinish, duplicateFinish, moveFinish, pasteFinishes, removeFinish, setFinish } from './finish-edits.ts';
import {
  changePace,
  copiedKeys,
  easeKeys,
  evenSpeed,
  keyFramesOf,
  mirrorKeys,
  moveKeys,
  pasteKeys,
  removeKeys,
  scatterLayers,
  setCycle,
  setDrawnPath,
  setWandering,
  staggerLayers,
  stretchKeys,
  turnIntoKeys,
  type KeyRef,
} from './key-edits.ts';
import { addKey, movePivot, setLayer, setProperty } from './layer-edits.ts';
import { layerValue } from '../scene/values.ts';
import { finishKinds } from '../finish/finishes.ts';
import type { Layer } from '../document/layer.ts';
import { propertyAt, propertyPaths } from '../document/properties.ts';
import { numbersOfPath } from '../document/points.ts';
import { changePose, matchLayers, removePose, storePose } from './pose-edits.ts';
import {
  addShot,
  duplicateShot,
  moveShot,
  removeShot,
  setGuides,
  setMarkers,
  setTransition,
  setWorkArea,
} from './shot-edits.ts';

interface Dice {
  below(n: number): number;
  random(): number;
  id(kind: string): string;
}

/** Everything that can be done on the Stage to a document as it stands, each thing made when it is chosen. */
export function stageEdits(dice: Dice, document: Document): (() => Edit)[] {
  const shot = document.shots[0]!;
  const { below, random, id } = dice;
  const some = (): string[] => shot.layers.filter(() => random() < 0.4).map((l) => l.id);
  return [
    () => addLayer('shot', { id: id('layer'), name: 'Card', depth: 2 }, shapeContent()),
    () =>
      addLayer(
        'shot',
        { id: id('layer'), name: 'Sky', depth: 9 },
        { source: { kind: 'colour' }, colour: [9, 9, 9, 1] },
      ),
    () => addLayer('shot', { id: id('layer'), name: 'Carrier', depth: 3 }, { source: { kind: 'carrier' } }),
    () => groupLayers('shot', some(), { id: id('group'), name: 'Group' }),
    () =>
      duplicateLayers(
        'shot',
        some().map((of) => ({ of, id: id('copy') })),
      ),
    () => flipLayers('shot', some(), 'sideways'),
    () => alignLayers('shot', some(), 'left', below(30)),
    () => distributeLayers('shot', some(), 'across', below(30)),
    () => staggerLayers('shot', some(), below(5)),
    () => scatterLayers('shot', some(), below(9), below(99)),
    () => storePose('shot', id('pose'), below(shot.length)),
    () => setCamera('Shake', 'shot', { shake: { amount: 4, period: 5, seed: 1, roll: 1 }, aperture: 8 }),
    () => setFocus('shot', below(30), 1 + below(9)),
    () => setFocusKey('shot', below(30), random() < 0.3 ? null : 1 + below(9)),
    () => swapFramings('shot'),
    () => setMarkers('shot', [{ frame: below(60), name: 'Here' }]),
    () => setWorkArea('shot', random() < 0.3 ? null : { first: below(20), end: 20 + below(40) }),
    () => setTransition('shot', { kind: 'wipe' }),
    () => setGuides('shot', { x: [below(300)], y: [] }),
    ...(document.shots.length < 3 ? [() => addShot('shot', id('shot')), () => duplicateShot('shot', id('shot'))] : []),
    ...document.shots.slice(1).flatMap((s) => [() => removeShot(s.id), () => moveShot(s.id, 2)]),
    ...shot.poses.flatMap((pose) => [
      () => changePose('shot', pose.id, { hold: below(9) }),
      () => removePose('shot', pose.id),
      ...(pose.layers.length > 1
        ? [() => matchLayers('shot', pose.id, pose.layers[0]!.layer, pose.layers[1]!.layer)]
        : []),
    ]),
    ...shot.layers.flatMap((layer) => onLayer(dice, document, layer)),
  ];
}

const shapeContent = () => ({
  source: { kind: 'shape' as const, made: null, closed: true, filled: true, gradient: null, stroke: null },
  colour: [200, 80, 40, 1],
  points: numbersOfPath(rectangle({ x: 0, y: 0, width: 60, height: 40 })),
  pivot: [30, 20] as [number, number],
});

function refsOf(layer: Layer): KeyRef[] {
  return propertyPaths(layer).flatMap((property) => {
    const found = propertyAt(layer, property);
    return found && 'keys' in found ? found.keys.map(({ frame }) => ({ layer: layer.id, property, frame })) : [];
  });
}

function onLayer({ below, random, id }: Dice, document: Document, layer: Layer): (() => Edit)[] {
  const { layers } = document.shots[0]!;
  const other = layers[below(layers.length)]!.id;
  const refs = refsOf(layer);
  const groups = layers.filter((l) => l.source.kind === 'group' && l.id !== layer.id && layer.source.kind !== 'group');
  const set = (name: string, change: Partial<Layer>) => (): Edit => setLayer(name, 'shot', layer.id, change);
  const own = [
    () =>
      setProperty(
        'shot',
        layer.id,
        'corners',
        below(40),
        Array.from({ length: 8 }, () => below(9) - 4),
      ),
    () => setProperty('shot', layer.id, 'blur', below(40), below(9)),
    () => movePivot('shot', layer.id, [below(300), below(200)], below(40)),
    () => setWandering('shot', layer.id, 'rotation', 'drift', 0.5),
    () => setWandering('shot', layer.id, 'position', 'jitter', { amount: 3, period: 8, seed: below(99) }),
    () => setWandering('shot', layer.id, 'position', 'bob', { amount: [0, 5], period: 30, phase: 0 }),
    () => turnIntoKeys('shot', layer.id, 'position'),
    () => evenSpeed('shot', layer.id),
    () =>
      setDrawnPath(
        'shot',
        layer.id,
        [1, 5, 9, 14].map((f) => ({ frame: f, at: [below(99), below(99)] })),
        2,
      ),
    () => setCycle('shot', layer.id, 'scale', (['repeat', 'swing', 'carry-on'] as const)[below(3)]!),
    () => addFinish('shot', layer.id, finishKinds[below(finishKinds.length)]!.id, id('finish')),
    ...layer.finishes.flatMap((finish) => [
      () => setFinish('shot', layer.id, finish.id, { muted: !finish.muted }),
      () => removeFinish('shot', layer.id, finish.id),
      () => moveFinish('shot', layer.id, finish.id, below(3)),
      () => duplicateFinish('shot', layer.id, finish.id, id('finish')),
      () => pasteFinishes('shot', [other], layer.finishes, [id('finish')]),
      ...propertyPaths(layer)
        .filter((path) => path.startsWith(`finishes/${finish.id}/`))
        .map((path) => () => addKey('shot', layer.id, path, below(40), layerValue(document.shots[0]!, layer, path, 0))),
    ]),
    set('Mask', { masks: [{ ...plainShape, id: id('mask'), path: rectangle({ x: 5, y: 5, width: 30, height: 20 }) }] }),
    set('Change timing', {
      timing: { ...layer.timing, bar: { first: below(20), end: 21 + below(40) }, steps: 1 + below(3) },
    }),
  ];
  const withOther = [
    set('Window', { window: { to: other, how: 'inside', by: 'alpha', free: null } }),
    set('Change timing', { timing: { ...layer.timing, like: other } }),
    () => setWandering('shot', layer.id, 'scale', 'follow', { layer: other, of: 'y', factor: 0.001, delay: 3 }),
    () => hangBetween('shot', [layer.id], other, null),
  ];
  const withKeys = [
    () => moveKeys('shot', refs, below(9) - 4),
    () => stretchKeys('shot', refs, refs[0]!.frame, 0.5 + random()),
    () => mirrorKeys('shot', refs),
    () => easeKeys('shot', refs, 'bounce'),
    () => removeKeys('shot', refs.slice(0, 1)),
    () => pasteKeys('shot', copiedKeys(document.shots[0]!, refs), [other], below(30)),
    () => changePace('shot', layer.id, 0.5 + random()),
  ];
  return [
    ...own,
    ...(other === layer.id ? [] : withOther),
    ...(refs.length > 0 && keyFramesOf(layer).length > 0 ? withKeys : []),
    ...groups.map((group) => () => putInGroup('shot', [layer.id], group.id)),
    ...(layer.source.kind === 'group' ? [() => ungroup('shot', layer.id)] : []),
  ];
}
