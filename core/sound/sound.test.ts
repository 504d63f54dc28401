import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { beatsOf } from './beats.ts';
import { crossfadedEnds, loudnessAt, mixed, softly, type HeardPart } from './mix.ts';
import { loudStarts, noveltyOf } from './onsets.ts';
import { peaksOf } from './peaks.ts';
import { monoOf, type Samples } from './samples.ts';

const rate = 24_000;
const tone = (seconds: number, hertz = 330, loud = 0.5): Samples => {
  const wave = Float32Array.from(
    { length: seconds * rate },
    (_, i) => loud * Math.sin((2 * Math.PI * hertz * i) / rate),
  );
  return { rate, channels: [wave] };
};
const part = (samples: Samples, more: Partial<HeardPart> = {}): HeardPart => ({
  samples,
  at: 0,
  from: 0,
  length: 2,
  level: 1,
  fadeIn: 0,
  fadeOut: 0,
  ...more,
});

/** A strike at each time: a burst of noise that dies away, over a humming ground. */
function strikes(times: readonly number[], seconds: number, hum = 0.05, loud = 0.6): Float32Array {
  const random = seededRandom(7);
  const out = Float32Array.from({ length: seconds * rate }, (_, i) => hum * Math.sin((2 * Math.PI * 110 * i) / rate));
  for (const time of times)
    for (let k = 0; k < 0.12 * rate; k++) {
      const i = Math.round(time * rate) + k;
      if (i < out.length) out[i]! += loud * (2 * random() - 1) * Math.exp(-k / (0.02 * rate));
    }
  return out;
}

/** How far samples are at most from what they should be. */
const farthest = (wave: Float32Array, wanted: (i: number) => number): number =>
  wave.reduce((most, v, i) => Math.max(most, Math.abs(v - wanted(i))), 0);

