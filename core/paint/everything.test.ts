import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import { slicedByDepth } from '../depth/slice.ts';
import { ellipse, rectangle } from '../path/forms.ts';
import { plainShape } from '../path/shapes.ts';
import { makePlane, type Bytes, type Rgba } from '../pixels/raster.ts';
import { addLayer, groupLayers } from '../edits/arrange-edits.ts';
import { setCamera, setFraming } from '../edits/camera-edits.ts';
import { emptyDocument, filesOf, readDocument, type Document } from '../document/document.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { setCycle, setWandering } from '../edits/key-edits.ts';
import { addKey, fastenLayer, setLayer, setProperty } from '../edits/layer-edits.ts';
import { plainLayer, type Sway } from '../document/layer.ts';
import { hangPicture } from '../edits/lift-edit.ts';
import { transform } from '../scene/matrix.ts';
import { firstBehind, emptyGuides } from '../document/plate.ts';
import { numbersOfPath } from '../document/points.ts';
import { storePose } from '../edits/pose-edits.ts';
import { addPicture } from '../edits/project-edits.ts';
import { evaluateProject, projectLength } from '../scene/sequence.ts';
import { duplicateShot, setTransition } from '../edits/shot-edits.ts';
import { restFraming } from '../document/shot.ts';
import { hangSlices } from '../edits/slice-edit.ts';
import { loadTestFaces } from '../text/test-faces.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

const [width, height] = [240, 160];
const hash = (digit: string): string => digit.repeat(64);

/** A picture of stripes and one of a depth ramp. */
function drawn(paint: (x: number, y: number) => number): Canvas {
  const canvas = createCanvas(width, height);
  const context = canvas.getContext('2d');
  const image = context.createImageData(width, height);
  for (let i = 0; i < width * height; i++) {
    const v = paint(i % width, Math.floor(i / width));
    image.data.set([v, (v * 7) % 256, 255 - v, 255], i * 4);
  }
  context.putImageData(image, 0, 0);
  return canvas;
}
const images = {
  [hash('a')]: drawn((x, y) => ((x >> 3) * 37 + (y >> 3) * 11) % 256),
  [hash('b')]: drawn((_x, y) => Math.round((y / height) * 255)),
};

const sway: Sway = {
  id: 'sway',
  phase: 0.1,
  like: null,
  region: { form: 'ellipse', x: 60, y: 40, width: 120, height: 90 },
  soft: 0.5,
  direction: 90,
  size: 60,
  strength: 8,
  period: 20,
  pinned: 'none',
  shade: 0.4,
  loops: true,
};

