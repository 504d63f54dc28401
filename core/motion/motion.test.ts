import { expect } from 'chai';
import { curveOf, ease, easingNames } from './easing.ts';
import {
  atEvenSpeed,
  keysOf,
  keysOfDrawing,
  sampledKeys,
  turnedRound,
  withKey,
  withKeys,
  withKeysMirrored,
  withKeysMoved,
  withKeysPasted,
  withValueAt,
} from './keys.ts';
import { valueAt, type Key, type Point, type Property } from './property.ts';
import { pushOf, type SwayShape } from './sway.ts';
import { bobAt, jitterAt, randomOf } from './wander.ts';
import { alongWay, lengthOfWay } from './way.ts';

const linear = (frame: number, value: number): Key<number> => ({ frame, value, easing: 'linear' });
const turn: Property<number> = { keys: [linear(10, 0), linear(20, 30)] };

describe('cycles', () => {
  it('repeat, swing and carry on before the first and after the last key', () => {
    const at = (cycle: 'repeat' | 'swing' | 'carry-on', frame: number): number => valueAt({ ...turn, cycle }, frame);
    expect([0, 5, 15, 20, 25, 30, 37].map((f) => at('repeat', f))).to.deep.equal([0, 15, 15, 0, 15, 0, 21]);
    expect([0, 5, 15, 20, 25, 30, 37].map((f) => at('swing', f))).to.deep.equal([30, 15, 15, 30, 15, 0, 21]);
    expect([0, 5, 15, 20, 25, 30, 37].map((f) => at('carry-on', f))).to.deep.equal([-30, -15, 15, 30, 45, 60, 81]);
  });

  it('say nothing while there is one key', () => {
    expect(valueAt({ keys: [linear(4, 9)], cycle: 'repeat' }, 99)).to.equal(9);
  });
});

describe('motion without keys', () => {
  it('goes on wandering as it did when its keys change, come and go', () => {
    const wanders = {
      drift: 2,
      jitter: { amount: 3, period: 9, seed: 4 },
      bob: { amount: 5, period: 20, phase: 0.25 },
      follow: { layer: 'mast', of: 'x' as const, factor: 2, delay: 3 },
    };
    const keyed = withKey({ value: 1, ...wanders }, 4, 7);
    expect(keyed).to.deep.include(wanders);
    expect(withKeys(keyed, [], 7)).to.deep.equal({ value: 7, ...wanders });
    expect(withKeys({ value: 1 }, [], 7)).to.deep.equal({ value: 7 });
  });

  it('drifts steadily and bobs like a sine, on every number of a value', () => {
    const property: Property<Point> = {
      value: [10, 20],
      drift: [0.5, 0],
      bob: { amount: [0, 8], period: 40, phase: 0.25 },
    };
    for (const f of [0, 7, 40, 100.5]) {
      const [x, y] = valueAt(property, f);
      expect(x).closeTo(10 + 0.5 * f, 1e-9);
      expect(y).closeTo(20 + 8 * Math.cos((2 * Math.PI * f) / 40), 1e-9);
    }
    expect(bobAt({ period: 8, phase: 0 }, 2)).closeTo(1, 1e-12);
  });

  it('jitters within its amount, by its seed, and never jumps', () => {
    const jitter = { amount: 5, period: 6, seed: 3 };
    const values = Array.from({ length: 2000 }, (_, k) => jitterAt(jitter, 0, k / 4));
    expect(Math.max(...values.map(Math.abs))).to.be.within(3, 5);
    // Largest slope of the quintic is 1.875 of the way between two random values, which are at most 2 apart.
    const steps = values.slice(1).map((v, k) => Math.abs(v - values[k]!));
    expect(Math.max(...steps)).to.be.at.most((1.875 * 10) / 6 / 4 + 1e-9);
    expect(jitterAt(jitter, 0, 17)).to.equal(jitterAt(jitter, 0, 17));
    expect(jitterAt({ ...jitter, seed: 4 }, 0, 17)).not.to.equal(jitterAt(jitter, 0, 17));
    expect(jitterAt(jitter, 1, 17)).not.to.equal(jitterAt(jitter, 0, 17));
  });

  it('draws its random numbers evenly and without memory', () => {
    const values = Array.from({ length: 40_000 }, (_, k) => randomOf(11, 0, k - 20_000));
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    const square = values.reduce((a, b) => a + b * b, 0) / values.length;
    const next = values.slice(1).reduce((a, b, k) => a + b * values[k]!, 0) / values.length;
    expect(mean).closeTo(0, 0.015);
    expect(square).closeTo(1 / 3, 0.01);
    expect(next).closeTo(0, 0.01);
  });

  it('setting a value sets what is seen, with what wanders left as it is', () => {
    const property: Property<number> = { value: 4, drift: 1 };
    const set = withValueAt(property, 10, 50);
    expect(valueAt(set, 10)).closeTo(50, 1e-12);
    expect(valueAt(set, 11)).closeTo(51, 1e-12);
  });
});

