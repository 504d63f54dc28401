import { expect } from 'chai';
import { apply, cameraOfFraming, viewOfPlane } from '../depth/camera.ts';
import { ease, type Easing } from '../motion/easing.ts';
import { valueAt, type Property } from '../motion/property.ts';
import { withKey, withKeysMoved, withoutKey, withValueAt } from '../motion/keys.ts';
import { bareFrames, bareShare, enlargementToCover } from '../scene/bare.ts';
import {
  emptyDocument,
  untouched,
  filesOf,
  readDocument,
  UnreadableDocument,
  type Document,
} from '../document/document.ts';
import { easeKeys, moveKeys } from './key-edits.ts';
import { NoSuchThing, type Edit } from './edit.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { cameraAt } from '../scene/place.ts';
import { proposeFrame, proposeStart } from '../document/frame-proposal.ts';
import {
  addKey,
  removeKey,
  removeLayer,
  renameLayer,
  setDepth,
  setHidden,
  setLayer,
  setProperty,
} from './layer-edits.ts';
import { enlargeToCover } from './bare-cures.ts';
import { cutIntoStrips } from './strip-edits.ts';
import type { Shape } from '../path/shapes.ts';
import { setFraming, swapFramings } from './camera-edits.ts';
import { liftOut } from './lift-edit.ts';
import type { Draw } from '../scene/draw.ts';
import { restFraming } from '../document/shot.ts';
import { compose, invert, transform, type Matrix } from '../scene/matrix.ts';
import type { PlateStep } from '../document/plate.ts';
import { addPicture, addPiece, removePicture, removePiece, setFrameRate, setRecipe } from './project-edits.ts';

const hash = (digit: string): string => digit.repeat(64);

/** The step that a first lift makes. */
export const behindStep = (file: string, width = 1200, height = 800): PlateStep => ({
  kind: 'behind',
  id: `step-${file[0]}`,
  file,
  bounds: { x: 0, y: 0, width, height },
  seed: 1,
  takes: [],
  mix: [],
  guides: { from: [], never: [], lines: [] },
  onlySeen: false,
  photo: null,
});

/** A project with one picture lifted: piece in front, background behind, camera moving. */
export function liftedDocument(): Document {
  const edits: Edit[] = [
    addPicture({
      id: 'pic',
      name: 'Quay',
      original: hash('a'),
      file: hash('b'),
      width: 1200,
      height: 800,
      clip: null,
      background: null,
    }),
    addPiece({
      id: 'piece',
      picture: 'pic',
      name: 'Lantern',
      recipe: { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null },
      ...untouched,
    }),
    liftOut({
      pieces: [
        {
          piece: 'piece',
          cutout: { file: hash('c'), bounds: { x: 500, y: 200, width: 200, height: 300 } },
          layer: 'front',
        },
      ],
      steps: [behindStep(hash('d'))],
      backgroundLayer: 'back',
    }),
  ];
  return edits.reduce(
    (d, edit) => edit.apply(d),
    emptyDocument('Lantern Week', { width: 1920, height: 1080, rate: 30 }, 6, 'shot'),
  );
}

const shotOf = (document: Document) => document.shots[0]!;
const fileOf = ({ content }: Draw): string | null => (content.kind === 'image' ? content.file : null);

describe('easing', () => {
  it('ease-in-out is symmetric and passes its middle', () => {
    expect(ease('ease-in-out', 0.5)).to.be.closeTo(0.5, 1e-6);
    for (const t of [0.1, 0.3, 0.45])
      expect(ease('ease-in-out', t) + ease('ease-in-out', 1 - t)).to.be.closeTo(1, 1e-6);
  });

  it('agrees with points found by walking the curve in small steps', () => {
    const [x1, y1, x2, y2] = [0.25, 0.1, 0.25, 1];
    const at = (a: number, b: number, s: number): number => 3 * (1 - s) ** 2 * s * a + 3 * (1 - s) * s * s * b + s ** 3;
    for (let s = 0.05; s < 1; s += 0.05) expect(ease('ease', at(x1, x2, s))).to.be.closeTo(at(y1, y2, s), 1e-5);
  });

  it('holds, goes straight, and overshoots beyond the value', () => {
    expect(ease('hold', 0.99)).to.equal(0);
    expect(ease('hold', 1)).to.equal(1);
    expect(ease('linear', 0.37)).to.equal(0.37);
    expect(Math.max(...[0.5, 0.6, 0.7].map((t) => ease('overshoot', t)))).to.be.greaterThan(1);
  });

  it('finds its way where the slope is flat', () => {
    const steep: Easing = [1, 0, 0, 1];
    expect(ease(steep, 0.5)).to.be.closeTo(0.5, 1e-6);
  });
});

