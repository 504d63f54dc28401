import { expect } from 'chai';
import { emptyDocument } from '../document/document.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { transform } from '../scene/matrix.ts';
import { hangStack } from './stack-edit.ts';

describe('a picture in layers', () => {
  const stack = { width: 8000, height: 4500 };
  const frame = { width: 1600, height: 900, rate: 30 };
  const layer = (name: string, box: number[], kept: [number, number]) => {
    const [x, y, width, height] = box as [number, number, number, number];
    const picture = { id: name, name, original: 'a', file: 'a', width: kept[0], height: kept[1] };
    const facts = { id: `${name}-layer`, name, x, y, width, height, opacity: 1, visible: true };
    return { ...facts, blend: 'normal' as const, picture: { ...picture, clip: null, background: null } };
  };
  /** Where the corners of a layer are seen. */
  const seen = (layers: ReturnType<typeof layer>[], name: string): number[][] => {
    const document = hangStack('shot', layers, stack).apply(emptyDocument('Quay', frame, 2, 'shot'));
    const draw = evaluateFrame(document, document.shots[0]!, 0).draws.find((d) => d.layer === `${name}-layer`)!;
    return [transform(draw.matrix, 0, 0), transform(draw.matrix, draw.width, draw.height)].map((point) =>
      point.map((v) => Math.round(v * 1000) / 1000),
    );
  };

  it('is seen where its layers lay, also those that are worked with at a smaller size than they have', () => {
    const layers = [
      layer('mast', [4000, 500, 1000, 3000], [1000, 3000]),
      layer('sky', [0, 0, 8000, 4500], [4096, 2304]),
      layer('strip', [1000, 2000, 6000, 600], [3000, 300]),
    ];
    expect(seen(layers, 'mast')).to.deep.equal([
      [800, 100],
      [1000, 700],
    ]);
    expect(seen(layers, 'sky')).to.deep.equal([
      [0, 0],
      [1600, 900],
    ]);
    expect(seen(layers, 'strip')).to.deep.equal([
      [200, 400],
      [1400, 520],
    ]);
  });
});
