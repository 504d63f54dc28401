import { expect } from 'chai';
import { seededRandom } from '../core/pixels/random.ts';
import { TrainedNetwork } from './network.ts';

describe('a network that learns', () => {
  const random = seededRandom(4);
  const numbers = (n: number): Float32Array => Float32Array.from({ length: n }, () => 2 * random() - 1);

  it('knows how its answer changes with each weight and start, as trying it out shows', () => {
    const [sizes, batch] = [[7, 16, 8, 3], 5];
    const network = new TrainedNetwork(sizes, batch, 2);
    for (const k of [0, 1, 2]) {
      const { values } = network.part(k, 'starts');
      for (const { part, place } of network.placesOf(k)) if (part === 'starts') values[place] = random() - 0.5;
    }
    const [inputs, wishes] = [numbers(7 * batch), numbers(3 * batch)];
    const loss = (): number =>
      network.answer(inputs).reduce((sum, told, k) => sum + (Number(told) - wishes[k]!) ** 2, 0);
    const told = network.answer(inputs);
    network.learn(Array.from(told, (v, k) => 2 * (v - wishes[k]!)));
    let unlike = 0;
    for (const k of [0, 1, 2]) {
      const places = network.placesOf(k);
      expect(places).to.have.lengthOf((sizes[k]! + 1) * sizes[k + 1]!);
      for (const { part, place } of places) {
        const { values, slopes } = network.part(k, part);
        const kept = values[place]!;
        values[place] = kept + 1e-3;
        const above = loss();
        values[place] = kept - 1e-3;
        const slope = (above - loss()) / 2e-3;
        values[place] = kept;
        expect(slopes[place], `${part} ${k} ${place}`).to.be.closeTo(slope, 0.03 + 0.01 * Math.abs(slope));
        if (slope !== 0) unlike++;
      }
    }
    expect(unlike).to.be.greaterThan(100);
  });

  it('answers as sums one after another do', () => {
    const network = new TrainedNetwork([5, 8, 2], 3, 6);
    const inputs = numbers(15);
    const answer = network.answer(inputs);
    for (let n = 0; n < 3; n++) {
      let from = Array.from(inputs.subarray(5 * n, 5 * n + 5));
      for (const k of [0, 1]) {
        const of = (part: 'weights' | 'starts'): number[] =>
          network
            .placesOf(k)
            .filter((one) => one.part === part)
            .map(({ place }) => network.part(k, part).values[place]!);
        const [weights, starts] = [of('weights'), of('starts')];
        const sums = starts.map((start, j) =>
          from.reduce((sum, v, i) => sum + v * weights[j * from.length + i]!, start),
        );
        from = k === 0 ? sums.map((v) => Math.max(0, v)) : sums;
      }
      for (const k of [0, 1]) expect(answer[2 * n + k]).to.be.closeTo(from[k]!, 1e-5);
    }
  });

  it('learns what no sum of its inputs is: the product of two', () => {
    const network = new TrainedNetwork([2, 16, 8, 1], 16, 3);
    let late = 0;
    for (let step = 0; step < 3000; step++) {
      const inputs = numbers(32);
      const off = network.answer(inputs).map((told, k) => told - inputs[2 * k]! * inputs[2 * k + 1]!);
      network.learn(off.map((v) => 2 * v));
      if (step >= 2900) late += off.reduce((sum, v) => sum + Math.abs(v), 0) / 1600;
      network.step(0.005);
    }
    // A product of two even numbers in -1..1 is 0.25 away from nothing in the mean.
    expect(late).to.be.lessThan(0.05);
  });

  it('starts alike from the same seed, and unlike from another', () => {
    const weights = (seed: number): Float32Array => new TrainedNetwork([3, 8, 2], 4, seed).part(0, 'weights').values;
    expect(weights(1)).to.deep.equal(weights(1));
    expect(weights(1)).to.not.deep.equal(weights(2));
  });
});
