import { expect } from 'chai';
import { blind } from '../learned/subject-networks.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { estimateAlpha } from './alpha.ts';
import { CutPicture } from './cut-picture.ts';
import { alphaWithLines } from './line-alpha.ts';
import { drawStroke } from './strokes.ts';
import { CutSession, type SubjectRequest, type TeachingStroke } from './subject.ts';

const [width, height] = [320, 200];
const float = (x: number, y: number): boolean => Math.hypot(x - 90, y - 100) < 55;
/** A wire from the float to the right, which hardly differs from what lies behind it. */
const wire: TeachingStroke = {
  radius: 1.6,
  points: [
    [140, 100],
    [300, 70],
  ],
  radii: [1.6, 1],
  turn: 1,
};

/** How far from the wire's middle a place is, and how wide the wire is there. */
function atWire(x: number, y: number): { away: number; radius: number } {
  const [[ax, ay], [bx, by]] = [wire.points[0]!, wire.points[1]!];
  const along = ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2);
  const t = Math.max(0, Math.min(1, along));
  return { away: Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay)), radius: 1.6 + (1 - 1.6) * t };
}

const truthAt = (x: number, y: number): number => {
  const { away, radius } = atWire(x, y);
  return Math.max(0, Math.min(1, radius + 0.5 - away));
};

/** The float and its wire before soft waves of nearly the wire's own colours, with grain. */
function scene(): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(3);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const wave = 14 * Math.sin(x * 0.06 + y * 0.02) + 9 * Math.sin(y * 0.13);
    const water = [96 + wave, 118 + wave, 126 + wave];
    const share = truthAt(x + 0.5, y + 0.5);
    const colour = float(x, y) ? [192, 62, 44] : water.map((v, c) => v + ([70, 84, 96][c]! - v) * share);
    picture.data.set([...colour.map((v) => v + 5 * (random() + random() - 1)), 255], i * 4);
  }
  return picture;
}

const nothing: SubjectRequest = { answer: 'subject', keep: [], drop: [], box: null };
const solved = (picture: Rgba, request: SubjectRequest): Bytes =>
  new CutSession(new CutPicture(picture, blind)).solve(request).mask;
const drawn = (stroke: TeachingStroke): Bytes => {
  const mask = makeBytes(width, height);
  drawStroke(mask, stroke, 1);
  return mask;
};
const beside = (turn: number, x: number, y: number): TeachingStroke => ({
  radius: 5,
  points: [
    [x, y],
    [x + 24, y],
  ],
  turn,
});

describe('a stroke along a thin line', () => {
  const picture = scene();
  const bare = solved(picture, nothing);
  const marked = drawn(wire);

  it('covers what lies within its own radius at each place', () => {
    for (let i = 0; i < marked.data.length; i++) {
      const { away, radius } = atWire((i % width) + 0.5, Math.floor(i / width) + 0.5);
      if (Math.abs(away - radius) > 0.02) expect(marked.data[i], `${i}`).to.equal(away < radius ? 1 : 0);
    }
  });

  it('is taken as it is, and nothing beside it; dropped again it is gone', () => {
    const kept = solved(picture, { ...nothing, keep: [wire] });
    kept.data.forEach((v, i) => expect(v).to.equal(marked.data[i]! | bare.data[i]!));
    const dropped = solved(picture, { ...nothing, keep: [wire], drop: [{ ...wire, turn: 2 }] });
    dropped.data.forEach((v, i) => expect(v).to.equal(marked.data[i] ? 0 : bare.data[i]!));
  });

  it('stays through strokes that come after it, far away and near', () => {
    const later = solved(picture, { ...nothing, keep: [wire, beside(2, 80, 130)], drop: [beside(3, 200, 60)] });
    marked.data.forEach((v, i) => {
      if (v) expect(later.data[i]).to.equal(1);
    });
    let more = 0;
    later.data.forEach((v, i) => (more += v && !marked.data[i] && !float(i % width, Math.floor(i / width)) ? 1 : 0));
    expect(more).to.be.below(160);
  });

  it('is no wider in the alpha than it is, though its ground has nearly its colours', () => {
    const mask = makeBytes(width, height);
    for (let i = 0; i < mask.data.length; i++)
      mask.data[i] = marked.data[i] || float(i % width, Math.floor(i / width)) ? 1 : 0;
    const off = (alpha: Bytes): { far: number; error: number } => {
      let [far, error] = [0, 0];
      for (let i = 0; i < mask.data.length; i++) {
        const [x, y] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
        if (x < 160) continue;
        error += Math.abs(alpha.data[i]! / 255 - truthAt(x, y));
        if (atWire(x, y).away > 4) far += alpha.data[i]!;
      }
      return { far, error };
    };
    const plain = off(estimateAlpha(picture, mask));
    const lined = off(alphaWithLines(picture, mask, { keep: [wire], drop: [] }));
    expect(lined.far).to.equal(0);
    expect(lined.error).to.be.below(plain.error);
    expect(lined.error / 160, 'a pixel of its length').to.be.below(1.1);
  });

  it('leaves the alpha of everything else as it was, also when only a part is estimated', () => {
    const mask = makeBytes(width, height);
    for (let i = 0; i < mask.data.length; i++)
      mask.data[i] = marked.data[i] || float(i % width, Math.floor(i / width)) ? 1 : 0;
    const plain = estimateAlpha(picture, mask);
    const lined = alphaWithLines(picture, mask, { keep: [wire], drop: [] });
    for (let y = 0; y < height; y++)
      for (let x = 0; x < 60; x++) expect(lined.data[y * width + x]).to.equal(plain.data[y * width + x]);
    const part = { x: 180, y: 40, width: 90, height: 90 };
    const again = alphaWithLines(picture, mask, { keep: [wire], drop: [] }, part, lined);
    let far = 0;
    again.data.forEach((v, i) => (far += Math.abs(v - lined.data[i]!) > 12 ? 1 : 0));
    expect(far).to.be.below(40);
  });

  it('dropped, cuts a gap no wider than it is into a piece', () => {
    const whole = makeBytes(width, height, 1);
    const without = { ...whole, data: whole.data.map((_, i) => 1 - marked.data[i]!) };
    const alpha = alphaWithLines(picture, without, { keep: [], drop: [wire] });
    for (let i = 0; i < alpha.data.length; i++)
      if (atWire((i % width) + 0.5, Math.floor(i / width) + 0.5).away > 4.5) expect(alpha.data[i]).to.equal(255);
  });
});
