import { expect } from 'chai';
import { flattened } from '../path/path.ts';
import { lettersOf } from './lettering.ts';
import type { Letter } from './set-text.ts';
import { strokesOf } from './strokes.ts';
import { loadTestFaces, plainText } from './test-faces.ts';
import { thin } from './thinning.ts';
import { writingEdge, writingOf, writtenAt } from './writing.ts';

const set = (text: string, face: string) => lettersOf({ ...plainText, text, face })!;

/** Whether a point lies within outlines: how often they wind around it. */
function inside({ outlines }: Letter, [x, y]: readonly number[]): boolean {
  let winding = 0;
  for (const path of outlines) {
    const line = flattened(path, 0.05);
    line.forEach(([ax, ay], k) => {
      const [bx, by] = line[(k + 1) % line.length]!;
      if (ay <= y! !== by <= y! && ax + ((y! - ay) / (by - ay)) * (bx - ax) > x!) winding += by > ay ? 1 : -1;
    });
  }
  return winding !== 0;
}

describe('lines along the middle of letters', () => {
  before(() => loadTestFaces('script', 'hand', 'condensed'));

  it('a bar is thinned to one line in its middle', () => {
    const mask = { data: new Uint8Array(40 * 21), width: 40, height: 21 };
    for (let y = 7; y < 14; y++) for (let x = 5; x < 35; x++) mask.data[y * 40 + x] = 1;
    thin(mask);
    const left = [...mask.data.keys()].filter((i) => mask.data[i]);
    expect(left.length).to.be.within(20, 30);
    for (const i of left) expect(Math.abs(Math.floor(i / 40) - 10)).to.be.at.most(1);
  });

  for (const face of ['script', 'hand'])
    it(`${face}: strokes lie within their letters and a pen as wide as the letter covers nearly all of it`, () => {
      for (const letter of set('Wquaylide', face).letters) {
        const strokes = strokesOf(letter);
        const points = strokes.flatMap((stroke) => stroke.points);
        const within = points.filter((p) => inside(letter, p)).length;
        expect(within / points.length, `letter ${letter.from}`).to.be.greaterThan(0.97);
        // Points of the letter, on a grid: is each within reach of the pen?
        let all = 0;
        let reached = 0;
        const xs = points.map(([x]) => x);
        const ys = points.map(([, y]) => y);
        for (let x = Math.min(...xs) - 4; x < Math.max(...xs) + 4; x += 1.5)
          for (let y = Math.min(...ys) - 4; y < Math.max(...ys) + 4; y += 1.5) {
            if (!inside(letter, [x, y])) continue;
            all++;
            if (points.some(([px, py, r]) => Math.hypot(px - x, py - y) < r * 1.25 + 0.5)) reached++;
          }
        expect(reached / all, `letter ${letter.from}`).to.be.greaterThan(0.97);
      }
    });

  it('an l is one stroke, an i has its dot last', () => {
    expect(strokesOf(set('l', 'condensed').letters[0]!)).to.have.length(1);
    const dotted = strokesOf(set('i', 'condensed').letters[0]!);
    expect(dotted).to.have.length(2);
    expect(dotted[1]!.points[0]![1]).to.be.below(Math.min(...dotted[0]!.points.map(([, y]) => y)));
  });
});

describe('writing', () => {
  before(() => loadTestFaces('script'));
  const text = 'Wendle Quay';

  it('goes on evenly: equal shares of time draw equal lengths', () => {
    const writing = writingOf(set(text, 'script'));
    const drawn = writing.parts.filter((part) => part.stroke);
    const speeds = drawn.map(({ stroke, begin, end }) => {
      const length = stroke!.points.reduce(
        (sum, p, k, all) => (k ? sum + Math.hypot(p[0] - all[k - 1]![0], p[1] - all[k - 1]![1]) : 0),
        0,
      );
      return length / (end - begin);
    });
    const long = speeds.filter((_, k) => drawn[k]!.stroke!.points.length > 10);
    for (const speed of long) expect(speed / long[0]!).to.be.closeTo(1, 1e-6);
    writing.parts.slice(1).forEach((part, k) => expect(part.begin).to.be.closeTo(writing.parts[k]!.end, 1e-9));
    expect(writing.parts.at(-1)!.end).to.be.closeTo(1, 1e-9);
  });

  it('the edge never jumps, is lifted between the words only, and letters come from left to right', () => {
    const writing = writingOf(set(text, 'script'));
    const steps = 2000;
    const places = Array.from({ length: steps + 1 }, (_, k) => writingEdge(writing, k / steps)!);
    const total = places.slice(1).map((p, k) => Math.hypot(p.at[0] - places[k]!.at[0], p.at[1] - places[k]!.at[1]));
    const usual = [...total].sort((a, b) => a - b)[steps / 2]!;
    expect(Math.max(...total)).to.be.below(usual * 8);
    const lifted = places.filter((p) => p.lift > 0.5);
    expect(lifted.length).to.be.greaterThan(0);
    const gap = set(text, 'script').letters.find((l) => text[l.from] === ' ')!;
    for (const { at } of lifted) expect(Math.abs(at[0] - gap.at[0])).to.be.below(160);
    const counts = [0, 0.3, 0.6, 0.9, 1].map((share) => writtenAt(writing, share).done.length);
    expect(counts).to.deep.equal([...counts].sort((a, b) => a - b));
    expect([counts[0], counts[4]]).to.deep.equal([0, 10]);
    expect(writtenAt(writing, 1).current).to.equal(null);
  });

  it('the edge lies at the end of what is drawn, at every moment', () => {
    const writing = writingOf(set(text, 'script'));
    for (let k = 1; k < 200; k++) {
      const share = k / 200;
      const { current } = writtenAt(writing, share);
      const part = writing.parts.find(({ begin, end }) => share >= begin && share < end)!;
      if (!part.stroke || !current) continue;
      const end = current.drawn.at(-1)!.points.at(-1)!;
      const { at } = writingEdge(writing, share)!;
      expect(Math.hypot(end[0] - at[0], end[1] - at[1])).to.be.below(1e-6);
    }
  });
});
