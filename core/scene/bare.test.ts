import { expect } from 'chai';
import { bareFrames, bareShare, enlargementToCover } from './bare.ts';
import type { Document } from '../document/document.ts';
import { setHidden, setLayer, setProperty } from '../edits/layer-edits.ts';
import { enlargeToCover } from '../edits/bare-cures.ts';
import { cutIntoStrips } from '../edits/strip-edits.ts';
import type { Shape } from '../path/shapes.ts';
import { setFraming } from '../edits/camera-edits.ts';
import { restFraming } from '../document/shot.ts';
import { liftedDocument } from '../edits/test-lifted.ts';

const shotOf = (document: Document) => document.shots[0]!;
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
