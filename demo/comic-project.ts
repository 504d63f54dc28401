import { ellipse } from '../core/path/forms.ts';
import { plainShape } from '../core/path/shapes.ts';
import { emptyDocument, type Document } from '../core/document/document.ts';
import { plainLayer, type LayerSource } from '../core/document/layer.ts';
import { plainWords } from '../core/document/words.ts';
import { addLayer } from '../core/edits/arrange-edits.ts';
import { changeArrival, setArrival, setArrivalValues } from '../core/edits/arrival-edits.ts';
import { newBubble } from '../core/edits/bubble-edits.ts';
import { setCamera, setFraming } from '../core/edits/camera-edits.ts';
import type { Edit } from '../core/edits/edit.ts';
import { addFinish } from '../core/edits/finish-edits.ts';
import { renameLayer, setBlend, setLayer, setProperty } from '../core/edits/layer-edits.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import { addProp } from '../core/edits/prop-edits.ts';
import { newRepeat, setRepeat } from '../core/edits/repeat-edits.ts';
import { addShape, changeShape } from '../core/edits/shape-edits.ts';
import { slideApart } from '../core/edits/slide-edits.ts';
import { cutIntoStrips } from '../core/edits/strip-edits.ts';
import { restFraming } from '../core/document/shot.ts';
import { setWords } from './fonts.ts';

type Colour = [number, number, number, number];

const shot = 'shot-1';
const side = 1080;
const [rate, seconds] = [24, 5];
const [ink, brick, saffron, dusk, cream]: Colour[] = [
  [28, 42, 48, 1],
  [174, 59, 39, 1],
  [236, 176, 32, 1],
  [68, 100, 138, 1],
  [250, 246, 236, 1],
];

/** Pixels of the heron's picture a pixel of a copy 800 wide has: what is named below was measured on that. */
const measuredWidth = 800;

/**
 * A comic page: the tin heron drawn in flats and ink, half out of a ring of dots, before a harbour cut into strips; a
 * burst, a garland of pennants, and a bubble that springs from the beak.
 */
export async function makeComicDocument(heron: Document, breakwater: Document): Promise<Document> {
  const bird = heron.pictures.find(({ id }) => id === heron.pieces[0]!.picture)!;
  const start = emptyDocument('Heron on the comic page', { width: side, height: side, rate }, seconds, shot);
  const edits = [
    addPicture({ ...bird, id: 'picture-heron' }),
    addPiece({ ...heron.pieces[0]!, id: 'piece-heron', picture: 'picture-heron' }),
    addPicture({ ...breakwater.pictures[0]!, id: 'picture-quay', background: null }),
    ...harbourInStrips(),
    ...ringOfDots(),
    ...drawnHeron(bird.width / measuredWidth),
    ...ornaments(),
    ...(await talk(bird.width / measuredWidth)),
    setFraming(shot, 'first', { ...restFraming, size: 1 }),
    setFraming(shot, 'last', { ...restFraming, size: 0.95, y: -6 }),
    ...Object.entries({ panel: 'Panel', ring: 'Ring', stripe: 'Stripes', wax: 'Wax' }).map(([id, name]) =>
      renameLayer(shot, id, name),
    ),
    // All of it trembles a little, as a hand-drawn page does.
    setCamera('Shake', shot, { shake: { amount: 3, period: 6, seed: 4, roll: 0.15 } }),
  ];
  return edits.reduce((document, edit) => edit.apply(document), start);
}

/** The harbour as a picture that was cut: five strips that slide together. */
function harbourInStrips(): Edit[] {
  const strips = ['harbour', ...[1, 2, 3, 4].map((n) => `harbour-s${n}`)];
  return [
    addLayer(shot, { id: 'ground', name: 'Ground', depth: 20 }, { source: { kind: 'colour' }, colour: saffron }),
    addLayer(
      shot,
      { id: 'harbour', name: 'Harbour', depth: 9, position: [0, 0] },
      { source: { kind: 'picture', picture: 'picture-quay' }, pivot: [1200, 800] },
    ),
    setProperty(shot, 'harbour', 'scale', 0, 0.74),
    addFinish(shot, 'harbour', 'halftone', 'harbour-dots', { size: 9, ink: dusk, paper: saffron }),
    cutIntoStrips(shot, 'harbour', { count: 5, angle: 78, uneven: 0.3, seed: 3 }, true),
    slideApart(shot, strips, 0, {
      way: 'up and down',
      distance: 1250,
      uneven: 0.2,
      seed: 2,
      frames: 26,
      together: true,
      bend: 0,
      turn: 0,
      later: 0,
    }),
  ];
}

