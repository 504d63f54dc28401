import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import { withinLimits } from '../document/limits.ts';
import { seededRandom } from '../pixels/random.ts';
import type { Draw } from '../scene/draw.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { setArrival } from './arrival-edits.ts';
import { setCamera, setFraming } from './camera-edits.ts';
import { addFinish } from './finish-edits.ts';
import { addKey, fastenLayer, setLayer, setProperty } from './layer-edits.ts';
import { setFrameSize } from './project-edits.ts';
import { newRepeat, setRepeat } from './repeat-edits.ts';
import { scaleScene } from './scale-scene.ts';
import { apply, card, empty, height, shotOf, width } from './test-cards.ts';
import { stageEdits } from './test-stage-user.ts';

/** Numbers of draws that must be so many times as large, and those that must stay, by their names. */
function differences(small: readonly Draw[], large: readonly Draw[], by: number): string[] {
  const found: string[] = [];
  const alike = (what: string, a: number, b: number): void => {
    if (Math.abs(a - b) > 1e-6 * Math.max(1, Math.abs(a), Math.abs(b))) found.push(`${what}: ${a} is ${b}`);
  };
  if (small.length !== large.length) return [`${small.length} draws are ${large.length}`];
  small.forEach((one, k) => {
    const other = large[k]!;
    const [a, b] = [one.content, other.content];
    alike(`${one.layer} opacity`, one.opacity, other.opacity);
    alike(`${one.layer} blur`, one.blur * by, other.blur);
    if (a.kind === 'together' && b.kind === 'together') found.push(...differences(a.draws, b.draws, by));
    else if (a.kind === 'mean' && b.kind === 'mean') found.push(...differences(a.moments, b.moments, by));
    // Whatever covers the frame is as large as it.
    else if (a.kind !== 'flat' && a.kind !== 'grade')
      one.matrix.forEach((v, n) => alike(`${one.layer} matrix ${n}`, v * by, other.matrix[n]!));
    if (one.masks && other.masks && a.kind !== 'flat')
      one.masks.matrix.forEach((v, n) => alike(`${one.layer} masks ${n}`, v * by, other.masks!.matrix[n]!));
    if (one.window && other.window) found.push(...differences(one.window.matte, other.window.matte, by));
    one.clips.forEach(({ matrix }, n) =>
      matrix.forEach((v, m) => alike(`clip ${n}`, v * by, other.clips[n]!.matrix[m]!)),
    );
  });
  return found;
}

const doubled = (document: Document): Document =>
  withinLimits(
    [setFrameSize(2 * document.frame.width, 2 * document.frame.height), scaleScene(2)].reduce(
      (at, edit) => edit.apply(at),
      document,
    ),
  );
const compared = (document: Document, frames: readonly number[]): string[] =>
  frames.flatMap((frame) => {
    const at = (d: Document) => evaluateFrame(d, shotOf(d), frame).draws;
    return differences(at(document), at(doubled(document)), 2).map((line) => `frame ${frame}: ${line}`);
  });

describe('a scene scaled with its frame', () => {
  it('is the same picture twice as large: moves, lens, shake, blur, repeats, arrivals, what is fastened and what follows', () => {
    const document = apply(
      empty(),
      card('boat', 2, [40, -20]),
      card('mast', 4, [70, 10]),
      card('float', 6, [-50, 30]),
      fastenLayer('shot', 'mast', 'boat', 0),
      addKey('shot', 'boat', 'position', 0, [40, -20]),
      addKey('shot', 'boat', 'position', 50, [-60, 30]),
      setProperty('shot', 'boat', 'rotation', 0, 20),
      setProperty('shot', 'float', 'blur', 0, 3),
      setLayer('Wander', 'shot', 'float', {
        position: {
          value: [-50, 30],
          drift: [1, 0.5],
          jitter: { amount: 6, period: 9, seed: 2 },
          bob: { amount: [4, 9], period: 20, phase: 0 },
        },
      }),
      setRepeat('shot', 'float', { ...newRepeat(40), count: 3, step: [24, 6], delay: 4 }),
      setArrival('shot', ['boat', 'mast'], 'from-side'),
      setFraming('shot', 'first', { x: 30, y: -10, size: 0.8, roll: 4, focal: 40 }),
      setFraming('shot', 'last', { x: -20, y: 15, size: 0.6, roll: -3, focal: 50 }),
      setCamera('Lens', 'shot', { aperture: 12, shake: { amount: 5, roll: 1, period: 7, seed: 3 } }),
    );
    expect(compared(document, [0, 3, 12, 30, 59])).to.deep.equal([]);
  });

  it('takes looks along that are measured in pixels of the frame, and leaves those that are not', () => {
    const finished = apply(empty(), card('boat'), addFinish('shot', 'boat', 'outline', 'line'));
    const line = (d: Document) => {
      const [finish] = evaluateFrame(d, shotOf(d), 0).draws[0]!.finishes!.list;
      return finish!.values;
    };
    const [before, after] = [line(finished), line(doubled(finished))];
    expect(after.width).to.equal(2 * (before.width as number));
    expect(after.colour).to.deep.equal(before.colour);
  });

  it('keeps guides where they lie in the picture', () => {
    const document = apply(empty());
    const guided = { ...document, shots: [{ ...shotOf(document), guides: { x: [width / 2, 100], y: [30] } }] };
    const { guides } = shotOf(doubled(guided));
    expect(guides).to.deep.equal({ x: [width, 200], y: [60] });
    expect(height).to.equal(300);
  });

  it('is the same whatever was done on the Stage before', () => {
    let drawn = 0;
    for (let seed = 1; seed <= 40; seed++) {
      const random = seededRandom(seed);
      let made = 0;
      const dice = {
        below: (n: number) => Math.floor(random() * n),
        random,
        id: (kind: string) => `${kind}-${++made}`,
      };
      let document = apply(empty(), ...[1, 2, 3, 4, 5].map((k) => card(`card-${k}`, 1 + k, [20 * k - 60, 10 * k])));
      for (let step = 0; step < 30; step++) {
        const edits = stageEdits(dice, document);
        document = withinLimits(edits[dice.below(edits.length)]!().apply(document));
      }
      drawn += evaluateFrame(document, shotOf(document), 7).draws.length;
      expect(compared(document, [0, 7, 31]).slice(0, 6), `seed ${seed}`).to.deep.equal([]);
    }
    expect(drawn).to.be.above(100);
  });
});
