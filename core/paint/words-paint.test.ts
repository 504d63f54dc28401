import { createCanvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import { arrivalKinds } from '../arrive/arrivals.ts';
import type { Document } from '../document/document.ts';
import { type Layer, type LayerSource } from '../document/layer.ts';
import { plainWords } from '../document/words.ts';
import { addLayer, groupLayers } from '../edits/arrange-edits.ts';
import { changeArrival, setArrival, setArrivalValues, setLeaving, setPen } from '../edits/arrival-edits.ts';
import { setFraming } from '../edits/camera-edits.ts';
import type { Edit } from '../edits/edit.ts';
import { takeApart } from '../edits/take-apart.ts';
import { addFinish } from '../edits/finish-edits.ts';
import { staggerLayers } from '../edits/key-edits.ts';
import { changeText, removeLayers, setLayer, setProperty } from '../edits/layer-edits.ts';
import { barOf } from '../scene/source-pixels.ts';
import { apply, card, drawOf, empty, height, layerOf, shotOf, width } from '../edits/test-cards.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { transform } from '../scene/matrix.ts';
import { cameraAt, layerMatrix } from '../scene/place.ts';
import { lettersOf } from '../text/lettering.ts';
import { loadTestFaces } from '../text/test-faces.ts';
import { writingEdge, writingOf } from '../text/writing.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

type Text = Extract<LayerSource, { kind: 'text' }>;

const words = (id: string, text: string, change: Partial<Text> = {}): Edit => {
  const setting = { ...plainWords, text, face: 'condensed', size: 60, box: { width: 1, height: 1 }, ...change };
  const { width: w, height: h } = lettersOf(setting)!;
  const source: Text = { ...setting, box: { width: w, height: h } };
  return addLayer(
    'shot',
    { id, name: id, depth: 3, position: [0, 0] },
    { source, colour: [255, 255, 255, 1], pivot: [w / 2, h / 2] },
  );
};

const pixels = (document: Document, frame: number, scale = 1): Uint8ClampedArray => {
  const canvas = createCanvas(width * scale, height * scale);
  const context = contextOf(canvas);
  const missing = paintFrame(context, evaluateFrame(document, shotOf(document), frame), testStudio({}), {
    scale,
    ground: '#000000',
  });
  expect(missing).to.deep.equal([]);
  return context.getImageData(0, 0, width * scale, height * scale).data;
};

/** The box of what is brighter than the ground; null for nothing. */
function inkBox(data: Uint8ClampedArray): { left: number; right: number; top: number; bottom: number } | null {
  const lit = [...Array(width * height).keys()].filter((i) => data[i * 4]! > 40);
  if (lit.length === 0) return null;
  const xs = lit.map((i) => i % width);
  const ys = lit.map((i) => Math.floor(i / width));
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}
/** 0 when two pictures are the same, byte for byte. */
const differ = (a: Uint8ClampedArray, b: Uint8ClampedArray): number => Buffer.compare(Buffer.from(a), Buffer.from(b));
const light = (data: Uint8ClampedArray): number => data.reduce((sum, v, i) => (i % 4 === 0 ? sum + v : sum), 0);

describe('words that come and go', () => {
  before(() => loadTestFaces('condensed', 'script'));
  const plain = (): Document => apply(empty(), words('title', 'Quay'));

  for (const { id } of arrivalKinds)
    for (const by of ['whole', 'letter'] as const)
      it(`${id}, by ${by}: nothing is there at the first frame, at rest it is pixel for pixel the text without it`, () => {
        const came = apply(
          plain(),
          setArrival('shot', ['title'], id),
          changeArrival('shot', 'title', 'arrive', { by, length: 20 }),
          setLeaving('shot', ['title'], 'mirrors'),
          changeArrival('shot', 'title', 'leave', { length: 10 }),
        );
        expect(inkBox(pixels(came, 0))).to.equal(null);
        expect(inkBox(pixels(came, 59))).to.equal(null);
        const rest = pixels(plain(), 30);
        for (const frame of [20, 30, 49]) expect(differ(pixels(came, frame), rest)).to.equal(0);
        const [halfway, seen] = [light(pixels(came, 8)), light(rest)];
        expect(halfway).to.not.equal(seen);
      });

  it('by letter from the right: the first is there while the last is on its way, and each ends where it was set', () => {
    const came = apply(
      plain(),
      setArrival('shot', ['title'], 'from-side'),
      setArrivalValues('shot', 'title', 'arrive', { distance: 200, fades: false }),
      changeArrival('shot', 'title', 'arrive', { length: 40, overlap: 0, easing: 'linear' }),
    );
    const rest = inkBox(pixels(plain(), 0))!;
    const first = inkBox(pixels(came, 10))!;
    expect(first.left).to.equal(rest.left);
    expect(first.right).to.be.below(rest.right - 60);
    // The last of four letters has the last quarter of the time; halfway it is half its distance away.
    const last = inkBox(pixels(came, 35))!;
    expect(last.right - rest.right).to.be.closeTo(100, 2);
  });

  it('leaving mirrors arriving: frame for frame the same pictures from the other end', () => {
    const both = apply(
      plain(),
      setArrival('shot', ['title'], 'gather'),
      changeArrival('shot', 'title', 'arrive', { length: 12 }),
      setLeaving('shot', ['title'], 'mirrors'),
    );
    for (const k of [1, 4, 9]) expect(differ(pixels(both, k), pixels(both, 59 - k))).to.equal(0);
  });

  it('what rises is never seen outside its line, and lines rise each from their own', () => {
    const two = apply(
      empty(),
      words('title', 'HH\nHH'),
      setArrival('shot', ['title'], 'rise'),
      changeArrival('shot', 'title', 'arrive', { by: 'line', length: 20, overlap: 1, easing: 'linear' }),
    );
    const set = lettersOf(layerOf(two, 'title').source as Text)!;
    const data = pixels(two, 10);
    const rest = pixels(apply(empty(), words('title', 'HH\nHH')), 0);
    expect(inkBox(data)!.bottom).to.be.at.most(Math.ceil(height / 2 + set.height / 2));
    expect(light(data) / light(rest)).to.be.within(0.2, 0.75);
  });

  it('shadows and outlines go along with letters on their way, and are the same at rest as without', () => {
    const finished = (...more: Edit[]): Document =>
      apply(plain(), addFinish('shot', 'title', 'outline', 'f1', { colour: [255, 0, 0, 1] }), ...more);
    const came = finished(
      setArrival('shot', ['title'], 'from-side'),
      changeArrival('shot', 'title', 'arrive', { length: 20 }),
    );
    expect(differ(pixels(came, 25), pixels(finished(), 25))).to.equal(0);
    const red = (data: Uint8ClampedArray): number =>
      data.filter((v, i) => i % 4 === 0 && v > 150 && data[i + 1]! < 80).length;
    expect(red(pixels(came, 14))).to.be.greaterThan(0.4 * red(pixels(finished(), 14)));
  });

  it('any layer arrives: a card grows from its corner, a group slides as one', () => {
    const grown = apply(
      empty(),
      card('flag', 3, [0, 0]),
      setArrival('shot', ['flag'], 'grow'),
      setArrivalValues('shot', 'flag', 'arrive', { from: 0, about: [0, 0], fades: false }),
      changeArrival('shot', 'flag', 'arrive', { length: 10, easing: 'linear' }),
    );
    const draw = drawOf(grown, 'flag', 5);
    expect(transform(draw.matrix, 0, 0)).to.deep.equal(transform(drawOf(grown, 'flag', 20).matrix, 0, 0));
    expect(draw.matrix[0]).to.be.closeTo(0.5, 1e-9);
    const group = apply(
      empty(),
      card('a', 3, [-50, 0]),
      card('b', 2, [50, 0]),
      groupLayers('shot', ['a', 'b'], { id: 'g', name: 'g' }),
      setArrival('shot', ['g'], 'from-side'),
      setArrivalValues('shot', 'g', 'arrive', { side: 180, distance: 80, fades: false }),
      changeArrival('shot', 'g', 'arrive', { length: 10, easing: 'linear' }),
    );
    for (const id of ['a', 'b']) {
      const [now, rest] = [drawOf(group, id, 5).matrix, drawOf(group, id, 30).matrix];
      expect(now[4] - rest[4]).to.be.closeTo(-40, 1e-9);
    }
  });

  it('handles stay where the layer rests', () => {
    const came = apply(plain(), setArrival('shot', ['title'], 'from-side'));
    const at = (document: Document) =>
      layerMatrix(document, shotOf(document), layerOf(document, 'title'), cameraAt(shotOf(document), 3), 3);
    expect(at(came)).to.deep.equal(at(plain()));
  });
});

describe('several lines and shapes', () => {
  before(() => loadTestFaces('condensed'));

  it('four lines that are staggered rise one after another, and a layer with their timing goes along', () => {
    const lines = ['one', 'two', 'three', 'four'];
    const start = apply(
      empty(),
      ...lines.map((id) => words(id, id)),
      setArrival('shot', lines, 'rise'),
      card('mark'),
      staggerLayers('shot', lines, 6),
    );
    const timed = apply(
      start,
      setLayer('Change timing', 'shot', 'mark', { timing: { ...layerOf(start, 'mark').timing, like: 'three' } }),
    );
    const shot = shotOf(timed);
    expect(lines.map((id) => barOf(shot, layerOf(timed, id)))).to.deep.equal(
      [0, 6, 12, 18].map((first) => ({ first, end: 60 })),
    );
    expect(evaluateFrame(timed, shot, 11).draws.some((d) => d.layer === 'mark')).to.equal(false);
    expect(evaluateFrame(timed, shot, 12).draws.some((d) => d.layer === 'mark')).to.equal(true);
  });

  it('words along a shape stand on its outline, wherever they hang, and go straight when it is deleted', () => {
    const along = { form: 'layer', layer: 'mark', start: 0, inside: false } as const;
    const made = apply(empty(), card('mark', 3, [40, 30]), words('title', 'Quay', { size: 12 }));
    const bent = apply(
      made,
      setProperty('shot', 'mark', 'scale', 0, 3),
      changeText('shot', 'title', { along }, (s) => lettersOf(s)),
      setProperty('shot', 'title', 'position', 0, [-90, 60]),
    );
    const draw = drawOf(bent, 'title');
    if (draw.content.kind !== 'text') throw new Error('no text');
    for (const letter of lettersOf(draw.content.text)!.letters) {
      const half = letter.advance / 2;
      const [x, y] = transform(
        draw.matrix,
        letter.at[0] + Math.cos(letter.turn) * half,
        letter.at[1] + Math.sin(letter.turn) * half,
      );
      // The card is 40 x 20, three times as large, its middle at (40, 30) from that of the frame.
      const [dx, dy] = [Math.abs(x - width / 2 - 40) / 60, Math.abs(y - height / 2 - 30) / 30];
      expect(Math.max(dx, dy), `letter at ${x}, ${y}`).to.be.closeTo(1, 0.02);
    }
    const left = apply(bent, removeLayers('shot', ['mark']));
    expect((layerOf(left, 'title').source as Text).along).to.equal(null);
  });
});

describe('words taken apart', () => {
  before(() => loadTestFaces('condensed'));

  it('are the same pictures: at rest exactly, and on their way within a shade', () => {
    const came = apply(
      empty(),
      words('title', 'OXO', { along: { form: 'arc', bend: 60 } }),
      setArrival('shot', ['title'], 'turn-in'),
      changeArrival('shot', 'title', 'arrive', { length: 24 }),
      setLeaving('shot', ['title'], 'mirrors'),
    );
    const apart = apply(came, takeApart('shot', 'title', 'letter'));
    const parts = shotOf(apart).layers.filter((l) => l.group === 'title');
    expect(parts.map((l) => l.name)).to.deep.equal(['O', 'X', 'O']);
    for (const l of parts) expect('keys' in l.rotation && l.rotation.keys.length).to.be.greaterThan(2);
    for (const frame of [0, 5, 12, 20, 30, 50]) {
      const [one, other] = [pixels(came, frame), pixels(apart, frame)];
      const difference = one.reduce((sum, v, i) => sum + Math.abs(v - other[i]!), 0) / one.length;
      expect(difference, `frame ${frame}`).to.be.below(0.35);
    }
  });

  it('what is uncovered goes on being uncovered, and without a face nothing happens', () => {
    const rising = apply(empty(), words('title', 'OXO'), setArrival('shot', ['title'], 'rise'));
    const apart = apply(rising, takeApart('shot', 'title', 'letter'));
    expect(shotOf(apart).layers.filter((l) => l.arrive?.kind === 'rise' && l.arrive.by === 'whole')).to.have.length(3);
  });
});

describe('words that change by themselves', () => {
  before(() => loadTestFaces('condensed'));
  const textAt = (document: Document, frame: number): string => {
    const { content } = drawOf(document, 'n', frame);
    return content.kind === 'text' ? content.text.text : '';
  };

  it('a number counts from one value to another and stays there', () => {
    const changes = {
      kind: 'number',
      from: 1000,
      to: 2500,
      decimals: 0,
      grouped: true,
      begin: 10,
      length: 30,
      easing: 'linear',
    } as const;
    const document = apply(empty(), words('n', 'No. #', { changes }));
    expect([0, 10, 25, 40, 59].map((f) => textAt(document, f))).to.deep.equal([
      'No. 1,000',
      'No. 1,000',
      'No. 1,750',
      'No. 2,500',
      'No. 2,500',
    ]);
  });

  it('words follow one another, each as long as said, each arriving and leaving in place', () => {
    const list = ['Tide', 'Clock', 'Lantern'].map((text) => ({ text, frames: 12 }));
    const document = apply(
      empty(),
      words('n', 'Tide', { changes: { kind: 'words', list, repeats: true } }),
      setArrival('shot', ['n'], 'fade'),
      changeArrival('shot', 'n', 'arrive', { length: 4, by: 'whole', easing: 'linear' }),
    );
    expect([1, 11, 13, 25, 37, 59].map((f) => textAt(document, f))).to.deep.equal([
      'Tide',
      'Tide',
      'Clock',
      'Lantern',
      'Tide',
      'Clock',
    ]);
    expect([13, 14, 16].map((f) => drawOf(document, 'n', f).opacity)).to.deep.equal([0.25, 0.5, 1]);
    expect(inkBox(pixels(document, 12))).to.equal(null);
    // Aligned in the middle, they stay there.
    const [tide, clock] = [8, 20].map((f) => inkBox(pixels(document, f))!);
    expect((tide!.left + tide!.right) / 2).to.be.closeTo((clock!.left + clock!.right) / 2, 3);
  });
});

describe('a pen that follows the writing', () => {
  before(() => loadTestFaces('condensed', 'script'));
  const pen = { to: 'line', approach: 10, from: 0, away: 180, lift: 20 };
  const written = (text = 'Quay side'): Document =>
    apply(
      empty(),
      words('line', text, { face: 'script', size: 44 }),
      setArrival('shot', ['line'], 'write'),
      changeArrival('shot', 'line', 'arrive', { length: 30, easing: 'linear' }),
      setLayer('Change timing', 'shot', 'line', {
        timing: { ...shotOf(apply(empty(), card('x'))).layers[0]!.timing, bar: { first: 12, end: 60 } },
      }),
      card('hand', 2.5, [0, 0]),
      setPen('shot', 'hand', pen),
      setFraming('shot', 'last', { x: 30, y: 10, size: 0.8, roll: 0, focal: 35 }),
    );

  /** Where the pivot of the hand is seen, and where the edge of the writing is. */
  const places = (
    document: Document,
    frame: number,
  ): { hand: [number, number]; edge: [number, number]; lift: number } => {
    const shot = shotOf(document);
    const seen = (layer: Layer, x: number, y: number): [number, number] =>
      transform(layerMatrix(document, shot, layer, cameraAt(shot, frame), frame)!, x, y);
    const line = layerOf(document, 'line');
    const edge = writingEdge(writingOf(lettersOf(line.source as Text)!), Math.max(0, Math.min(1, (frame - 12) / 30)))!;
    return { hand: seen(layerOf(document, 'hand'), 20, 10), edge: seen(line, ...edge.at), lift: edge.lift };
  };

  it('its pivot is within half a pixel of the edge in every frame, whatever camera, words and face', () => {
    const other = changeText('shot', 'line', { text: 'Lantern Week', size: 30 }, (s) => lettersOf(s));
    const face = changeText('shot', 'line', { face: 'condensed' }, (s) => lettersOf(s));
    for (const document of [written(), apply(written(), other), apply(written(), other, face)])
      for (let frame = 12; frame <= 42; frame++) {
        const { hand, edge, lift } = places(document, frame);
        if (lift === 0) expect(Math.hypot(hand[0] - edge[0], hand[1] - edge[1]), `frame ${frame}`).to.be.below(0.5);
        else expect(hand[1], `lifted at frame ${frame}`).to.be.below(edge[1]);
      }
  });

  it('it comes from beyond the frame, and is gone when it has left', () => {
    const document = written();
    const at = (frame: number) =>
      evaluateFrame(document, shotOf(document), frame).draws.find((d) => d.layer === 'hand');
    expect(at(1)).to.equal(undefined);
    expect(at(2)!.matrix[4]).to.be.greaterThan(width);
    expect(at(52)!.matrix[4]).to.be.below(0);
    expect(at(53)).to.equal(undefined);
  });

  it('when the words are deleted the hand stays where it was put', () => {
    const left = apply(written(), removeLayers('shot', ['line']));
    expect(layerOf(left, 'hand').pen).to.equal(null);
    expect(drawOf(left, 'hand', 30)).to.not.equal(undefined);
  });
});
