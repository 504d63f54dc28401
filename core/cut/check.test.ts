import { expect } from 'chai';
import { makeBytes, type Bytes } from '../pixels/raster.ts';
import { checkPiece } from './check.ts';
import { coverByDabs } from './cover.ts';
import { drawStroke } from './strokes.ts';
import { noCare, withCare } from './edge-care.ts';

function put(alpha: Bytes, x: number, y: number, width: number, height: number, value: number): void {
  for (let row = y; row < y + height; row++)
    alpha.data.fill(value, row * alpha.width + x, row * alpha.width + x + width);
}

describe('checking a piece', () => {
  const alpha = makeBytes(200, 140);
  put(alpha, 40, 30, 100, 80, 255);
  put(alpha, 70, 60, 6, 5, 0);
  put(alpha, 170, 20, 4, 4, 255);
  put(alpha, 0, 120, 5, 6, 255);

  it('finds the hole, the speck and the leftover at the frame, largest first, and nothing else', () => {
    const found = checkPiece(alpha);
    expect(found.map((f) => [f.kind, f.size])).to.deep.equal([
      ['hole', 30],
      ['frame', 30],
      ['speck', 16],
    ]);
    expect(found[0]!.bounds).to.deep.equal({ x: 70, y: 60, width: 6, height: 5 });
  });

  it('its strokes mend what was found and leave the rest alone', () => {
    const marks = checkPiece(alpha).flatMap((finding) => finding.marks);
    const mended = withCare(alpha, noCare, marks);
    expect(checkPiece(mended)).to.deep.equal([]);
    expect(mended.data[62 * 200 + 72]).to.equal(255);
    expect(mended.data[22 * 200 + 171]).to.equal(0);
    expect(mended.data[40 * 200 + 50]).to.equal(255);
    expect(mended.data[10 * 200 + 100]).to.equal(0);
  });

  it('large openings are meant: a ring is no damaged disc, and two halves are two things', () => {
    const ring = makeBytes(120, 120);
    put(ring, 10, 10, 100, 100, 255);
    put(ring, 40, 40, 40, 40, 0);
    expect(checkPiece(ring)).to.deep.equal([]);
    const halves = makeBytes(120, 60);
    put(halves, 10, 10, 40, 40, 255);
    put(halves, 70, 10, 40, 40, 255);
    expect(checkPiece(halves)).to.deep.equal([]);
    expect(checkPiece(makeBytes(10, 10))).to.deep.equal([]);
  });

  it('dabs cover nearly all of a mask of any shape', () => {
    const mask = makeBytes(80, 60);
    put(mask, 10, 10, 50, 6, 1);
    put(mask, 30, 10, 7, 40, 1);
    const drawn = makeBytes(80, 60);
    for (const stroke of coverByDabs(mask, { factor: 1, more: 0, scale: 1 })) drawStroke(drawn, stroke, 1);
    let [all, covered] = [0, 0];
    for (let i = 0; i < mask.data.length; i++) {
      all += mask.data[i]!;
      covered += mask.data[i]! & drawn.data[i]!;
    }
    expect(covered / all).to.be.greaterThan(0.95);
    const large = coverByDabs(mask, { factor: 2, more: 1, scale: 4 });
    expect(large[0]!.radius).to.be.greaterThan(4 * 3);
  });
});
