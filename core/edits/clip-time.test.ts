import { expect } from 'chai';
import { clipPicture } from './test-clips.ts';
import { emptyDocument, type Document } from '../document/document.ts';
import type { Timing } from '../document/layer.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { setFrameRate } from './project-edits.ts';
import { addPicture } from './project-edits.ts';
import { clipSpeedAt, holdClip, keyClipTime, runClipBack, runSteadily, setClipSpeed } from './clip-time-edits.ts';
import type { Edit } from './edit.ts';
import { changeProperty, setLayer, trimBar } from './layer-edits.ts';
import { hangPicture } from './lift-edit.ts';

const apply = (document: Document, ...edits: Edit[]): Document => edits.reduce((d, edit) => edit.apply(d), document);

/** A clip of 40 frames at 10 a second on a shot of 6 s at 10 a second: one frame of it for each of the shot. */
const start = (rate = 10): Document =>
  apply(
    emptyDocument('Lantern Week', { width: 640, height: 360, rate }, 6, 'shot'),
    addPicture(clipPicture(40, 10)),
    hangPicture('crab', 'crab'),
  );
const timed = (change: Partial<Timing>): Edit => ({
  name: 'Time',
  apply: (d) => setLayer('Time', 'shot', 'crab', { timing: { ...d.shots[0]!.layers[0]!.timing, ...change } }).apply(d),
});

const clipAt = (document: Document, frame: number) => {
  const { content } = evaluateFrame(document, document.shots[0]!, frame).draws[0]!;
  if (content.kind !== 'image') throw new Error('a clip is an image');
  return content.clip!;
};
const indices = (document: Document, frames = document.shots[0]!.length): number[] =>
  Array.from({ length: frames }, (_, frame) => clipAt(document, frame).index);
const counted = (from: number, to: number): number[] =>
  Array.from({ length: Math.abs(to - from) + 1 }, (_, k) => from + Math.sign(to - from) * k);

