import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import { restFraming } from '../document/shot.ts';
import { bareFrames } from '../scene/bare.ts';
import { viewOfPlane } from '../depth/camera.ts';
import { cameraAt, seenAtEnd } from '../scene/place.ts';
import { setCamera } from './camera-edits.ts';
import { seenBox } from '../scene/seen-box.ts';
import { placeInDepth } from './depth-edits.ts';
import { firstMoves, startMove, staysWhole, type FirstMove } from './first-moves.ts';
import { hangPicture } from './lift-edit.ts';
import { setLayer } from './layer-edits.ts';
import { addPicture } from './project-edits.ts';
import { apply, card, empty, hash, height, layerOf, shotOf, width } from './test-cards.ts';

const picture = { id: 'quay', name: 'Quay', original: hash('a'), file: hash('a'), width, height, clip: null };
const moves = Object.keys(firstMoves) as FirstMove[];

/** A card at a distance, scaled about its middle, before a picture that just covers the frame. */
const scene = (position: [number, number], scale: number): Document =>
  apply(
    empty(),
    addPicture({ ...picture, background: null }),
    hangPicture('quay', 'ground'),
    card('figure', 3, position),
    setLayer('Grow', 'shot', 'figure', { scale: { value: scale } }),
  );
const boxAt = (document: Document, frame: number) => {
  const shot = shotOf(document);
  return seenBox(document, shot, layerOf(document, 'figure'), frame)!;
};
const ends = (document: Document): number[] => [0, shotOf(document).length - 1];

describe('moves to start from', () => {
  for (const move of moves)
    it(`${firstMoves[move].name}: keeps a figure whole wherever it stands, and the frame covered`, () => {
      for (const position of [
        [0, 0],
        [120, -90],
        [-130, 60],
      ] as [number, number][]) {
        const before = scene(position, 2);
        const moving = apply(before, startMove('shot', move, 'figure'));
        for (let frame = 0; frame < shotOf(moving).length; frame += 7) {
          const box = boxAt(moving, frame);
          expect(box.left, `left at ${frame}`).to.be.at.least(-1);
          expect(box.top).to.be.at.least(-1);
          expect(box.right).to.be.at.most(width + 1);
          expect(box.bottom).to.be.at.most(height + 1);
        }
        expect(Math.max(...bareFrames(moving, shotOf(moving)))).to.equal(0);
        const { first, last } = shotOf(moving).camera;
        expect(JSON.stringify(first), 'something moves').to.not.equal(JSON.stringify(last));
      }
    });

  it('are what they are called: a push grows the figure, a pull shrinks it, around leaves it where it is', () => {
    const size = (move: FirstMove): number[] => {
      const moving = apply(scene([0, 0], 2), startMove('shot', move, 'figure'));
      return ends(moving).map((frame) => boxAt(moving, frame).right - boxAt(moving, frame).left);
    };
    const [nearBefore, nearAfter] = size('push');
    expect(nearAfter! / nearBefore!).to.be.closeTo(0.97 / 0.8, 0.02);
    const [farBefore, farAfter] = size('pull');
    expect(farAfter! / farBefore!).to.be.closeTo(0.8 / 0.97, 0.02);
    const around = apply(scene([0, 0], 2), startMove('shot', 'around', 'figure'));
    const [a, b] = ends(around).map((frame) => boxAt(around, frame));
    expect(b!.left).to.be.closeTo(a!.left, 0.5);
    const ground = ends(around).map((frame) => seenBox(around, shotOf(around), layerOf(around, 'ground'), frame)!.left);
    expect(Math.abs(ground[1]! - ground[0]!)).to.be.above(4);
  });

  it('aim at a figure near the upper border rather than cut its head off, and stay strong by that', () => {
    // Its top lies 12 pixels below the border: a push straight ahead would lose it.
    const before = scene([0, -height / 2 + 12 + 3 * 10], 3);
    const moving = apply(before, startMove('shot', 'push', 'figure'));
    const straight = apply(before, startMove('shot', 'push', null));
    expect(staysWhole(straight, shotOf(straight), 'figure')).to.equal(false);
    expect(staysWhole(moving, shotOf(moving), 'figure')).to.equal(true);
    expect(shotOf(moving).camera.last.size).to.equal(shotOf(straight).camera.last.size);
    expect(shotOf(moving).camera.last.y).to.be.below(0);
  });

  it('are made smaller for what nearly fills the frame', () => {
    const big = apply(scene([0, 0], 14.2), startMove('shot', 'push', 'figure'));
    const small = apply(scene([0, 0], 2), startMove('shot', 'push', 'figure'));
    expect(shotOf(big).camera.last.size).to.be.above(shotOf(small).camera.last.size + 0.05);
    expect(staysWhole(big, shotOf(big), 'figure')).to.equal(true);
  });

  it('let what runs out of the picture at rest run out of it', () => {
    // It goes over the lower border, as a portrait does; that side asks for nothing.
    const moving = apply(scene([0, height / 2 - 20], 6), startMove('shot', 'push', 'figure'));
    expect(shotOf(moving).camera.last.size).to.be.closeTo(0.8, 1e-9);
    expect(staysWhole(moving, shotOf(moving), 'figure')).to.equal(true);
  });

  it('replace the Framings and nothing else', () => {
    const before = scene([0, 0], 2);
    const moving = apply(before, startMove('shot', 'slide', 'figure'));
    expect(shotOf(moving).layers).to.deep.equal(shotOf(before).layers);
    const { first, last, hold, ...rest } = shotOf(moving).camera;
    const { first: f, last: l, hold: h, ...same } = shotOf(before).camera;
    expect(rest).to.deep.equal(same);
    expect([f, l, h]).to.deep.equal([restFraming, restFraming, 0]);
    expect(first.size).to.be.closeTo(0.93, 1e-9);
    expect(last.size).to.be.closeTo(0.88, 1e-9);
    expect(hold).to.equal(0);
  });
});

