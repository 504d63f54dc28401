import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { channels, costOfAll, PlainExpander, type Arrangement, type Expander } from './expansion.ts';
import { KernelExpander } from './expansion-kernel.ts';

const random = seededRandom(47);
const upTo = (count: number): number => Math.floor(random() * count);

/** A hole of some pixels of a noisy picture, and offsets of which some lead out of it. */
function arrangementOf(width: number, height: number, inHole: (x: number, y: number) => boolean, offsets: number) {
  const all = Array.from({ length: width * height }, (_, i) => i);
  const pixels = Int32Array.from(all.filter((i) => inHole(i % width, Math.floor(i / width))));
  const node = new Int32Array(all.length).fill(-1);
  pixels.forEach((p, k) => (node[p] = k));
  const shift = Int32Array.from({ length: offsets }, () => upTo(2 * all.length) - all.length);
  const features = Float32Array.from({ length: channels * all.length }, () => 40 * random());
  const unary = Float32Array.from({ length: pixels.length * offsets }, () => 60 * random());
  return { pixels, node, width, shift, features, unary };
}
const square = (x: number, y: number): boolean => x > 0 && y > 0 && x < 4 && y < 4;
const anyLabels = ({ pixels, shift }: Arrangement): Int16Array => Int16Array.from(pixels, () => upTo(shift.length));
const baseOf = ({ shift }: Arrangement): number[] => Array.from(shift, () => 25 * random());

/** The cost of labels from its definition: alone, biased, and between neighbours to the right and below. */
function costByDefinition(a: Arrangement, label: ArrayLike<number>, base: readonly number[] | null): number {
  const unlike = (p: number, one: number, other: number): number => {
    const [from, to] = [p + a.shift[one]!, p + a.shift[other]!];
    if (from < 0 || to < 0 || from >= a.node.length || to >= a.node.length) return NaN;
    return Math.hypot(
      ...Array.from({ length: channels }, (_, c) => a.features[from * channels + c]! - a.features[to * channels + c]!),
    );
  };
  let cost = 0;
  for (const [k, p] of a.pixels.entries()) {
    cost += a.unary[k * a.shift.length + label[k]!]! + (base?.[label[k]!] ?? 0);
    for (const q of [p + 1, p + a.width]) {
      const other = a.node[q] ?? -1;
      if (other < 0 || label[k] === label[other]) continue;
      const seam = unlike(p, label[k]!, label[other]!) + unlike(q, label[k]!, label[other]!);
      cost += Number.isNaN(seam) ? 1e5 : seam;
    }
  }
  return cost;
}

const ways: Record<string, (a: Arrangement) => Expander> = {
  'by the kernel': (a) => KernelExpander.of(a)!,
  'without it': (a) => new PlainExpander(a),
};

describe('an expansion move', () => {
  for (const [name, way] of Object.entries(ways))
    it(`is the best of all changes to one more offset, ${name}`, () => {
      for (let trial = 0; trial < 12; trial++) {
        const a = arrangementOf(6, 5, square, 4);
        // None of these leads out of the picture: costs that bar a change are no metric.
        a.shift.set([0, 1, -1, 6]);
        const label = anyLabels(a);
        const base = trial % 2 ? baseOf(a) : null;
        const before = label.slice();
        const alpha = upTo(4);
        way(a).expand(label, alpha, base);
        let least = Infinity;
        for (let changed = 0; changed < 1 << label.length; changed++)
          least = Math.min(
            least,
            costByDefinition(
              a,
              before.map((l, k) => ((changed >> k) & 1 ? alpha : l)),
              base,
            ),
          );
        expect(costByDefinition(a, label, base)).to.be.closeTo(least, 1e-3);
        for (const [k, l] of label.entries()) expect([before[k], alpha]).to.include(l);
      }
    });

  it('is the same by the kernel as without it, one after another, biased or not, to the picture’s edge', () => {
    for (const inHole of [square, (x: number, y: number) => (x * 7 + y * 3) % 5 > 0, (x: number) => x > 8]) {
      const a = arrangementOf(16, 12, inHole, 9);
      const [one, other] = [anyLabels(a), new Int16Array(a.pixels.length)];
      other.set(one);
      const [kernel, plain] = [KernelExpander.of(a)!, new PlainExpander(a)];
      for (let round = 0; round < 18; round++) {
        const base = round % 3 === 0 ? null : baseOf(a);
        const before = costByDefinition(a, one, base);
        kernel.expand(one, round % 9, base);
        plain.expand(other, round % 9, base);
        expect([...one]).to.deep.equal([...other]);
        expect(costByDefinition(a, one, base)).to.be.at.most(before + 1e-3);
        expect(costOfAll(a, one)).to.be.closeTo(costByDefinition(a, one, null), 1e-3);
      }
    }
  });
});