/** A panel of dots that fade at its rim, with a ring around it that grows. */
function ringOfDots(): Edit[] {
  const wide = 780;
  const middle: [number, number] = [30, 70];
  const dots = { ...plainShape, id: 'rim', path: ellipse({ x: 282, y: 362, width: 820, height: 820 }), feather: 420 };
  return [
    addShape(
      shot,
      'burst',
      { id: 'burst', depth: 6.5, width: 1020, colour: brick },
      { points: 26, depth: 0.2, uneven: 0.5 },
    ),
    setProperty(shot, 'burst', 'position', 0, middle),
    ...arrives('burst', 'grow', 14, 18),
    addShape(shot, 'ellipse', { id: 'panel', depth: 6, width: wide, colour: cream }),
    setProperty(shot, 'panel', 'position', 0, middle),
    ...arrives('panel', 'grow', 18, 16),
    addProp(shot, 'dots', { id: 'dots', depth: 5.9 }, { colour: [222, 120, 60, 1], step: 30, rim: 0.5 }),
    setLayer('Fade', shot, 'dots', { masks: [dots] }),
    ...arrives('dots', 'grow', 20, 16),
    addShape(shot, 'ellipse', { id: 'ring', depth: 5.8, width: wide + 26, colour: ink }, { hole: 0.94 }),
    setProperty(shot, 'ring', 'position', 0, middle),
    ...arrives('ring', 'grow', 18, 16),
  ];
}

/** The heron in flats and ink; below the middle of the ring it is seen only inside of it. */
function drawnHeron(unit: number): Edit[] {
  const free = { at: [390, 390] as [number, number], angle: -90, soft: 0 };
  return [
    addLayer(
      shot,
      { id: 'heron', name: 'Tin heron', depth: 5, position: [70, 110] },
      { source: { kind: 'piece', piece: 'piece-heron' }, pivot: [380 * unit, 330 * unit] },
    ),
    setProperty(shot, 'heron', 'scale', 0, 1.72 / unit),
    addFinish(shot, 'heron', 'drawn', 'heron-drawn'),
    addFinish(shot, 'heron', 'outline', 'heron-line', { width: 5, colour: ink }),
    addFinish(shot, 'heron', 'drop-shadow', 'heron-shadow', { distance: 14, softness: 2, colour: [28, 42, 48, 0.35] }),
    setLayer('Half out', shot, 'heron', { window: { to: 'panel', how: 'inside', by: 'alpha', free } }),
    ...arrives('heron', 'from-side', 26, 16),
    setArrivalValues(shot, 'heron', 'arrive', { side: 90, distance: 700, fades: false }),
  ];
}

/** Stripes that shoot in, a garland above, wax along the upper edge. */
function ornaments(): Edit[] {
  return [
    addShape(shot, 'rectangle', { id: 'stripe', depth: 4.6, width: 1500, colour: dusk }),
    setLayer('Flat', shot, 'stripe', { rotation: { value: -8 } }),
    setProperty(shot, 'stripe', 'position', 0, [0, 430]),
    setRepeat(shot, 'stripe', {
      ...newRepeat(40),
      form: 'row',
      count: 3,
      step: [40, 46],
      opacity: 1,
      delay: 3,
      hue: -28,
    }),
    ...sized('stripe', 1500, 22),
    ...arrives('stripe', 'from-side', 8, 14),
    setArrivalValues(shot, 'stripe', 'arrive', { side: 180, distance: 1700, fades: false }),
    addShape(shot, 'garland', { id: 'garland', depth: 3.4, width: 1180, colour: brick }, { flags: 11, sag: 0.5 }),
    setProperty(shot, 'garland', 'position', 0, [0, -380]),
    addFinish(shot, 'garland', 'drop-shadow', 'garland-shadow', { distance: 8, softness: 6 }),
    ...arrives('garland', 'from-side', 30, 18),
    setArrivalValues(shot, 'garland', 'arrive', { side: -90, distance: 420, fades: false }),
    addShape(shot, 'drip', { id: 'wax', depth: 3.3, width: 1200, colour: ink }, { drops: 9, length: 0.8, seed: 6 }),
    setProperty(shot, 'wax', 'position', 0, [0, -500]),
    ...sized('wax', 1200, 210),
    addLayer(shot, { id: 'page', name: 'Page', depth: 1.8 }, { source: { kind: 'grade' } }),
    addFinish(shot, 'page', 'paper', 'page-paper', { strength: 0.12 }),
  ];
}

/** What the heron says, in a bubble that springs from its beak and holds on to it. */
async function talk(unit: number): Promise<Edit[]> {
  const setting = { ...plainWords, text: 'High tide\nat nine!', face: 'comic', size: 76 };
  const { width, height } = await setWords(setting);
  const words: Extract<LayerSource, { kind: 'text' }> = { ...setting, box: { width, height } };
  const bubble = { ...newBubble(words), form: 'round' as const };
  // The tip of the beak, in pixels of the heron's picture.
  bubble.tail = { to: 'heron', at: [203 * unit, 138 * unit], width: 70 };
  return [
    addLayer(
      shot,
      { id: 'talk', name: 'Bubble', depth: 2.6, position: [-300, 30] },
      { source: { ...words, bubble }, colour: ink!, pivot: [width / 2, height / 2] },
    ),
    ...arrives('talk', 'spring', 52, 22),
    setBlend(shot, 'talk', 'normal'),
  ];
}

/** A layer that comes at a frame, in so many. */
const arrives = (layer: string, kind: string, first: number, length: number): Edit[] => [
  setLayer('Change timing', shot, layer, {
    timing: { ...plainLayer.timing, bar: { first, end: rate * seconds } },
  }),
  setArrival(shot, [layer], kind),
  changeArrival(shot, layer, 'arrive', { length, by: 'whole', easing: kind === 'grow' ? 'overshoot' : 'ease-out' }),
];

/** Another size for a shape that is made from numbers. */
const sized = (layer: string, width: number, height: number): Edit[] => [changeShape(shot, layer, { width, height })];
