import { ellipse, rectangle } from '../core/path/forms.ts';
import type { Path } from '../core/path/path.ts';
import { addLayer, groupLayers } from '../core/edits/arrange-edits.ts';
import { emptyDocument, type Document, type Picture, type Piece } from '../core/document/document.ts';
import type { Edit } from '../core/edits/edit.ts';
import { easeKeys, scatterLayers, setCycle, setWandering, staggerLayers } from '../core/edits/key-edits.ts';
import { addKey, fastenLayer, movePivot, setLayer, setProperty } from '../core/edits/layer-edits.ts';
import { plainLayer } from '../core/document/layer.ts';
import { plainWords } from '../core/document/words.ts';
import { numbersOfPath } from '../core/document/points.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import type { Face } from '../core/text/faces.ts';
import { setWords } from './fonts.ts';

const shot = 'shot-1';
const frame = { width: 1080, height: 1350, rate: 30 };

const paper: Rgba4 = [243, 234, 214, 1];
const ink: Rgba4 = [35, 52, 60, 1];
const brick: Rgba4 = [190, 70, 45, 1];
const saffron: Rgba4 = [222, 164, 40, 1];
type Rgba4 = [number, number, number, number];

/**
 * The poster of Lantern Week: the breakwater seen through a round window, the lantern swinging half in and half out of
 * it, words that come one after the other, and floats that bob.
 */
export async function makePosterDocument(lantern: Document, breakwater: Document): Promise<Document> {
  const [lit, quay] = [lantern.pictures[0]!, breakwater.pictures[0]!];
  const piece = lantern.pieces[0]!;
  const start = emptyDocument('Lantern Week poster', frame, 6, shot);
  const edits: Edit[] = [
    ...pictures(lit, quay, piece),
    colourLayer('paper', 'Paper', paper, 40),
    shapeLayer('disc', 'Window', ellipse({ x: 0, y: 0, width: 800, height: 800 }), saffron, 6, [0, -120]),
    ...view(quay),
    shapeLayer('ring', 'Ring', ellipse({ x: 0, y: 0, width: 830, height: 830 }), brick, 4.5, [0, -120]),
    setLayer('Change fill', shot, 'ring', { source: { ...hollow, stroke: { width: 26, colour: brick } } }),
    ...swing(piece),
    ...(await words()),
    ...floats(),
  ];
  return edits.reduce((document, edit) => edit.apply(document), start);
}

const hollow = { kind: 'shape', made: null, closed: true, filled: false, gradient: null } as const;

/** The pictures and the cut of the other demo projects; their backgrounds stay there. */
function pictures(lit: Picture, quay: Picture, piece: Piece): Edit[] {
  return [
    addPicture({ ...lit, id: 'picture-lantern', background: null }),
    addPicture({ ...quay, id: 'picture-quay', background: null }),
    addPiece({ ...piece, id: 'piece-lantern', picture: 'picture-lantern' }),
  ];
}

function colourLayer(id: string, name: string, colour: Rgba4, depth: number): Edit {
  return addLayer(shot, { id, name, depth }, { source: { kind: 'colour' }, colour });
}

function shapeLayer(
  id: string,
  name: string,
  path: Path,
  colour: Rgba4,
  depth: number,
  position: [number, number],
): Edit {
  const xs = path.points.map((p) => p.at[0]);
  const ys = path.points.map((p) => p.at[1]);
  const middle = (v: number[]): number => (Math.min(...v) + Math.max(...v)) / 2;
  return addLayer(
    shot,
    { id, name, depth, position },
    {
      source: { kind: 'shape', made: null, closed: true, filled: true, gradient: null, stroke: null },
      points: numbersOfPath(path),
      colour,
      pivot: [middle(xs), middle(ys)],
    },
  );
}

/** The breakwater drifting slowly behind the round window. */
function view(quay: Picture): Edit[] {
  return [
    addLayer(
      shot,
      { id: 'view', name: 'Breakwater', depth: 5.5, position: [60, -150] },
      { source: { kind: 'picture', picture: 'picture-quay' }, pivot: [quay.width / 2, quay.height / 2] },
    ),
    setProperty(shot, 'view', 'scale', 0, 0.62),
    setWandering(shot, 'view', 'position', 'drift', [-0.5, 0]),
    setLayer('Change window', shot, 'view', { window: { to: 'disc', how: 'inside', by: 'alpha', free: null } }),
  ];
}

