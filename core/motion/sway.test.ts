import { expect } from 'chai';
import { pushOf, type SwayShape } from './sway.ts';

const box = { form: 'rectangle' as const, x: 100, y: 50, width: 200, height: 120 };
const sway: SwayShape = {
  region: box,
  ...{ whole: true, soft: 0, direction: 30, size: 60, strength: 10, pinned: 'none', shade: 0.5, turn: 0.2 },
};
const pushed = (change: Partial<SwayShape>, x: number, y: number): number[] => {
  const out = new Float64Array(3);
  pushOf({ ...sway, ...change })(x, y, out);
  return [...out];
};

describe('the push of a sway', () => {
  it('goes one way, and without a pinned side its crests lie along that way', () => {
    const [px, py] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    for (const [x, y] of [
      [130, 70],
      [210, 140],
    ] as const) {
      const here = pushed({}, x, y);
      expect(here[0]! * py - here[1]! * px).to.be.closeTo(0, 1e-9);
      // Everywhere on a line along the push it is the same; across it is not, but ten sizes further both waves are again.
      const along = pushed({}, x + 23 * px, y + 23 * py);
      const across = pushed({}, x - 23 * py, y + 23 * px);
      const again = pushed({}, x - 600 * py, y + 600 * px);
      for (const k of [0, 1, 2]) {
        expect(along[k]).to.be.closeTo(here[k]!, 1e-9);
        expect(again[k]).to.be.closeTo(here[k]!, 1e-9);
      }
      expect(Math.abs(across[0]! - here[0]!)).to.be.above(0.3);
    }
  });

  it('travels away from the pinned side: what is seen there now is seen further on later', () => {
    const away = { left: [1, 0], right: [-1, 0], top: [0, 1], bottom: [0, -1] } as const;
    for (const [pinned, [ax, ay]] of Object.entries(away)) {
      // The steepest place of the first wave says where it is; shade is that wave alone.
      const phase = (x: number, y: number, turn: number): number => {
        const light = (t: number): number => pushed({ pinned: pinned as SwayShape['pinned'], turn: t }, x, y)[2]!;
        return Math.atan2(light(turn + 0.25), light(turn));
      };
      const [x, y] = [200, 110];
      const step = 6;
      const [here, further] = [phase(x, y, 0.1), phase(x + ax * step, y + ay * step, 0.1 + step / 60)];
      expect(Math.cos(further - here), pinned).to.be.closeTo(1, 1e-6);
    }
  });

  it('is nothing on the pinned side and all of it on the other', () => {
    const most = (x: number): number =>
      Math.max(
        ...Array.from({ length: 40 }, (_, k) =>
          Math.abs(pushed({ pinned: 'left', direction: 90, turn: k / 40 }, x, 90)[1]!),
        ),
      );
    expect(most(100)).to.equal(0);
    expect(most(200) / most(300)).to.be.closeTo(0.5 ** 0.8, 0.02);
    // Both waves at their highest at once is what the strength says, so it is never passed.
    expect(most(300)).to.be.within(8, 10);
  });

  it('fades in from the edge of its region by a smooth step', () => {
    const share = (at: number, form: 'rectangle' | 'ellipse' = 'rectangle'): number => {
      const region = { ...box, form };
      const x = 100 + at * 100;
      return pushed({ soft: 0.4, region }, x, 110)[0]! / pushed({ soft: 0, region }, x, 110)[0]!;
    };
    for (const t of [0.1, 0.25, 0.5, 0.8]) {
      expect(share(0.4 * t)).to.be.closeTo(t * t * (3 - 2 * t), 1e-9);
      expect(share(0.4 * t, 'ellipse')).to.be.closeTo(t * t * (3 - 2 * t), 1e-9);
    }
    expect(share(0.6)).to.equal(1);
    expect(pushed({ soft: 0.4 }, 99, 110)).to.deep.equal([0, 0, 0]);
    expect(pushed({ soft: 0, whole: false }, 99, 110)).to.deep.equal([0, 0, 0]);
    expect(pushed({ soft: 0, whole: true }, 99, 110)).not.to.deep.equal([0, 0, 0]);
  });
});
