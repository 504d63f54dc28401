import { ellipse, rectangle } from '../core/path/forms.ts';
import { corner, type Path } from '../core/path/path.ts';
import { addLayer, groupLayers, type NewContent } from '../core/edits/arrange-edits.ts';
import { changeArrival, setArrival, setArrivalValues, setLeaving, setPen } from '../core/edits/arrival-edits.ts';
import { setFraming } from '../core/edits/camera-edits.ts';
import type { Edit } from '../core/edits/edit.ts';
import { addFinish } from '../core/edits/finish-edits.ts';
import { setLayer, setProperty } from '../core/edits/layer-edits.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import { addShot, renameShot, setTransition } from '../core/edits/shot-edits.ts';
import { emptyDocument, type Document } from '../core/document/document.ts';
import { plainLayer, type LayerSource } from '../core/document/layer.ts';
import { plainWords } from '../core/document/words.ts';
import { numbersOfPath } from '../core/document/points.ts';
import { restFraming } from '../core/document/shot.ts';
import { setWords } from './fonts.ts';

type Text = Extract<LayerSource, { kind: 'text' }>;
type Colour = [number, number, number, number];

const [title, written] = ['shot-1', 'shot-2'];
const frame = { width: 1600, height: 900, rate: 30 };
const [ink, brick, pine, cream]: Colour[] = [
  [28, 42, 48, 1],
  [174, 59, 39, 1],
  [14, 91, 80, 1],
  [250, 246, 236, 1],
];

/**
 * What words do: a title that slides in between the near rocks and the sky, and a notice whose heading opens on an arc
 * while a tin hand writes the line below it.
 */
export async function makeWordsDocument(breakwater: Document): Promise<Document> {
  const start = emptyDocument('Words at Wendle Quay', frame, 4, title);
  const edits = [
    addPicture({ ...breakwater.pictures[0]!, id: 'picture-quay' }),
    addPiece({ ...breakwater.pieces[0]!, id: 'piece-quay', picture: 'picture-quay' }),
    renameShot(title, 'Title between'),
    ...(await titleBetween()),
    addShot(title, written),
    renameShot(written, 'Written'),
    ...(await notice()),
    setTransition(title, { kind: 'crossfade', frames: 12 }),
  ];
  return edits.reduce((document, edit) => edit.apply(document), start);
}

/** Two words between the near stones and the far shore, the second a little later. */
async function titleBetween(): Promise<Edit[]> {
  const whole: [number, number] = [1200, 800];
  const shadow = { distance: 10, softness: 22, colour: [10, 16, 30, 0.6] };
  const add = (layer: string): Edit => addFinish(title, layer, 'drop-shadow', `${layer}-shadow`, shadow);
  const slide = (layer: string, first: number): Edit[] => [
    setArrival(title, [layer], 'from-side'),
    setArrivalValues(title, layer, 'arrive', { side: 0, distance: 520 }),
    changeArrival(title, layer, 'arrive', { length: 40, easing: 'ease-in-out', overlap: 0.75 }),
    setLeaving(title, [layer], 'mirrors'),
    changeArrival(title, layer, 'leave', { length: 22 }),
    setLayer('Change timing', title, layer, { timing: { ...plainLayer.timing, bar: { first, end: 118 } } }),
  ];
  return [
    addLayer(
      title,
      { id: 'shore', name: 'Sea and sky', depth: 14, position: [0, 30] },
      {
        source: { kind: 'background', picture: 'picture-quay' },
        pivot: whole,
      },
    ),
    setProperty(title, 'shore', 'scale', 0, 0.78),
    await words(title, 'wendle', 'Wendle', { face: 'serif bold', size: 190 }, cream!, 8, [-260, -120]),
    await words(title, 'quay', 'Quay', { face: 'serif bold', size: 190 }, cream!, 7, [330, 40]),
    add('wendle'),
    add('quay'),
    ...slide('wendle', 6),
    ...slide('quay', 16),
    addLayer(
      title,
      { id: 'stones', name: 'Breakwater and tower', depth: 3.4, position: [0, 30] },
      {
        source: { kind: 'piece', piece: 'piece-quay' },
        pivot: whole,
      },
    ),
    setProperty(title, 'stones', 'scale', 0, 0.78),
    setFraming(title, 'first', { ...restFraming, size: 0.98 }),
    setFraming(title, 'last', { ...restFraming, x: 26, y: 10, size: 0.88 }),
  ];
}

