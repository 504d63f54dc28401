import { expect } from 'chai';
import { withCare } from '../cut/edge-care.ts';
import { makeBytes, makeRgba, type Rgba } from '../pixels/raster.ts';
import { colouredBy, keyed, maskOnPicture, standsInPicture } from './cut-piece.ts';

function before(screen: [number, number, number]): Rgba {
  const picture = makeRgba(80, 60);
  for (let i = 0; i < 4800; i++) {
    const inside = Math.hypot((i % 80) - 40, Math.floor(i / 80) - 30) < 15;
    picture.data.set(inside ? [200, 180, 150, 255] : [...screen, 255], i * 4);
  }
  return picture;
}

describe('pieces from recipes', () => {
  it('each kind of key takes what it says', () => {
    const green = keyed(before([40, 180, 70]), { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 });
    const dark = keyed(before([6, 6, 6]), { kind: 'luma', drop: 'dark', low: 20, high: 100 });
    const light = keyed(before([250, 250, 250]), { kind: 'luma', drop: 'light', low: 200, high: 240 });
    const lit = keyed(before([0, 0, 0]), { kind: 'unveil', black: 0 });
    for (const { alpha } of [green, dark, light]) {
      expect(alpha.data[30 * 80 + 40]).to.equal(255);
      expect(alpha.data[0]).to.equal(0);
    }
    expect(lit.alpha.data[30 * 80 + 40]).to.equal(200);
    expect(lit.colours.data[(30 * 80 + 40) * 4]).to.equal(255);
  });

  it("a key's colours stay under edge care; what is restored shows the picture's own", () => {
    const picture = before([40, 180, 70]);
    const found = keyed(picture, { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 });
    const marks = [
      { kind: 'restore' as const, stroke: { radius: 4, points: [[6, 6]] as [number, number][] }, soft: 0 },
    ];
    const restored = withCare(found.alpha, { grow: 0, soften: 0 }, marks);
    const out = colouredBy(picture, found, restored);
    expect([...out.data.slice((6 * 80 + 6) * 4, (6 * 80 + 6) * 4 + 4)]).to.deep.equal([40, 180, 70, 255]);
    expect([...out.data.slice((30 * 80 + 40) * 4, (30 * 80 + 40) * 4 + 3)]).to.deep.equal([200, 180, 150]);
    const shrunk = colouredBy(picture, found, withCare(found.alpha, { grow: -4, soften: 0 }, []));
    expect(shrunk.data[(30 * 80 + 27) * 4 + 3]).to.equal(0);
  });

  it('a stored mask lies at its place in the picture', () => {
    const mask = makeBytes(4, 3, 200);
    const whole = maskOnPicture(mask, 10, 20, before([0, 0, 0]));
    expect(whole.data[20 * 80 + 10]).to.equal(200);
    expect(whole.data[22 * 80 + 13]).to.equal(200);
    expect(whole.data.reduce((sum, v) => sum + v, 0)).to.equal(12 * 200);
  });

  it('says behind which pieces there is something to rebuild', () => {
    expect(standsInPicture({ kind: 'mask', file: 'a'.repeat(64), x: 0, y: 0 })).to.equal(true);
    expect(standsInPicture({ kind: 'unveil', black: 8 })).to.equal(false);
  });
});
