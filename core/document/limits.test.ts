import { expect } from 'chai';
import { setFraming } from '../edits/camera-edits.ts';
import { documentSchema, emptyDocument, type Document } from './document.ts';
import { defineEdit } from '../edits/edit.ts';
import { plainLayer } from './layer.ts';
import { RefusedEdit, withinLimits } from './limits.ts';
import { renameProject } from '../edits/project-edits.ts';
import { longestName } from './schema-parts.ts';
import { restFraming } from './shot.ts';

const empty = (): Document => emptyDocument('Lantern Week', { width: 1920, height: 1080, rate: 30 }, 6, 'shot');
const change = (what: (draft: Document) => void): Document => defineEdit('Change', what)().apply(empty());

describe('limits of a document', () => {
  it('a sound one is given back as it is', () => {
    const document = renameProject('Harbour Trust').apply(empty());
    expect(withinLimits(document)).to.equal(document);
  });

  it('numbers beyond their limits come to the nearest one allowed, also in the camera, and all else stays', () => {
    const rolled = setFraming('shot', 'last', { ...restFraming, roll: 4000, size: 0.001 }).apply(empty());
    const { camera } = withinLimits(rolled).shots[0]!;
    expect(camera.last).to.deep.equal({ ...restFraming, roll: 3600, size: 0.05 });
    expect(camera.first).to.deep.equal(restFraming);
    expect(documentSchema.safeParse(withinLimits(rolled)).success).to.equal(true);
  });

  it('whole numbers are rounded, names are cut to their length and never inside a character', () => {
    const mended = withinLimits(
      change((d) => {
        d.shots[0]!.length = 99.6;
        d.name = '🏮'.repeat(300);
      }),
    );
    expect([mended.shots[0]!.length, mended.name]).to.deep.equal([100, '🏮'.repeat(longestName / 2)]);
  });

  it('motion of a layer is found inside the kinds a property can have', () => {
    const layer = { ...plainLayer, id: 'l', name: 'l', source: { kind: 'carrier' as const } };
    const place = { depth: { value: 3 }, pivot: { value: [0, 0] }, position: { value: [0, 0] } };
    const shaken = { ...layer, ...place, rotation: { value: 0, jitter: { amount: 1, period: -5, seed: 1 } } };
    const mended = withinLimits(change((d) => void d.shots[0]!.layers.push(shaken as never)));
    expect(documentSchema.safeParse(mended).success).to.equal(true);
  });

  it('what is no number, or names what is not there, is refused with a sentence', () => {
    expect(() => withinLimits(change((d) => void (d.shots[0]!.camera.first.x = NaN)))).to.throw(
      RefusedEdit,
      /not done/,
    );
    const ghost = (d: Document): void => void d.pieces.push({ id: 'p', picture: 'gone', name: 'p' } as never);
    expect(() => withinLimits(change(ghost))).to.throw(RefusedEdit);
  });
});
