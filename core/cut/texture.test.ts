import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makePlane, type Bytes, type Rgba } from '../pixels/raster.ts';
import { CutPicture } from './cut-picture.ts';
import { FREE, KEEP } from './graph-cut.ts';
import { textureOdds, texturesOf, withTexture } from './texture.ts';
import { CutSession } from './subject.ts';

/** A grey picture by a function of its places, 0..255. */
function greyPicture(width: number, height: number, at: (x: number, y: number) => number): Rgba {
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let i = 0; i < width * height; i++) data.fill(at(i % width, Math.floor(i / width)), i * 4, i * 4 + 3);
  return { width, height, data };
}

const size = { width: 300, height: 200 };
const stripes = (along: number, brightness: number): number => brightness * (1 + 0.2 * Math.sin(along * 0.9));
const cellAt = (textures: Bytes, x: number, y: number): number => textures.data[y * textures.width + x]!;

/** Whether a place lies in the disc in the middle. */
const inDisc = (x: number, y: number): boolean => Math.hypot(x - 150, y - 100) < 55;

describe('textures', () => {
  it('tell stripes that run across from stripes that run down and from plain ground, however bright each is', () => {
    const picture = greyPicture(300, 200, (x, y) => {
      const brightness = y < 100 ? 220 : 110;
      return x < 100 ? stripes(x, brightness) : x < 200 ? stripes(y, brightness) : brightness;
    });
    const found = texturesOf(picture, size);
    const rows = [40, 160].map((y) => [50, 150, 250].map((x) => cellAt(found, x, y)));
    expect(new Set(rows[0]).size).to.equal(3);
    // A step of a sixteenth apart at most where it is half as bright: bytes are whole numbers.
    rows[0]!.forEach((cell, k) => {
      expect(Math.abs((cell >> 4) - (rows[1]![k]! >> 4))).to.be.at.most(1);
      expect(Math.abs((cell & 15) - (rows[1]![k]! & 15))).to.be.at.most(1);
    });
    expect(cellAt(found, 250, 40)).to.equal(0);
    // What changes along rows only is told by the first number, what changes down columns only by the second.
    expect(cellAt(found, 50, 40) & 15).to.equal(0);
    expect(cellAt(found, 150, 40) >> 4).to.equal(0);
  });

  it('are the same places in a smaller size', () => {
    const picture = greyPicture(300, 200, (x, y) => (inDisc(x, y) ? stripes(x, 128) : 128));
    const [whole, half] = [texturesOf(picture, size), texturesOf(picture, { width: 150, height: 100 })];
    for (const [x, y] of [
      [75, 50],
      [20, 20],
      [80, 62],
    ] as const)
      expect(cellAt(half, x, y)).to.equal(cellAt(whole, 2 * x + 1, 2 * y + 1));
  });

  it('speak for the side on which they are met, by as much as shares say, within limits; strokes say more', () => {
    const textures = makeBytes(100, 10);
    const [mask, seeds, prior] = [makeBytes(100, 10), makeBytes(100, 10), makePlane(100, 10)];
    // One texture is met on both sides as often, one inside only, one outside only.
    for (let i = 0; i < 1000; i++) {
      mask.data[i] = i < 500 ? 1 : 0;
      textures.data[i] = i % 2 === 0 ? 0x88 : i < 500 ? 0x82 : 0x28;
    }
    const odds = textureOdds(textures, { mask, seeds, prior });
    expect(odds[0x88]).to.be.closeTo(0, 1e-6);
    expect(odds[0x82]).to.equal(3);
    expect(odds[0x28]).to.equal(-3);
    // Never met anywhere: nothing is said.
    expect(odds[0xff]).to.be.closeTo(0, 1e-6);
    // As often on both sides, whatever their sizes.
    for (let i = 0; i < 1000; i++) textures.data[i] = i % 6 < 3 ? 0x88 : 0x22;
    const even = textureOdds(textures, {
      mask: { ...mask, data: mask.data.map((_, i) => (i % 3 < 2 ? 1 : 0)) },
      seeds,
      prior,
    });
    expect(even[0x88]).to.be.closeTo(0, 0.01);
    // Two of three inside and one of three outside: two to one.
    for (let i = 0; i < 1000; i++) textures.data[i] = (i < 500 ? i % 3 < 2 : i % 3 < 1) ? 0x88 : 0x22;
    const twice = textureOdds(textures, { mask, seeds, prior });
    expect(twice[0x88]).to.be.closeTo(Math.log(2), 0.05);
    expect(twice[0x22]).to.be.closeTo(-Math.log(2), 0.05);
    expect(withTexture(prior, textures, { mask, seeds, prior }, 2).data[0]).to.be.closeTo(2 * Math.log(2), 0.1);
    // A stroke over a fifth of what is inside.
    for (let i = 0; i < 100; i++) seeds.data[i] = textures.data[i] === 0x88 ? KEEP : FREE;
    expect(textureOdds(textures, { mask, seeds, prior })[0x88]).to.be.greaterThan(Math.log(2) + 0.1);
    expect(withTexture(prior, null, { mask, seeds, prior }, 2)).to.equal(prior);
    // One side alone says nothing.
    mask.data.fill(0);
    expect(new Set(textureOdds(textures, { mask, seeds, prior }))).to.deep.equal(new Set([0]));
  });

  it('let a stroke take what differs from its ground in texture only, and no more', () => {
    const random = seededRandom(3);
    // As bright and as restless as the ground, in the same greys: woven the other way.
    const picture = greyPicture(300, 200, (x, y) => stripes(inDisc(x, y) ? x : y, 128) + 6 * random());
    const session = new CutSession(new CutPicture(picture, () => []));
    const around: [number, number][] = [
      [20, 20],
      [280, 20],
      [280, 180],
      [20, 180],
    ];
    const across: [number, number][] = [
      [120, 100],
      [180, 100],
    ];
    const keep = [{ radius: 8, points: across, turn: 1 }];
    const drop = [{ radius: 8, points: around, turn: 2 }];
    const { mask } = session.solve({ answer: 'subject', box: null, keep, drop });
    let [both, either] = [0, 0];
    mask.data.forEach((v, i) => {
      const meant = inDisc(i % 300, Math.floor(i / 300));
      if (v && meant) both++;
      if (v || meant) either++;
    });
    expect(both / either).to.be.greaterThan(0.9);
  });

  it('speak for the mask against the evidence only as far as what is around lies on one side: not in a gap between its parts', () => {
    const [width, height] = [200, 60];
    const textures = makeBytes(width, height);
    const [mask, seeds, prior] = [makeBytes(width, height), makeBytes(width, height), makePlane(width, height)];
    // A thing with a gap of a pixel, and its ground; in the gap and beside the thing the texture is that of its edges.
    const isThing = (x: number): boolean => x < 120 && x !== 60;
    for (let i = 0; i < textures.data.length; i++) {
      const x = i % width;
      mask.data[i] = isThing(x) ? 1 : 0;
      prior.data[i] = isThing(x) ? 2 : -2;
      textures.data[i] = x < 126 ? 0x99 : 0x11;
    }
    const all = withTexture(prior, textures, { mask, seeds, prior }, 1);
    const odds = textureOdds(textures, { mask, seeds, prior });
    const said = (x: number): number => all.data[30 * width + x]! - prior.data[30 * width + x]!;
    expect(odds[0x99]).to.be.above(1);
    expect(said(20)).closeTo(odds[0x99]!, 1e-5);
    expect(said(180)).closeTo(odds[0x11]!, 1e-5);
    expect(said(60)).to.equal(0);
    expect(said(120)).to.be.below(0.4 * odds[0x99]!);
    expect(said(121), 'the further out the more').to.be.above(said(120));
    expect(said(119), 'with the evidence as ever').closeTo(odds[0x99]!, 1e-5);
  });
});
