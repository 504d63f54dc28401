import { expect } from 'chai';
import { clipPicture } from './test-clips.ts';
import { newFigure, subjectAt, withMattes, withoutKeyAt, withSubjectAt } from '../document/figure.ts';
import { emptyDocument, filesOf, readDocument, untouched, type Document } from '../document/document.ts';
import type { FigureRecipe, SubjectRecipe } from '../document/recipe.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { layMattes } from './figure-edits.ts';
import { liftOut } from './lift-edit.ts';
import { addPicture, addPiece, removePiece, setRecipe } from './project-edits.ts';

const hash = (c: string): string => c.repeat(64);
const found: SubjectRecipe = { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null };
const stroke = { radius: 4, points: [[10, 10]] as [number, number][] };
const matte = (frame: number): string => frame.toString(16).padStart(64, '0');
const frames = 20;
const cutOf = (list: number[]) => list.map((frame) => ({ frame, matte: matte(frame), changed: 0.02 }));
const all = Array.from({ length: frames }, (_, k) => k);

/** A figure found in frame 4 and cut through the clip. */
const cut = (): FigureRecipe => withMattes(newFigure(4, frames, found), cutOf(all), [0, frames]);

describe('a figure of a clip', () => {
  it('is due in every frame once it was found in one', () => {
    const figure = newFigure(4, frames, found);
    expect(figure.due).to.deep.equal([0, frames]);
    expect(figure.mattes).to.have.length(frames);
    expect(cut().due).to.equal(null);
  });

  it('strokes in another frame correct what was carried there, and what lies between the frames around is due', () => {
    const mended = withSubjectAt(cut(), 10, { ...subjectAt(cut(), 10), drop: [stroke] });
    expect(mended.keys.map(({ frame, base }) => [frame, base])).to.deep.equal([
      [4, null],
      [10, matte(10)],
    ]);
    expect(mended.due).to.deep.equal([4, frames]);
    const more = withSubjectAt(withMattes(mended, cutOf(all.slice(4)), [4, frames]), 15, { ...found, keep: [stroke] });
    expect(more.due).to.deep.equal([10, frames]);
    // More strokes in a frame correct the same alpha again.
    const again = withSubjectAt({ ...more, mattes: more.mattes.map(() => hash('f')) }, 10, {
      ...found,
      drop: [stroke, stroke],
    });
    expect(again.keys[1]!.base).to.equal(matte(10));
    expect(again.due).to.deep.equal([4, frames]);
  });

  it('corrections can be taken back, but not what it was found by', () => {
    const mended = withSubjectAt(cut(), 10, { ...found, drop: [stroke] });
    const back = withoutKeyAt({ ...mended, due: null }, 10);
    expect(back.keys).to.deep.equal(cut().keys);
    expect(back.due).to.deep.equal([4, frames]);
    expect(withoutKeyAt(cut(), 4)).to.deep.equal(cut());
    expect(withoutKeyAt(cut(), 7)).to.deep.equal(cut());
  });

  it('that was stopped keeps what was cut, and the rest stays due', () => {
    const stopped = withMattes(newFigure(0, frames, found), cutOf(all.slice(0, 8)), [0, frames]);
    expect(stopped.due).to.deep.equal([8, frames]);
    expect(stopped.mattes.filter((m) => m !== null)).to.have.length(8);
  });

  const start = (recipe: FigureRecipe): Document =>
    [
      addPicture(clipPicture(frames, 30)),
      addPiece({ ...untouched, id: 'piece', picture: 'crab', name: 'Crab', recipe }),
    ].reduce(
      (d, edit) => edit.apply(d),
      emptyDocument('Lantern Week', { width: 640, height: 360, rate: 30 }, 1, 'shot'),
    );
  const recipeOf = (document: Document): FigureRecipe => document.pieces[0]!.recipe as FigureRecipe;

  it('frames are laid in where they belong, or nowhere', () => {
    const fresh = start(newFigure(0, frames, found));
    const { keys } = recipeOf(fresh);
    const laid = layMattes('piece', 'first', keys, cutOf([0, 1]), [0, frames]).apply(fresh);
    expect(recipeOf(laid).mattes.slice(0, 3)).to.deep.equal([matte(0), matte(1), null]);
    expect(readDocument(JSON.parse(JSON.stringify(laid)))).to.deep.equal(laid);
    expect(filesOf(laid)).to.include.members([matte(0), matte(1)]);
    const other = setRecipe('Stroke', 'piece', withSubjectAt(recipeOf(fresh), 0, { ...found, keep: [stroke] })).apply(
      fresh,
    );
    expect(layMattes('piece', 'first', keys, cutOf([0]), [0, frames]).apply(other)).to.deep.equal(other);
    const none = removePiece('piece').apply(fresh);
    expect(layMattes('piece', 'first', keys, cutOf([0]), [0, frames]).apply(none)).to.deep.equal(none);
  });

  it('is drawn anew where the alpha of its frame is another one, and only there', () => {
    const bounds = { x: 0, y: 0, width: 320, height: 180 };
    const lift = liftOut({
      pieces: [{ piece: 'piece', cutout: { file: hash('d'), bounds }, layer: 'crab-layer' }],
      steps: [],
      backgroundLayer: 'x',
    });
    const named = (document: Document, frame: number): string => {
      const { content } = evaluateFrame(document, document.shots[0]!, frame).draws.find(
        (d) => d.layer === 'crab-layer',
      )!;
      return content.kind === 'image' ? content.file : '';
    };
    const before = lift.apply(start(cut()));
    const changed = setRecipe(
      'Cut',
      'piece',
      withMattes(cut(), [{ frame: 6, matte: hash('e'), changed: 0 }], [6, 7]),
    ).apply(before);
    expect(named(changed, 6)).to.not.equal(named(before, 6));
    expect(named(changed, 7)).to.equal(named(before, 7));
  });
});
