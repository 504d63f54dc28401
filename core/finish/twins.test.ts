import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import type { Setting } from '../settings/setting.ts';
import { finishKinds } from './finishes.ts';
import { canFinishByKernel, withoutKernel } from './operations/memory.ts';
import { finished, flat, speckled, roundThing } from './test-pictures.ts';
import type { FinishPixels } from './finish.ts';

/** Any value a setting may have. */
function anyOf(setting: Setting, random: () => number): unknown {
  if (setting.kind === 'number') return setting.least + (setting.most - setting.least) * random() ** 2;
  if (setting.kind === 'angle') return 360 * random() - 180;
  if (setting.kind === 'choice') return setting.options[Math.floor(random() * setting.options.length)];
  if (setting.kind === 'switch') return random() < 0.5;
  if (setting.kind === 'colour') return [255 * random(), 255 * random(), 255 * random(), random()];
  if (setting.kind === 'place') return [random(), random()];
  if (setting.kind === 'seed') return Math.floor(random() * 1000);
  return setting.start;
}

/** How far channels, premultiplied, are apart: in the mean, and the share of them beyond two steps. */
function apart(a: FinishPixels, b: FinishPixels): { mean: number; beyond: number } {
  let [sum, beyond] = [0, 0];
  for (let i = 0; i < a.data.length; i++) {
    const alphas = i % 4 === 3 ? [1, 1] : [a.data[i | 3]! / 255, b.data[i | 3]! / 255];
    const way = Math.abs(a.data[i]! * alphas[0]! - b.data[i]! * alphas[1]!);
    sum += way;
    if (way > 2.01) beyond++;
  }
  return { mean: sum / a.data.length, beyond: beyond / a.data.length };
}

describe('finishes by the kernel and by the plain operations', () => {
  it('the kernel runs here, so that both are compared', () => expect(canFinishByKernel()).to.equal(true));

  for (const kind of finishKinds)
    it(`${kind.name} is the same picture, with any settings, at odd sizes`, () => {
      const random = seededRandom(kind.id.length * 7 + 1);
      for (let run = 0; run < 12; run++) {
        const values = Object.fromEntries(
          Object.entries(kind.settings).map(([key, setting]) => [key, run === 0 ? undefined : anyOf(setting, random)]),
        );
        if (run === 0) for (const key of Object.keys(values)) delete values[key];
        const source = run % 3 === 2 ? speckled(61, 47, run + 1) : roundThing(70 + run, 17 + run);
        const { width, height } = source;
        const behind = run % 2 ? speckled(width, height, 8) : flat(width, height, [40, 90, 130]);
        const box = { x: 9, y: 12, width: width - 20, height: height - 25 };
        const at = { behind, box, frame: run, scale: [1, 0.5, 1.7][run % 3]! };
        const byKernel = finished(kind.id, source, values, at);
        const plain = withoutKernel(() => finished(kind.id, source, values, at));
        const { mean, beyond } = apart(byKernel, plain);
        const told = `run ${run} ${JSON.stringify(values)}: ${mean} apart, ${beyond} beyond`;
        expect(mean, told).to.be.below(0.35);
        // Of two quarters that vary alike, either may be taken.
        expect(beyond, told).to.be.below(kind.id === 'drawn' ? 0.03 : 0.01);
      }
    });
});
