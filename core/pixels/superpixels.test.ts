import { expect } from 'chai';
import { seededRandom } from './random.ts';
import { makeRgba, type Rgba } from './raster.ts';
import { shortestPaths, type Steps } from './shortest-paths.ts';
import { superpixelKernel } from './superpixel-kernel.ts';
import { superpixelsOf, touchesOf } from './superpixels.ts';

const random = seededRandom(12);

/** Speckled fields of colour. */
function fields(width: number, height: number): Rgba {
  const picture = makeRgba(width, height);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const field = x + 0.4 * y < 0.6 * width ? [40, 90, 160] : y < height / 2 ? [200, 60, 50] : [230, 220, 200];
    picture.data.set([...field.map((v) => v + 24 * random() - 12), 255], 4 * i);
  }
  return picture;
}

function anyGraph(count: number): Steps {
  const steps = Array.from({ length: count }, (_, a) =>
    Array.from({ length: count }, (_, to) => ({ to, length: 12 * random() })).filter(
      ({ to }) => to !== a && random() < 3 / count,
    ),
  );
  const start = Int32Array.from({ length: count + 1 }, (_, a) => steps.slice(0, a).flat().length);
  const all = steps.flat();
  return { start, to: Int32Array.from(all, ({ to }) => to), step: Float32Array.from(all, ({ length }) => length) };
}

describe('superpixels', () => {
  it('the kernel runs here, so that it and the plain way are compared', () =>
    expect(superpixelKernel.within([8], () => true)).to.equal(true));

  it('are the same by both, to the last bit', () => {
    for (const [width, height, target] of [
      [71, 48, 60],
      [40, 61, 160],
      [9, 5, 4],
      [3, 1, 20],
      [130, 2, 9],
    ] as const) {
      const picture = fields(width, height);
      const made = superpixelsOf(picture, target);
      expect(made, `${width} ${height}`).to.deep.equal(superpixelKernel.without(() => superpixelsOf(picture, target)));
    }
  });

  it('keep to one side of an edge, and their colours are the means of theirs', () => {
    const picture = fields(90, 60);
    const { labels, count, size, centre } = superpixelsOf(picture, 80);
    expect(size.reduce((sum, n) => sum + n)).to.equal(90 * 60);
    const blues = new Float64Array(count);
    labels.forEach((label, i) => (blues[label]! += picture.data[4 * i]! < 100 ? 1 : 0));
    let mixed = 0;
    for (let k = 0; k < count; k++) mixed += Math.min(blues[k]!, size[k]! - blues[k]!);
    expect(mixed / (90 * 60)).to.be.below(0.01);
    const [left, top, n] = labels.reduce(
      ([x, y, n], label, i) => (label === 7 ? [x + (i % 90), y + Math.floor(i / 90), n + 1] : [x, y, n]),
      [0, 0, 0],
    );
    expect(centre[14]).to.be.closeTo(left / n, 1e-3);
    expect(centre[15]).to.be.closeTo(top / n, 1e-3);
  });

  it('touch where their pixels lie side by side', () => {
    const touching = touchesOf({
      width: 3,
      height: 2,
      labels: Int32Array.from([0, 0, 1, 2, 2, 1]),
      count: 4,
      size: new Float32Array(4),
      lab: new Float32Array(12),
      centre: new Float32Array(8),
    });
    expect([...touching]).to.deep.equal([0, 1, 1, 0, 1, 0, 1, 0, 1, 1, 0, 0, 0, 0, 0, 0]);
  });
});

describe('shortest ways in a graph', () => {
  it('are those found by trying every node between any two (Floyd 1962), as far as asked', () => {
    for (const count of [1, 2, 9, 40]) {
      const steps = anyGraph(count);
      const truth = new Float64Array(count * count).fill(Infinity);
      for (let a = 0; a < count; a++) {
        truth[a * count + a] = 0;
        for (let k = steps.start[a]!; k < steps.start[a + 1]!; k++) truth[a * count + steps.to[k]!] = steps.step[k]!;
      }
      for (let between = 0; between < count; between++)
        for (let a = 0; a < count; a++)
          for (let b = 0; b < count; b++) {
            const by = truth[a * count + between]! + truth[between * count + b]!;
            if (by < truth[a * count + b]!) truth[a * count + b] = by;
          }
      const made = shortestPaths(steps, 14);
      expect(made).to.deep.equal(superpixelKernel.without(() => shortestPaths(steps, 14)));
      truth.forEach((length, i) => {
        if (length > 14) expect(made[i]).to.equal(Infinity);
        else expect(made[i]).to.be.closeTo(length, 1e-4);
      });
    }
  });
});
