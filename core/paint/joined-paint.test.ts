import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import { addLayer, duplicateLayers } from '../edits/arrange-edits.ts';
import { setFraming } from '../edits/camera-edits.ts';
import type { Edit } from '../edits/edit.ts';
import { addFinish } from '../edits/finish-edits.ts';
import { joinLayer } from '../edits/join-edits.ts';
import { addKey, removeLayers, setLayer, setProperty } from '../edits/layer-edits.ts';
import { addPicture } from '../edits/project-edits.ts';
import { addShape } from '../edits/shape-edits.ts';
import { apply, empty, hash, height, layerOf, near, shotOf, width } from '../edits/test-cards.ts';
import { bareShare } from '../scene/bare.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

/** A disc of wax on nothing: green on its left half, orange on its right. */
const wax = ((): Canvas => {
  const canvas = createCanvas(120, 100);
  const context = canvas.getContext('2d');
  context.beginPath();
  context.arc(60, 50, 48, 0, 7);
  context.clip();
  context.fillStyle = '#1f7a4d';
  context.fillRect(0, 0, 60, 100);
  context.fillStyle = '#e08a1e';
  context.fillRect(60, 0, 60, 100);
  return canvas;
})();

const candle = (): Document =>
  apply(
    empty(),
    addPicture({
      id: 'wax',
      name: 'Wax',
      original: hash('a'),
      file: hash('a'),
      width: 120,
      height: 100,
      clip: null,
      background: null,
    }),
    addLayer(
      'shot',
      { id: 'candle', name: 'Candle', depth: 3, position: [0, -30] },
      { source: { kind: 'picture', picture: 'wax' }, pivot: [60, 50] },
    ),
    addShape(
      'shot',
      'drip',
      { id: 'drip', depth: 5, width: 80, colour: [200, 0, 200, 1] },
      { drops: 2, uneven: 0, length: 1, width: 0.9 },
    ),
    setProperty('shot', 'drip', 'position', 0, [0, 25]),
  );

const joined = (how: 'its colours' | 'own colour' | 'cut out', ...more: Edit[]): Document =>
  apply(candle(), joinLayer('shot', 'drip', 'candle', how, 0), ...more);

function painted(document: Document, ground: string, frame = 0): (x: number, y: number) => number[] {
  const canvas = createCanvas(width, height);
  const context = contextOf(canvas);
  const missing = paintFrame(
    context,
    evaluateFrame(document, shotOf(document), frame),
    testStudio({ [hash('a')]: wax }),
    { scale: 1, ground },
  );
  expect(missing).to.deep.equal([]);
  const { data } = context.getImageData(0, 0, width, height);
  // From the middle of the frame.
  return (x, y) => [...data.slice(((y + height / 2) * width + x + width / 2) * 4).slice(0, 3)];
}

/** Places in the left and the right drop, below the disc, and between them. */
const [leftDrop, rightDrop] = [
  [-20, 42],
  [20, 42],
] as const;

describe('a shape that is one with a layer', () => {
  it('goes on in the colours that lie nearest, on any ground, without a seam', () => {
    for (const ground of ['#ffffff', '#000000', '#ff00ff']) {
      const at = painted(joined('its colours'), ground);
      near(at(...leftDrop), [0x1f, 0x7a, 0x4d], 4);
      near(at(...rightDrop), [0xe0, 0x8a, 0x1e], 4);
      // Down the left drop, from well inside the disc to its end, nothing of the ground is seen.
      for (let y = 0; y < 45; y++) near(at(-20, y), [0x1f, 0x7a, 0x4d], 6);
    }
  });

  it('or in its own colour, behind the edge of what it is joined to', () => {
    const at = painted(joined('own colour'), '#ffffff');
    near(at(...leftDrop), [200, 0, 200], 1);
    near(at(-20, 0), [0x1f, 0x7a, 0x4d], 1);
  });

  it('or is cut out of it: the ground is seen there', () => {
    const lower = joined('cut out', setProperty('shot', 'drip', 'position', 0, [0, -10]));
    const at = painted(lower, '#ff00ff');
    near(at(-20, 0), [255, 0, 255], 1);
    near(at(0, -70), [0xe0, 0x8a, 0x1e], 30);
    near(at(-20, 42), [255, 0, 255], 1);
  });

  it('moves with it as one: turned, grown and seen by a camera, every part lies where it lay', () => {
    const moved = joined(
      'own colour',
      addKey('shot', 'candle', 'position', 0, [0, -30]),
      addKey('shot', 'candle', 'position', 30, [70, 10]),
      addKey('shot', 'candle', 'rotation', 0, 0),
      addKey('shot', 'candle', 'rotation', 30, 90),
      setFraming('shot', 'last', { x: 20, y: 10, size: 0.8, roll: 0, focal: 35 }),
    );
    const { draws } = evaluateFrame(moved, shotOf(moved), 30);
    const both = draws.filter((draw) => draw.layer === 'drip' || draw.layer === 'candle').map(({ matrix }) => matrix);
    expect(both).to.have.length(2);
    const start = evaluateFrame(moved, shotOf(moved), 0).draws.map(({ matrix }) => matrix);
    // What the drip is to the candle at the first frame, it is at every other.
    const between = ([a, b]: (readonly number[])[]): number[] => {
      const det = b![0]! * b![3]! - b![1]! * b![2]!;
      const [x, y] = [a![4]! - b![4]!, a![5]! - b![5]!];
      return [(b![3]! * x - b![2]! * y) / det, (b![0]! * y - b![1]! * x) / det];
    };
    near(between(both), between(start), 1e-6);
  });

  it('is finished with it: a shadow is that of the whole outline, and none falls from one onto the other', () => {
    const document = joined('its colours', addFinish('shot', 'candle', 'drop-shadow', 'sh'));
    const plain = painted(joined('its colours'), '#ffffff');
    const at = painted(document, '#ffffff');
    near(at(-20, 20), plain(-20, 20), 2);
    // Beside the drop there is shadow where there was ground.
    const beside = [-14, -12, -10, -8, -6, -4].some((x) => at(x, 44)[0]! < 245 && plain(x, 44)[0]! > 250);
    expect(beside).to.equal(true);
  });

  it('a picture that covers the frame still does so with something joined to it; with something cut out it does not', () => {
    const large = setLayer('Large', 'shot', 'candle', { scale: { value: 20 } });
    const bare = (document: Document): number => bareShare(document, shotOf(document), 0);
    expect(bare(joined('its colours', large))).to.equal(0);
    expect(bare(joined('cut out', large))).to.equal(1);
  });

  it('is let go where it is, also when the other is deleted; copies of both belong together', () => {
    const free = apply(joined('own colour'), joinLayer('shot', 'drip', null, 'own colour', 0));
    near(painted(free, '#ffffff')(...leftDrop), [200, 0, 200], 1);
    const alone = apply(joined('own colour'), removeLayers('shot', ['candle']));
    expect(layerOf(alone, 'drip').joined).to.equal(null);
    const copies = apply(
      joined('own colour'),
      duplicateLayers('shot', [
        { of: 'candle', id: 'candle-2' },
        { of: 'drip', id: 'drip-2' },
      ]),
    );
    expect(layerOf(copies, 'drip-2').joined!.to).to.equal('candle-2');
  });
});