describe('properties', () => {
  const moving: Property<number> = {
    keys: [
      { frame: 10, value: 0, easing: 'linear' },
      { frame: 20, value: 100, easing: 'hold' },
      { frame: 30, value: 50, easing: 'linear' },
    ],
  };

  it('hold before the first and after the last key, and go between', () => {
    expect([0, 10, 15, 20, 25, 30, 99].map((f) => valueAt(moving, f))).to.deep.equal([0, 0, 50, 100, 100, 50, 50]);
  });

  it('a constant stays one until a key is added; the last key removed leaves its value', () => {
    const still: Property<number> = { value: 7 };
    expect(withValueAt(still, 12, 9)).to.deep.equal({ value: 9 });
    const keyed = withKey(still, 12, 9);
    expect(keyed).to.deep.equal({ keys: [{ frame: 12, value: 9, easing: 'ease-in-out' }] });
    expect(withoutKey(keyed, 12)).to.deep.equal({ value: 9 });
  });

  it('keys stay in order when one is moved past others', () => {
    const moved = withKeysMoved(moving, [10], () => 25) as { keys: { frame: number; value: number }[] };
    expect(moved.keys.map((k) => [k.frame, k.value])).to.deep.equal([
      [20, 100],
      [25, 0],
      [30, 50],
    ]);
  });
});

describe('multiplane camera', () => {
  it('at rest moves nothing, whatever the depth', () => {
    for (const depth of [0.5, 1, 3, 40])
      expect(apply(viewOfPlane({ x: 0, y: 0, z: 0 }, depth)!, [120, -35])).to.deep.equal([120, -35]);
  });

  it('agrees with a pinhole: the world point p*d seen from (c, cz)', () => {
    const camera = { x: 40, y: -10, z: 0.8 };
    const [px, py, depth] = [200, 90, 3];
    const [x, y] = apply(viewOfPlane(camera, depth)!, [px, py]);
    expect(x).to.be.closeTo((px * depth - camera.x) / (depth - camera.z), 1e-9);
    expect(y).to.be.closeTo((py * depth - camera.y) / (depth - camera.z), 1e-9);
  });

  it('a push makes the near layer grow more than the far one', () => {
    const camera = { x: 0, y: 0, z: 0.5 };
    expect(viewOfPlane(camera, 2)!.scale).to.be.greaterThan(viewOfPlane(camera, 8)!.scale);
  });

  it('sees exactly its framing on the framed plane, and nothing behind the lens', () => {
    const camera = cameraOfFraming({ x: 100, y: -50, size: 0.8 }, 3);
    const corner = apply(viewOfPlane(camera, 3)!, [100 + 960 * 0.8, -50 + 540 * 0.8]);
    expect(corner[0]).to.be.closeTo(960, 1e-9);
    expect(corner[1]).to.be.closeTo(540, 1e-9);
    expect(viewOfPlane({ x: 0, y: 0, z: 4 }, 3)).to.equal(null);
  });
});

describe('matrices', () => {
  it('compose as doing one after the other, and invert', () => {
    const a: Matrix = [2, 0.3, -0.5, 1.5, 10, -4];
    const b: Matrix = [0.8, -0.2, 0.6, 1.1, -7, 3];
    const [x, y] = transform(compose(a, b), 5, 9);
    const [wantX, wantY] = transform(a, ...transform(b, 5, 9));
    expect(x).to.be.closeTo(wantX, 1e-9);
    expect(y).to.be.closeTo(wantY, 1e-9);
    const [u, v] = transform(invert(a), ...transform(a, 12, -8));
    expect(u).to.be.closeTo(12, 1e-9);
    expect(v).to.be.closeTo(-8, 1e-9);
  });
});

