import { expect } from 'chai';
import { clipPicture } from './test-clips.ts';
import { danglingIn, emptyDocument, type Document } from '../document/document.ts';
import { doubtfulFrames, type Track } from '../document/track.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { invert, transform } from '../scene/matrix.ts';
import { cameraAt, layerMatrix } from '../scene/place.ts';
import { apply, card, layerOf } from './test-cards.ts';
import { holdClip, runClipBack } from './clip-time-edits.ts';
import type { Edit } from './edit.ts';
import { duplicateLayers, groupLayers } from './arrange-edits.ts';
import { setLayer, setProperty, addKey } from './layer-edits.ts';
import { hangPicture } from './lift-edit.ts';
import { addPicture, removePicture } from './project-edits.ts';
import {
  addCarrierAt,
  addTrack,
  fastenToPoint,
  framesAround,
  layTrack,
  markTrack,
  removeTrack,
  steadyLayer,
  unmarkTrack,
} from './track-edits.ts';

const frames = 40;
/** Where the claw is in the clip, frame by frame, and its wrist. */
const claw = (f: number): [number, number] => [100 + 3 * f, 60 + 20 * Math.sin(f / 6)];
const wrist = (f: number): [number, number] => [claw(f)[0] - 40 * Math.cos(f / 20), claw(f)[1] - 40 * Math.sin(f / 20)];
const pointsOf = (way: (f: number) => [number, number]): number[] =>
  Array.from({ length: frames }, (_, f) => [...way(f), f === 7 ? 0.6 : 0]).flat();
const track = (id: string, way: (f: number) => [number, number]): Track => ({
  id,
  picture: 'crab',
  name: id,
  radius: 12,
  marks: [{ frame: 0, at: way(0) }],
  points: pointsOf(way),
});

const start = (): Document =>
  apply(
    emptyDocument('Lantern Week', { width: 640, height: 360, rate: 10 }, 6, 'shot'),
    addPicture(clipPicture(frames, 10)),
    hangPicture('crab', 'clip'),
    addTrack(track('claw', claw)),
    addTrack(track('wrist', wrist)),
    card('label'),
  );
const seen = (document: Document, id: string, [x, y]: [number, number], frame: number): [number, number] => {
  const shot = document.shots[0]!;
  return transform(layerMatrix(document, shot, layerOf(document, id), cameraAt(shot, frame), frame)!, x, y);
};
const away = (a: [number, number], b: [number, number]): [number, number] => [a[0] - b[0], a[1] - b[1]];
const near = (a: [number, number], b: [number, number], says?: string): void => {
  expect(Math.hypot(a[0] - b[0], a[1] - b[1]), says).to.be.lessThan(1e-6);
};
/** The clip's frame and where its claw is seen. */
const clawSeen = (document: Document, frame: number): [number, number] => {
  const { content } = evaluateFrame(document, document.shots[0]!, frame).draws.find((d) => d.layer === 'clip')!;
  if (content.kind !== 'image') throw new Error('a clip is an image');
  return seen(document, 'clip', claw(content.clip!.index), frame);
};

describe('what follows a point of a clip', () => {
  it('keeps its distance from it in every frame, while the clip is moved, turned, sized, held and run back', () => {
    const document = apply(
      start(),
      setProperty('shot', 'clip', 'position', 0, [30, -12]),
      setProperty('shot', 'clip', 'rotation', 0, 20),
      setProperty('shot', 'clip', 'scale', 0, 1.4),
      fastenToPoint('shot', 'label', 'clip', 'claw', null, 5),
      runClipBack('shot', 'clip', 20),
      holdClip('shot', 'clip', 20, 12),
    );
    const pivot = (frame: number) => seen(document, 'label', [20, 10], frame);
    const offset = away(pivot(5), clawSeen(document, 5));
    for (let frame = 0; frame < 60; frame++)
      near(away(pivot(frame), clawSeen(document, frame)), offset, `frame ${frame}`);
    expect(Math.hypot(...away(pivot(20), pivot(5)))).to.be.greaterThan(50);
  });

  it('does so under a camera, at another distance, and out of a group', () => {
    const moving: Edit = {
      name: 'Camera',
      apply: (d) => ({
        ...d,
        shots: d.shots.map((s) => ({
          ...s,
          camera: { ...s.camera, last: { ...s.camera.last, x: 80, y: -30, size: 0.7 } },
        })),
      }),
    };
    const document = apply(
      start(),
      setProperty('shot', 'label', 'depth', 0, 2),
      fastenToPoint('shot', 'label', 'clip', 'claw', null, 0),
      groupLayers('shot', ['label'], { id: 'group', name: 'Group' }),
      addKey('shot', 'group', 'position', 0, [0, 0]),
      moving,
    );
    // It lies as if it were on the clip's own plane: always as far from the claw in the clip's own pixels.
    const shot = document.shots[0]!;
    const onClip = (frame: number): [number, number] => {
      const back = invert(layerMatrix(document, shot, layerOf(document, 'clip'), cameraAt(shot, frame), frame)!);
      return away(transform(back, ...seen(document, 'label', [20, 10], frame)), claw(frame));
    };
    for (const frame of [10, 30, 39]) near(onClip(frame), onClip(0), `frame ${frame}`);
  });

  it('turns and grows with two points', () => {
    const document = apply(start(), fastenToPoint('shot', 'label', 'clip', 'claw', 'wrist', 0));
    const across = (frame: number): [number, number] =>
      away(seen(document, 'label', [30, 10], frame), seen(document, 'label', [20, 10], frame));
    const angle = ([x, y]: [number, number]): number => Math.atan2(y, x);
    for (const frame of [0, 9, 31]) {
      const turned = angle(away(wrist(frame), claw(frame))) - angle(away(wrist(0), claw(0)));
      const diff = angle(across(frame)) - angle(across(0)) - turned;
      expect(Math.abs(Math.sin(diff / 2)), `frame ${frame}`).to.be.lessThan(1e-6);
      expect(Math.hypot(...across(frame))).to.be.closeTo(Math.hypot(...across(0)), 1e-6);
    }
  });

  it('may be a carrier that hangs on the point itself, at the distance of the clip', () => {
    const made = apply(
      start(),
      setProperty('shot', 'clip', 'depth', 0, 1.5),
      addCarrierAt('shot', 'clip', 'claw', null, 12, { id: 'carrier', name: 'Claw' }),
    );
    for (const frame of [0, 12, 39]) near(seen(made, 'carrier', [0, 0], frame), clawSeen(made, frame));
    expect(danglingIn(made)).to.deep.equal([]);
  });

  it('is let go when the point is deleted, and goes with its picture', () => {
    const document = apply(
      start(),
      fastenToPoint('shot', 'label', 'clip', 'claw', 'wrist', 0),
      steadyLayer('shot', 'clip', { point: 'claw', second: 'wrist' }),
    );
    const lost = apply(document, removeTrack('wrist'));
    expect(layerOf(lost, 'label').fastened).to.deep.include({ point: 'claw', second: null });
    expect(layerOf(lost, 'clip').steady).to.deep.equal({ point: 'claw', second: null });
    const none = apply(lost, removeTrack('claw'));
    expect([layerOf(none, 'label').fastened, layerOf(none, 'clip').steady]).to.deep.equal([null, null]);
    const gone = apply(document, removePicture('crab'));
    expect(gone.tracks).to.deep.equal([]);
    expect(danglingIn(gone)).to.deep.equal([]);
    expect(danglingIn({ ...document, tracks: [] })).to.include('layer label follows nothing');
    const copied = apply(document, duplicateLayers('shot', [{ of: 'label', id: 'copy' }]));
    expect(layerOf(copied, 'copy').fastened).to.deep.include({ to: 'clip', point: 'claw' });
  });
});