describe('what is seen at the ends of a move', () => {
  it('is the Framing, and with a counter-move what stays of it: the corners of the frame look there', () => {
    for (const hold of [0, 0.5, 1]) {
      const first = { ...restFraming, x: 60, y: -30, size: 0.8 };
      const document = apply(scene([0, 0], 2), setCamera('Counter-move', 'shot', { first, hold }));
      const shot = shotOf(document);
      const seen = seenAtEnd(shot, 'first');
      expect(seen.x).to.be.closeTo(60 * (1 - hold), 1e-9);
      expect(seen.y).to.be.closeTo(-30 * (1 - hold), 1e-9);
      expect(seen.size).to.be.closeTo(0.8, 1e-9);
      // A layer that lies just there at rest fills the frame at that end.
      const view = viewOfPlane(cameraAt(shot, 0), shot.camera.depth)!;
      expect(view.scale * (seen.x + (seen.size * width) / 2) + view.x).to.be.closeTo(width / 2, 1e-6);
      expect(view.scale * (seen.y - (seen.size * height) / 2) + view.y).to.be.closeTo(-height / 2, 1e-6);
    }
  });
});

describe('a subject among the slices of its place', () => {
  const slices = (): Document => apply(empty(), card('near', 4), card('far', 8), card('figure', 3), card('shadow', 3));
  const fasten = setLayer('Fasten', 'shot', 'shadow', {
    fastened: {
      to: 'figure',
      place: [0, 0],
      follow: [1, 1],
      turn: 0,
      grow: 0,
      rotation: 0,
      scale: 1,
      fade: 0,
      shrink: 0,
      touching: false,
      point: null,
      second: null,
    },
  });
  const depthOf = (document: Document, id: string): unknown => layerOf(document, id).depth;

  it('hangs at the distance of the ground it stands on where that is before all slices, else just before the nearest', () => {
    const free = apply(slices(), fasten, placeInDepth('shot', 'figure', ['near', 'far'], 2.5));
    expect(depthOf(free, 'figure')).to.deep.equal({ value: 2.5 });
    const held = apply(slices(), fasten, placeInDepth('shot', 'figure', ['near', 'far'], 6));
    expect(depthOf(held, 'figure')).to.deep.equal({ value: 4 * 0.96 });
    expect(shotOf(held).camera.depth).to.equal(4 * 0.96);
  });

  it('takes its shadow along; without a subject the nearest slice is framed', () => {
    const placed = apply(slices(), fasten, placeInDepth('shot', 'figure', ['near', 'far'], 2.5));
    expect(depthOf(placed, 'shadow')).to.deep.equal({ value: 2.5 });
    const alone = apply(slices(), placeInDepth('shot', null, ['near', 'far'], 2.5));
    expect(shotOf(alone).camera.depth).to.equal(4);
    expect(depthOf(alone, 'figure')).to.deep.equal({ value: 3 });
  });
});
