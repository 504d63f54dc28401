import { expect } from 'chai';
import jsonPatch from 'fast-json-patch';
import { seededRandom } from '../pixels/random.ts';
import { emptyDocument, filesOf, readDocument, untouched, type Document } from '../document/document.ts';
import type { Edit } from './edit.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import {
  addKey,
  fastenLayer,
  removeKey,
  removeLayer,
  setDepth,
  setFastening,
  setHidden,
  setProperty,
} from './layer-edits.ts';
import { setFraming } from './camera-edits.ts';
import { restFraming } from '../document/shot.ts';
import { stageEdits } from './test-stage-user.ts';
import { liftOut } from './lift-edit.ts';
import { addTake, setPlate } from './plate-edits.ts';
import { emptyGuides, firstBehind, type PlateStep } from '../document/plate.ts';
import {
  addPicture,
  addPiece,
  addRest,
  addShadow,
  canBeCopied,
  copyRecipe,
  removePicture,
  removePiece,
  renamePiece,
  setCare,
  setFrameRate,
  setFrameSize,
  setRecipe,
  setShotLength,
  setTouchedCutout,
  splitPiece,
} from './project-edits.ts';
import { inverted, stepsOf, withoutStep, withStep, withStepAdded, withStepMoved } from '../document/recipe-steps.ts';
import type { CutRecipe, RecipeStep } from '../document/recipe.ts';

/** Edits chosen at random from what can be done to a document as it stands: what a restless user does in a minute. */
class RestlessUser {
  private readonly random: () => number;
  private made = 0;

  constructor(seed: number) {
    this.random = seededRandom(seed);
  }

  next(document: Document): Edit {
    const possible = [
      ...this.onProject(),
      ...document.pictures.flatMap((p) => this.onPicture(document, p.id)),
      ...document.pieces.flatMap((p) => this.onPiece(document, p.id)),
      ...document.shots[0]!.layers.flatMap((l) => this.onLayer(document, l.id)),
    ];
    const dice = { below: (n: number) => this.below(n), random: this.random, id: (kind: string) => this.id(kind) };
    if (this.random() < 0.5) possible.splice(0, possible.length, ...stageEdits(dice, document));
    return possible[this.below(possible.length)]!();
  }

  private below(n: number): number {
    return Math.floor(this.random() * n);
  }

  private id(kind: string): string {
    return `${kind}-${++this.made}`;
  }

  private hash(): string {
    return Array.from({ length: 64 }, () => this.below(16).toString(16)).join('');
  }

  private stroke() {
    return { radius: 1 + this.below(40), points: [[this.below(300), this.below(200)] as [number, number]] };
  }

  private bounds() {
    return { x: this.below(100), y: this.below(80), width: 1 + this.below(100), height: 1 + this.below(80) };
  }

  private onProject(): (() => Edit)[] {
    return [
      () =>
        addPicture({
          id: this.id('picture'),
          name: `Quay ${this.made}`,
          original: this.hash(),
          file: this.hash(),
          width: 300,
          height: 200,
          clip: null,
          background: null,
        }),
      () => setFrameRate([12, 24, 25, 30][this.below(4)]!),
      () => setFrameSize(100 + this.below(900), 100 + this.below(900)),
      () => setShotLength('shot', 1 + this.below(200)),
      () =>
        setFraming('shot', 'last', {
          ...restFraming,
          x: this.below(80) - 40,
          y: this.below(80) - 40,
          size: 0.4 + this.random(),
        }),
    ];
  }

  private onPicture(document: Document, picture: string): (() => Edit)[] {
    const steps = document.pictures.find((p) => p.id === picture)!.background?.steps ?? [];
    const step = (): PlateStep => ({
      kind: 'rebuild',
      id: this.id('step'),
      file: this.hash(),
      bounds: { x: 0, y: 0, width: 300, height: 200 },
      seed: 1,
      takes: [],
      mix: [],
      guides: emptyGuides,
      region: [this.stroke()],
    });
    const piece = () => ({
      ...untouched,
      id: this.id('piece'),
      picture,
      name: `Piece ${this.made}`,
      recipe: { kind: 'unveil' as const, black: 8 },
    });
    return [
      () => addPiece(piece()),
      () => addPiece({ ...piece(), recipe: { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null } }),
      () => setPlate('Rebuild', picture, [...steps, step()], this.id('layer')),
      () => setPlate('Delete step', picture, steps.slice(0, -1), this.id('layer')),
      ...steps.map(
        (s) => () => addTake(picture, s.id, { seed: this.below(9), file: this.hash(), bounds: this.bounds() }),
      ),
      ...(this.random() < 0.2 ? [() => removePicture(picture)] : []),
    ];
  }

  private onRecipe(recipe: CutRecipe): CutRecipe[] {
    const steps = stepsOf(recipe);
    const { id, muted } = steps[this.below(steps.length)]!;
    const added: RecipeStep = {
      id: this.id('step'),
      how: (['add', 'take', 'within'] as const)[this.below(3)]!,
      muted: false,
      recipe: this.random() < 0.5 ? { kind: 'unveil', black: 8 } : { kind: 'whole', blend: 'screen' },
    };
    const changed = [withStep(recipe, id, { muted: !muted }), withoutStep(recipe, id), withStepMoved(recipe, id, 1)];
    return [...(steps.length < 20 ? [withStepAdded(recipe, added)] : []), ...changed, inverted(recipe)];
  }

