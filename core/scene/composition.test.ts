import { expect } from 'chai';
import { cameraOfFraming } from '../depth/camera.ts';
import type { Document } from '../document/document.ts';
import { evaluateFrame } from './evaluate.ts';
import { cameraAt } from './place.ts';
import { setDepth, setHidden, setProperty } from '../edits/layer-edits.ts';
import { transform } from './matrix.ts';
import { liftedDocument } from '../edits/test-lifted.ts';

const shotOf = (document: Document) => document.shots[0]!;
describe('evaluation', () => {
  it('draws far things first; of equal depths the one listed first is nearer', () => {
    const document = liftedDocument();
    const order = (d: Document): string[] => evaluateFrame(d, shotOf(d), 0).draws.map((draw) => draw.layer);
    expect(order(document)).to.deep.equal(['back', 'front']);
    expect(order(setDepth('shot', 'front', 9).apply(document))).to.deep.equal(['front', 'back']);
    expect(order(setDepth('shot', 'front', 6).apply(document))).to.deep.equal(['back', 'front']);
  });

  it('puts the piece, at rest, exactly over where it was in the picture', () => {
    const document = liftedDocument();
    const still = { x: 0, y: 0, z: 0 };
    const { draws } = evaluateFrame(document, shotOf(document), 0, still);
    const back = draws.find((d) => d.layer === 'back')!;
    const front = draws.find((d) => d.layer === 'front')!;
    const [fx, fy] = transform(front.matrix, 0, 0);
    // The background may be enlarged a little about its centre to cover the frame; the piece is measured against the picture itself.
    const scale = 1920 / 1200;
    expect(fx).to.be.closeTo(960 + (500 - 600) * scale, 1e-6);
    expect(fy).to.be.closeTo(540 + (200 - 400) * scale, 1e-6);
    expect(back.opaque).to.equal(true);
  });

  it('changing depth keeps the composition at rest', () => {
    const document = liftedDocument();
    const still = { x: 0, y: 0, z: 0 };
    const before = evaluateFrame(document, shotOf(document), 0, still).draws.find((d) => d.layer === 'front')!.matrix;
    const deeper = setDepth('shot', 'front', 4.2).apply(document);
    expect(
      evaluateFrame(deeper, shotOf(deeper), 0, still).draws.find((d) => d.layer === 'front')!.matrix,
    ).to.deep.equal(before);
  });

  it('leaves out hidden and fully clear layers', () => {
    const document = setHidden('shot', 'back', true).apply(
      setProperty('shot', 'front', 'opacity', 0, 0).apply(liftedDocument()),
    );
    expect(evaluateFrame(document, shotOf(document), 0).draws).to.deep.equal([]);
  });

  it('the camera goes from the first framing to the last', () => {
    const document = liftedDocument();
    const { camera, length } = shotOf(document);
    expect(cameraAt(shotOf(document), 0)).to.deep.equal(cameraOfFraming(camera.first, camera.depth));
    expect(cameraAt(shotOf(document), length - 1)).to.deep.equal(cameraOfFraming(camera.last, camera.depth));
  });
});
