import { ellipse } from '../core/path/forms.ts';
import { addLayer } from '../core/edits/arrange-edits.ts';
import { setFraming } from '../core/edits/camera-edits.ts';
import type { Edit } from '../core/edits/edit.ts';
import { addFinish } from '../core/edits/finish-edits.ts';
import { setWandering } from '../core/edits/key-edits.ts';
import { addKey, setLayer, setProperty } from '../core/edits/layer-edits.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import { addShot, renameShot, setTransition } from '../core/edits/shot-edits.ts';
import { emptyDocument, type Document, type Piece } from '../core/document/document.ts';
import { numbersOfPath } from '../core/document/points.ts';
import { finishPath } from '../core/document/properties.ts';
import { restFraming } from '../core/document/shot.ts';

const [quay, ink] = ['shot-1', 'shot-2'];
const frame = { width: 1600, height: 1000, rate: 30 };

/**
 * What finishes do: a lantern cut out of one evening stands in another, with its light, its shadow and one grain over all;
 * and the tin heron drawn in ink before dots, with a sign whose colour changes.
 */
export function makeEveningDocument(lantern: Document, breakwater: Document, heron: Document): Document {
  const start = emptyDocument('Lantern in another evening', frame, 5, quay);
  const tin = heron.pieces.find((piece) => piece.recipe.kind === 'chroma')!;
  const green = heron.pictures.find((picture) => picture.id === tin.picture)!;
  const lit = lantern.pieces[0]!;
  const edits = [
    addPicture({ ...breakwater.pictures[0]!, id: 'picture-quay', background: null }),
    addPicture({ ...lantern.pictures[0]!, id: 'picture-lantern', background: null }),
    addPicture({ ...green, id: 'picture-heron', background: null }),
    addPiece({ ...lit, id: 'piece-lantern', picture: 'picture-lantern' }),
    addPiece({ ...tin, id: 'piece-heron', picture: 'picture-heron' }),
    renameShot(quay, 'On the breakwater'),
    ...standing(lit),
    addShot(quay, ink),
    renameShot(ink, 'In ink'),
    ...drawn(tin),
    setTransition(quay, { kind: 'crossfade', frames: 15 }),
  ];
  return edits.reduce((document, edit) => edit.apply(document), start);
}

/** The lantern stands among the stones, lit and shaded as they are. */
function standing({ cutout }: Piece): Edit[] {
  const { bounds } = cutout!;
  const scale = 300 / bounds.height;
  const foot: [number, number] = [bounds.x + bounds.width / 2, bounds.y + bounds.height];
  const add = (layer: string, kind: string, values: Record<string, unknown> = {}): Edit =>
    addFinish(quay, layer, kind, `${layer}-${kind}`, values);
  return [
    addLayer(
      quay,
      { id: 'quay', name: 'Breakwater', depth: 8, position: [0, 20] },
      { source: { kind: 'picture', picture: 'picture-quay' }, pivot: [1200, 800] },
    ),
    setProperty(quay, 'quay', 'scale', 0, 0.76),
    add('quay', 'temperature', { warmth: -0.35 }),
    add('quay', 'light-contrast', { light: -0.16, contrast: 0.1 }),
    addLayer(
      quay,
      { id: 'lantern', name: 'Lantern', depth: 4, position: [170, 405] },
      { source: { kind: 'piece', piece: 'piece-lantern' }, pivot: foot },
    ),
    setProperty(quay, 'lantern', 'scale', 0, scale),
    add('lantern', 'settle-in', { light: 0.22, colour: 0.25, contrast: 0.1 }),
    add('lantern', 'edge-light', { angle: -150, width: 9, colour: [190, 170, 220, 0.7] }),
    add('lantern', 'flicker', { strength: 0.14, interval: 5 }),
    add('lantern', 'edge-glow', { size: 150, strength: 1.4, colour: [255, 176, 84, 0.85] }),
    add('lantern', 'cast-shadow', { lean: 40, length: -0.4, softness: 22, colour: [14, 14, 28, 0.6] }),
    addLayer(quay, { id: 'all', name: 'Grain over all', depth: 1.5 }, { source: { kind: 'grade' } }),
    add('all', 'vignette', { strength: 0.55 }),
    add('all', 'grain', { amount: 0.12, size: 2 }),
    setFraming(quay, 'first', { ...restFraming, size: 0.95 }),
    setFraming(quay, 'last', { ...restFraming, x: 24, y: 12, size: 0.84 }),
  ];
}

