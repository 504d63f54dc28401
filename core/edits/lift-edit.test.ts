import { expect } from 'chai';
import { bareFrames } from '../scene/bare.ts';
import { untouched, type Document } from '../document/document.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { liftOut } from './lift-edit.ts';
import type { Draw } from '../scene/draw.ts';
import { transform } from '../scene/matrix.ts';
import { addPiece } from './project-edits.ts';
import { behindStep, hash, liftedDocument } from './test-lifted.ts';

const shotOf = (document: Document) => document.shots[0]!;
const fileOf = ({ content }: Draw): string | null => (content.kind === 'image' ? content.file : null);

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
    for (const [width, height] of [
      [800, 1200],
      [3000, 700],
      [640, 640],
    ] as const) {
      for (const frame of [
        { width: 1920, height: 1080, rate: 25 },
        { width: 1080, height: 1920, rate: 25 },
      ]) {
        const bounds = { x: 10, y: 10, width: 50, height: 50 };
        const document = liftedDocument({ width, height }, frame, bounds);
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