  private onPiece(document: Document, id: string): (() => Edit)[] {
    const piece = document.pieces.find((p) => p.id === id)!;
    const lift = (): Edit =>
      liftOut({
        pieces: [{ piece: id, cutout: { file: this.hash(), bounds: this.bounds() }, layer: this.id('layer') }],
        steps: [
          {
            ...firstBehind,
            id: this.id('step'),
            file: this.hash(),
            bounds: { x: 0, y: 0, width: 300, height: 200 },
            takes: [],
          },
        ],
        backgroundLayer: this.id('layer'),
      });
    const split = (): Edit =>
      splitPiece(
        id,
        Array.from({ length: 2 + this.below(3) }, () => ({
          id: this.id('piece'),
          layer: this.id('layer'),
          file: this.hash(),
          alphaFile: this.hash(),
          bounds: this.bounds(),
        })),
      );
    const shadow = (): Edit =>
      addShadow({ id: this.id('piece'), name: `${piece.name} shadow`, of: id, region: [this.stroke()] });
    const { recipe } = piece;
    const onCut: (() => Edit)[] =
      recipe.kind === 'shadow'
        ? []
        : [
            split,
            shadow,
            ...this.onRecipe(recipe).map((next) => () => setRecipe('Change steps', id, next)),
            () => addRest(id, this.id('piece')),
            ...(canBeCopied(piece)
              ? [() => copyRecipe(id, { id: this.id('piece'), picture: piece.picture, name: 'Copy' })]
              : []),
            () => setRecipe('Cut by colour', id, { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 }),
            () =>
              setCare('Soften edge', id, {
                care: { grow: this.below(9) - 4, soften: this.below(20), smooth: this.below(4), clean: 1 },
              }),
            () => setCare('Restore', id, { marks: [{ kind: 'restore', stroke: this.stroke(), soft: 0.4 }] }),
          ];
    return [
      lift,
      ...onCut,
      () => renamePiece(id, `Float ${this.below(100)}`),
      () => setTouchedCutout(id, [{ kind: 'gone', stroke: this.stroke(), seed: 1 }], this.hash()),
      ...(this.random() < 0.3 ? [() => removePiece(id)] : []),
    ];
  }

  private onLayer(document: Document, id: string): (() => Edit)[] {
    const { layers } = document.shots[0]!;
    const other = layers[this.below(layers.length)]!.id;
    const frame = this.below(60);
    return [
      () => setProperty('shot', id, 'position', frame, [this.below(400) - 200, this.below(400) - 200]),
      () => addKey('shot', id, 'scale', frame, 0.2 + this.random()),
      () => removeKey('shot', id, 'scale', frame),
      () => setDepth('shot', id, 0.5 + 9 * this.random()),
      () => setHidden('shot', id, this.random() < 0.5),
      () => fastenLayer('shot', id, other === id ? null : other, 0),
      () => setFastening('shot', id, { fade: this.random(), follow: [this.random(), 0] }),
      ...(this.random() < 0.3 ? [() => removeLayer('shot', id)] : []),
    ];
  }
}

describe('edits, whatever is done in whatever order', () => {
  for (const seed of [1, 2, 3, 4, 5, 6]) {
    it(`leave a document that opens, from any document, without touching the one before (${seed})`, () => {
      const user = new RestlessUser(seed);
      let document = emptyDocument('Lantern Week', { width: 320, height: 200, rate: 30 }, 2, 'shot');
      for (let step = 0; step < 160; step++) {
        const before = JSON.stringify(document);
        const edit = user.next(document);
        const after = edit.apply(document);
        expect(JSON.stringify(document), edit.name).to.equal(before);
        expect(() => readDocument(JSON.parse(JSON.stringify(after))), edit.name).to.not.throw();
        // What is sent to the server gives the same document there.
        const patch = jsonPatch.compare(document, after);
        const there = jsonPatch.applyPatch(JSON.parse(before), patch).newDocument as Document;
        expect(there, edit.name).to.deep.equal(JSON.parse(JSON.stringify(after)));
        document = after;
        if (document.pictures.length > 5) document = removePicture(document.pictures[0]!.id).apply(document);
      }
      // Everything that is drawn is a file the document names, and every number drawn is a number.
      const files = new Set(filesOf(document));
      for (const frame of [0, 7, 59]) {
        for (const draw of evaluateFrame(document, document.shots[0]!, frame).draws) {
          if (draw.content.kind === 'image') expect(files.has(draw.content.file)).to.equal(true);
          expect(draw.matrix.every(Number.isFinite)).to.equal(true);
          expect(draw.opacity).to.be.within(0, 1);
        }
      }
    });
  }

  it('have a name each, for the undo button', () => {
    const user = new RestlessUser(9);
    let document = emptyDocument('Lantern Week', { width: 320, height: 200, rate: 30 }, 2, 'shot');
    const names = new Set<string>();
    for (let step = 0; step < 200; step++) {
      const edit = user.next(document);
      names.add(edit.name);
      document = edit.apply(document);
    }
    expect(names.size).to.be.greaterThan(12);
    for (const name of names) expect(name).to.match(/^[A-Z][a-z ]+$/);
  });
});