/** The heron in flats and ink before dots that fade towards the rim, and a round sign in one changing hue. */
function drawn({ cutout }: Piece): Edit[] {
  const { bounds } = cutout!;
  const add = (layer: string, kind: string, values: Record<string, unknown> = {}): Edit =>
    addFinish(ink, layer, kind, `${layer}-${kind}`, values);
  const to = finishPath('sign-recolour', 'to');
  const disc = ellipse({ x: 0, y: 0, width: 1500, height: 1500 });
  const gradient = {
    kind: 'radial' as const,
    angle: 0,
    stops: [
      { at: 0, colour: [40, 40, 40, 1] as [number, number, number, number] },
      { at: 0.7, colour: [250, 250, 250, 1] as [number, number, number, number] },
    ],
  };
  return [
    addLayer(
      ink,
      { id: 'paper', name: 'Paper', depth: 30 },
      { source: { kind: 'colour' }, colour: [236, 224, 196, 1] },
    ),
    add('paper', 'paper', { strength: 0.14 }),
    addLayer(
      ink,
      { id: 'dots', name: 'Dots', depth: 9, position: [0, 0] },
      {
        source: { kind: 'shape', made: null, closed: true, filled: true, gradient, stroke: null },
        points: numbersOfPath(disc),
        colour: [60, 60, 60, 1],
        pivot: [750, 750],
      },
    ),
    add('dots', 'halftone', { size: 26, ink: [190, 70, 45, 1], paper: [190, 70, 45, 0] }),
    setWandering(ink, 'dots', 'rotation', 'drift', 0.1),
    addLayer(
      ink,
      { id: 'sign', name: 'Sign', depth: 6, position: [-470, -240] },
      {
        source: { kind: 'shape', made: null, closed: true, filled: true, gradient: null, stroke: null },
        points: numbersOfPath(ellipse({ x: 0, y: 0, width: 250, height: 250 })),
        colour: [190, 60, 45, 1],
        pivot: [125, 125],
      },
    ),
    add('sign', 'recolour', { from: [190, 60, 45, 1], to: [190, 60, 45, 1] }),
    addKey(ink, 'sign', to, 0, [190, 60, 45, 1]),
    addKey(ink, 'sign', to, 50, [222, 164, 40, 1]),
    addKey(ink, 'sign', to, 100, [40, 110, 120, 1]),
    add('sign', 'outline', { width: 12, gap: 10, colour: [35, 52, 60, 1] }),
    addLayer(
      ink,
      { id: 'heron', name: 'Tin heron', depth: 4, position: [60, 30] },
      {
        source: { kind: 'piece', piece: 'piece-heron' },
        pivot: [bounds.x + bounds.width / 2, bounds.y + bounds.height / 2],
      },
    ),
    setProperty(ink, 'heron', 'scale', 0, 1.15),
    add('heron', 'light-contrast', { light: 0.08, contrast: 0.25 }),
    add('heron', 'drawn', { flats: 6, line: 1.6 }),
    add('heron', 'outline', { width: 9, colour: [250, 246, 236, 1] }),
    add('heron', 'drop-shadow', { distance: 22, softness: 10, colour: [35, 30, 20, 0.5] }),
    setLayer('Hold frames', ink, 'heron', {
      timing: {
        bar: null,
        like: null,
        slip: 0,
        speed: 1,
        ends: 'repeat',
        freeze: null,
        steps: 2,
        between: 'nearest',
        crossfade: 0,
      },
    }),
    setWandering(ink, 'heron', 'rotation', 'bob', { amount: 2.5, period: 60, phase: 0 }),
    setFraming(ink, 'first', { ...restFraming, size: 0.98 }),
    setFraming(ink, 'last', { ...restFraming, size: 0.9 }),
  ];
}
