import { expect } from 'chai';
import { filesOf, readDocument, UnreadableDocument, type Document } from './document.ts';
import { proposeFrame, proposeStart } from './frame-proposal.ts';
import { hash, liftedDocument } from '../edits/test-lifted.ts';

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
