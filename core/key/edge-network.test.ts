import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { inputCount, inputUnit } from './edge-inputs.ts';
import { beyondCourse, edgeLayers, layerSizes, mostTold, weightUnit, type WholeLayer } from './edge-network.ts';

/** The same sums without whole numbers. */
function inFractions(input: ArrayLike<number>, layers: readonly WholeLayer[]): number[] {
  let told = Array.from(input, (v) => v / inputUnit);
  for (const [k, { weights, starts }] of layers.entries()) {
    const sums = Array.from(starts, (start, j) =>
      told.reduce(
        (sum, v, i) => sum + v * (weights[j * told.length + i]! / weightUnit),
        start / weightUnit / inputUnit,
      ),
    );
    told = k + 1 < layers.length ? sums.map((v) => Math.min(mostTold / inputUnit, Math.max(0, v))) : sums;
  }
  return told;
}

describe('the edge network', () => {
  const random = seededRandom(8);
  const input = (): Int16Array => Int16Array.from({ length: inputCount }, () => (random() - 0.3) * 1.4 * inputUnit);

  it('has the weights that its layers need', () => {
    const layers = edgeLayers();
    expect(layers.map(({ starts }) => starts.length)).to.deep.equal(layerSizes.slice(1));
    expect(layers.map(({ weights, starts }) => weights.length / starts.length)).to.deep.equal(layerSizes.slice(0, -1));
    for (const { weights } of layers) expect(Math.max(...weights.map(Math.abs))).to.be.within(100, 32766);
  });

  it('answers in whole numbers as it does in fractions', () => {
    for (let k = 0; k < 50; k++) {
      const seen = input();
      const wanted = inFractions(seen, edgeLayers());
      for (const [pixel, beyond] of beyondCourse(seen).entries())
        expect(beyond / inputUnit).to.be.closeTo(wanted[pixel]!, 0.03);
    }
  });

  it('adds up nothing that 32 bits do not hold, whatever it sees', () => {
    let most = Float64Array.from({ length: inputCount }, () => 2 * inputUnit);
    for (const { weights, starts } of edgeLayers()) {
      const bounds = Float64Array.from(starts, (start, j) =>
        most.reduce((sum, v, i) => sum + v * Math.abs(weights[j * most.length + i]!), Math.abs(start)),
      );
      expect(Math.max(...bounds)).to.be.lessThan(2 ** 31);
      most = bounds.map((bound) => Math.min(mostTold, bound / weightUnit));
    }
  });
});