describe('time in a clip', () => {
  it('runs by keyframes as it ran before them, at any speed, slip and way to end', () => {
    for (const change of [
      {},
      { slip: 7 },
      { speed: 0.5 },
      { speed: -1 },
      { speed: 2.5, ends: 'swing' as const },
      { speed: -0.7, slip: 3, ends: 'hold' as const },
      { bar: { first: 12, end: 44 }, speed: 1.5 },
      { freeze: 9 },
    ]) {
      const before = apply(start(), timed(change));
      const { first, end } = before.shots[0]!.layers[0]!.timing.bar ?? { first: 0, end: 60 };
      const own = (document: Document): number[] =>
        counted(first, end - 1).map((frame) => clipAt(document, frame).index);
      expect(own(apply(before, keyClipTime('shot', 'crab'))), JSON.stringify(change)).to.deep.equal(own(before));
    }
  });

  it('stands still within, and goes on from where it stood', () => {
    const held = apply(start(), holdClip('shot', 'crab', 15, 10));
    expect(indices(held, 50)).to.deep.equal([
      ...counted(0, 15),
      ...(Array(10).fill(15) as number[]),
      ...counted(16, 39),
    ]);
  });

  it('runs back the way it came, held a while in the middle, without a jump', () => {
    const document = apply(start(), runClipBack('shot', 'crab', 20), holdClip('shot', 'crab', 20, 12));
    const seen = indices(document, 53);
    expect(seen).to.deep.equal([...counted(0, 20), ...(Array(12).fill(20) as number[]), ...counted(19, 0)]);
    for (let k = 1; k < seen.length; k++) expect(Math.abs(seen[k]! - seen[k - 1]!)).to.be.at.most(1);
  });

  it('runs back an eased way as its mirror image', () => {
    const eased = apply(
      start(),
      keyClipTime('shot', 'crab'),
      changeProperty('Ease', 'shot', 'crab', 'clipTime', () => ({
        keys: [
          { frame: 0, value: 0, easing: 'ease-in' as const },
          { frame: 20, value: 2, easing: 'linear' as const },
        ],
      })),
      runClipBack('shot', 'crab', 20),
    );
    const seen = indices(eased, 41);
    // Where time stands between two frames of the clip, the way back may round to the other one.
    seen.forEach((index, k) => expect(Math.abs(index - seen[40 - k]!), `frame ${k}`).to.be.at.most(1));
    expect(seen.slice(0, 4)).to.deep.equal([0, 0, 0, 0]);
  });

  it('changes its speed from a frame on, and what comes after comes sooner or later', () => {
    const twice = apply(start(), keyClipTime('shot', 'crab'), setClipSpeed('shot', 'crab', 10, 2));
    expect(indices(twice, 25)).to.deep.equal([...counted(0, 9), ...counted(0, 14).map((k) => 10 + 2 * k)]);
    const then = apply(start(), holdClip('shot', 'crab', 30, 10), setClipSpeed('shot', 'crab', 10, 2));
    expect(indices(then, 32).slice(20)).to.deep.equal([...(Array(11).fill(30) as number[]), 31]);
    const layer = (d: Document) => d.shots[0]!.layers[0]!;
    expect(clipSpeedAt(layer(then), 10, 12.5)).to.be.closeTo(2, 1e-6);
    expect(clipSpeedAt(layer(then), 10, 24.5)).to.equal(0);
    expect(clipSpeedAt(layer(apply(start(), runClipBack('shot', 'crab', 20))), 10, 30.5)).to.be.closeTo(-1, 1e-6);
  });

  it('keeps its seconds when the frame rate changes, and runs by its speed again when asked', () => {
    const held = apply(start(), holdClip('shot', 'crab', 15, 10));
    const faster = apply(held, setFrameRate(20));
    const every = indices(faster, 100).filter((_, k) => k % 2 === 0);
    expect(every).to.deep.equal(indices(held, 50));
    expect(indices(apply(held, runSteadily('shot', 'crab')))).to.deep.equal(indices(start()));
  });

  it('blends two frames of a clip that has fewer than the shot', () => {
    const document = apply(start(40), timed({ between: 'blend' }));
    const mixes = [0, 1, 2, 3, 4].map((frame) => clipAt(document, frame));
    expect(mixes.map((c) => c.index)).to.deep.equal([0, 0, 0, 0, 1]);
    expect(mixes.map((c) => c.mix?.share ?? 0)).to.deep.equal([0, 0.25, 0.5, 0.75, 0]);
    expect(mixes[2]!.mix!.index).to.equal(1);
    const names = [0, 1, 2, 3, 4].map((frame) => {
      const { content } = evaluateFrame(document, document.shots[0]!, frame).draws[0]!;
      return content.kind === 'image' ? content.file : '';
    });
    expect(new Set(names).size).to.equal(5);
  });

  it('fades its end into its beginning where the seam is crossfaded', () => {
    const document = apply(start(), timed({ crossfade: 10 }));
    // The loop is shorter by the fade; its last frame is followed by the one after it, already fading.
    expect(clipAt(document, 29)).to.deep.include({ index: 29, mix: null });
    expect(clipAt(document, 30)).to.deep.include({ index: 0, mix: { index: 30, share: 0.9375 } });
    const shares = counted(30, 39).map((frame) => clipAt(document, frame).mix?.share ?? 0);
    for (let k = 1; k < shares.length; k++) expect(shares[k]!).to.be.lessThan(shares[k - 1]!);
    expect(counted(30, 39).map((frame) => clipAt(document, frame).mix!.index)).to.deep.equal(counted(30, 39));
    expect(clipAt(document, 40)).to.deep.include({ index: 10, mix: null });
  });

  it('begins and ends where the playhead is', () => {
    const trimmed = apply(start(), trimBar('shot', 'crab', 'first', 12), trimBar('shot', 'crab', 'end', 31));
    expect(trimmed.shots[0]!.layers[0]!.timing.bar).to.deep.equal({ first: 12, end: 31 });
    const crossed = apply(trimmed, trimBar('shot', 'crab', 'first', 50));
    expect(crossed.shots[0]!.layers[0]!.timing.bar).to.deep.equal({ first: 30, end: 31 });
  });
});
