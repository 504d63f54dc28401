import { expect } from 'chai';
import { inputCount, inputUnit } from '../core/key/edge-inputs.ts';
import { beyondCourse, layerSizes, layersFrom } from '../core/key/edge-network.ts';
import { seededRandom } from '../core/pixels/random.ts';
import { inWholeNumbers, lossOf, Samples, trained } from './learning.ts';
import { TrainedNetwork } from './network.ts';
import { sampleLength, turnedSamples } from './samples.ts';

const random = seededRandom(21);
/** Samples whose truth is their course and half of what the first channel has above it. */
const simple = (count: number): Float32Array => {
  const samples = new Float32Array(count * sampleLength);
  for (let n = 0; n < count; n++) {
    const o = n * sampleLength;
    for (let k = 0; k < inputCount; k++) samples[o + k] = random();
    const more = (samples[o + 24]! - 0.5) / 2;
    for (let k = 0; k < 4; k++) {
      samples[o + inputCount + k] = 0.3 + 0.4 * random();
      samples[o + inputCount + 4 + k] = samples[o + inputCount + k]! + more;
    }
  }
  return samples;
};

describe('learning of edges', () => {
  it('counts differences of alpha within 0..1, and its slopes lead downhill', () => {
    const sample = simple(1);
    sample.set([0.2, 0.5, 0.9, 0.1], inputCount);
    sample.set([0.4, 0.5, 1, 0], inputCount + 4);
    const slopes = new Float64Array(4);
    expect(lossOf(sample, [0, 0, 0, 0], slopes)).to.be.closeTo(0.2 + 0 + 0.1 + 0.1, 1e-6);
    expect(Array.from(slopes)).to.deep.equal([-1, 0, -1, 1]);
    expect(lossOf(sample, [0.2, 0, 0.4, -0.5], slopes), 'what is clipped at the right end is right').to.be.closeTo(
      0,
      1e-6,
    );
    expect(slopes[2], 'but called back').to.be.greaterThan(0);
    expect(slopes[3]).to.be.lessThan(0);
  });

  it('reads samples over several lists, turned', () => {
    const lists = [simple(3), simple(2)];
    const samples = new Samples(lists);
    expect(samples.count).to.equal(5);
    const out = new Float32Array(sampleLength);
    samples.read(4, turnedSamples[0]!, out);
    expect(out).to.deep.equal(lists[1]!.slice(sampleLength));
    samples.read(2, turnedSamples[1]!, out);
    expect(out).to.deep.equal(Float32Array.from(turnedSamples[1]!, (from) => lists[0]![2 * sampleLength + from]!));
  });

  it('learns what there is to learn, and tells the loss of what was held back', () => {
    const lines: string[] = [];
    trained(new Samples([simple(5120)]), 512, 6, (line) => lines.push(line));
    const held = lines.map((line) => Number(/held back ([\d.]+)/.exec(line)![1]));
    expect(held).to.have.lengthOf(6);
    expect(held.at(-1)).to.be.lessThan(0.9 * held[0]!);
  });

  it('in whole numbers answers as before', () => {
    const network = new TrainedNetwork(layerSizes, 20, 9);
    const layers = layersFrom(inWholeNumbers(network));
    const seen = Array.from({ length: 20 }, () => Int16Array.from({ length: inputCount }, () => random() * inputUnit));
    const wanted = network.answer(Float32Array.from(seen.flatMap((one) => Array.from(one, (v) => v / inputUnit))));
    for (const [k, one] of seen.entries())
      for (const [pixel, beyond] of beyondCourse(one, layers).entries())
        expect(beyond / inputUnit).to.be.closeTo(wanted[4 * k + pixel]!, 0.02);
  });
});