/** A heading on an arc with two outlines, a line written by a hand, and a number that counts. */
async function notice(): Promise<Edit[]> {
  const heading = { face: 'slab', size: 150, along: { form: 'arc', bend: 70 } } as const;
  const counting = {
    kind: 'number',
    from: 0,
    to: 240,
    decimals: 0,
    grouped: true,
    begin: 70,
    length: 40,
    easing: 'ease-out',
  } as const;
  return [
    addLayer(
      written,
      { id: 'sheet', name: 'Paper', depth: 20 },
      { source: { kind: 'colour' }, colour: [238, 228, 204, 1] },
    ),
    addFinish(written, 'sheet', 'paper', 'sheet-paper', { strength: 0.07 }),
    await words(written, 'heading', 'Lantern Week', heading, brick!, 4, [0, -190]),
    addFinish(written, 'heading', 'outline', 'heading-near', { width: 9, colour: cream }),
    addFinish(written, 'heading', 'outline', 'heading-far', { width: 6, gap: 4, colour: ink }),
    setArrival(written, ['heading'], 'grow'),
    changeArrival(written, 'heading', 'arrive', {
      order: 'from the middle',
      length: 34,
      easing: 'overshoot',
      overlap: 0.7,
    }),
    await words(written, 'line', 'tonight at the quay', { face: 'script', size: 120 }, pine!, 4, [0, 150]),
    setArrival(written, ['line'], 'write'),
    changeArrival(written, 'line', 'arrive', { length: 75, easing: 'linear' }),
    setLayer('Change timing', written, 'line', { timing: { ...plainLayer.timing, bar: { first: 20, end: 120 } } }),
    await words(written, 'count', '# lanterns', { face: 'mono', size: 44, changes: counting }, ink!, 4, [0, 330]),
    ...hand(),
    setPen(written, 'hand', { to: 'line', approach: 18, from: 40, away: 70, lift: 36 }),
    addFinish(written, 'hand', 'drop-shadow', 'hand-shadow', { distance: 26, softness: 16, colour: [40, 30, 20, 0.4] }),
  ];
}

async function words(
  shot: string,
  id: string,
  text: string,
  change: Partial<Text>,
  colour: Colour,
  depth: number,
  position: [number, number],
): Promise<Edit> {
  const setting = { ...plainWords, text, face: 'serif', size: 100, ...change };
  const { width, height } = await setWords(setting);
  return addLayer(
    shot,
    { id, name: text, depth, position },
    {
      source: { ...setting, box: { width, height } },
      colour,
      pivot: [width / 2, height / 2],
    },
  );
}

/** A tin hand with a brush, made of plates; the tip of the brush is its pivot. */
function hand(): Edit[] {
  const plate = (id: string, name: string, path: Path, colour: Colour, at: [number, number], turn: number): Edit[] => {
    const content: NewContent = {
      source: {
        kind: 'shape',
        made: null,
        closed: true,
        filled: true,
        gradient: null,
        stroke: { width: 3, colour: ink! },
      },
      points: numbersOfPath(path),
      colour,
      pivot: [0, 0],
    };
    return [
      addLayer(written, { id, name, depth: 3.6, position: at }, content),
      ...(turn === 0 ? [] : [setProperty(written, id, 'rotation', 0, turn)]),
    ];
  };
  const tin: Colour = [168, 180, 184, 1];
  const light: Colour = [196, 206, 208, 1];
  const finger = (length: number): Path => rectangle({ x: 0, y: -19, width: length, height: 38 }, 19);
  const bristles = [
    [0, 0],
    [30, 4],
    [44, 22],
    [22, 44],
    [4, 30],
  ] as [number, number][];
  const tip: Path = { closed: true, points: bristles.map(corner) };
  const parts = [
    ...plate('arm', 'Sleeve', rectangle({ x: 0, y: -62, width: 700, height: 124 }, 20), pine!, [300, 290], 40),
    ...plate('palm', 'Palm', ellipse({ x: -110, y: -85, width: 220, height: 170 }), tin, [262, 236], 40),
    ...plate('brush', 'Brush', rectangle({ x: 30, y: -9, width: 380, height: 18 }, 8), brick!, [8, 8], 45),
    ...plate('tip', 'Tip', tip, ink!, [0, 0], 0),
    ...plate('thumb', 'Thumb', finger(150), light, [262, 268], -168),
    ...plate('finger-1', 'First finger', finger(165), light, [258, 180], 165),
    ...plate('finger-2', 'Second finger', finger(140), tin, [292, 214], 172),
  ];
  const ids = ['tip', 'finger-1', 'thumb', 'brush', 'finger-2', 'palm', 'arm'];
  return [...parts, groupLayers(written, ids, { id: 'hand', name: 'Tin hand' })];
}
