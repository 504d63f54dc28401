import { expect } from 'chai';
import { emptyDocument, filesOf, untouched, type Document } from '../document/document.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { stillOf } from '../scene/source-pixels.ts';
import { setBlend } from './layer-edits.ts';
import { asHung, hangPicture, liftOut } from './lift-edit.ts';
import { addPicture, addPiece, addRest, canBeCopied, copyRecipe, setCare, setRecipe } from './project-edits.ts';
import type { Edit } from './edit.ts';

const hash = (c: string): string => c.repeat(64);
const bounds = { x: 0, y: 0, width: 320, height: 180 };
const still = { id: 'quay', name: 'Quay', original: hash('a'), file: hash('a'), width: 320, height: 180 };
const clip = { ...still, id: 'sparks', name: 'Sparks', original: hash('b'), file: hash('c') };

const apply = (document: Document, ...edits: Edit[]): Document => edits.reduce((d, edit) => edit.apply(d), document);

/** A still quay, and a clip of 24 frames at 12 a second with a piece unveiled from it. */
const start = (): Document =>
  apply(
    emptyDocument('Lantern Week', { width: 640, height: 360, rate: 30 }, 6, 'shot'),
    addPicture({ ...still, clip: null, background: null }),
    addPicture({ ...clip, clip: { frames: 24, rate: 12 }, background: null }),
    addPiece({ ...untouched, id: 'piece', picture: 'sparks', name: 'Sparks', recipe: { kind: 'unveil', black: 8 } }),
    hangPicture('quay', 'ground'),
  );
const lift = liftOut({
  pieces: [{ piece: 'piece', cutout: { file: hash('d'), bounds }, layer: 'lit' }],
  steps: [],
  backgroundLayer: 'x',
});
const shown = (document: Document, frame: number, layer = 'lit') => {
  const draw = evaluateFrame(document, document.shots[0]!, frame).draws.find((d) => d.layer === layer)!;
  if (draw.content.kind !== 'image') throw new Error('a clip is an image');
  return { ...draw, ...draw.content };
};
const drawn = (document: Document, frame: number) => shown(document, frame);

describe('clips on the Stage', () => {
  it('show the frame that their own rate gives for the playhead, and begin again', () => {
    const document = lift.apply(start());
    const indices = [0, 2, 3, 30, 59, 60, 149].map((frame) => drawn(document, frame).clip!.index);
    expect(indices).to.deep.equal([0, 0, 1, 12, 23, 0, 11]);
    expect(drawn(document, 30)).to.deep.include({ width: 320, height: 180, opaque: false });
    expect(drawn(document, 30).clip!.piece!.id).to.equal('piece');
  });

  it('name every frame and every state of their piece differently, and the same the same', () => {
    const document = lift.apply(start());
    const cared = apply(document, setCare('Soften edge', 'piece', { care: { ...untouched.care, soften: 4 } }));
    const names = [drawn(document, 0), drawn(document, 3), drawn(cared, 0)].map((draw) => draw.file);
    expect(new Set(names).size).to.equal(3);
    expect(drawn(lift.apply(start()), 0).file).to.equal(names[0]);
  });

  it('show whole where nothing was cut out of them, and hide what is behind', () => {
    const document = hangPicture('sparks', 'whole').apply(start());
    const draw = shown(document, 6, 'whole');
    expect(draw.clip).to.deep.equal({ file: hash('b'), index: 2, mix: null, piece: null });
    expect(draw.opaque).to.equal(true);
  });

  it('are recognised by a still, and their files are kept', () => {
    const document = lift.apply(start());
    expect(stillOf(document, { kind: 'piece', piece: 'piece' })).to.equal(hash('d'));
    expect(stillOf(document, { kind: 'background', picture: 'sparks' })).to.equal(hash('c'));
    expect(stillOf(document, { kind: 'background', picture: 'quay' })).to.equal(hash('a'));
    expect(filesOf(document)).to.include.members(['a', 'b', 'c', 'd'].map(hash));
    const ground = { kind: 'difference' as const, ground: hash('e'), low: 10, high: 30 };
    expect(filesOf(apply(document, setRecipe('Difference', 'piece', ground)))).to.include(hash('e'));
  });
});

describe('blending', () => {
  const blendOf = (document: Document): string => document.shots[0]!.layers.find((l) => l.id === 'lit')!.blend;
  const whole = (blend: 'screen' | 'lighten') => setRecipe('Blend', 'piece', { kind: 'whole', blend });

  it('comes with a piece that is its whole picture, and goes when it is cut out after all', () => {
    const blended = apply(start(), whole('screen'), lift);
    expect(blendOf(blended)).to.equal('screen');
    expect(blendOf(apply(blended, whole('lighten'), lift))).to.equal('lighten');
    expect(blendOf(apply(blended, setRecipe('Unveil', 'piece', { kind: 'unveil', black: 8 })))).to.equal('normal');
  });

  it('that was chosen by hand stays when the piece is lifted again', () => {
    const chosen = apply(start(), lift, setBlend('shot', 'lit', 'multiply'), lift);
    expect(blendOf(chosen)).to.equal('multiply');
    expect(drawn(chosen, 0).blend).to.equal('multiply');
    const ground = apply(start(), setBlend('shot', 'ground', 'multiply'));
    expect(evaluateFrame(ground, ground.shots[0]!, 0).draws[0]!.opaque, 'shows what is behind').to.equal(false);
  });
});

describe('what becomes of a piece', () => {
  it('is seen on the Stage before it was lifted, without a change of the project', () => {
    const document = start();
    const hung = asHung(document, 'piece');
    expect(hung.shots[0]!.layers.map((l) => l.source)).to.deep.include({ kind: 'piece', piece: 'piece' });
    expect(document.shots[0]!.layers).to.have.length(1);
    const lifted = lift.apply(document);
    expect(asHung(lifted, 'piece')).to.equal(lifted);
  });

  it('is the rest of it, with its marks the other way round', () => {
    const stroke = { radius: 5, points: [[9, 9]] as [number, number][] };
    const marked = apply(
      start(),
      setCare('Restore', 'piece', {
        care: { ...untouched.care, grow: 3 },
        marks: [{ kind: 'restore', stroke, soft: 0 }],
      }),
    );
    const rest = apply(marked, addRest('piece', 'rest')).pieces.find((p) => p.id === 'rest')!;
    expect(rest.recipe).to.deep.include({ kind: 'combined', inverted: true });
    expect(rest.marks[0]!.kind).to.equal('wipe');
    expect(rest.care.grow).to.equal(-3);
    const twice = apply(marked, addRest('piece', 'rest'), addRest('rest', 'back')).pieces.find((p) => p.id === 'back')!;
    expect(twice.recipe).to.deep.equal({ kind: 'unveil', black: 8 });
  });

  it('is handed on to another picture where its recipe says something about it', () => {
    const copied = apply(start(), copyRecipe('piece', { id: 'copy', picture: 'quay', name: 'Sparks' }));
    expect(copied.pieces.at(-1)).to.deep.include({
      picture: 'quay',
      recipe: { kind: 'unveil', black: 8 },
      cutout: null,
    });
    const masked = apply(start(), setRecipe('Mask', 'piece', { kind: 'mask', file: hash('f'), x: 0, y: 0 }));
    expect(canBeCopied(masked.pieces[0]!)).to.equal(false);
    const same = apply(masked, copyRecipe('piece', { id: 'copy', picture: 'quay', name: 'Sparks' }));
    expect(same.pieces).to.have.length(1);
  });
});