/** The lantern hangs from above the poster: it winds up, swings and comes back, and its lower half leaves the ring. */
function swing(piece: Piece): Edit[] {
  const { bounds } = piece.cutout!;
  const [cx, top] = [bounds.x + bounds.width / 2, bounds.y];
  const scale = 640 / bounds.height;
  return [
    addLayer(
      shot,
      { id: 'lantern', name: 'Lantern', depth: 4, position: [0, 10] },
      { source: { kind: 'piece', piece: 'piece-lantern' }, pivot: [cx, top + bounds.height / 2] },
    ),
    setProperty(shot, 'lantern', 'scale', 0, scale),
    shapeLayer('rope', 'Rope', rectangle({ x: 0, y: 0, width: 7, height: 1400 }), ink, 4.1, [0, -1000]),
    movePivot(shot, 'lantern', [cx, top - 900 / scale], 0),
    addKey(shot, 'lantern', 'rotation', 0, 13),
    addKey(shot, 'lantern', 'rotation', 45, -13),
    easeKeys(shot, [{ layer: 'lantern', property: 'rotation', frame: 0 }], 'wind-up-overshoot'),
    setCycle(shot, 'lantern', 'rotation', 'swing'),
    fastenLayer(shot, 'rope', 'lantern', 22),
    setLayer('Change window', shot, 'lantern', {
      window: { to: 'disc', how: 'inside', by: 'alpha', free: { at: [400, 310], angle: 90, soft: 0 } },
    }),
    setLayer('Change window', shot, 'rope', { window: { to: 'disc', how: 'inside', by: 'alpha', free: null } }),
  ];
}

/** A title that comes word by word, and a line below it. */
async function words(): Promise<Edit[]> {
  const lines: [string, string, Face, number, Rgba4, number, number][] = [
    ['lantern-word', 'Lantern', 'stencil', 128, ink, -210, 420],
    ['week-word', 'Week', 'stencil', 128, brick, 250, 420],
    ['where', 'at Wendle Quay, on the boardwalk', 'condensed', 46, ink, 0, 535],
  ];
  const out: Edit[] = [];
  for (const [id, text, face, size, colour, x, y] of lines) {
    const setting = { ...plainWords, text, face, size, leading: 1.1, tracking: 0.01 };
    const { width, height } = await setWords(setting);
    out.push(
      addLayer(
        shot,
        { id, name: `Words: ${text.split(' ')[0]}`, depth: 3, position: [x, y] },
        { source: { ...setting, box: { width, height } }, colour, pivot: [width / 2, height / 2] },
      ),
      addKey(shot, id, 'position', 0, [x, y + 260]),
      addKey(shot, id, 'position', 24, [x, y]),
      addKey(shot, id, 'opacity', 0, 0),
      addKey(shot, id, 'opacity', 14, 1),
      easeKeys(shot, [{ layer: id, property: 'position', frame: 0 }], 'overshoot'),
    );
  }
  return [
    ...out,
    staggerLayers(
      shot,
      lines.map(([id]) => id),
      8,
    ),
  ];
}

/** Small painted floats along the foot of the poster, bobbing, in a group. */
function floats(): Edit[] {
  const ids = Array.from({ length: 9 }, (_, k) => `float-${k + 1}`);
  const colours = [brick, saffron, ink];
  return [
    ...ids.flatMap((id, k) => [
      shapeLayer(id, `Float ${k + 1}`, ellipse({ x: 0, y: 0, width: 46, height: 46 }), colours[k % 3]!, 2.5, [
        -440 + k * 110,
        625,
      ]),
      addKey(shot, id, 'scale', 10, 0.01),
      addKey(shot, id, 'scale', 30, 1),
      easeKeys(shot, [{ layer: id, property: 'scale', frame: 10 }], 'overshoot'),
      setWandering(shot, id, 'position', 'bob', { amount: [0, 9], period: 60, phase: k / 9 }),
    ]),
    staggerLayers(shot, ids, 3),
    scatterLayers(shot, ids, 2, 4),
    groupLayers(shot, ids, { id: 'floats', name: 'Floats' }),
    setLayer('Fold group', shot, 'floats', { source: { kind: 'group', open: false }, timing: plainLayer.timing }),
  ];
}
