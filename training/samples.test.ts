import { expect } from 'chai';
import { gatherInputs, inputCount, type EdgeInputs } from '../core/key/edge-inputs.ts';
import { shotOn, throughJpeg } from '../core/key/test-screens.ts';
import { seededRandom } from '../core/pixels/random.ts';
import { sampleLength, samplesOf, turnedSamples } from './samples.ts';

const [width, height] = [12, 9];

/** Chance planes of a picture, and those of the same picture turned. */
function planes(turn: number): EdgeInputs {
  const random = seededRandom(6);
  const pixels = new Map<string, number>();
  const valueAt = (plane: number, x: number, y: number): number => {
    const key = `${plane} ${x} ${y}`;
    if (!pixels.has(key)) pixels.set(key, Math.floor(random() * 1000));
    return pixels.get(key)!;
  };
  // Values are drawn in the order of the picture as it is, whatever is read first.
  for (let y = 0; y < 2 * height; y++)
    for (let x = 0; x < 2 * width; x++) for (let plane = 0; plane < 4; plane++) valueAt(plane, x, y);
  const [wide, high] = turn & 4 ? [height, width] : [width, height];
  const source = (x: number, y: number, side: 1 | 2): [number, number] => {
    const [u, v] = turn & 4 ? [y, x] : [x, y];
    return [turn & 1 ? side * width - 1 - u : u, turn & 2 ? side * height - 1 - v : v];
  };
  const channels = Array.from({ length: 10 }, (_, channel) =>
    Int16Array.from({ length: wide * high }, (_value, i) => {
      const [bx, by] = [i % wide, Math.floor(i / wide)];
      if (channel < 2) return valueAt(channel, ...source(bx, by, 1));
      const k = (channel - 2) % 4;
      return valueAt(channel < 6 ? 2 : 3, ...source(2 * bx + (k & 1), 2 * by + (k >> 1), 2));
    }),
  );
  return { width: wide, height: high, channels, factsAt: () => Int16Array.of(1, 2, 3, 4, 5) };
}

describe('samples to learn from', () => {
  it('turned are what the turned picture gives', () => {
    const before = new Int16Array(inputCount);
    gatherInputs(planes(0), 4, 3, before);
    for (let turn = 0; turn < 8; turn++) {
      const [u, v] = [turn & 1 ? width - 1 - 4 : 4, turn & 2 ? height - 1 - 3 : 3];
      const after = new Int16Array(inputCount);
      gatherInputs(planes(turn), ...(turn & 4 ? ([v, u] as const) : ([u, v] as const)), after);
      const turned = Array.from(turnedSamples[turn]!.subarray(0, inputCount), (from) => before[from]!);
      expect(turned, `turn ${turn}`).to.deep.equal(Array.from(after));
    }
  });

  it('turned hold every number once, and the course and the truth of the same pixel', () => {
    for (const turned of turnedSamples) {
      expect(new Set(turned).size).to.equal(sampleLength);
      for (let k = 0; k < 4; k++) expect(turned[inputCount + 4 + k]! - turned[inputCount + k]!).to.equal(4);
    }
  });

  it('come from edges of pictures with colour at half size alone, with their true alpha', async () => {
    const { picture, alpha } = shotOn({ screen: [40, 190, 70], subject: [190, 60, 50], noise: 2, soft: 2 });
    expect(samplesOf(picture, alpha, 1e6, 1)).to.have.lengthOf(0);
    const samples = samplesOf(await throughJpeg(picture, 92, '4:2:0'), alpha, 1e6, 1);
    const count = samples.length / sampleLength;
    expect(count).to.be.within(150, 3000);
    let [even, mixed] = [0, 0];
    for (let n = 0; n < count; n++) {
      for (let k = 0; k < 4; k++) {
        const [course, truth] = [inputCount + k, inputCount + 4 + k].map((i) => samples[n * sampleLength + i]!);
        even += Math.abs(course! - truth!) / (4 * count);
        if (truth! > 0.02 && truth! < 0.98) mixed++;
      }
    }
    expect(even, 'an even course is near the truth').to.be.lessThan(0.15);
    expect(mixed).to.be.greaterThan(150);
  });
});