describe('easing presets', () => {
  it('all begin at 0 and end at 1', () => {
    for (const name of easingNames) expect([ease(name, 0), ease(name, 1)], name).to.deep.equal([0, 1]);
  });

  it('bounce falls freely and rises again by a quarter of each height', () => {
    const values = Array.from({ length: 20_001 }, (_, k) => ease('bounce', k / 20_000));
    const valleys: number[] = [];
    for (let k = 1; k + 1 < values.length; k++)
      if (values[k]! < values[k - 1]! && values[k]! <= values[k + 1]!) valleys.push(1 - values[k]!);
    expect(valleys.length).to.equal(4);
    valleys.forEach((depth, k) => expect(depth).closeTo(0.25 ** (k + 1), 1e-4));
  });

  it('wind-up goes back first, overshoot goes beyond, both together do both', () => {
    const range = (name: 'wind-up' | 'overshoot' | 'wind-up-overshoot'): [number, number] => {
      const values = Array.from({ length: 101 }, (_, k) => ease(name, k / 100));
      return [Math.min(...values), Math.max(...values)];
    };
    expect(range('wind-up')[0]).to.be.below(-0.02);
    expect(range('wind-up')[1]).to.equal(1);
    expect(range('overshoot')[1]).to.be.above(1.02);
    const [low, high] = range('wind-up-overshoot');
    expect([low < -0.05, high > 1.05]).to.deep.equal([true, true]);
  });

  it('turned round show the same way backwards', () => {
    for (const name of easingNames.filter((n) => curveOf(n)))
      for (const t of [0.1, 0.37, 0.8]) expect(ease(turnedRound(name), t), name).closeTo(1 - ease(name, 1 - t), 1e-5);
  });
});

describe('curved ways', () => {
  const from: Key<Point> = { frame: 0, value: [0, 0], easing: 'linear', out: [0, 55.2285] };
  const to: Key<Point> = { frame: 90, value: [100, 100], easing: 'linear', in: [-55.2285, 0] };

  it('are as long as the arc they draw, and are travelled at one speed', () => {
    // These handles draw a quarter of a circle of radius 100, to 0.03 %.
    expect(lengthOfWay(from, to)).closeTo(50 * Math.PI, 0.06);
    const places = Array.from({ length: 91 }, (_, f) => valueAt({ keys: [from, to] }, f));
    const steps = places.slice(1).map((p, k) => Math.hypot(p[0] - places[k]![0], p[1] - places[k]![1]));
    expect(Math.max(...steps) / Math.min(...steps)).to.be.below(1.02);
    for (const [x, y] of places) expect(Math.hypot(x - 100, y)).closeTo(100, 0.1);
  });

  it('go on straight beyond their ends when an easing overshoots', () => {
    const [x, y] = alongWay(from, to, 1.1);
    expect(y).closeTo(100, 0.3);
    expect(x).closeTo(100 + 5 * Math.PI, 0.3);
  });

  it('through several keys are travelled evenly once they are told to', () => {
    const keys: Key<Point>[] = [
      { frame: 0, value: [0, 0], easing: 'ease' },
      { frame: 80, value: [30, 0], easing: 'ease' },
      { frame: 100, value: [300, 0], easing: 'ease' },
    ];
    const even = keysOf(atEvenSpeed({ keys }));
    expect(even.map((k) => k.frame)).to.deep.equal([0, 10, 100]);
    for (const f of [5, 50, 95]) expect(valueAt<Point>({ keys: even }, f)[0]).closeTo(3 * f, 1e-9);
  });
});

describe('keys', () => {
  it('move, give way where one lands, and are never before the shot', () => {
    const moved = withKeysMoved({ keys: [linear(0, 1), linear(5, 2), linear(9, 3)] }, [5], (f) => f + 4);
    expect(keysOf(moved).map((k) => [k.frame, k.value])).to.deep.equal([
      [0, 1],
      [9, 2],
    ]);
    expect(keysOf(withKeysMoved(turn, [10, 20], (f) => f - 15)).map((k) => k.frame)).to.deep.equal([0, 5]);
  });

  it('mirrored in time show the same motion backwards', () => {
    const keys: Key<number>[] = [
      { frame: 4, value: 0, easing: 'ease-in' },
      { frame: 10, value: 50, easing: 'overshoot' },
      { frame: 24, value: 20, easing: 'linear' },
    ];
    const mirrored = withKeysMirrored({ keys }, [4, 10, 24]);
    for (let f = 4; f <= 24; f += 0.5) expect(valueAt(mirrored, f)).closeTo(valueAt({ keys }, 28 - f), 1e-4);
  });

  it('pasted later say the same later', () => {
    const pasted = withKeysPasted<number>({ value: 7 }, keysOf(turn), 100);
    for (const f of [110, 114.5, 120]) expect(valueAt(pasted, f)).equal(valueAt(turn, f - 100));
  });

  it('a new key on a curved way keeps its handles when it is set again', () => {
    const bent: Property<Point> = { keys: [{ frame: 3, value: [0, 0], easing: 'linear', out: [5, 5] }] };
    expect(keysOf(withKey(bent, 3, [9, 9] as Point))[0]).to.deep.include({ value: [9, 9], out: [5, 5] });
  });
});

