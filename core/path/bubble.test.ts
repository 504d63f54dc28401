import { expect } from 'chai';
import { bubbleForms, bubbleOutlines } from './bubble.ts';
import { coverageOf } from './coverage.ts';
import type { Path, Point } from './path.ts';

const box = { x: 100, y: 80, width: 120, height: 40 };
const middle: Point = [160, 100];
const padding = 16;
/** How far corners of an outline lie from the middle, by their direction. */
const reaches = ({ points }: Path): [angle: number, reach: number][] =>
  points.map(({ at: [x, y] }) => [Math.atan2(y - middle[1], x - middle[0]), Math.hypot(x - middle[0], y - middle[1])]);
const insideOf = (path: Path): ((x: number, y: number) => boolean) => {
  const { data } = coverageOf(path, 340, 240);
  return (x, y) => data[Math.round(y) * 340 + Math.round(x)]! > 0.5;
};

describe('bubbles around words', () => {
  for (const form of bubbleForms)
    it(`${form}: hold all of the words' box and room around it, as one closed line`, () => {
      const [path, ...others] = bubbleOutlines(box, form, padding, null);
      expect(others).to.deep.equal([]);
      expect(path!.closed).to.equal(true);
      const inside = insideOf(path!);
      for (let x = box.x - 4; x <= box.x + box.width + 4; x += 4)
        for (let y = box.y - 4; y <= box.y + box.height + 4; y += 4) expect(inside(x, y), `${x} ${y}`).to.equal(true);
      // And not much more than that.
      for (const [angle, reach] of reaches(path!)) expect(reach, String(angle)).to.be.below(130);
    });

  it('box: is the padded rectangle with round corners', () => {
    const [path] = bubbleOutlines(box, 'box', padding, null);
    const [w, h, radius] = [76, 36, padding * 0.8];
    for (const [angle, reach] of reaches(path!)) {
      const [x, y] = [Math.abs(reach * Math.cos(angle)), Math.abs(reach * Math.sin(angle))];
      // Distance from a rounded box: 0 on its line.
      const [dx, dy] = [x - (w - radius), y - (h - radius)];
      const away = Math.hypot(Math.max(0, dx), Math.max(0, dy)) + Math.min(0, Math.max(dx, dy)) - radius;
      expect(away, `${x} ${y}`).to.be.closeTo(0, 1e-6);
    }
  });

  it('burst: has 22 spikes, each a fifth longer than the valleys beside it', () => {
    const [path] = bubbleOutlines(box, 'burst', padding, null);
    const even = (angle: number): number =>
      ((Math.abs(Math.cos(angle)) / (76 * 1.1)) ** 2.2 + (Math.abs(Math.sin(angle)) / (36 * 1.12)) ** 2.2) **
      (-1 / 2.2);
    const lengths = reaches(path!).map(([angle, reach]) => reach / even(angle));
    const spikes = lengths.filter((length, k) => {
      const beside = [lengths.at(k - 1)!, lengths[(k + 1) % lengths.length]!];
      return length > beside[0]! && length >= beside[1]!;
    });
    expect(spikes).to.have.length(22);
    expect(Math.max(...lengths)).to.be.closeTo(1.22, 0.02);
    expect(Math.min(...lengths)).to.be.closeTo(1, 0.02);
  });

  it('point at who speaks: the tail ends there, and is as wide at the bubble as asked', () => {
    const tip: Point = [250, 220];
    for (const form of ['round', 'box', 'burst'] as const) {
      const [path] = bubbleOutlines(box, form, padding, { tip, width: 30 });
      const at = path!.points.findIndex((point) => point.at[0] === tip[0] && point.at[1] === tip[1]);
      expect(at, form).to.be.at.least(0);
      const [from, to] = [path!.points[at - 1]!.at, path!.points[at + 1]!.at];
      expect(Math.hypot(from[0] - to[0], from[1] - to[1]), form).to.be.within(20, 50);
      // Halfway along it there is tail, and on the other side of the bubble none.
      expect(insideOf(path!)((from[0] + to[0]) / 4 + tip[0] / 2, (from[1] + to[1]) / 4 + tip[1] / 2), form).to.equal(
        true,
      );
      expect(insideOf(path!)(2 * middle[0] - tip[0] + 20, 2 * middle[1] - tip[1] + 20), form).to.equal(false);
    }
  });

  it('have no tail where who speaks is within them', () => {
    for (const form of bubbleForms) {
      const inner = bubbleOutlines(box, form, padding, { tip: [170, 104], width: 30 });
      expect(inner).to.deep.equal(bubbleOutlines(box, form, padding, null));
    }
  });

  it('cloud: thoughts lead on in three discs that get smaller', () => {
    const tip: Point = [300, 210];
    const [cloud, ...discs] = bubbleOutlines(box, 'cloud', padding, { tip, width: 40 });
    expect(cloud).to.deep.equal(bubbleOutlines(box, 'cloud', padding, null)[0]);
    const circles = discs.map(({ points, closed }) => {
      expect(closed).to.equal(true);
      const [x, y] = [0, 1].map((k) => points.reduce((sum, { at }) => sum + at[k]!, 0) / points.length) as Point;
      const radii = points.map(({ at }) => Math.hypot(at[0] - x, at[1] - y));
      expect(Math.max(...radii) - Math.min(...radii)).to.be.below(1e-9);
      return { x, y, radius: radii[0]! };
    });
    expect(circles.map(({ radius }) => Number((radius / 20).toFixed(6)))).to.deep.equal([0.62, 0.43, 0.24]);
    // They lie on the way to who thinks, each nearer than the one before.
    const left = circles.map(({ x, y }) => Math.hypot(tip[0] - x, tip[1] - y));
    expect([...left].sort((a, b) => b - a)).to.deep.equal(left);
    for (const { x, y } of circles)
      expect((x - middle[0]) * (tip[1] - middle[1]) - (y - middle[1]) * (tip[0] - middle[0])).to.be.closeTo(0, 1e-6);
  });
});
