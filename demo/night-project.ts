import { addLayer } from '../core/edits/arrange-edits.ts';
import { setFraming } from '../core/edits/camera-edits.ts';
import type { Edit } from '../core/edits/edit.ts';
import { addFinish } from '../core/edits/finish-edits.ts';
import { addKey, renameLayer, setProperty } from '../core/edits/layer-edits.ts';
import { addProp, changeProp } from '../core/edits/prop-edits.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import { emptyDocument, type Document } from '../core/document/document.ts';
import { propPath } from '../core/document/properties.ts';
import { restFraming } from '../core/document/shot.ts';

const shot = 'shot-1';
const frame = { width: 1600, height: 900, rate: 30 };

/** What props do: the breakwater by night, with stars, a curtain of light, a lamp that crosses, mist and embers in depth. */
export function makeNightDocument(breakwater: Document): Document {
  const edits = [
    addPicture({ ...breakwater.pictures[0]!, id: 'picture-quay' }),
    addPiece({ ...breakwater.pieces[0]!, id: 'piece-quay', picture: 'picture-quay' }),
    ...scene(),
  ];
  return edits.reduce((document, edit) => edit.apply(document), emptyDocument('Night over the quay', frame, 6, shot));
}

function scene(): Edit[] {
  const whole: [number, number] = [1200, 800];
  const prop = (kind: string, id: string, depth: number, values: Record<string, unknown> = {}): Edit =>
    addProp(shot, kind, { id, depth }, values);
  const night = (layer: string, light: number): Edit[] => [
    addFinish(shot, layer, 'temperature', `${layer}-cold`, { warmth: -0.55 }),
    addFinish(shot, layer, 'light-contrast', `${layer}-dark`, { light, contrast: 0.12 }),
    addFinish(shot, layer, 'hue-saturation', `${layer}-grey`, { saturation: -0.35 }),
  ];
  return [
    addLayer(
      shot,
      { id: 'shore', name: 'Sea and sky', depth: 14, position: [0, 30] },
      { source: { kind: 'background', picture: 'picture-quay' }, pivot: whole },
    ),
    setProperty(shot, 'shore', 'scale', 0, 0.78),
    ...night('shore', -0.52),
    prop('stars', 'stars', 13, { amount: 1700, fades: 1, clusters: 0.75, size: 4.6 }),
    setProperty(shot, 'stars', 'position', 0, [0, -190]),
    prop('curtain', 'curtain', 12, { left: [0.02, 0.42], right: [0.98, 0.36], height: 330, strength: 0.75 }),
    prop('mist', 'mist-far', 9, { density: 0.5, top: 1, bottom: 0.9, drift: 1.2, colour: [150, 168, 190, 0.6] }),
    renameLayer(shot, 'mist-far', 'Mist behind'),
    setProperty(shot, 'mist-far', 'position', 0, [0, 130]),
    changeProp(shot, 'mist-far', { height: 620 }),
    addLayer(
      shot,
      { id: 'stones', name: 'Breakwater and tower', depth: 3.4, position: [0, 30] },
      { source: { kind: 'piece', piece: 'piece-quay' }, pivot: whole },
    ),
    setProperty(shot, 'stones', 'scale', 0, 0.78),
    ...night('stones', -0.4),
    addFinish(shot, 'stones', 'edge-light', 'stones-edge', { angle: -90, width: 10, colour: [120, 255, 200, 0.4] }),
    prop('flare', 'lamp', 3, { size: 170, strength: 0.8, ghosts: 0.7, points: 6, streak: 0.7 }),
    setProperty(shot, 'lamp', propPath('place'), 0, [0.405, 0.205]),
    addKey(shot, 'lamp', propPath('turn'), 0, 0),
    addKey(shot, 'lamp', propPath('turn'), 179, 60),
    prop('mist', 'mist-near', 2.2, {
      density: 0.34,
      top: 1,
      bottom: 0.6,
      drift: 3,
      size: 520,
      colour: [170, 184, 200, 0.45],
    }),
    renameLayer(shot, 'mist-near', 'Mist before'),
    setProperty(shot, 'mist-near', 'position', 0, [0, 360]),
    changeProp(shot, 'mist-near', { height: 560 }),
    prop('sparks', 'embers', 2.8, { amount: 150, from: [0.72, 0.93], spread: 520, rise: 760, size: 11 }),
    changeProp(shot, 'embers', { near: 0.55, far: 2.4 }),
    setFraming(shot, 'first', { ...restFraming, size: 0.98 }),
    setFraming(shot, 'last', { ...restFraming, x: 20, y: 6, size: 0.84 }),
  ];
}