describe('sound', () => {
  describe('mixed', () => {
    it('a part is heard from its time on, from where in it is said, as loud as said, and nowhere else', () => {
      const ramp: Samples = { rate, channels: [Float32Array.from({ length: 2 * rate }, (_, i) => i / (4 * rate))] };
      const { channels } = mixed([part(ramp, { at: 1, from: 0.5, length: 0.25, level: 0.5 })], rate, 0, 2);
      const inside = (i: number): boolean => i >= rate && i < 1.25 * rate;
      const wanted = (i: number): number => (inside(i) ? (0.5 * (i - rate + 0.5 * rate)) / (4 * rate) : 0);
      for (const channel of channels) expect(farthest(channel, wanted)).to.be.lessThan(1e-6);
    });

    it('from a later time on it is the same sound without its beginning', () => {
      const parts = [part(tone(2), { at: 0.3, fadeIn: 0.4 }), part(tone(2, 500, 0.3), { at: 0.9, length: 0.7 })];
      const [whole, late] = [mixed(parts, rate, 0, 3), mixed(parts, rate, 1, 3)];
      expect(late.channels[0]!.length).to.equal(2 * rate);
      expect(farthest(late.channels[0]!, (i) => whole.channels[0]![i + rate]!)).to.be.lessThan(1e-6);
    });

    it('what comes while another goes is together as powerful as each', () => {
      const fading = { level: 1, length: 1, fadeIn: 1, fadeOut: 0 };
      const going = { level: 1, length: 1, fadeIn: 0, fadeOut: 1 };
      for (const time of [0, 0.1, 0.5, 0.77, 0.999])
        expect(loudnessAt(fading, time) ** 2 + loudnessAt(going, time) ** 2).to.be.closeTo(1, 1e-9);
      expect(loudnessAt(fading, 1)).to.equal(0);
      expect(loudnessAt(fading, -0.01)).to.equal(0);
    });

    it('two channels stay two, one is heard on both sides, and a sound that ends is silent after', () => {
      const [left, right] = [tone(0.5, 200).channels[0]!, tone(0.5, 300).channels[0]!];
      const two = mixed([part({ rate, channels: [left, right] })], rate, 0, 1);
      expect(two.channels[0]!.subarray(0, left.length)).to.deep.equal(left);
      expect(two.channels[1]!.subarray(0, left.length)).to.deep.equal(right);
      expect(two.channels[0]!.subarray(left.length).every((v) => v === 0)).to.equal(true);
    });

    it('ends that are crossfaded go round without a click: the end goes on in the beginning', () => {
      const wave = tone(2, 331.3, 0.4).channels[0]!;
      const { channels } = crossfadedEnds({ rate, channels: [wave] }, 0.5);
      const round = channels[0]!;
      expect(round.length).to.equal(1.5 * rate);
      // The sample after the last is what came next before.
      expect(round[0]).to.be.closeTo(wave[1.5 * rate]!, 1e-6);
      expect(round[0.5 * rate]).to.be.closeTo(wave[0.5 * rate]!, 1e-3);
      const step = (v: Float32Array): number =>
        v.reduce((most, x, i) => Math.max(most, Math.abs(x - v[(i || v.length) - 1]!)), 0);
      expect(step(round)).to.be.lessThan(1.5 * step(wave.subarray(1, 1.5 * rate)) + 0.01);
    });

    it('nothing is louder than 1, and what is not too loud is left alone', () => {
      const { channels } = mixed([part(tone(1, 200, 0.9)), part(tone(1, 200, 0.9))], rate, 0, 1);
      const top = channels[0]!.reduce((a, b) => Math.max(a, b), 0);
      expect(top).to.be.within(0.95, 1);
      expect(softly(0.89)).to.equal(0.89);
      expect(softly(-0.9)).to.be.closeTo(-softly(0.9), 1e-12);
      // Without a corner where it begins to bend.
      expect((softly(0.9 + 1e-4) - softly(0.9)) / 1e-4).to.be.closeTo(1, 1e-3);
    });
  });

  it('peaks are the loudest of each stretch, and all channels are heard in one', () => {
    const random = seededRandom(3);
    const wave = Float32Array.from({ length: 1003 }, () => 2 * random() - 1);
    const peaks = peaksOf(wave, 10);
    for (let k = 0; k < 10; k++) {
      const stretch = [...wave].filter(
        (_, i) => Math.floor((k * 1003) / 10) <= i && i < Math.floor(((k + 1) * 1003) / 10),
      );
      expect(peaks[k]).to.equal(Math.max(...stretch.map(Math.abs)));
    }
    expect([...monoOf({ rate, channels: [Float32Array.of(1, 0), Float32Array.of(0, -1)] })]).to.deep.equal([0.5, -0.5]);
  });

  it('loud starts are found where something is struck, within a hundredth of a second, and nowhere else', () => {
    const times = [0.4, 0.93, 1.61, 1.9, 3.2, 4.45, 4.7];
    const found = loudStarts(noveltyOf(strikes(times, 6), rate));
    expect(found.map(({ time }) => time)).to.have.length(times.length);
    found.forEach(({ time }, k) => expect(time).to.be.closeTo(times[k]!, 0.011));
  });

  it('a steady hum and silence have no beats, and no start but the first moment of the hum', () => {
    for (const wave of [strikes([], 6), new Float32Array(6 * rate)]) {
      const novelty = noveltyOf(wave, rate);
      expect(loudStarts(novelty).filter(({ time }) => time > 0.03)).to.deep.equal([]);
      expect(beatsOf(novelty)).to.equal(null);
    }
  });

  for (const tempo of [84, 120, 151])
    it(`beats at ${tempo} a minute are found, also those that are not played, and what lies between them is none`, () => {
      const every = 60 / tempo;
      const beats = Array.from({ length: Math.floor(19 / every) }, (_, k) => 0.31 + k * every);
      // Some are left out, and quieter things happen between.
      const played = beats.filter((_, k) => k % 7 !== 4);
      const wave = strikes(played, 20);
      const between = strikes(
        beats.slice(3, -3).map((t) => t + every / 2),
        20,
        0,
        0.12,
      );
      wave.forEach((v, i) => (wave[i] = v + between[i]!));
      const found = beatsOf(noveltyOf(wave, rate))!;
      expect(found.tempo).to.be.closeTo(tempo, tempo * 0.03);
      const met = beats.slice(1, -1).filter((t) => found.times.some((f) => Math.abs(f - t) < 0.035));
      expect(met.length).to.be.at.least(beats.length - 4);
      expect(found.times.length).to.be.at.most(beats.length + 3);
    });
});
