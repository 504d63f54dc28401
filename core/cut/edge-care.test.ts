import { expect } from 'chai';
import { windowLeast, windowMost } from '../pixels/filters.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makePlane, makeRgba } from '../pixels/raster.ts';
import { noCare, wideAndSoft, withCare } from './edge-care.ts';

describe('edge care', () => {
  it('the largest and the smallest value in a window are what a search over the window finds', () => {
    const random = seededRandom(4);
    const plane = makePlane(23, 17);
    plane.data.forEach((_, i) => (plane.data[i] = random()));
    for (const radius of [1, 2, 5, 6, 40]) {
      const [found, small] = [windowMost(plane, radius), windowLeast(plane, radius)];
      for (let y = 0; y < 17; y++) {
        for (let x = 0; x < 23; x++) {
          let [most, least] = [0, 1];
          for (let v = Math.max(0, y - radius); v <= Math.min(16, y + radius); v++)
            for (let u = Math.max(0, x - radius); u <= Math.min(22, x + radius); u++)
              [most, least] = [Math.max(most, plane.data[v * 23 + u]!), Math.min(least, plane.data[v * 23 + u]!)];
          expect(found.data[y * 23 + x]).to.equal(most);
          expect(small.data[y * 23 + x]).to.equal(least);
        }
      }
    }
  });

  const square = makeBytes(60, 60);
  for (let y = 20; y < 40; y++) square.data.fill(255, y * 60 + 20, y * 60 + 40);
  const across = (alpha: { data: Uint8Array }): number[] => [...alpha.data.slice(30 * 60, 31 * 60)];

  it('grows and shrinks by whole pixels', () => {
    const width = (grow: number): number =>
      across(withCare(square, { ...noCare, grow }, [])).filter((a) => a > 127).length;
    expect([width(3), width(0), width(-4)]).to.deep.equal([26, 20, 12]);
  });

  it('softens around the same edge', () => {
    const row = across(withCare(square, { ...noCare, soften: 8 }, []));
    expect(row[30]).to.equal(255);
    expect((row[19]! + row[20]!) / 2).to.be.closeTo(127, 3);
    for (let x = 10; x < 30; x++) expect(row[x + 1]).to.be.at.least(row[x]!);
  });

  it('brushes restore and wipe away, softly at their rim, in order', () => {
    const at = (x: number, y: number) => ({ radius: 6, points: [[x, y]] as [number, number][] });
    const marks = [
      { kind: 'restore' as const, stroke: at(10, 10), soft: 0.5 },
      { kind: 'wipe' as const, stroke: at(30, 30), soft: 0 },
    ];
    const out = withCare(square, noCare, marks);
    expect(out.data[10 * 60 + 10]).to.equal(255);
    expect(out.data[10 * 60 + 14]).to.be.within(1, 250);
    expect(out.data[30 * 60 + 30]).to.equal(0);
    expect(out.data[30 * 60 + 38]).to.equal(255);
    const back = withCare(square, noCare, [...marks, { kind: 'restore', stroke: at(30, 30), soft: 0 }]);
    expect(back.data[30 * 60 + 30]).to.equal(255);
    expect(square.data[30 * 60 + 30]).to.equal(255);
  });

  it('smooths stair steps onto the line between them, and leaves straight edges and veils alone', () => {
    const stairs = makeBytes(90, 60);
    for (let y = 0; y < 60; y++) stairs.data.fill(255, y * 90, y * 90 + 25 + 4 * Math.floor(y / 8));
    const smooth = withCare(stairs, { ...noCare, smooth: 12 }, []);
    const edgeAt = (y: number): number =>
      [...smooth.data.slice(y * 90, y * 90 + 90)].reduce((sum, a) => sum + a / 255, 0);
    let steepest = 0;
    for (let y = 16; y < 44; y++) {
      expect(edgeAt(y)).closeTo(25 + 4 * ((y + 0.5) / 8 - 0.5), 1.2);
      steepest = Math.max(steepest, edgeAt(y) - edgeAt(y - 1));
    }
    expect(steepest, 'no step is left').below(1.6);
    const veil = makeBytes(60, 60, 90);
    expect(withCare(veil, { ...noCare, smooth: 12 }, []).data).to.deep.equal(veil.data);
    const row = across(withCare(square, { ...noCare, smooth: 4 }, []));
    expect(row.filter((a) => a > 127).length).to.equal(20);
    expect(row.filter((a) => a > 0 && a < 255).length, 'still sharp').below(5);
  });

  it('fades only the part of the edge that was painted over', () => {
    const stroke = { radius: 8, points: [[20, 30]] as [number, number][] };
    const out = withCare(square, noCare, [{ kind: 'soften', stroke, soft: 0.4 }]);
    expect(out.data[30 * 60 + 17]).within(10, 127);
    expect(out.data[30 * 60 + 22]).within(128, 250);
    for (let x = 30; x < 60; x++) expect(out.data[30 * 60 + x]).to.equal(square.data[30 * 60 + x]);
  });

  it('finds strands under the brush again that the cut had lost', () => {
    const picture = makeRgba(60, 60);
    const truth = makeBytes(60, 60);
    for (let i = 0; i < 3600; i++) {
      const [x, y] = [i % 60, Math.floor(i / 60)];
      // A block with strands two pixels wide sticking out of it to the right.
      const a = x < 24 ? 1 : x < 44 && y % 8 < 2 ? 1 : 0;
      truth.data[i] = a * 255;
      picture.data.set([60 + 150 * a, 90 + 60 * a, 120 - 60 * a, 255], i * 4);
    }
    const cut = { ...truth, data: truth.data.map((v, i) => (i % 60 < 24 ? v : 0)) };
    const stroke = {
      radius: 14,
      points: [
        [34, 4],
        [34, 56],
      ] as [number, number][],
    };
    const error = (alpha: { data: Uint8Array }): number =>
      alpha.data.reduce((sum, v, i) => sum + Math.abs(v - truth.data[i]!), 0) / 255;
    const refined = withCare(cut, noCare, [{ kind: 'refine', stroke, soft: 0 }], picture);
    expect(error(refined)).below(0.2 * error(cut));
  });

  it('for shadows grows beyond the edge and fades twice as wide', () => {
    const care = wideAndSoft(noCare, 2400, 1600);
    expect(care).to.deep.equal({ ...noCare, grow: 20, soften: 40 });
  });
});
