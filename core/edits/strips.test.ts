import { expect } from 'chai';
import { coverageOf } from '../path/coverage.ts';
import { flattened } from '../path/path.ts';
import { cutIntoStrips, outsideIn, stripPaths } from './strip-edits.ts';
import { addKey } from './layer-edits.ts';
import { apply, card, empty, shotOf } from './test-cards.ts';

const box = { x: 10, y: 20, width: 120, height: 80 };

describe('strips', () => {
  it('lie side by side over all of the box, whatever way they run and however uneven they are', () => {
    for (const angle of [90, 0, 30, -65])
      for (const uneven of [0, 0.8]) {
        const paths = stripPaths(box, { count: 6, angle, uneven, seed: 4 });
        const sum = new Float32Array(150 * 120);
        for (const path of paths) coverageOf(path, 150, 120).data.forEach((v, i) => (sum[i]! += v));
        // Everywhere at least one; more than one only where a strip reaches under the next.
        let twice = 0;
        for (let y = 22; y < 98; y++)
          for (let x = 12; x < 128; x++) {
            expect(sum[y * 150 + x]).to.be.greaterThan(0.99);
            if (sum[y * 150 + x]! > 1.01) twice++;
          }
        expect(twice / (76 * 116)).to.be.below(0.25);
      }
  });

  it('even ones are alike, uneven ones are not, and a seed makes them again', () => {
    const widths = (uneven: number, seed: number): number[] =>
      stripPaths(box, { count: 5, angle: 90, uneven, seed })
        .slice(1, -1)
        .map((path) => {
          const xs = path.points.map((p) => p.at[0]);
          return Math.max(...xs) - Math.min(...xs);
        });
    for (const w of widths(0, 1)) expect(w).to.be.closeTo(24 + 1.5, 1e-9);
    expect(new Set(widths(0.5, 1).map((w) => w.toFixed(3))).size).to.equal(3);
    expect(widths(0.5, 1)).to.deep.equal(widths(0.5, 1));
    expect(widths(0.5, 1)).to.not.deep.equal(widths(0.5, 2));
  });

  it('are layers with what their layer had, numbered from the outside in', () => {
    expect(outsideIn(5)).to.deep.equal([0, 4, 1, 3, 2]);
    const cut = apply(
      empty(),
      card('photo'),
      addKey('shot', 'photo', 'position', 0, [0, 0]),
      addKey('shot', 'photo', 'position', 20, [50, 0]),
      cutIntoStrips('shot', 'photo', { count: 5, angle: 90, uneven: 0, seed: 1 }),
    );
    const { layers } = shotOf(cut);
    expect(layers.map((l) => l.name)).to.deep.equal([1, 2, 3, 4, 5].map((n) => `photo strip ${n}`));
    for (const l of layers) expect('keys' in l.position && l.position.keys.length).to.equal(2);
    const middles = layers.map((l) => {
      const xs = flattened(l.masks[0]!.path).map(([x]) => Math.max(0, Math.min(40, x)));
      return (Math.min(...xs) + Math.max(...xs)) / 2;
    });
    expect(middles.map((m) => Math.round(m / 8 - 0.5))).to.deep.equal([0, 4, 1, 3, 2]);
  });
});