/** Every kind of layer, with everything a layer, a camera and a shot can have. */
function everything(): Document {
  const shot = 'shot';
  const shape = (path: Parameters<typeof numbersOfPath>[0]) => ({
    source: { kind: 'shape' as const, made: null, closed: true, filled: true, gradient: null, stroke: null },
    points: numbersOfPath(path),
    colour: [200, 90, 40, 1],
    pivot: [30, 30] as [number, number],
  });
  const text = {
    kind: 'text' as const,
    text: 'Quay',
    face: 'condensed' as const,
    size: 40,
    align: 'centre' as const,
    leading: 1,
    tracking: 0.02,
    stroke: { width: 2, colour: [0, 0, 0, 1] as [number, number, number, number] },
    box: { width: 80, height: 50 },
    wrap: null,
    spans: [{ from: 1, to: 2, lift: 0.2 }],
    along: { form: 'arc' as const, bend: 40 },
    changes: null,
    bubble: null,
  };
  const picture = { original: hash('a'), file: hash('a'), width, height, clip: null, background: null };
  const edits = [
    addPicture({ ...picture, id: 'pic', name: 'Stripes' }),
    hangPicture('pic', 'relief'),
    setLayer('Depth', shot, 'relief', { relief: { file: hash('b'), near: 0.6, far: 2, strokes: [], behind: null } }),
    addLayer(shot, { id: 'sky', name: 'Sky', depth: 40 }, { source: { kind: 'colour' }, colour: [70, 90, 140, 1] }),
    addLayer(
      shot,
      { id: 'flag', name: 'Flag', depth: 3 },
      { source: { kind: 'picture', picture: 'pic' }, pivot: [120, 80] },
    ),
    setProperty(shot, 'flag', 'scale', 0, 0.5),
    setLayer('Sway', shot, 'flag', {
      sways: [sway],
      masks: [{ ...plainShape, id: 'm', feather: 9, path: ellipse({ x: 20, y: 10, width: 200, height: 140 }) }],
    }),
    addLayer(
      shot,
      { id: 'board', name: 'Board', depth: 4, position: [60, 20] },
      { source: { kind: 'picture', picture: 'pic' }, pivot: [120, 80] },
    ),
    setProperty(shot, 'board', 'scale', 0, 0.4),
    setProperty(shot, 'board', 'corners', 0, [30, 10, -20, 0, 10, -30, -5, 12]),
    addLayer(shot, { id: 'disc', name: 'Disc', depth: 2.8 }, shape(ellipse({ x: 0, y: 0, width: 60, height: 60 }))),
    addLayer(
      shot,
      { id: 'words', name: 'Words', depth: 2 },
      { source: text, colour: [255, 255, 255, 1], pivot: [40, 25] },
    ),
    setLayer('Window', shot, 'words', {
      window: { to: 'disc', how: 'outside', by: 'brightness', free: { at: [30, 30], angle: 20, soft: 12 } },
    }),
    setLayer('Blend', shot, 'disc', {
      blend: 'multiply',
      timing: { ...plainLayer.timing, steps: 2, bar: { first: 2, end: 34 } },
    }),
    addLayer(
      shot,
      { id: 'card', name: 'Card', depth: 2.2 },
      shape(rectangle({ x: 0, y: 0, width: 60, height: 60 }, 9)),
    ),
    fastenLayer(shot, 'card', 'disc', 0),
    addKey(shot, 'card', 'rotation', 0, 0),
    addKey(shot, 'card', 'rotation', 9, 40),
    setCycle(shot, 'card', 'rotation', 'swing'),
    setWandering(shot, 'disc', 'position', 'jitter', { amount: 12, period: 5, seed: 4 }),
    setWandering(shot, 'words', 'rotation', 'follow', { layer: 'card', of: 'rotation', factor: 0.5, delay: 3 }),
    groupLayers(shot, ['card', 'disc'], { id: 'pair', name: 'Pair' }),
    setProperty(shot, 'pair', 'opacity', 0, 0.8),
    setProperty(shot, 'pair', 'blur', 0, 1.5),
    setFraming(shot, 'last', { ...restFraming, x: 20, size: 0.8, roll: 4, focal: 50 }),
    setCamera('Camera', shot, {
      aperture: 9,
      parallax: 1.4,
      hold: 0.3,
      shake: { amount: 2, period: 4, seed: 3, roll: 1 },
    }),
    storePose(shot, 'pose-1', 0),
    setProperty(shot, 'board', 'position', 20, [-40, -20]),
    storePose(shot, 'pose-2', 20),
    duplicateShot(shot, 'second'),
    setTransition(shot, { kind: 'wipe', frames: 12, angle: 30 }),
  ];
  const start = emptyDocument('Everything', { width, height, rate: 20 }, 2, shot);
  return edits.reduce((document, edit) => edit.apply(document), start);
}

function pixelsAt(document: Document, frame: number): Buffer {
  const canvas = createCanvas(width, height);
  const missing = paintFrame(contextOf(canvas), evaluateProject(document, frame), testStudio(images), {
    scale: 1,
    ground: '#000000',
  });
  expect(missing).to.deep.equal([]);
  return Buffer.from(canvas.getContext('2d').getImageData(0, 0, width, height).data);
}

describe('a document with everything in it', () => {
  before(() => loadTestFaces('condensed'));
  const document = everything();

  it('is the same pixels twice, and after it was stored and read again, at every kind of frame', () => {
    const again = readDocument(JSON.parse(JSON.stringify(document)));
    for (const frame of [0, 7, 25, 33, 50, projectLength(document) - 1]) {
      const first = pixelsAt(document, frame);
      expect(pixelsAt(document, frame).equals(first), `twice at ${frame}`).to.equal(true);
      expect(pixelsAt(again, frame).equals(first), `reloaded at ${frame}`).to.equal(true);
    }
  });

  it('moves: no two of these frames are alike', () => {
    const frames = [0, 7, 25, 33, 50].map((frame) => pixelsAt(document, frame).toString('base64'));
    expect(new Set(frames).size).to.equal(5);
  });

  it('needs the depth map among its files', () => {
    expect(filesOf(document)).to.include(hash('b'));
  });
});

