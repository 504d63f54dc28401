import { expect } from 'chai';
import { seededRandom } from '../core/pixels/random.ts';
import { TrainedNetwork } from './network.ts';

describe('a network that learns', () => {
  const random = seededRandom(4);
  const numbers = (n: number): Float32Array => Float32Array.from({ length: n }, () => 2 * random() - 1);

  it('knows how its answer changes with each weight and start, as trying it out shows', () => {
    const network = new TrainedNetwork([7, 6, 5, 3], 2);
    for (const { starts } of network.layers) starts.set(numbers(starts.length).map((v) => v / 2));
    const [inputs, wishes] = [numbers(7), numbers(3)];
    const loss = (): number =>
      network.answer(inputs).reduce((sum, told, k) => sum + (Number(told) - wishes[k]!) ** 2, 0);
    const told = network.answer(inputs);
    network.learn(
      inputs,
      Array.from(told, (v, k) => 2 * (v - wishes[k]!)),
    );
    let unlike = 0;
    for (const [k, layer] of network.layers.entries()) {
      for (const part of ['weights', 'starts'] as const) {
        const slopes = network.slopesOf(k)[part];
        for (let i = 0; i < slopes.length; i++) {
          const kept = layer[part][i]!;
          layer[part][i] = kept + 1e-3;
          const above = loss();
          layer[part][i] = kept - 1e-3;
          const slope = (above - loss()) / 2e-3;
          layer[part][i] = kept;
          expect(slopes[i], `${part} ${k} ${i}`).to.be.closeTo(slope, 0.01 + 0.01 * Math.abs(slope));
          if (slope !== 0) unlike++;
        }
      }
    }
    expect(unlike).to.be.greaterThan(40);
  });

  it('learns what no sum of its inputs is: the product of two', () => {
    const network = new TrainedNetwork([2, 16, 8, 1], 3);
    let late = 0;
    for (let step = 0; step < 3000; step++) {
      for (let k = 0; k < 16; k++) {
        const inputs = numbers(2);
        const off = network.answer(inputs)[0]! - inputs[0]! * inputs[1]!;
        network.learn(inputs, [2 * off]);
        if (step >= 2900) late += Math.abs(off) / 1600;
      }
      network.step(16, 0.005);
    }
    // A product of two even numbers in -1..1 is 0.25 away from nothing in the mean.
    expect(late).to.be.lessThan(0.05);
  });

  it('starts alike from the same seed, and unlike from another', () => {
    const weights = (seed: number): Float32Array => new TrainedNetwork([3, 4, 2], seed).layers[0]!.weights;
    expect(weights(1)).to.deep.equal(weights(1));
    expect(weights(1)).to.not.deep.equal(weights(2));
  });
});
