import { expect } from 'chai';
import { coverageOf } from '../path/coverage.ts';
import { flattened } from '../path/path.ts';
import { slideApart, type Slide } from './slide-edits.ts';
import {
  cutAlongLines,
  cutIntoStrips,
  cutIntoTiles,
  outsideIn,
  pathsBetween,
  stripPaths,
  tilePaths,
} from './strip-edits.ts';
import { valueAt } from '../motion/property.ts';
import { addKey, setProperty } from './layer-edits.ts';
import { apply, card, empty, layerOf, near, shotOf } from './test-cards.ts';

const box = { x: 10, y: 20, width: 120, height: 80 };

describe('strips', () => {
  it('lie side by side over all of the box, whatever way they run and however uneven they are', () => {
    for (const angle of [90, 0, 30, -65])
      for (const uneven of [0, 0.8]) {
        const paths = stripPaths(box, { count: 6, angle, uneven, seed: 4 });
        const sum = new Float32Array(150 * 120);
        for (const path of paths) coverageOf(path, 150, 120).data.forEach((v, i) => (sum[i]! += v));
        // Everywhere at least one; more than one only where a strip reaches under the next.
        let twice = 0;
        for (let y = 22; y < 98; y++)
          for (let x = 12; x < 128; x++) {
            expect(sum[y * 150 + x]).to.be.greaterThan(0.99);
            if (sum[y * 150 + x]! > 1.01) twice++;
          }
        expect(twice / (76 * 116)).to.be.below(0.25);
      }
  });

  it('even ones are alike, uneven ones are not, and a seed makes them again', () => {
    const widths = (uneven: number, seed: number): number[] =>
      stripPaths(box, { count: 5, angle: 90, uneven, seed })
        .slice(1, -1)
        .map((path) => {
          const xs = path.points.map((p) => p.at[0]);
          return Math.max(...xs) - Math.min(...xs);
        });
    for (const w of widths(0, 1)) expect(w).to.be.closeTo(24 + 1.5, 1e-9);
    expect(new Set(widths(0.5, 1).map((w) => w.toFixed(3))).size).to.equal(3);
    expect(widths(0.5, 1)).to.deep.equal(widths(0.5, 1));
    expect(widths(0.5, 1)).to.not.deep.equal(widths(0.5, 2));
  });

  it('are layers with what their layer had, numbered from the outside in', () => {
    expect(outsideIn(5)).to.deep.equal([0, 4, 1, 3, 2]);
    const cut = apply(
      empty(),
      card('photo'),
      addKey('shot', 'photo', 'position', 0, [0, 0]),
      addKey('shot', 'photo', 'position', 20, [50, 0]),
      cutIntoStrips('shot', 'photo', { count: 5, angle: 90, uneven: 0, seed: 1 }),
    );
    const { layers } = shotOf(cut);
    expect(layers.map((l) => l.name)).to.deep.equal([1, 2, 3, 4, 5].map((n) => `photo strip ${n}`));
    for (const l of layers) expect('keys' in l.position && l.position.keys.length).to.equal(2);
    const middles = layers.map((l) => {
      const xs = flattened(l.masks[0]!.path).map(([x]) => Math.max(0, Math.min(40, x)));
      return (Math.min(...xs) + Math.max(...xs)) / 2;
    });
    expect(middles.map((m) => Math.round(m / 8 - 0.5))).to.deep.equal([0, 4, 1, 3, 2]);
  });
});

describe('parts of a picture that is shown much smaller than it is', () => {
  it('reach under one another by what is seen of it, or their soft edges would leave lines', () => {
    const wide = (cut: (d: ReturnType<typeof empty>) => ReturnType<typeof empty>, at: number): number => {
      const xs = layerOf(cut(apply(empty(), card('photo'), setProperty('shot', 'photo', 'scale', 0, at))), 'photo')
        .masks[0]!.path.points.map((p) => p.at[0])
        .map((x) => Math.max(-1, x));
      return Math.max(...xs);
    };
    const strips = cutIntoStrips('shot', 'photo', { count: 4, angle: 90, uneven: 0, seed: 1 });
    const tiles = cutIntoTiles('shot', 'photo', { columns: 4, rows: 1, uneven: 0, seed: 1 });
    const lines = cutAlongLines('shot', 'photo', [
      [
        [10, 0],
        [10, 20],
      ],
    ]);
    for (const [edit, share] of [
      [strips, 1],
      [tiles, 0.5],
    ] as const) {
      // The first part ends at a quarter of 40 pixels, and a pixel and a half of the frame beyond.
      expect(wide(edit.apply, 1)).closeTo(10 + 1.5 * share, 1e-9);
      expect(wide(edit.apply, 0.25)).closeTo(10 + 6 * share, 1e-9);
    }
    const parts = [1, 0.25].map((at) => {
      const { layers } = shotOf(
        lines.apply(apply(empty(), card('photo'), setProperty('shot', 'photo', 'scale', 0, at))),
      );
      const ends = layers.map((l) => l.masks[0]!.path.points.map((p) => p.at[0]));
      return Math.min(...ends.map((xs) => Math.max(...xs))) - Math.max(...ends.map((xs) => Math.min(...xs)));
    });
    expect(parts[0]).closeTo(1.5, 1e-9);
    expect(parts[1]).closeTo(6, 1e-9);
  });
});