describe('a picture sliced by depth', () => {
  before(() => loadTestFaces('condensed'));
  const stripes: Rgba = {
    width,
    height,
    data: new Uint8ClampedArray(contextOf(images[hash('a')]!).getImageData(0, 0, width, height).data),
  };
  const map = makePlane(60, 40);
  for (let i = 0; i < map.data.length; i++) map.data[i] = i % 60 < 20 ? 0.95 : i % 60 < 40 ? 0.5 : 0.05;

  /** Marks what was rebuilt, so that it can be seen where that was asked for. */
  const fill = async (picture: Rgba, hole: Bytes): Promise<Rgba> => {
    const data = new Uint8ClampedArray(picture.data);
    for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) data.set([1, 2, 3, 255], i * 4);
    return { ...picture, data };
  };

  it('gives layers that are whole behind those before them, and a background without any', async () => {
    const { slices, background } = await slicedByDepth(stripes, map, 3, fill);
    expect(slices).to.have.length(2);
    const alpha = (k: number, x: number): number => slices[k]!.alpha.data[80 * width + x]!;
    expect([alpha(0, 30), alpha(0, 120), alpha(0, 200)]).to.deep.equal([255, 0, 0]);
    expect([alpha(1, 30), alpha(1, 120), alpha(1, 200)]).to.deep.equal([255, 255, 0]);
    const colour = (picture: Rgba, x: number): number[] => [
      ...picture.data.slice((80 * width + x) * 4, (80 * width + x) * 4 + 3),
    ];
    expect(colour(slices[0]!.colours, 30)).to.deep.equal(colour(stripes, 30));
    expect(colour(slices[1]!.colours, 30), 'behind the nearest').to.deep.equal([1, 2, 3]);
    expect(colour(slices[1]!.colours, 120)).to.deep.equal(colour(stripes, 120));
    expect(colour(background, 120)).to.deep.equal([1, 2, 3]);
    expect(colour(background, 220)).to.deep.equal(colour(stripes, 220));
    expect(slices.map((s) => Math.round(s.closeness * 100))).to.deep.equal([95, 50]);
  });

  it('hangs at its distances, nearest in front, where it was', () => {
    const start = everything();
    const slice = (k: number) => ({ piece: `p${k}`, layer: `l${k}`, file: hash('a'), alphaFile: hash('b') });
    const step = { ...firstBehind, id: 'step', guides: emptyGuides, takes: [], file: hash('a') };
    const document = hangSlices(
      'shot',
      'relief',
      [
        { ...slice(0), closeness: 1 },
        { ...slice(1), closeness: 0.5 },
      ],
      { step: { ...step, bounds: { x: 0, y: 0, width, height } }, layer: 'behind', closeness: 0 },
    ).apply(start);
    readDocument(JSON.parse(JSON.stringify(document)));
    const shot = document.shots[0]!;
    const depth = (id: string) => (shot.layers.find((l) => l.id === id)!.depth as { value: number }).value;
    expect([depth('l0'), depth('behind')]).to.deep.equal([6 * 0.6, 12]);
    expect(depth('l1')).closeTo(1 / ((1 / 3.6 + 1 / 12) / 2), 1e-9);
    const rest = { x: 0, y: 0, z: 0 };
    const where = (from: Document, id: string): number[] => {
      const draw = evaluateFrame(from, from.shots[0]!, 0, rest).draws.find((d) => d.layer === id)!;
      return [...transform(draw.matrix, 10, 20)];
    };
    expect(where(document, 'l0')).to.deep.equal(where(start, 'relief'));
    expect(evaluateFrame(document, shot, 0, rest).draws.some((d) => d.layer === 'relief')).to.equal(false);
  });
});