describe('evaluation', () => {
  it('draws far things first; of equal depths the one listed first is nearer', () => {
    const document = liftedDocument();
    const order = (d: Document): string[] => evaluateFrame(d, shotOf(d), 0).draws.map((draw) => draw.layer);
    expect(order(document)).to.deep.equal(['back', 'front']);
    expect(order(setDepth('shot', 'front', 9).apply(document))).to.deep.equal(['front', 'back']);
    expect(order(setDepth('shot', 'front', 6).apply(document))).to.deep.equal(['back', 'front']);
  });

  it('puts the piece, at rest, exactly over where it was in the picture', () => {
    const document = liftedDocument();
    const still = { x: 0, y: 0, z: 0 };
    const { draws } = evaluateFrame(document, shotOf(document), 0, still);
    const back = draws.find((d) => d.layer === 'back')!;
    const front = draws.find((d) => d.layer === 'front')!;
    const [fx, fy] = transform(front.matrix, 0, 0);
    // The background may be enlarged a little about its centre to cover the frame; the piece is measured against the picture itself.
    const scale = 1920 / 1200;
    expect(fx).to.be.closeTo(960 + (500 - 600) * scale, 1e-6);
    expect(fy).to.be.closeTo(540 + (200 - 400) * scale, 1e-6);
    expect(back.opaque).to.equal(true);
  });

  it('changing depth keeps the composition at rest', () => {
    const document = liftedDocument();
    const still = { x: 0, y: 0, z: 0 };
    const before = evaluateFrame(document, shotOf(document), 0, still).draws.find((d) => d.layer === 'front')!.matrix;
    const deeper = setDepth('shot', 'front', 4.2).apply(document);
    expect(
      evaluateFrame(deeper, shotOf(deeper), 0, still).draws.find((d) => d.layer === 'front')!.matrix,
    ).to.deep.equal(before);
  });

  it('leaves out hidden and fully clear layers', () => {
    const document = setHidden('shot', 'back', true).apply(
      setProperty('shot', 'front', 'opacity', 0, 0).apply(liftedDocument()),
    );
    expect(evaluateFrame(document, shotOf(document), 0).draws).to.deep.equal([]);
  });

  it('the camera goes from the first framing to the last', () => {
    const document = liftedDocument();
    const { camera, length } = shotOf(document);
    expect(cameraAt(shotOf(document), 0)).to.deep.equal(cameraOfFraming(camera.first, camera.depth));
    expect(cameraAt(shotOf(document), length - 1)).to.deep.equal(cameraOfFraming(camera.last, camera.depth));
  });
});

describe('lift out', () => {
  it('hangs piece and background and starts a move in which they part and nothing is bare', () => {
    const document = liftedDocument();
    const at = (frame: number, layer: string): number => {
      const draw = evaluateFrame(document, shotOf(document), frame).draws.find((d) => d.layer === layer)!;
      return transform(draw.matrix, draw.width / 2, draw.height / 2)[0];
    };
    const front = at(179, 'front') - at(0, 'front');
    const back = at(179, 'back') - at(0, 'back');
    expect(Math.abs(front - back)).to.be.greaterThan(20);
    expect(Math.max(...bareFrames(document, shotOf(document)))).to.equal(0);
  });

  it('is bare nowhere for any proportions of picture and frame', () => {
    for (const [w, h] of [
      [800, 1200],
      [3000, 700],
      [640, 640],
    ] as const) {
      for (const frame of [
        { width: 1920, height: 1080, rate: 25 },
        { width: 1080, height: 1920, rate: 25 },
      ]) {
        const edits: Edit[] = [
          addPicture({
            id: 'pic',
            name: 'P',
            original: hash('a'),
            file: hash('b'),
            width: w,
            height: h,
            clip: null,
            background: null,
          }),
          addPiece({
            id: 'piece',
            picture: 'pic',
            name: 'Q',
            recipe: { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null },
            ...untouched,
          }),
          liftOut({
            pieces: [
              {
                piece: 'piece',
                cutout: { file: hash('c'), bounds: { x: 10, y: 10, width: 50, height: 50 } },
                layer: 'f',
              },
            ],
            steps: [behindStep(hash('d'), w, h)],
            backgroundLayer: 'b',
          }),
        ];
        const document = edits.reduce((d, e) => e.apply(d), emptyDocument('x', frame, 1, 'shot'));
        expect(Math.max(...bareFrames(document, shotOf(document)))).to.equal(0);
      }
    }
  });

  it('a second lift of the same piece changes pixels only; a second piece gets a layer and a free name', () => {
    const document = liftedDocument();
    const again = liftOut({
      pieces: [
        {
          piece: 'piece',
          cutout: { file: hash('e'), bounds: { x: 490, y: 190, width: 220, height: 320 } },
          layer: 'x',
        },
      ],
      steps: [behindStep(hash('f'))],
      backgroundLayer: 'y',
    }).apply(document);
    expect(shotOf(again).layers.map((l) => l.id)).to.deep.equal(['front', 'back']);
    expect(evaluateFrame(again, shotOf(again), 0).draws.map(fileOf)).to.deep.equal([hash('f'), hash('e')]);
    const two = addPiece({
      id: 'piece-2',
      picture: 'pic',
      name: 'Lantern',
      recipe: { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null },
      ...untouched,
    }).apply(again);
    const both = liftOut({
      pieces: [
        {
          piece: 'piece-2',
          cutout: { file: hash('9'), bounds: { x: 0, y: 0, width: 20, height: 20 } },
          layer: 'front-2',
        },
      ],
      steps: [behindStep(hash('f'))],
      backgroundLayer: 'z',
    }).apply(two);
    expect(shotOf(both).layers.map((l) => l.name)).to.deep.equal(['Lantern 2', 'Lantern', 'Quay background']);
  });
});