describe('drawn paths', () => {
  const drawn = Array.from({ length: 91 }, (_, f) => {
    const t = (f / 90) * Math.PI;
    // A half circle drawn by an unsteady hand.
    return {
      frame: f,
      at: [100 * Math.cos(t) + 2 * randomOf(5, 0, f), 100 * Math.sin(t) + 2 * randomOf(5, 1, f)] as Point,
    };
  });

  it('become a few keys that follow the hand in place and in time, the smoother the fewer', () => {
    const keys = keysOfDrawing(drawn, 6);
    expect(keys.length).to.be.within(2, 6);
    expect(keysOfDrawing(drawn, 1).length).to.be.greaterThan(keys.length);
    for (let f = 0; f <= 90; f += 5) {
      const [x, y] = valueAt<Point>({ keys }, f);
      const t = (f / 90) * Math.PI;
      expect(Math.hypot(x - 100 * Math.cos(t), y - 100 * Math.sin(t)), `frame ${f}`).to.be.below(12);
      expect(Math.hypot(x, y)).closeTo(100, 7);
    }
  });

  it('of one point, or without any time, are one key', () => {
    expect(keysOfDrawing([], 3)).to.deep.equal([]);
    expect(keysOfDrawing(drawn.slice(0, 1), 3)).to.have.length(1);
  });
});

describe('turning motion into keys', () => {
  it('says the same at every frame with fewer keys than frames', () => {
    const at = (f: number): number => 40 * Math.sin(f / 9) + f;
    const keys = sampledKeys(at, 0, 120, 0.5);
    expect(keys.length).to.be.below(60);
    for (let f = 0; f <= 120; f++) expect(valueAt({ keys }, f)).closeTo(at(f), 0.5 + 1e-9);
  });
});

describe('sway', () => {
  const region = { form: 'rectangle' as const, x: 0, y: 0, width: 200, height: 100 };
  const flag: SwayShape = {
    region,
    whole: true,
    soft: 0,
    direction: 90,
    size: 80,
    strength: 10,
    pinned: 'left',
    shade: 0,
    turn: 0.2,
  };
  const at = (sway: SwayShape, x: number, y: number): number[] => {
    const out = new Float64Array(3);
    pushOf(sway)(x, y, out);
    return [...out];
  };

  it('holds its pinned side, pushes only in its direction and never further than its strength', () => {
    for (let y = 0; y <= 100; y += 20) expect(at(flag, 0, y)[1]).closeTo(0, 1e-12);
    let most = 0;
    for (let x = 0; x <= 200; x++) {
      const [dx, dy] = at(flag, x, 40);
      expect(dx).closeTo(0, 1e-9);
      most = Math.max(most, Math.abs(dy!));
    }
    expect(most).to.be.within(6, 10);
  });

  it('looks the same after a whole period, at every place', () => {
    for (const x of [90, 120, 177]) {
      const [now, later] = [at(flag, x, 50)[1]!, at({ ...flag, turn: 3.2 }, x, 50)[1]!];
      expect(later).closeTo(now, 1e-9);
      expect(at({ ...flag, turn: 0.6 }, x, 50)[1]).not.closeTo(now, 0.2);
    }
  });

  it('fades to nothing at the edge of a soft region', () => {
    const patch: SwayShape = {
      ...flag,
      whole: false,
      pinned: 'none',
      soft: 0.5,
      region: { form: 'ellipse', x: 50, y: 50, width: 80, height: 60 },
    };
    expect(at(patch, 49, 80)).to.deep.equal([0, 0, 0]);
    const strength = (x: number): number =>
      Math.max(...[0, 0.2, 0.4, 0.6, 0.8].map((turn) => Math.abs(at({ ...patch, turn }, x, 80)[1]!)));
    expect(strength(52)).to.be.below(0.6);
    expect(strength(90)).to.be.above(6);
  });
});
