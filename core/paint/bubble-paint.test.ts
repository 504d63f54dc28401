import { createCanvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import { type LayerSource } from '../document/layer.ts';
import { plainWords, type Bubble } from '../document/words.ts';
import { addLayer, duplicateLayers } from '../edits/arrange-edits.ts';
import { setArrival, changeArrival } from '../edits/arrival-edits.ts';
import { newBubble, pointTailAt, setBubble } from '../edits/bubble-edits.ts';
import { setFraming } from '../edits/camera-edits.ts';
import type { Edit } from '../edits/edit.ts';
import { addKey, changeText, removeLayers } from '../edits/layer-edits.ts';
import { duplicateShot } from '../edits/shot-edits.ts';
import { apply, card, drawOf, empty, height, layerOf, near, seenAt, shotOf, width } from '../edits/test-cards.ts';
import { bubbleForms, bubbleOutlines } from '../path/bubble.ts';
import { coverageOf } from '../path/coverage.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { transform } from '../scene/matrix.ts';
import { lettersOf } from '../text/lettering.ts';
import { loadTestFaces } from '../text/test-faces.ts';
import { extentOf } from './finished.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

type Text = Extract<LayerSource, { kind: 'text' }>;

const measure = (setting: Text): Text['box'] => {
  const { width: w, height: h } = lettersOf(setting)!;
  return { width: w, height: h };
};

const words = (id: string, text = 'Quay'): Edit => {
  const setting: Text = { ...plainWords, text, face: 'condensed', size: 30, box: { width: 1, height: 1 } };
  const box = measure(setting);
  const place = { id, name: id, depth: 3, position: [60, -60] as [number, number] };
  return addLayer('shot', place, {
    source: { ...setting, box },
    colour: [20, 20, 20, 1],
    pivot: [box.width / 2, box.height / 2],
  });
};

const pale: Bubble = {
  ...newBubble({ size: 30, box: { width: 80, height: 34 } }),
  colour: [250, 240, 220, 1],
  stroke: null,
};

const bubbleOf = (document: Document, id: string, frame = 0) => {
  const { content, matrix } = drawOf(document, id, frame);
  if (content.kind !== 'text' || !content.bubble) throw new Error('no bubble');
  return { ...content.bubble, matrix };
};

/** Where a bubble's tail ends on the frame, from its centre: the corner of its outline that lies furthest out. */
const tipOnFrame = (document: Document, id: string, frame = 0): [number, number] => {
  const { tip, matrix } = bubbleOf(document, id, frame);
  const [x, y] = transform(matrix, ...tip!);
  return [x - width / 2, y - height / 2];
};

const light = (document: Document, frame: number): number => {
  const canvas = createCanvas(width, height);
  const context = contextOf(canvas);
  paintFrame(context, evaluateFrame(document, shotOf(document), frame), testStudio({}), {
    scale: 1,
    ground: '#000000',
  });
  const { data } = context.getImageData(0, 0, width, height);
  return data.reduce((sum, v, i) => sum + (i % 4 === 0 && v > 128 ? 1 : 0), 0);
};

describe('bubbles', () => {
  before(() => loadTestFaces('condensed'));
  const talking = (...more: Edit[]): Document =>
    apply(empty(), card('claw', 3, [-120, 80]), words('talk'), setBubble('shot', 'talk', pale), ...more);

  for (const form of bubbleForms)
    it(`${form}: keeps the words within it, reaches the point it is given, and has no tail when that lies inside`, () => {
      const box = { x: 60, y: 40, width: 120, height: 50 };
      const tip: [number, number] = [30, 190];
      const outlines = bubbleOutlines(box, form, 12, { tip, width: 24 });
      const masks = outlines.map((path) => coverageOf(path, 240, 200));
      const filled = (x: number, y: number): number => Math.max(...masks.map(({ data }) => data[y * 240 + x]!));
      for (let x = box.x; x < box.x + box.width; x += 7)
        for (const y of [box.y, box.y + 25, box.y + box.height - 1])
          expect(filled(x, y), `${x} ${y}`).to.be.closeTo(1, 1e-5);
      expect(filled(0, 0) + filled(239, 199)).to.equal(0);
      const low = Math.max(...outlines.flatMap(({ points }) => points.map(({ at }) => at[1])));
      expect(low).to.be.within(form === 'cloud' ? 165 : 189.9, 190.1);
      expect(bubbleOutlines(box, form, 12, { tip: [120, 60], width: 24 })).to.deep.equal(
        bubbleOutlines(box, form, 12, null),
      );
    });

  it('fits itself to its words: longer ones make it wider by as much as they are', () => {
    const short = bubbleOf(talking(setBubble('shot', 'talk', { ...pale, form: 'box', tail: null })), 'talk').box;
    const before = layerOf(talking(), 'talk').source as Text;
    const document = talking(
      setBubble('shot', 'talk', { ...pale, form: 'box', tail: null }),
      changeText('shot', 'talk', { text: 'Quay and tide' }, measure),
    );
    const after = layerOf(document, 'talk').source as Text;
    expect(after.box.width).to.be.above(before.box.width + 20);
    near([bubbleOf(document, 'talk').box.width - short.width], [after.box.width - before.box.width], 0.5);
  });

  it('its tail stays at the layer it points at, whatever moves: the layer, the words, the camera', () => {
    const document = talking(
      pointTailAt('shot', 'talk', 'claw'),
      addKey('shot', 'claw', 'position', 0, [-120, 80]),
      addKey('shot', 'claw', 'position', 40, [150, 100]),
      addKey('shot', 'talk', 'position', 0, [60, -60]),
      addKey('shot', 'talk', 'position', 40, [-90, -80]),
      setFraming('shot', 'last', { x: 30, y: 20, size: 0.7, roll: 8, focal: 35 }),
    );
    for (const frame of [0, 13, 27, 40, 59])
      near(tipOnFrame(document, 'talk', frame), seenAt(document, 'claw', 20, 10, frame), 1e-6);
  });

  it('springs out of its tail: at the beginning it lies there, then it is too large, then as it rests', () => {
    const document = talking(
      setArrival('shot', ['talk'], 'spring'),
      changeArrival('shot', 'talk', 'arrive', { length: 30 }),
    );
    const tip = tipOnFrame(talking(), 'talk');
    // The point it grows from does not move.
    for (const frame of [1, 6, 12, 29]) near(tipOnFrame(document, 'talk', frame), tip, 1e-6);
    const sizes = Array.from({ length: 31 }, (_, frame) => (frame === 0 ? 0 : light(document, frame)));
    const rest = light(talking(), 30);
    expect(sizes[1]).to.be.below(0.3 * rest);
    expect(Math.max(...sizes)).to.be.above(1.1 * rest);
    expect(sizes[30]).to.equal(rest);
  });

  it('is a part of the picture of its words: finishes see all of it', () => {
    const { box } = bubbleOf(talking(), 'talk');
    const extent = extentOf(drawOf(talking(), 'talk'));
    expect(extent.x).to.be.at.most(box.x);
    expect(extent.y + extent.height).to.be.at.least(box.y + box.height);
  });

  it('lets go of what it points at when that is deleted; copies of both point at one another, also in another shot', () => {
    const pointing = talking(pointTailAt('shot', 'talk', 'claw'));
    const tailOf = (document: Document, id: string) =>
      (document.shots.flatMap((s) => s.layers).find((l) => l.id === id)!.source as Text).bubble!.tail;
    expect(tailOf(apply(pointing, removeLayers('shot', ['claw'])), 'talk')).to.equal(null);
    const copies = [
      { of: 'talk', id: 'talk-2' },
      { of: 'claw', id: 'claw-2' },
    ];
    expect(tailOf(apply(pointing, duplicateLayers('shot', copies)), 'talk-2')!.to).to.equal('claw-2');
    const twice = apply(pointing, duplicateShot('shot', 'other'));
    const there = twice.shots[1]!.layers;
    const talk = there.find((l) => l.name === 'talk')!;
    expect((talk.source as Text).bubble!.tail!.to).to.equal(there.find((l) => l.name === 'claw')!.id);
  });
});