describe('bare check', () => {
  const wide = setFraming('shot', 'last', { ...restFraming, x: 500 });

  it('finds the frames in which the border comes into view, growing with the move', () => {
    const document = wide.apply(liftedDocument());
    const bare = bareFrames(document, shotOf(document));
    expect(bare[0]).to.equal(0);
    expect(bare.at(-1)).to.be.greaterThan(0.02);
    expect(bareShare(document, shotOf(document), 179)).to.equal(bare.at(-1));
  });

  it('the cure is enough, and hardly more than enough', () => {
    const document = wide.apply(liftedDocument());
    const factor = enlargementToCover(document, shotOf(document), shotOf(document).layers[1]!);
    expect(factor).to.be.greaterThan(1);
    const cured = enlargeToCover('shot', 'back').apply(document);
    expect(Math.max(...bareFrames(cured, shotOf(cured)))).to.equal(0);
    const scale = (document.shots[0]!.layers[1]!.scale as { value: number }).value;
    const tooLittle = setProperty('shot', 'back', 'scale', 0, scale * factor * 0.985).apply(document);
    expect(Math.max(...bareFrames(tooLittle, shotOf(tooLittle)))).to.be.greaterThan(0);
  });

  it('does not count cut pieces, hidden or half clear layers as cover', () => {
    const document = setHidden('shot', 'back', true).apply(liftedDocument());
    expect(bareShare(document, shotOf(document), 0)).to.equal(1);
    const faint = setProperty('shot', 'back', 'opacity', 0, 0.5).apply(liftedDocument());
    expect(bareShare(faint, shotOf(faint), 0)).to.equal(1);
  });

  it('counts what masks leave of a picture: its strips together are the whole of it, until one goes', () => {
    const whole = liftedDocument();
    const cut = cutIntoStrips('shot', 'back', { count: 4, angle: 90, uneven: 0, seed: 1 }).apply(whole);
    expect(bareShare(cut, shotOf(cut), 0)).to.equal(bareShare(whole, shotOf(whole), 0));
    const strips = shotOf(cut).layers.filter((layer) => layer.masks.length > 0);
    expect(strips).to.have.length(4);
    const without = setHidden('shot', strips[0]!.id, true).apply(cut);
    expect(bareShare(without, shotOf(without), 0)).to.be.within(0.2, 0.3);
    // What fades towards its edge, or is taken away, does not cover.
    const shapes = (change: Partial<Shape>): number => {
      const masked = setLayer('Change masks', 'shot', 'back', {
        masks: [{ ...strips[0]!.masks[0]!, ...change }],
      }).apply(whole);
      return bareShare(masked, shotOf(masked), 0);
    };
    expect(shapes({})).to.be.within(0.7, 0.8);
    expect(shapes({ how: 'take' })).to.be.within(0.2, 0.3);
    expect(shapes({ muted: true })).to.equal(0);
    for (const soft of [{ feather: 20 }, { opacity: 0.5 }, { grow: -4 }]) expect(shapes(soft)).to.equal(1);
  });
});

