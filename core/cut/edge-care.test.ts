import { expect } from 'chai';
import { windowExtreme } from '../pixels/filters.ts';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makePlane } from '../pixels/raster.ts';
import { noCare, withCare } from './edge-care.ts';

describe('edge care', () => {
  it('the largest value in a window is what a search over the window finds', () => {
    const random = seededRandom(4);
    const plane = makePlane(23, 17);
    plane.data.forEach((_, i) => (plane.data[i] = random()));
    for (const radius of [1, 2, 5, 6]) {
      const found = windowExtreme(plane, radius, Math.max);
      for (let y = 0; y < 17; y++) {
        for (let x = 0; x < 23; x++) {
          let most = 0;
          for (let v = Math.max(0, y - radius); v <= Math.min(16, y + radius); v++)
            for (let u = Math.max(0, x - radius); u <= Math.min(22, x + radius); u++)
              most = Math.max(most, plane.data[v * 23 + u]!);
          expect(found.data[y * 23 + x]).to.equal(most);
        }
      }
    }
  });

  const square = makeBytes(60, 60);
  for (let y = 20; y < 40; y++) square.data.fill(255, y * 60 + 20, y * 60 + 40);
  const across = (alpha: { data: Uint8Array }): number[] => [...alpha.data.slice(30 * 60, 31 * 60)];

  it('grows and shrinks by whole pixels', () => {
    const width = (grow: number): number =>
      across(withCare(square, { grow, soften: 0 }, [])).filter((a) => a > 127).length;
    expect([width(3), width(0), width(-4)]).to.deep.equal([26, 20, 12]);
  });

  it('softens around the same edge', () => {
    const row = across(withCare(square, { grow: 0, soften: 8 }, []));
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
});