/** How often paths cover the pixels well inside a box: the least, and the share that is covered more than once. */
function covered(paths: readonly Parameters<typeof coverageOf>[0][]): { least: number; twice: number } {
  const sum = new Float32Array(150 * 120);
  for (const path of paths) coverageOf(path, 150, 120).data.forEach((v, i) => (sum[i]! += v));
  let [least, twice, count] = [Infinity, 0, 0];
  for (let y = 22; y < 98; y++)
    for (let x = 12; x < 128; x++, count++) {
      least = Math.min(least, sum[y * 150 + x]!);
      if (sum[y * 150 + x]! > 1.01) twice++;
    }
  return { least, twice: twice / count };
}

describe('tiles and drawn cuts', () => {
  it('tiles lie side by side over all of the box, as many as asked, and only touch', () => {
    for (const uneven of [0, 0.8]) {
      const paths = tilePaths(box, { columns: 4, rows: 3, uneven, seed: 2 });
      expect(paths).to.have.length(12);
      const { least, twice } = covered(paths);
      expect(least).to.be.above(0.99);
      expect(twice).to.be.below(0.3);
    }
    const [, second] = tilePaths(box, { columns: 4, rows: 1, uneven: 0, seed: 2 });
    near([second!.points[0]!.at[0], second!.points[1]!.at[0]], [40 - 0.75, 70 + 0.75]);
  });

  it('a line parts what it crosses and nothing else; two that cross make four parts', () => {
    const upright = [
      [70, 0],
      [70, 10],
    ] as const;
    const level = [
      [0, 60],
      [10, 60],
    ] as const;
    const beside = [
      [0, 0],
      [0, 10],
    ] as const;
    const lines = (...all: (readonly (readonly number[])[])[]) => all as unknown as Parameters<typeof pathsBetween>[1];
    expect(pathsBetween(box, lines(upright))).to.have.length(2);
    expect(pathsBetween(box, lines(upright, level))).to.have.length(4);
    expect(pathsBetween(box, lines(beside))).to.have.length(1);
    const slanted = [
      [10, 20],
      [130, 100],
    ] as const;
    const parts = pathsBetween(box, lines(upright, level, slanted));
    expect(parts).to.have.length(6);
    const { least, twice } = covered(parts);
    expect(least).to.be.above(0.99);
    expect(twice).to.be.below(0.15);
    // Where the slanted line runs, each half is a triangle of half the box.
    const [half] = pathsBetween(box, lines(slanted)).map((path) => {
      const { data } = coverageOf(path, 150, 120);
      let sum = 0;
      for (let y = 20; y < 100; y++) for (let x = 10; x < 130; x++) sum += data[y * 150 + x]!;
      return sum;
    });
    expect(half).to.be.closeTo((120 * 80) / 2, 120);
  });

  it('become layers, the ones furthest out first, with a shadow each where that is wanted', () => {
    const tiles = apply(
      empty(),
      card('photo'),
      cutIntoTiles('shot', 'photo', { columns: 3, rows: 1, uneven: 0, seed: 1 }, true),
    );
    const { layers } = shotOf(tiles);
    expect(layers.map((l) => l.name)).to.deep.equal(['photo tile 1', 'photo tile 2', 'photo tile 3']);
    expect(layers.map((l) => l.masks[0]!.id)).to.deep.equal(['tile-0-0', 'tile-2-0', 'tile-1-0']);
    expect(layers.every((l) => l.finishes[0]!.kind === 'drop-shadow')).to.equal(true);
    // Cut again, each part keeps the cut it came from.
    const again = apply(
      tiles,
      cutAlongLines('shot', 'photo', [
        [
          [0, 10],
          [40, 10],
        ],
      ]),
    );
    expect(shotOf(again).layers).to.have.length(4);
    expect(layerOf(again, 'photo').masks.map(({ how }) => how)).to.deep.equal(['add', 'within']);
    expect(shotOf(apply(tiles, cutAlongLines('shot', 'photo', []))).layers).to.have.length(3);
  });
});