describe('edits', () => {
  it('never alter the document they are given', () => {
    const document = liftedDocument();
    const copy = structuredClone(document);
    for (const edit of [
      renameLayer('shot', 'front', 'Tower'),
      removeLayer('shot', 'back'),
      swapFramings('shot'),
      setFrameRate(24),
    ])
      edit.apply(document);
    expect(document).to.deep.equal(copy);
  });

  it('leave a document that still reads as one', () => {
    const edits: Edit[] = [
      addKey('shot', 'front', 'position', 10, [1, 2]),
      addKey('shot', 'front', 'position', 60, [50, 2]),
      moveKeys('shot', [{ layer: 'front', property: 'position', frame: 60 }], 30),
      easeKeys('shot', [{ layer: 'front', property: 'position', frame: 10 }], 'overshoot'),
      setProperty('shot', 'front', 'rotation', 0, 12),
      setRecipe('Keep stroke', 'piece', {
        kind: 'subject',
        answer: 'subject',
        keep: [{ radius: 4, points: [[1, 2]] }],
        drop: [],
        box: null,
      }),
      setFrameRate(12),
      removeKey('shot', 'front', 'position', 4),
    ];
    const document = edits.reduce((d, edit) => edit.apply(d), liftedDocument());
    expect(readDocument(JSON.parse(JSON.stringify(document)))).to.deep.equal(document);
    expect(document.shots[0]!.length).to.equal(72);
  });

  it('removing a picture or a piece takes what was made of it along', () => {
    const without = removePicture('pic').apply(liftedDocument());
    expect([without.pictures, without.pieces, without.shots[0]!.layers]).to.deep.equal([[], [], []]);
    const noPiece = removePiece('piece').apply(liftedDocument());
    expect(noPiece.shots[0]!.layers.map((l) => l.id)).to.deep.equal(['back']);
  });

  it('name what is gone', () => {
    expect(() => renameLayer('shot', 'nobody', 'x').apply(liftedDocument())).to.throw(NoSuchThing, 'no layer "nobody"');
  });
});

describe('documents', () => {
  it('are refused when a layer has no source, ids repeat, keys are out of order or the version is unknown', () => {
    const broken: ((d: Document) => void)[] = [
      (d) => (d.pieces = []),
      (d) => (d.shots[0]!.layers[1]!.id = 'front'),
      (d) =>
        (d.shots[0]!.layers[0]!.opacity = {
          keys: [
            { frame: 5, value: 1, easing: 'linear' },
            { frame: 5, value: 0, easing: 'linear' },
          ],
        }),
      (d) => ((d as { version: number }).version = 99),
    ];
    for (const damage of broken) {
      const document = structuredClone(liftedDocument());
      damage(document);
      expect(() => readDocument(document)).to.throw(UnreadableDocument);
    }
  });

  it('know every file they need', () => {
    expect(filesOf(liftedDocument()).sort()).to.deep.equal([hash('a'), hash('b'), hash('c'), hash('d')]);
  });

  it('propose a common frame for a picture near it, otherwise its own proportions in even numbers', () => {
    expect(proposeFrame(4000, 2250)).to.include({ width: 1920, height: 1080, rate: 30 });
    expect(proposeFrame(1000, 1030)).to.include({ width: 1080, height: 1080 });
    expect(proposeFrame(1400, 2400)).to.include({ width: 1080, height: 1920 });
    expect(proposeFrame(2400, 1600)).to.include({ width: 1920, height: 1280 });
    expect(proposeFrame(301, 200)).to.include({ width: 302, height: 200 });
  });

  it('is of a project that begins with a clip as fast and as long as that, if that is a usual pace', () => {
    const start = (frames: number, rate: number): [number, number] => {
      const { frame, seconds } = proposeStart({ width: 1280, height: 720, clip: { frames, rate } });
      return [frame.rate, seconds * frame.rate];
    };
    expect(start(90, 30)).to.deep.equal([30, 90]);
    expect(start(48, 23.976)).to.deep.equal([24, 48]);
    expect(start(300, 60)).to.deep.equal([60, 300]);
    expect(start(8, 10)).to.deep.equal([30, 24]);
    // A long film begins with a minute of it; one frame is a picture.
    expect(start(25 * 600, 25)).to.deep.equal([25, 1500]);
    expect(start(1, 30)).to.deep.equal([30, 180]);
    expect(proposeStart({ width: 1280, height: 720, clip: null }).seconds).to.equal(6);
  });
});
