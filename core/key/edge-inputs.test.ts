import { expect } from 'chai';
import {
  cellFacts,
  channelPairs,
  edgeInputsOf,
  gatherInputs,
  inputCount,
  inputPlaces,
  inputUnit,
} from './edge-inputs.ts';
import { defaultChroma } from './keyed.ts';
import { measureScene } from './plain-chroma.ts';
import type { Rgb } from './screen.ts';
import { shotOn } from './test-screens.ts';

const channel = (name: string): number => channelPairs.flatMap(({ of }) => [...of] as string[]).indexOf(name);
const described = (screen: Rgb, subject: Rgb) => {
  const { picture } = shotOn({ screen, subject, noise: 1, unevenness: 0.2, soft: 2 });
  const { scene, cover } = measureScene(picture, defaultChroma);
  return edgeInputsOf(picture, scene, cover);
};
const pairsOfColours: readonly (readonly [Rgb, Rgb])[] = [
  [
    [40, 190, 70],
    [205, 190, 160],
  ],
  [
    [40, 190, 70],
    [60, 30, 24],
  ],
  [
    [36, 60, 190],
    [180, 120, 80],
  ],
  [
    [200, 40, 160],
    [24, 28, 24],
  ],
];

describe('what the edge network sees', () => {
  it('is nothing on the screen and all on the subject, whatever the colours of both are', () => {
    for (const [screen, subject] of pairsOfColours) {
      const inputs = described(screen, subject);
      const at = (name: string, x: number, y: number): number =>
        inputs.channels[channel(name)]![(y >> 1) * inputs.width + (x >> 1)]! / inputUnit;
      for (const name of ['cover', 'along', 'alpha above left', 'alpha below right']) {
        expect(at(name, 30, 20), `${name} of the screen`).to.be.closeTo(0, 0.15);
        expect(at(name, 88, 92), `${name} of the subject, ${screen} ${subject}`).to.be.closeTo(1, 0.15);
      }
      expect(at('luma above left', 88, 92), 'brightness counts from the screen to the subject').to.be.greaterThan(0.1);
    }
  });

  it('is each place around the block, those beyond the picture repeated, and the facts of its cell', () => {
    const inputs = described(...pairsOfColours[0]!);
    const out = new Int16Array(inputCount);
    for (const [bx, by] of [
      [0, 0],
      [inputs.width - 1, inputs.height - 1],
      [44, 40],
    ] as const) {
      gatherInputs(inputs, bx, by, out);
      const wanted = inputPlaces.map(({ channel: c, dx, dy }) => {
        const x = Math.max(0, Math.min(inputs.width - 1, bx + dx));
        const y = Math.max(0, Math.min(inputs.height - 1, by + dy));
        return inputs.channels[c]![y * inputs.width + x]!;
      });
      expect(Array.from(out)).to.deep.equal([...wanted, ...inputs.factsAt(by * inputs.width + bx)]);
    }
    expect(inputPlaces.length).to.equal(2 * (25 + 4 * 9));
  });

  it('tells how far screen and subject lie apart, in brightness and in colour', () => {
    const fact = (name: (typeof cellFacts)[number], subject: Rgb): number =>
      described([40, 190, 70], subject).factsAt(46 * 120 + 40)[cellFacts.indexOf(name)]! / inputUnit;
    expect(fact('step', [250, 250, 245])).to.be.greaterThan(fact('step', [150, 140, 150]) + 0.5);
    expect(fact('blindness', [150, 140, 150])).to.be.greaterThan(fact('blindness', [250, 250, 245]) + 0.3);
    expect(fact('way', [230, 60, 200])).to.be.greaterThan(fact('way', [120, 170, 110]) + 0.5);
  });
});
