import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import { setProperty, setDepth, setHidden } from '../edits/layer-edits.ts';
import { duplicateShot, setTransition } from '../edits/shot-edits.ts';
import { apply, card, empty, height, near, width } from '../edits/test-cards.ts';
import type { Draw } from './draw.ts';
import { transform } from './matrix.ts';
import { evaluateProject, filmStartOf, placedShots, projectLength } from './sequence.ts';

/** A shot of 60 frames with two cards, and a copy of it after it. */
const two = (...changes: Parameters<typeof apply>[1][]): Document =>
  apply(empty(), card('far', 6, [-60, 0]), card('near', 2, [60, 0]), ...changes, duplicateShot('shot', 'copy'));
const inCopy = (document: Document, name: string): string =>
  document.shots[1]!.layers.find((layer) => layer.name.startsWith(name))!.id;
const at = (draw: Draw): number[] => transform(draw.matrix, 20, 10).map((v, k) => v - [width, height][k]! / 2);

describe('shots one after the other', () => {
  it('lie end to end, and over one another for as long as they go over', () => {
    const cut = two();
    expect(placedShots(cut).map(({ first, end }) => [first, end])).to.deep.equal([
      [0, 60],
      [60, 120],
    ]);
    const over = apply(cut, setTransition('shot', { kind: 'crossfade', frames: 20 }));
    expect(placedShots(over).map(({ first, end }) => [first, end])).to.deep.equal([
      [0, 60],
      [40, 100],
    ]);
    expect([projectLength(cut), projectLength(over)]).to.deep.equal([120, 100]);
    expect([filmStartOf(over, 'shot'), filmStartOf(over, 'copy'), filmStartOf(over, 'none')]).to.deep.equal([0, 40, 0]);
  });

  it('crossfade: the later one comes in even steps over the earlier one, which stays whole', () => {
    const document = apply(two(), setTransition('shot', { kind: 'crossfade', frames: 4 }));
    const opacities = [55, 56, 57, 58, 59, 60].map((frame) => {
      const { draws } = evaluateProject(document, frame);
      const over = draws.find((d) => d.layer.startsWith('over-'));
      return [draws.length, over ? Number(over.opacity.toFixed(6)) : null];
    });
    expect(opacities).to.deep.equal([
      [2, null],
      [3, 0.2],
      [3, 0.4],
      [3, 0.6],
      [3, 0.8],
      [2, null],
    ]);
  });

  it('wipe: a soft line goes across, whose front is whole after it and nothing before it', () => {
    const document = apply(two(), setTransition('shot', { kind: 'wipe', frames: 20, angle: 90 }));
    const lines = [41, 50, 58].map((frame) => evaluateProject(document, frame).draws.at(-1)!.window!.free!);
    for (const { x, dx, dy } of lines) {
      expect(x).to.be.closeTo(width / 2, 1e-9);
      expect(dx).to.be.closeTo(0, 1e-9);
      expect(dy).to.be.closeTo(-1, 1e-9);
    }
    const ys = lines.map(({ y }) => y);
    expect([...ys].sort((a, b) => a - b)).to.deep.equal(ys);
    expect(ys[0]).to.be.below(height * 0.1);
    expect(ys[2]).to.be.above(height * 0.85);
  });

  describe('pose match', () => {
    const matched = (change: (document: Document) => Document): Document =>
      change(apply(two(), setTransition('shot', { kind: 'pose-match', frames: 19 })));
    const middle = (document: Document): Draw[] => evaluateProject(document, 50).draws;

    it('what both show travels from one place to the other, half way in the middle', () => {
      const moved = matched((d) => apply(d, setProperty('copy', inCopy(d, 'near'), 'position', 0, [60, 80])));
      const draws = middle(moved);
      expect(draws).to.have.length(2);
      near(at(draws.find((d) => Math.abs(at(d)[0]! - 60) < 1)!), [60, 40]);
      expect(draws.map(({ opacity }) => opacity)).to.deep.equal([1, 1]);
    });

    it('what only one shows fades, where it was in depth', () => {
      const gone = matched((d) => apply(d, setHidden('copy', inCopy(d, 'far'), true)));
      const fading = middle(gone);
      expect(fading.map(({ opacity }) => opacity)).to.deep.equal([0.5, 1]);
      near(at(fading[0]!), [-60, 0]);
      const comes = matched((d) => apply(d, setHidden('shot', 'near', true)));
      expect(middle(comes).map(({ opacity }) => opacity)).to.deep.equal([1, 0.5]);
      // What leaves stays behind what it was behind, however the others have changed places.
      const before = matched((d) =>
        apply(d, setHidden('copy', inCopy(d, 'near'), true), setDepth('copy', inCopy(d, 'far'), 1)),
      );
      near(at(middle(before).at(-1)!), [60, 0]);
    });

    it('what has become another size is not pulled from one to the other, but fades', () => {
      const wide = matched((d) => {
        const { points } = d.shots[1]!.layers.find(({ id }) => id === inCopy(d, 'near'))!;
        const value = (points as { value: number[] }).value.map((v, k) => (k % 2 === 0 ? v * 2 : v));
        return apply(d, setProperty('copy', inCopy(d, 'near'), 'points', 0, value));
      });
      const draws = middle(wide);
      expect(draws).to.have.length(3);
      expect(draws.filter(({ opacity }) => opacity === 0.5)).to.have.length(2);
    });
  });
});
