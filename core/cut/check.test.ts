import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes } from '../pixels/raster.ts';
import { checkPiece } from './check.ts';
import { coverByDabs } from './cover.ts';
import { drawStroke } from './strokes.ts';
import { noCare, withCare } from './edge-care.ts';
import { strokesAlong } from './fringe.ts';

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
    const found = checkPiece(alpha, null);
    expect(found.map((f) => [f.kind, f.size])).to.deep.equal([
      ['hole', 30],
      ['frame', 30],
      ['speck', 16],
    ]);
    expect(found[0]!.bounds).to.deep.equal({ x: 70, y: 60, width: 6, height: 5 });
  });

  it('its strokes mend what was found and leave the rest alone', () => {
    const marks = checkPiece(alpha, null).flatMap((finding) => finding.marks);
    const mended = withCare(alpha, noCare, marks);
    expect(checkPiece(mended, null)).to.deep.equal([]);
    expect(mended.data[62 * 200 + 72]).to.equal(255);
    expect(mended.data[22 * 200 + 171]).to.equal(0);
    expect(mended.data[40 * 200 + 50]).to.equal(255);
    expect(mended.data[10 * 200 + 100]).to.equal(0);
  });

  it('what lies close together is one finding, as large as all of it; what lies apart or is another kind is not', () => {
    const crumbs = makeBytes(300, 200);
    put(crumbs, 40, 30, 150, 140, 255);
    // Three specks in a row, each near the next; a fourth far away; two holes near each other.
    for (const x of [210, 222, 234]) put(crumbs, x, 60, 4, 4, 255);
    put(crumbs, 210, 150, 4, 4, 255);
    for (const x of [80, 90]) put(crumbs, x, 80, 4, 3, 0);
    const found = checkPiece(crumbs, null);
    expect(found.map((f) => [f.kind, f.size, f.bounds.x, f.bounds.width])).to.deep.equal([
      ['speck', 48, 210, 28],
      ['hole', 24, 80, 14],
      ['speck', 16, 210, 4],
    ]);
    const mended = withCare(crumbs, noCare, found[0]!.marks);
    expect([210, 222, 234].map((x) => mended.data[61 * 300 + x])).to.deep.equal([0, 0, 0]);
    expect(mended.data[151 * 300 + 211]).to.equal(255);
  });

  it('all mended together, nothing new is found, whatever there was', () => {
    const random = seededRandom(11);
    for (let run = 0; run < 30; run++) {
      const torn = makeBytes(160, 120);
      put(torn, 20, 15, 110, 90, 255);
      for (let k = 0; k < 14; k++) {
        const [w, h] = [2 + Math.floor(6 * random()), 2 + Math.floor(6 * random())];
        put(torn, Math.floor(random() * (158 - w)), Math.floor(random() * (118 - h)), w, h, random() < 0.5 ? 0 : 255);
      }
      const marks = checkPiece(torn, null).flatMap((finding) => finding.marks);
      expect(checkPiece(withCare(torn, noCare, marks), null), `run ${run}`).to.deep.equal([]);
    }
  });

  it('large openings are meant: a ring is no damaged disc, and two halves are two things', () => {
    const ring = makeBytes(120, 120);
    put(ring, 10, 10, 100, 100, 255);
    put(ring, 40, 40, 40, 40, 0);
    expect(checkPiece(ring, null)).to.deep.equal([]);
    const halves = makeBytes(120, 60);
    put(halves, 10, 10, 40, 40, 255);
    put(halves, 70, 10, 40, 40, 255);
    expect(checkPiece(halves, null)).to.deep.equal([]);
    expect(checkPiece(makeBytes(10, 10), null)).to.deep.equal([]);
  });

  it('finds ground that came along on the edge, and wipes it away without touching the rest', () => {
    const [width, height] = [160, 120];
    const picture = makeRgba(width, height);
    const cut = makeBytes(width, height);
    const random = seededRandom(5);
    for (let i = 0; i < width * height; i++) {
      const [x, y] = [i % width, Math.floor(i / width)];
      const inside = Math.hypot(x - 80, y - 60) < 36;
      const colour = inside ? [180, 60, 44] : [232, 228, 220];
      picture.data.set([...colour.map((v) => v + 8 * (random() - 0.5)), 255], i * 4);
      // The cut reaches three pixels too far on the right.
      if (Math.hypot(x - 80, y - 60) < (x > 90 ? 39 : 36)) cut.data[i] = 255;
    }
    const found = checkPiece(cut, picture);
    expect(found.map((f) => f.kind)).to.deep.equal(['fringe']);
    expect(found[0]!.bounds.x).to.be.at.least(88);
    const mended = withCare(cut, noCare, found[0]!.marks);
    expect(checkPiece(mended, picture).filter((f) => f.kind === 'fringe')).to.deep.equal([]);
    const lost = cut.data.filter(
      (a, i) => a === 255 && mended.data[i]! < 128 && Math.hypot((i % width) - 80, Math.floor(i / width) - 60) < 34,
    );
    expect(lost).to.have.length(0);
    expect(checkPiece(cut, null), 'a key has colours of its own').to.deep.equal([]);
  });

  it("a strip of ground of the subject's own colour is no fringe", () => {
    const picture = makeRgba(80, 60);
    picture.data.fill(120);
    const cut = makeBytes(80, 60);
    put(cut, 20, 10, 40, 40, 255);
    expect(checkPiece(cut, picture)).to.deep.equal([]);
  });

  it('strokes run along a ring and cover it', () => {
    const [width, height] = [90, 90];
    const pixels = Array.from({ length: width * height }, (_, i) => i).filter((i) => {
      const r = Math.hypot((i % width) - 45, Math.floor(i / width) - 45);
      return r > 30 && r < 32.5;
    });
    const drawn = makeBytes(width, height);
    const strokes = strokesAlong(pixels, { width, height }, { x: 12, y: 12, width: 66, height: 66 });
    for (const stroke of strokes) drawStroke(drawn, stroke, 1);
    expect(pixels.filter((i) => drawn.data[i]).length / pixels.length).to.be.greaterThan(0.95);
    expect(strokes.length).to.be.at.most(4);
    expect(drawn.data[45 * width + 45]).to.equal(0);
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