describe('sliding apart', () => {
  const straight = { way: 'outwards', distance: 100, uneven: 0, seed: 1, frames: 20, together: false } as const;
  const slide: Slide = { ...straight, bend: 0, turn: 0, later: 0 };
  const four = () =>
    apply(
      empty(),
      ...[-60, -20, 20, 60].map((x, k) => card(`p${k}`, 3, [x, 0])),
      slideApart('shot', ['p0', 'p1', 'p2', 'p3'], 10, slide),
    );
  const at = (document: ReturnType<typeof four>, id: string, frame: number): number[] =>
    valueAt(layerOf(document, id).position, frame);

  it('each leaves its place away from their middle, by the distance, in the time', () => {
    const document = four();
    near(at(document, 'p0', 10), [-60, 0]);
    near(at(document, 'p0', 30), [-160, 0]);
    near(at(document, 'p2', 30), [120, 0]);
    near(at(document, 'p2', 59), [120, 0]);
  });

  it('bowed ways end where straight ones do and bulge half way by their share, to one side or the other', () => {
    const ids = ['p0', 'p1', 'p2', 'p3'];
    const bent = apply(four(), slideApart('shot', ids, 0, { ...slide, bend: 0.3 }));
    const plain = apply(four(), slideApart('shot', ids, 0, slide));
    const bulge = ids.map((id) => {
      near(at(bent, id, 20), at(plain, id, 20));
      // All ways are level: what lies aside is up or down. The furthest is the bulge.
      return Array.from({ length: 21 }, (_, frame) => at(bent, id, frame)[1]!).reduce((a, b) =>
        Math.abs(b) > Math.abs(a) ? b : a,
      );
    });
    for (const way of bulge) expect(Math.abs(way)).to.be.closeTo(30, 1);
  });

  it('each turns on its way, and together they end as they stood', () => {
    const turn = { ...slide, turn: 90 };
    const rotation = (document: ReturnType<typeof four>, id: string, frame: number): number =>
      valueAt<number>(layerOf(document, id).rotation, frame);
    const out = apply(four(), slideApart('shot', ['p0', 'p3'], 0, turn));
    expect([
      rotation(out, 'p0', 0),
      Math.abs(rotation(out, 'p0', 20)),
      Math.abs(rotation(out, 'p3', 20)),
    ]).to.deep.equal([0, 90, 90]);
    const back = apply(four(), slideApart('shot', ['p0'], 0, { ...turn, together: true }));
    expect([Math.abs(rotation(back, 'p0', 0)), rotation(back, 'p0', 20)]).to.deep.equal([90, 0]);
    expect(layerOf(apply(four(), slideApart('shot', ['p0'], 0, slide)), 'p0').rotation).to.deep.equal({ value: 0 });
  });

  it('columns begin one after the other, from the left; those of one column together', () => {
    const two = apply(
      empty(),
      ...[40, -40, 41, -41].map((x, k) => card(`p${k}`, 3, [x, k < 2 ? 0 : 50])),
      slideApart('shot', ['p0', 'p1', 'p2', 'p3'], 5, { ...slide, later: 4 }),
    );
    const begins = ['p0', 'p1', 'p2', 'p3'].map((id) => {
      const { position } = layerOf(two, id);
      return 'keys' in position ? position.keys.map((key) => key.frame) : [];
    });
    expect(begins).to.deep.equal([
      [9, 29],
      [5, 25],
      [9, 29],
      [5, 25],
    ]);
  });

  it('never begin before the playhead, also on the last frame of the shot', () => {
    const { length } = shotOf(empty());
    const document = apply(
      empty(),
      card('a'),
      card('b', 3, [50, 0]),
      slideApart('shot', ['a', 'b'], length - 1, { ...slide, later: 9 }),
    );
    for (const id of ['a', 'b']) {
      const { position } = layerOf(document, id);
      expect('keys' in position && position.keys.map((key) => key.frame)).to.deep.equal([length - 1, length]);
    }
  });

  it('together they come from there and end where they lay', () => {
    const document = apply(four(), slideApart('shot', ['p0', 'p3'], 40, { ...slide, together: true, frames: 10 }));
    near(at(document, 'p0', 40), [-260, 0]);
    near(at(document, 'p0', 50), [-160, 0]);
  });

  it('unlike lengths are those of the seed, and parts of one picture go by where their part lies', () => {
    const parts = apply(
      empty(),
      card('photo'),
      setProperty('shot', 'photo', 'scale', 0, 4),
      cutIntoStrips('shot', 'photo', { count: 4, angle: 90, uneven: 0, seed: 1 }),
    );
    const ids = shotOf(parts).layers.map((l) => l.id);
    const out = apply(parts, slideApart('shot', ids, 0, { ...slide, uneven: 0.5 }));
    const ways = ids.map((id) => at(out, id, 20)[0]!);
    // Numbered from the outside in: left, right, left, right.
    expect(ways.map(Math.sign)).to.deep.equal([-1, 1, -1, 1]);
    for (const way of ways) expect(Math.abs(way)).to.be.within(50, 100);
    expect(new Set(ways.map((way) => Math.abs(way).toFixed(2))).size).to.equal(4);
    const again = apply(parts, slideApart('shot', ids, 0, { ...slide, uneven: 0.5 }));
    expect(ids.map((id) => at(again, id, 20)[0]!)).to.deep.equal(ways);
    const upDown = apply(parts, slideApart('shot', ids, 0, { ...slide, way: 'up and down' }));
    expect(ids.map((id) => at(upDown, id, 20)[1]!)).to.deep.equal([-100, 100, -100, 100]);
  });
});
