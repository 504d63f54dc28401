import { expect } from 'chai';
import { coverageOf } from '../path/coverage.ts';
import { flattened, type Point } from '../path/path.ts';
import { valuesAt, storedFrom } from '../settings/setting.ts';
import { shapeFamilies } from './shape-kind.ts';
import { shapeKind, shapeKinds } from './shape-kinds.ts';

const size = { width: 240, height: 160 };

/** How often outlines go round a point: by the sum of the angles under which their sides are seen. */
function windingAt(outlines: readonly (readonly Point[])[], [x, y]: Point): number {
  let sum = 0;
  for (const line of outlines)
    line.forEach(([ax, ay], k) => {
      const [bx, by] = line[(k + 1) % line.length]!;
      const [ux, uy, vx, vy] = [ax - x, ay - y, bx - x, by - y];
      sum += Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
    });
  return Math.round(sum / (2 * Math.PI));
}

const linesOf = (id: string, values: Record<string, unknown> = {}): Point[][] => {
  const kind = shapeKind(id)!;
  const set = valuesAt(kind.settings, storedFrom(kind.settings, values), 0);
  return kind.outlines(set, size).map((path) => flattened(path, 0.05));
};

describe('every shape', () => {
  for (const kind of shapeKinds) {
    describe(kind.name, () => {
      it('has an id of its own, a family and a sentence', () => {
        expect(shapeKinds.filter(({ id }) => id === kind.id)).to.have.length(1);
        expect(shapeFamilies).to.include(kind.family);
        expect(kind.purpose).to.match(/^[A-Z].*\.$/);
      });

      it('lies within its box and fills a good part of it, at either end of every number', () => {
        for (const values of extremesOf(kind.settings)) {
          const lines = linesOf(kind.id, values);
          for (const [x, y] of lines.flat()) {
            expect(x, JSON.stringify(values)).to.be.within(-0.06 * size.width, 1.06 * size.width);
            expect(y, JSON.stringify(values)).to.be.within(-0.06 * size.height, 1.06 * size.height);
          }
        }
        const lines = linesOf(kind.id);
        const xs = lines.flat().map(([x]) => x);
        expect(Math.max(...xs) - Math.min(...xs)).to.be.above(0.6 * size.width);
      });

      it('is the same for the same numbers and another for others', () => {
        const start = JSON.stringify(linesOf(kind.id));
        expect(JSON.stringify(linesOf(kind.id))).to.equal(start);
        for (const [key, setting] of Object.entries(kind.settings)) {
          if (setting.kind !== 'number') continue;
          const other = setting.start === setting.most ? setting.least : setting.most;
          expect(JSON.stringify(linesOf(kind.id, { [key]: other })), key).to.not.equal(start);
        }
      });

      it('a handle moved to where a value puts it gives that value', () => {
        const start = valuesAt(kind.settings, storedFrom(kind.settings), 0);
        for (const [key, handle] of Object.entries(kind.handles)) {
          const setting = kind.settings[key]!;
          if (!handle || setting.kind !== 'number') continue;
          const whole = setting.unit === '';
          for (const share of [0.1, 0.4, 0.7]) {
            // A corner cannot be rounder than half of the box.
            const most = setting.unit === 'px' ? size.height / 2 : whole ? Math.min(setting.most, 24) : setting.most;
            const exact = setting.least + (most - setting.least) * share;
            const value = whole ? Math.max(3, Math.round(exact)) : exact;
            const values = { ...start, [key]: value };
            expect(handle.value(handle.at(values, size), values, size), key).to.be.closeTo(value, 1e-6);
          }
        }
      });
    });
  }

  it('what is a hole is one: a ring, a rosette, the ribs of a lantern', () => {
    expect(windingAt(linesOf('ellipse', { hole: 0.5 }), [120, 80])).to.equal(0);
    expect(windingAt(linesOf('ellipse', { hole: 0.5 }), [120, 10])).to.not.equal(0);
    expect(windingAt(linesOf('rosette'), [120, 80])).to.equal(0);
    expect(windingAt(linesOf('paper-lantern', { ribs: 1 }), [120, 160 * (0.46 + 0.034)])).to.equal(0);
    expect(windingAt(linesOf('paper-lantern', { ribs: 0 }), [120, 160 * (0.46 + 0.034)])).to.not.equal(0);
  });

  it('has the area that closed forms give: rectangle, rounded rectangle, ellipse, ring, star', () => {
    const areaOf = (id: string, values: Record<string, unknown>): number => {
      const kind = shapeKind(id)!;
      const paths = kind.outlines(valuesAt(kind.settings, storedFrom(kind.settings, values), 0), size);
      const areas = paths.map((path) => coverageOf(path, size.width, size.height).data.reduce((a, b) => a + b, 0));
      return areas.slice(1).reduce((area, hole) => area - hole, areas[0]!);
    };
    const whole = size.width * size.height;
    expect(areaOf('rectangle', {})).to.be.closeTo(whole, 1);
    expect(areaOf('rectangle', { radius: 40 })).to.be.closeTo(whole - (4 - Math.PI) * 40 ** 2, 8);
    expect(areaOf('ellipse', {})).to.be.closeTo((Math.PI / 4) * whole, 12);
    expect(areaOf('ellipse', { hole: 0.5 })).to.be.closeTo((Math.PI / 4) * whole * 0.75, 16);
    // A star of n points with radii R and r has the area n R r sin(pi / n); here with half axes for R.
    const [n, depth] = [5, 0.4];
    const star = n * (1 - depth) * Math.sin(Math.PI / n) * (size.width / 2) * (size.height / 2);
    expect(areaOf('star', { points: n, depth })).to.be.closeTo(star, 4);
  });

  it('a drip hangs from a straight edge, and no drop is longer than asked', () => {
    const low = (length: number): number =>
      Math.max(
        ...linesOf('drip', { length, uneven: 0 })
          .flat()
          .map((p) => p[1]),
      );
    expect(low(1)).to.be.closeTo(size.height, 0.5);
    expect(low(0.5)).to.be.closeTo(size.height * (0.16 + 0.42), 0.5);
  });
});

/** The start, and each number at its least and at its most. */
function extremesOf(settings: (typeof shapeKinds)[number]['settings']): Record<string, unknown>[] {
  const numbers = Object.entries(settings).flatMap(([key, one]) =>
    one.kind === 'number' ? [[key, one] as const] : [],
  );
  return [{}, ...numbers.flatMap(([key, { least, most }]) => [{ [key]: least }, { [key]: most }])];
}
