import { expect } from 'chai';
import { readDocument, type Document } from '../document/document.ts';
import { restFraming } from '../document/shot.ts';
import { setCamera, setCameraEasing, setFraming } from '../edits/camera-edits.ts';
import { apply, card, empty, near, seenAt } from '../edits/test-cards.ts';
import { differencePicture, meanDifference, seamOf } from './seam.ts';

/** A bright square of 20 in a dark picture of 100 x 40, at a place. */
function square(x: number): Uint8ClampedArray {
  const data = new Uint8ClampedArray(100 * 40 * 4);
  for (let row = 10; row < 30; row++)
    for (let column = 0; column < 20; column++)
      data.fill(255, (row * 100 + ((x + column) % 100)) * 4, (row * 100 + ((x + column) % 100)) * 4 + 3);
  return data;
}

describe('the seam of a loop', () => {
  it('a motion that goes on into its beginning has none: the last step is like every other', () => {
    // Ten steps of ten pixels round a picture of a hundred.
    const { jump, step, seen } = seamOf(square(0), square(10), square(90));
    expect(jump).to.be.closeTo(step, 1e-9);
    expect(seen).to.equal(false);
  });

  it('one that jumps back is seen, and the figure is what changes: two squares of 20 in 4,000 pixels', () => {
    const { jump, seen } = seamOf(square(0), square(2), square(60));
    expect(jump).to.be.closeTo((2 * 400) / 4000, 1e-9);
    expect(seen).to.equal(true);
  });

  it('what stands still has no seam, and noise is none', () => {
    const quiet = square(5);
    expect(seamOf(quiet, quiet, quiet)).to.deep.equal({ jump: 0, step: 0, seen: false });
    const noisy = quiet.map((v, i) => (i % 4 === 3 ? v : Math.max(0, v - 1)));
    expect(seamOf(quiet, quiet, noisy).seen).to.equal(false);
    expect(meanDifference([], [])).to.equal(0);
  });

  it('the picture of a difference is black where nothing is and bright where something is', () => {
    const picture = differencePicture([10, 20, 30, 255], [10, 30, 130, 255]);
    expect([...picture]).to.deep.equal([0, 40, 255, 255]);
  });
});

describe('a camera that goes there and back', () => {
  const moving = (returns: boolean): Document =>
    apply(
      empty(),
      card('flag'),
      setFraming('shot', 'last', { ...restFraming, x: 60, size: 0.8 }),
      setCameraEasing('shot', 'linear'),
      setCamera('Return', 'shot', { returns }),
    );
  const place = (document: Document, frame: number): [number, number] => seenAt(document, 'flag', 20, 10, frame);

  it('is at its last Framing in the middle, as far away on the way out as on the way back, and meets its beginning', () => {
    const [once, back] = [moving(false), moving(true)];
    near(place(back, 0), place(once, 0));
    near(place(back, 30), place(once, 59));
    for (const frame of [5, 12, 29]) near(place(back, frame), place(back, 60 - frame));
    // The step over the seam is as long as the first one.
    near(place(back, 59), place(back, 1));
    expect(Math.abs(place(once, 59)[0] - place(once, 0)[0])).to.be.above(20);
  });

  it('documents from before it know nothing of it and open as they were', () => {
    const old = JSON.parse(JSON.stringify(moving(false))) as { shots: { camera: Record<string, unknown> }[] };
    delete old.shots[0]!.camera.returns;
    near(place(readDocument(old), 59), place(moving(false), 59));
  });
});
