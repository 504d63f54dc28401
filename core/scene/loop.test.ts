import { expect } from 'chai';
import { emptyDocument, readDocument, type Document } from '../document/document.ts';
import { setEnds } from '../edits/project-edits.ts';
import { evaluateLoop, loopFrame, loopLength } from './loop.ts';
import { evaluateProject } from './sequence.ts';

const plain = emptyDocument('Quay', { width: 640, height: 360, rate: 30 }, 2, 'shot');
const range = { first: 10, end: 50 };
const frames = (document: Document) =>
  Array.from({ length: loopLength(document, range) }, (_, k) => loopFrame(document, range, k));

describe('the ends of a clip', () => {
  it('as they are, are the frames in their order; projects from before have them so', () => {
    expect(frames(plain).map(({ frame }) => frame)).to.deep.equal(Array.from({ length: 40 }, (_, k) => 10 + k));
    const { ends, ...before } = plain;
    expect(readDocument(JSON.parse(JSON.stringify(before))).ends).to.deep.equal(ends);
  });

  it('back again: every step is one frame, also from the last to the first', () => {
    const order = frames(setEnds({ kind: 'back-again' }).apply(plain)).map(({ frame }) => frame);
    expect(order).to.have.length(78);
    order.forEach((frame, k) => expect(Math.abs(order[(k + 1) % 78]! - frame)).to.equal(1));
    expect([Math.min(...order), Math.max(...order)]).to.deep.equal([10, 49]);
  });

  it('crossfaded: shorter by the fade, the last frame goes on in the first, and nothing jumps between', () => {
    const document = setEnds({ kind: 'crossfade', frames: 8 }).apply(plain);
    const made = frames(document);
    expect(made).to.have.length(32);
    // What is seen alone, or most: the end, and then the beginning.
    expect(made.at(-1)).to.deep.equal({ frame: 41, over: null });
    expect(made[0]).to.deep.equal({ frame: 42, over: null });
    expect(made[1]).to.deep.equal({ frame: 43, over: { frame: 11, share: 1 / 8 } });
    expect(made[7]).to.deep.equal({ frame: 49, over: { frame: 17, share: 7 / 8 } });
    expect(made[8]).to.deep.equal({ frame: 18, over: null });
    const over = evaluateLoop(document, range, 3).draws.at(-1)!;
    expect([over.layer, over.opacity]).to.deep.equal(['ends', 3 / 8]);
    expect(evaluateLoop(document, range, 20)).to.deep.equal(evaluateProject(document, 30));
  });

  it('a fade takes at most half, and one frame is one whatever is done', () => {
    const short = { first: 3, end: 6 };
    expect(loopLength(setEnds({ kind: 'crossfade', frames: 100 }).apply(plain), short)).to.equal(2);
    for (const kind of ['as-is', 'crossfade', 'back-again'] as const) {
      const document = setEnds({ kind }).apply(plain);
      expect(loopLength(document, { first: 5, end: 6 })).to.equal(1);
      expect(loopFrame(document, { first: 5, end: 6 }, 0).frame).to.equal(5);
    }
  });
});