describe('a steadied clip', () => {
  it('keeps its point where it is in the first frame, and two points with their turn and size', () => {
    const one = apply(start(), steadyLayer('shot', 'clip', { point: 'claw', second: null }));
    for (const frame of [0, 8, 33]) near(clawSeen(one, frame), clawSeen(start(), 0), `frame ${frame}`);
    const two = apply(start(), steadyLayer('shot', 'clip', { point: 'claw', second: 'wrist' }));
    for (const frame of [0, 8, 33]) {
      near(clawSeen(two, frame), clawSeen(start(), 0));
      near(seen(two, 'clip', wrist(frame), frame), seen(start(), 'clip', wrist(0), 0), `frame ${frame}`);
    }
  });

  it('holds what is fastened to its point still', () => {
    const document = apply(
      start(),
      fastenToPoint('shot', 'label', 'clip', 'claw', null, 0),
      steadyLayer('shot', 'clip', { point: 'claw', second: null }),
      setLayer('Rest', 'shot', 'label', { hidden: false }),
    );
    near(seen(document, 'label', [20, 10], 30), seen(document, 'label', [20, 10], 0));
  });
});

describe('a followed point', () => {
  const trackOf = (document: Document): Track => document.tracks[0]!;

  it('is laid in where it was found, unless it was marked otherwise meanwhile or is gone', () => {
    const fresh = apply(start(), { name: 'Fresh', apply: (d) => ({ ...d, tracks: [{ ...trackOf(d), points: [] }] }) });
    const { marks } = trackOf(fresh);
    const laid = apply(fresh, layTrack('claw', marks, frames, 3, [5, 6, 0.25, 7, 8, 0.5]));
    expect(trackOf(laid).points).to.have.length(frames * 3);
    expect(trackOf(laid).points.slice(6, 18)).to.deep.equal([...claw(0), 1, 5, 6, 0.25, 7, 8, 0.5, ...claw(0), 1]);
    const other = apply(fresh, markTrack('claw', 9, [1, 1]));
    expect(apply(other, layTrack('claw', marks, frames, 0, pointsOf(claw)))).to.deep.equal(other);
    const none = apply(fresh, removeTrack('claw'));
    expect(apply(none, layTrack('claw', marks, frames, 0, pointsOf(claw)))).to.deep.equal(none);
  });

  it('is where it was put by hand, and what lies between the marks around is followed again', () => {
    const mended = apply(start(), markTrack('claw', 20, [9, 9]), markTrack('claw', 30, [3, 3]));
    expect(trackOf(mended).points.slice(60, 63)).to.deep.equal([9, 9, 0]);
    expect(trackOf(mended).points.slice(57, 59)).to.deep.equal(claw(19));
    expect(framesAround(trackOf(mended), 20, frames)).to.deep.equal([0, 31]);
    expect(framesAround(trackOf(mended), 30, frames)).to.deep.equal([20, 40]);
    const back = apply(mended, unmarkTrack('claw', 20), unmarkTrack('claw', 30), unmarkTrack('claw', 0));
    expect(trackOf(back).marks).to.deep.equal([{ frame: 0, at: claw(0) }]);
  });

  it('points out the frames it doubts', () => {
    expect(doubtfulFrames(track('claw', claw))).to.deep.equal([7]);
  });
});
