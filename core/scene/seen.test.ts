import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { setLayer, setProperty } from '../edits/layer-edits.ts';
import { hangInShot, hangPicture } from '../edits/lift-edit.ts';
import { addPicture } from '../edits/project-edits.ts';
import { apply, empty, hash, height, shotOf, width } from '../edits/test-cards.ts';
import { makeBytes } from '../pixels/raster.ts';
import { bareFrames, shiftToCover } from './bare.ts';
import { seenThrough } from './seen.ts';

const picture = (id: string) => ({
  ...{ id, name: id, original: hash('a'), file: hash('a'), width, height, clip: null, background: null },
});
/** A background whose whole picture was made anew, and before it another picture that covers the frame. */
const covered = (): Document => {
  const made = apply(empty(), addPicture(picture('quay')), addPicture(picture('wall')), hangPicture('quay', 'back'));
  const { layers } = shotOf(made);
  const back = { ...layers[0]!, source: { kind: 'background' as const, picture: 'quay' } };
  const document = { ...made, shots: [{ ...shotOf(made), layers: [back] }] };
  return apply(
    document,
    hangInShot('shot', { kind: 'picture', id: 'wall', name: 'wall' }, 'front'),
    setProperty('shot', 'front', 'depth', 0, 2),
    setProperty('shot', 'front', 'scale', 0, 1),
    setProperty('shot', 'back', 'scale', 0, 1),
  );
};
const hole = makeBytes(width, height, 1);
const shareSeen = (document: Document): number => seenThrough(document, 'quay', hole, () => null).share;

describe('what of a background is ever seen', () => {
  it('is nothing behind a picture that covers the frame in every frame', () => {
    expect(shareSeen(covered())).to.equal(0);
  });

  it('is all of it where what lies before hides less than its file says', () => {
    const sway = { id: 'wave', region: null, soft: 0, direction: 0, size: 60, strength: 10, pinned: 'none' };
    const changes: Record<string, Partial<Layer>> = {
      faded: { opacity: { value: 0.9 } },
      blurred: { blur: { value: 3 } },
      hidden: { hidden: true },
      'pushed about': {
        sways: [{ ...sway, shade: 0, period: 30, phase: 0, loops: true, like: null }] as unknown as Layer['sways'],
      },
      'pinned by its corners': { corners: { value: [0, 0, 5, 0, 5, 5, 0, 5] } },
    };
    for (const [name, change] of Object.entries(changes))
      expect(shareSeen(apply(covered(), setLayer('Change', 'shot', 'front', change))), name).to.equal(1);
  });

  it('is the part that comes to light as the cover goes away, and a margin', () => {
    const document = apply(covered(), setProperty('shot', 'front', 'position', 0, [100, 0]));
    expect(shareSeen(document)).to.be.within(100 / width, 0.28);
  });
});

describe('bare frames and their cure', () => {
  const alone = (blur: number, x: number): Document => {
    const made = apply(
      empty(),
      addPicture(picture('wall')),
      hangInShot('shot', { kind: 'picture', id: 'wall', name: 'wall' }, 'front'),
    );
    return apply(
      made,
      setProperty('shot', 'front', 'scale', 0, 1.2),
      setProperty('shot', 'front', 'position', 0, [x, 0]),
      setLayer('Blur', 'shot', 'front', { blur: { value: blur } }),
    );
  };

  it('are those in which a border comes into view, sooner where it is blurred', () => {
    // Enlarged by a fifth, 40 pixels lie beyond each side.
    const bare = (blur: number, x: number): number => Math.max(...bareFrames(alone(blur, x), shotOf(alone(blur, x))));
    expect([bare(0, 39), bare(0, -39)]).to.deep.equal([0, 0]);
    expect(bare(0, 42)).to.be.above(0);
    expect(bare(6, 39)).to.be.above(0);
    expect(bare(6, 20)).to.equal(0);
  });

  it('are cured by the shortest way there is', () => {
    const shift = (blur: number, x: number) => {
      const document = alone(blur, x);
      return shiftToCover(document, shotOf(document), shotOf(document).layers[0]!);
    };
    expect(shift(0, 30)!.map(Math.abs)).to.deep.equal([0, 0]);
    const [dx, dy] = shift(0, 60)!;
    expect(dx).to.be.within(-21, -20);
    expect(Math.abs(dy)).to.equal(0);
    expect(shift(0, -60)![0]).to.be.within(20, 21);
    // A blurred rim does not cover: it takes two and a half times the blur more.
    expect(shift(4, 60)![0]).to.be.within(-32, -29);
  });
});
