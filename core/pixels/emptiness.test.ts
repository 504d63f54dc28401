import { expect } from 'chai';
import {
  asMuchAsThere,
  emptinessOf,
  emptyLike,
  goneOn,
  noMoreThanThere,
  notEmpty,
  onPlainGround,
  orEmpty,
  shareOfThere,
  withColoursGoingOn,
} from './emptiness.ts';
import { seededRandom } from './random.ts';
import { alphaOf, cropBytes, makeBytes, makeRgba, type Bytes, type Rgba } from './raster.ts';

/** Blots of something, partly seen through, on nothing. */
function blots(width: number, height: number, seed: number): Rgba {
  const random = seededRandom(seed);
  const picture = makeRgba(width, height);
  const places = Array.from({ length: 4 }, () => [random() * width, random() * height, 1 + random() * 4]);
  for (let i = 0; i < width * height; i++) {
    const inside = places.some(([x, y, r]) => Math.hypot((i % width) - x!, Math.floor(i / width) - y!) < r!);
    const alpha = inside ? [255, 255, 128, 20, 9][Math.floor(random() * 5)]! : 0;
    picture.data.set([random() * 255, random() * 255, random() * 255, alpha], i * 4);
  }
  return picture;
}

describe('what a picture leaves empty', () => {
  const [width, height] = [23, 17];
  const colourOf = (picture: Rgba, i: number): number[] => [...picture.data.subarray(i * 4, i * 4 + 3)];

  it('goes on from the nearest that shows a colour, as a search over all of it finds', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const picture = blots(width, height, seed);
      const { own, from } = emptinessOf(picture)!;
      const shown = [...own.data.keys()].filter((i) => own.data[i]! >= 16);
      const away = (i: number, j: number): number =>
        Math.abs((i % width) - (j % width)) + Math.abs(Math.floor(i / width) - Math.floor(j / width));
      const whole = withColoursGoingOn(picture);
      expect([...alphaOf(whole).data], 'alpha stays').to.deep.equal([...own.data]);
      for (let i = 0; i < width * height; i++) {
        expect(own.data[from[i]!]!).at.least(16);
        expect(away(i, from[i]!)).to.equal(Math.min(...shown.map((j) => away(i, j))));
        expect(colourOf(whole, i)).to.deep.equal(colourOf(picture, from[i]!));
      }
    }
  });

  it('is nothing where all is opaque: then everything stays the same object', () => {
    const picture = makeRgba(5, 4);
    picture.data.fill(255);
    const alpha = makeBytes(5, 4, 90);
    expect(emptinessOf(picture)).to.equal(null);
    expect(withColoursGoingOn(picture)).to.equal(picture);
    expect(onPlainGround(picture)).to.equal(picture);
    expect(emptyLike(picture, picture)).to.equal(picture);
    for (const f of [asMuchAsThere, shareOfThere, noMoreThanThere, goneOn, orEmpty, notEmpty])
      expect(f(alpha, picture), f.name).to.equal(alpha);
  });

  it('is all of a picture that shows nothing: it has no colours to go on', () => {
    const picture = makeRgba(6, 5);
    expect([...withColoursGoingOn(picture).data]).to.deep.equal([...picture.data]);
    expect([...asMuchAsThere(makeBytes(6, 5, 255), picture).data]).to.deep.equal(Array(30).fill(0));
    expect([...orEmpty(makeBytes(6, 5), picture).data]).to.deep.equal(Array(30).fill(1));
    expect(onPlainGround(picture).data[3]).to.equal(255);
  });

  it('takes as much of an alpha as there is, whole or of a part; the share of what is there is its inverse', () => {
    const picture = blots(width, height, 3);
    const own = alphaOf(picture);
    const random = seededRandom(9);
    const share: Bytes = { ...own, data: own.data.map(() => Math.floor(random() * 256)) };
    const taken = asMuchAsThere(share, picture);
    taken.data.forEach((a, i) => expect(a).closeTo((share.data[i]! * own.data[i]!) / 255, 0.5));
    const part = { x: 4, y: 3, width: 9, height: 7 };
    expect([...asMuchAsThere(cropBytes(share, part), picture, part.x, part.y).data]).to.deep.equal([
      ...cropBytes(taken, part).data,
    ]);
    const again = asMuchAsThere(shareOfThere(taken, picture), picture);
    own.data.forEach((a, i) => {
      if (a >= 16 || a === 0) expect(again.data[i]).to.equal(taken.data[i]);
    });
    noMoreThanThere(share, picture).data.forEach((a, i) => expect(a).to.equal(Math.min(share.data[i]!, own.data[i]!)));
  });

  it('counts as empty in masks where less than half is there, and is laid over another picture as it is', () => {
    const picture = blots(width, height, 5);
    const own = alphaOf(picture);
    const mask: Bytes = { ...own, data: own.data.map((_, i) => i % 2) };
    orEmpty(mask, picture).data.forEach((v, i) => expect(v).to.equal(own.data[i]! < 128 ? 1 : i % 2));
    notEmpty(mask, picture).data.forEach((v, i) => expect(v).to.equal(own.data[i]! < 128 ? 0 : i % 2));
    const other = makeRgba(width, height);
    other.data.fill(200);
    const laid = emptyLike(other, picture);
    expect([...alphaOf(laid).data]).to.deep.equal([...own.data]);
    expect(colourOf(laid, 7)).to.deep.equal([200, 200, 200]);
  });

  it('stands on a ground unlike what borders on it', () => {
    for (const [thing, ground] of [
      [20, 255],
      [235, 0],
      [120, 255],
    ] as const) {
      const picture = makeRgba(12, 12);
      for (let y = 3; y < 9; y++)
        for (let x = 3; x < 9; x++) picture.data.set([thing, thing, thing, 255], (y * 12 + x) * 4);
      const plain = onPlainGround(picture);
      expect(colourOf(plain, 0)).to.deep.equal([ground, ground, ground]);
      expect(colourOf(plain, 5 * 12 + 5)).to.deep.equal([thing, thing, thing]);
      expect(alphaOf(plain).data.every((a) => a === 255)).to.equal(true);
    }
  });
});
