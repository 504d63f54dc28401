import { expect } from 'chai';
import { makeBytes, makeRgba } from '../core/pixels/raster.ts';
import {
  alphaDifference,
  gradientEnergy,
  intersectionOverUnion,
  mean,
  median,
  psnr,
  recompositionError,
} from './measures.ts';
import { boxAround, flatScene, flatSceneNames } from './truth/flat-scenes.ts';

describe('measures', () => {
  it('overlap is shared area over joint area', () => {
    const mask = makeBytes(4, 1);
    mask.data.set([1, 1, 0, 0]);
    const alpha = makeBytes(4, 1);
    alpha.data.set([255, 0, 200, 10]);
    expect(intersectionOverUnion(mask, alpha)).to.be.closeTo(1 / 3, 1e-9);
    expect(intersectionOverUnion(makeBytes(2, 2), makeBytes(2, 2))).to.equal(1);
  });

  it('alpha difference counts in whole pixels', () => {
    const a = makeBytes(2, 1);
    const b = makeBytes(2, 1);
    a.data.set([255, 51]);
    expect(alphaDifference(a, b)).to.be.closeTo(1.2, 1e-9);
  });

  it('a piece with true alpha and true colours recomposes without error, the old picture with that alpha does not', () => {
    const [picture, background, piece, dirty] = [0, 1, 2, 3].map(() => makeRgba(1, 1)) as [
      ReturnType<typeof makeRgba>,
      ...ReturnType<typeof makeRgba>[],
    ];
    const alpha = makeBytes(1, 1, 102);
    picture.data.set([0.4 * 200 + 0.6 * 50, 0.4 * 100 + 0.6 * 50, 50, 255]);
    background!.data.set([50, 50, 50, 255]);
    piece!.data.set([200, 100, 50, 102]);
    dirty!.data.set([...picture.data.slice(0, 3), 102]);
    const front = makeRgba(1, 1);
    front.data.set([200, 100, 50].map((v) => Math.round(v * 0.4)));
    const truth = { front, alpha };
    expect(recompositionError(piece!, truth, [0, 255, 0])).to.be.lessThan(1);
    expect(recompositionError(dirty!, truth, [0, 255, 0])).to.be.greaterThan(10);
  });

  it('gradient energy of a ramp is its slope in both directions', () => {
    const ramp = makeRgba(5, 5);
    for (let i = 0; i < 25; i++)
      ramp.data.set(
        [i % 5, i % 5, i % 5, 255].map((v, k) => (k < 3 ? v * 10 : v)),
        i * 4,
      );
    expect(gradientEnergy(ramp, () => true)).to.be.closeTo(10, 1e-6);
  });

  it('signal to noise follows its definition and ignores what lies outside the mask', () => {
    const a = makeRgba(2, 1);
    const b = makeRgba(2, 1);
    b.data.set([10, 10, 10, 0, 255, 255, 255, 0]);
    const mask = makeBytes(2, 1);
    mask.data[0] = 1;
    expect(psnr(a, b, mask)).to.be.closeTo(10 * Math.log10(65025 / 100), 1e-9);
    expect(psnr(a, a, mask)).to.equal(Infinity);
  });

  it('mean and median of a few numbers', () => {
    expect(mean([1, 2, 6])).to.equal(3);
    expect(median([9, 1, 5])).to.equal(5);
  });
});

describe('truth scenes', () => {
  it('are pictures that are exactly front and background mixed by their alpha', () => {
    for (const name of flatSceneNames) {
      const { picture, background, alpha } = flatScene(name, 120);
      let outside = 0;
      let n = 0;
      let inside = 0;
      for (let i = 0; i < alpha.data.length; i++) {
        if (alpha.data[i] === 255) inside++;
        if (alpha.data[i] !== 0) continue;
        outside += Math.abs(picture.data[i * 4]! - background.data[i * 4]!);
        n++;
      }
      expect(outside / n, name).to.be.lessThan(0.5);
      expect(inside + alpha.data.filter((a) => a > 127).length, name).to.be.greaterThan(40);
    }
  });

  it('have a box around the subject that holds all of it', () => {
    const { alpha, box } = flatScene('holes', 200);
    for (let i = 0; i < alpha.data.length; i++) {
      if (alpha.data[i]! < 128) continue;
      const [x, y] = [i % 200, Math.floor(i / 200)];
      expect(x >= box.x && x < box.x + box.width && y >= box.y && y < box.y + box.height).to.equal(true);
    }
    expect(boxAround(alpha)).to.deep.equal(box);
  });
});
