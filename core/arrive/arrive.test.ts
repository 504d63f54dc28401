import { expect } from 'chai';
import { storedFrom, valuesAt } from '../settings/setting.ts';
import { atRest, type UnitState } from './arrival.ts';
import { arrivalKind, arrivalKinds } from './arrivals.ts';
import { orders, shareOf, stateOf, stepsOf, type ArrivalNow } from './course.ts';

const box = { width: 80, height: 50 };

const now = (kind: string, passed: number, change: Partial<ArrivalNow> = {}): ArrivalNow => {
  const { settings } = arrivalKind(kind)!;
  return {
    kind,
    values: valuesAt(settings, storedFrom(settings), 0),
    by: 'letter',
    order: 'first to last',
    overlap: 0.5,
    easing: 'linear',
    seed: 3,
    passed,
    scale: 1,
    ...change,
  };
};
const alone = { steps: [0], last: 0 };
const at = (kind: string, passed: number, change?: Partial<ArrivalNow>): UnitState =>
  stateOf(now(kind, passed, change), 0, alone, box);

describe('arrivals', () => {
  for (const { id } of arrivalKinds) {
    it(`${id}: nothing of it is seen at its first moment, and at its end it is at rest, whatever the easing`, () => {
      expect(at(id, 0).opacity).to.equal(0);
      for (const easing of ['linear', 'overshoot', 'bounce'] as const) expect(at(id, 1, { easing })).to.equal(atRest);
    });

    it(`${id}: depends on time and seed alone, so that scrubbing backwards is exact`, () => {
      const times = [0.1, 0.35, 0.5, 0.8, 0.99];
      const forth = times.map((t) => at(id, t));
      const back = [...times].reverse().map((t) => at(id, t));
      expect(back.reverse()).to.deep.equal(forth);
      for (const { opacity, grow } of forth) {
        expect(opacity).to.be.within(0, 1);
        expect(Math.min(...grow)).to.be.at.least(0);
      }
    });
  }

  it('slides along a straight line from where it is told', () => {
    const values = { side: 0, distance: 200, fades: false };
    for (const t of [0.25, 0.5, 0.75]) expect(at('from-side', t, { values }).move).to.deep.equal([200 * (1 - t), 0]);
    const [x, y] = at('from-side', 0.5, { values: { ...values, side: 90 }, scale: 2 }).move;
    expect([Math.round(x), Math.round(y)]).to.deep.equal([0, 200]);
  });

  it('rises by its own height and is seen in its line only', () => {
    const state = at('rise', 0.5);
    expect(state.move[1]).to.be.closeTo(0.525 * box.height, 1e-9);
    expect(state.reveal).to.deep.equal({ form: 'line' });
  });

  it('falls as a body does: half the height is left after the square root of a half of the first fall', () => {
    const fall = (t: number): number => -at('drop', t, { values: { height: 100, tilt: 0 } }).move[1];
    // The first fall ends where the height is nought for the first time.
    let first = 0.05;
    while (fall(first) > 0.5) first += 0.001;
    expect(fall(first * Math.SQRT1_2)).to.be.closeTo(50, 1.5);
    // A bounce with half the speed goes up a quarter as high.
    const rebound = Math.max(...Array.from({ length: 200 }, (_, k) => fall(first + 0.003 + (k / 200) * (1 - first))));
    expect(rebound).to.be.closeTo(25, 1.5);
  });

  it('unlike seeds scatter unlike, and neighbours go different ways', () => {
    const moves = (seed: number): number[][] =>
      [0, 1, 2].map((k) => stateOf(now('gather', 0.3, { seed }), k, stepsOf('first to last', 3, 1), box).move);
    expect(moves(1)).to.not.deep.equal(moves(2));
    expect(moves(1)[0]).to.not.deep.equal(moves(1)[1]);
  });
});

describe('the course of several units', () => {
  it('each begins a fixed part later, and the last is done when the whole is', () => {
    const last = 4;
    for (const overlap of [0, 0.3, 0.9]) {
      const each = 1 / (1 + last * (1 - overlap));
      for (let step = 0; step <= last; step++) {
        const begin = step * (1 - overlap) * each;
        expect(shareOf(begin, step, last, overlap)).to.be.closeTo(0, 1e-9);
        expect(shareOf(begin + each / 2, step, last, overlap)).to.be.closeTo(0.5, 1e-9);
      }
      expect(shareOf(1, last, last, overlap)).to.equal(1);
    }
    expect([0, 1, 2].map((step) => shareOf(0.4, step, 2, 1))).to.deep.equal([0.4, 0.4, 0.4]);
  });

  it('orders are what they are called', () => {
    const steps = (order: (typeof orders)[number], count = 5): number[] => stepsOf(order, count, 7).steps;
    expect(steps('first to last')).to.deep.equal([0, 1, 2, 3, 4]);
    expect(steps('last to first')).to.deep.equal([4, 3, 2, 1, 0]);
    expect(steps('from the middle')).to.deep.equal([2, 1, 0, 1, 2]);
    expect(steps('from the ends')).to.deep.equal([0, 1, 2, 1, 0]);
    expect(steps('from the middle', 4)).to.deep.equal([1, 0, 0, 1]);
    expect([...steps('at random', 30)].sort((a, b) => a - b)).to.deep.equal(Array.from({ length: 30 }, (_, k) => k));
    expect(steps('at random', 30)).to.not.deep.equal(steps('first to last', 30));
    expect(stepsOf('from the middle', 5, 7).last).to.equal(2);
    expect(stepsOf('first to last', 0, 7)).to.deep.equal({ steps: [], last: 0 });
  });
});
