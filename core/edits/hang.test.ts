import { expect } from 'chai';
import type { PlateStep } from '../document/plate.ts';
import { untouched } from '../document/document.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { transform } from '../scene/matrix.ts';
import { hangables, hangInShot, hangPicture } from './lift-edit.ts';
import { pictureOfBackground, setPlate } from './plate-edits.ts';
import { addPicture, addPiece } from './project-edits.ts';
import { addShot } from './shot-edits.ts';
import { apply, empty, hash, height, near, width } from './test-cards.ts';

const picture = { id: 'quay', name: 'Quay', original: hash('a'), file: hash('a'), width: 800, height: 300, clip: null };
const bounds = { x: 100, y: 40, width: 200, height: 120 };

const project = () =>
  apply(
    empty(),
    addPicture({ ...picture, background: null }),
    addPiece({
      ...untouched,
      id: 'float',
      picture: 'quay',
      name: 'Float',
      recipe: { kind: 'unveil', black: 8 },
      cutout: { file: hash('b'), bounds },
    }),
    addPiece({ ...untouched, id: 'draft', picture: 'quay', name: 'Draft', recipe: { kind: 'unveil', black: 8 } }),
    hangPicture('quay', 'first-ground'),
    addShot('shot', 'second'),
  );

describe('hanging things in another shot', () => {
  it('offers pieces that were lifted, and the pictures', () => {
    expect(hangables(project()).map(({ name }) => name)).to.deep.equal(['Float', 'Quay']);
  });

  it('offers a picture as it came beside its rebuilt background, and hangs either', () => {
    const made = { file: hash('c'), bounds: { x: 0, y: 0, width: 800, height: 300 } };
    const step = {
      id: 's',
      kind: 'retouch',
      ...made,
      touches: [{ kind: 'gone', stroke: { radius: 4, points: [[9, 9]] }, seed: 1 }],
    } as unknown as PlateStep;
    const rebuilt = apply(project(), setPlate('Rebuild', 'quay', [step], 'quay-ground'));
    const there = hangables(rebuilt);
    expect(there.map(({ kind, name }) => [kind, name])).to.deep.equal([
      ['piece', 'Float'],
      ['background', 'Quay background'],
      ['picture', 'Quay'],
    ]);
    const hung = apply(rebuilt, hangInShot('second', there[2]!, 'whole'), hangInShot('second', there[1]!, 'ground'));
    expect(hung.shots[1]!.layers.map(({ source }) => source)).to.deep.equal([
      { kind: 'background', picture: 'quay' },
      { kind: 'picture', picture: 'quay' },
    ]);
  });

  it('each lies where it lies in its picture, which just covers the frame; the first shot stays as it was', () => {
    const [float, quay] = hangables(project());
    const hung = apply(project(), hangInShot('second', quay!, 'ground'), hangInShot('second', float!, 'piece'));
    expect(hung.shots[0]!.layers.map(({ id }) => id)).to.deep.equal(['first-ground']);
    const [ground, piece] = evaluateFrame(hung, hung.shots[1]!, 0).draws;
    // 800 x 300 in 400 x 300: as high as the frame, its middle in that of the frame.
    near(transform(ground!.matrix, 400, 150), [width / 2, height / 2]);
    near(transform(ground!.matrix, 400, 0), [width / 2, 0]);
    near(transform(piece!.matrix, 0, 0), transform(ground!.matrix, bounds.x, bounds.y));
    expect(piece!.width).to.equal(bounds.width);
  });

  it('what hangs twice has two names and two ids', () => {
    const [float] = hangables(project());
    const twice = apply(project(), hangInShot('second', float!, 'one'), hangInShot('second', float!, 'two'));
    expect(twice.shots[1]!.layers.map(({ name }) => name)).to.deep.equal(['Float 2', 'Float']);
  });

  it('a background becomes a picture to cut from, and leaves the Stage where nothing was lifted', () => {
    const wide = { x: -100, y: 0, width: 1000, height: 300 };
    const step: PlateStep = {
      id: 's',
      kind: 'widen',
      file: hash('d'),
      bounds: wide,
      seed: 1,
      takes: [],
      mix: [],
      pad: { left: 100, top: 0, right: 100, bottom: 0 },
    };
    const widened = apply(
      empty(),
      addPicture({ ...picture, background: null }),
      setPlate('Widen', 'quay', [step], 'ground'),
    );
    expect(widened.shots[0]!.layers.map(({ id }) => id)).to.deep.equal(['ground']);
    const made = apply(widened, pictureOfBackground('quay', 'whole'));
    expect(made.pictures[1]).to.deep.equal({
      ...{ id: 'whole', name: 'Quay remade', original: hash('d'), file: hash('d'), width: 1000, height: 300 },
      ...{ clip: null, background: null },
    });
    expect(made.shots[0]!.layers).to.have.length(0);
    // What was lifted before keeps its ground.
    const lifted = apply(project(), setPlate('Widen', 'quay', [step], 'ground'), pictureOfBackground('quay', 'whole'));
    expect(lifted.shots.flatMap(({ layers }) => layers.map(({ id }) => id))).to.include('first-ground');
  });
});
