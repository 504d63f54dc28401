import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import type { Point } from '../motion/property.ts';
import { curveTable } from './curves.ts';
import { fromHsl, toHsl } from './colour-model.ts';
import { edgeDistance } from './operations/edge-distance.ts';
import { gaussian } from './operations/gaussian.ts';
import { statisticsOf } from './settle-in.ts';
import { finished, flat, pixelAt, roundThing, speckled } from './test-pictures.ts';

const near = (got: ArrayLike<number>, wanted: readonly number[], within = 1): void =>
  wanted.forEach((v, k) => expect(got[k], `${[...Array.from(got)].join()} is ${wanted.join()}`).closeTo(v, within));

describe('colour finishes against closed forms', () => {
  it('curves go through their points, never overshoot between them, and are straight where the points are', () => {
    const random = seededRandom(4);
    for (let run = 0; run < 50; run++) {
      const xs = [0, ...Array.from({ length: 3 }, random).sort(), 1];
      const points = xs
        .map((x): Point => [Math.round(x * 255) / 255, random()])
        .filter((p, k, all) => k === 0 || p[0] > all[k - 1]![0]);
      const table = curveTable(points);
      for (const [k, [x, y]] of points.entries()) {
        expect(table[Math.round(x * 255)]).closeTo(255 * y, 0.01);
        const next = points[k + 1];
        if (!next) continue;
        const [low, high] = [Math.min(y, next[1]) * 255, Math.max(y, next[1]) * 255];
        for (let v = Math.round(x * 255); v <= Math.round(next[0] * 255); v++)
          expect(table[v]).within(low - 0.01, high + 0.01);
      }
    }
    near(
      curveTable([
        [0, 0],
        [1, 1],
      ]),
      Array.from({ length: 256 }, (_, v) => v),
      1e-3,
    );
    const one = finished('curves', flat(2, 1, [100, 100, 100]), {
      red: [
        [0, 1],
        [1, 0],
      ],
    });
    expect(pixelAt(one, 0, 0)).to.deep.equal([155, 100, 100, 255]);
  });

  it('invert twice, and hue turned all the way round, give the picture back; alpha never changes', () => {
    const source = speckled(40, 30);
    const twice = finished('invert', finished('invert', source));
    const turned = finished('hue-saturation', source, { hue: 360 });
    for (let i = 0; i < source.data.length; i++) {
      expect(Math.abs(twice.data[i]! - source.data[i]!)).to.be.at.most(1);
      if (source.data[i | 3]! > 0) expect(Math.abs(turned.data[i]! - source.data[i]!)).to.be.at.most(1);
    }
  });

  it('hue, saturation and lightness are those of CSS hsl()', () => {
    const cases: [number[], number[]][] = [
      [
        [255, 0, 0],
        [0, 1, 0.5],
      ],
      [
        [0, 128, 0],
        [120, 1, 128 / 510],
      ],
      [
        [191, 64, 191],
        [300, 0.498, 0.5],
      ],
      [
        [128, 128, 128],
        [0, 0, 128 / 255],
      ],
    ];
    const out = [0, 0, 0];
    for (const [rgb, hsl] of cases) {
      toHsl(rgb[0]!, rgb[1]!, rgb[2]!, out);
      near(out, hsl, 0.01);
      fromHsl(hsl[0]!, hsl[1]!, hsl[2]!, out);
      near(out, rgb, 0.6);
    }
    near(pixelAt(finished('hue-saturation', flat(1, 1, [255, 0, 0]), { hue: 120 }), 0, 0), [0, 255, 0, 255]);
    const reds = finished('hue-saturation', flat(1, 1, [0, 0, 200]), { range: 'reds', hue: 90 });
    expect(pixelAt(reds, 0, 0)).to.deep.equal([0, 0, 200, 255]);
  });

  it('recolour takes one colour to another exactly, its shades along, and other hues not at all', () => {
    const values = { from: [200, 60, 40, 1], to: [40, 110, 170, 1] };
    near(pixelAt(finished('recolour', flat(1, 1, [200, 60, 40]), values), 0, 0), [40, 110, 170], 12);
    const shade = pixelAt(finished('recolour', flat(1, 1, [100, 30, 20]), values), 0, 0);
    expect(shade[2]).to.be.greaterThan(shade[0]! + 20);
    for (const other of [
      [40, 160, 60],
      [60, 70, 200],
      [220, 210, 40],
      [128, 128, 128],
      [255, 255, 255],
      [0, 0, 0],
    ])
      near(pixelAt(finished('recolour', flat(1, 1, other), values), 0, 0), other, 1);
  });

  it('posterize leaves as many levels as it says, threshold two colours, black and white one grey', () => {
    const levels = new Set(finished('posterize', speckled(60, 60), { levels: 4 }).data.filter((_, i) => i % 4 === 0));
    expect([...levels].sort((a, b) => a - b)).to.deep.equal([0, 85, 170, 255]);
    const cut = finished('threshold', speckled(60, 60), { softness: 0 });
    const colours = new Set(
      Array.from({ length: 3600 }, (_, k) =>
        pixelAt(cut, k % 60, Math.floor(k / 60))
          .slice(0, 3)
          .join(),
      ),
    );
    colours.delete(speckled(1, 1).data.slice(0, 3).join());
    expect([...colours].filter((c) => c === '28,42,48' || c === '245,242,235')).to.have.length(2);
    near(
      pixelAt(finished('grey', flat(1, 1, [10, 200, 60]), { red: 0.5, green: 0.25, blue: 0.25 }), 0, 0),
      [70, 70, 70],
    );
  });

  it('maps dark, middle and light to the three colours', () => {
    const map = (v: number) => pixelAt(finished('colour-map', flat(1, 1, [v, v, v])), 0, 0);
    near(map(0), [28, 42, 48]);
    near(map(127.5), [174, 59, 39], 2);
    near(map(255), [245, 242, 235]);
  });

  it('contrast turns about the middle, light adds, and nothing set changes nothing', () => {
    const none = { light: 0, contrast: 0, shadows: 0, highlights: 0 };
    const ramp = flat(1, 1, [30, 128, 220]);
    near(pixelAt(finished('light-contrast', ramp, none), 0, 0), [30, 128, 220]);
    near(pixelAt(finished('light-contrast', ramp, { ...none, light: 0.1 }), 0, 0), [55.5, 153.5, 245.5]);
    const hard = pixelAt(finished('light-contrast', ramp, { ...none, contrast: 0.5 }), 0, 0);
    near(hard, [0, 128.7, 255], 2);
  });
});

describe('edge finishes against exact distances', () => {
  it('the distance from the edge is that of the nearest edge pixel, found by looking at all', () => {
    const source = roundThing(30, 12);
    const distance = edgeDistance(source, Infinity);
    const { width, height } = source;
    for (let y = 0; y < height; y += 3)
      for (let x = 0; x < width; x += 3) {
        // The thing is a circle of radius 15 about the middle of the sheet.
        const true_ = Math.hypot(x + 0.5 - width / 2, y + 0.5 - height / 2) - 15;
        expect(distance.data[y * width + x], `${x}, ${y}`).closeTo(true_, 0.75);
      }
  });

  it('a faint speck far from the edge gets no outline of its own', () => {
    const source = roundThing(40, 40);
    source.data.set([90, 200, 90, 3], (10 * source.width + 10) * 4);
    const made = finished('outline', source, { width: 8, colour: [255, 0, 0, 1] });
    expect(pixelAt(made, 10, 10)[3]).to.be.at.most(3);
  });

  it('an outline is as wide as it says, where it says, with its gap', () => {
    const source = roundThing(60, 40);
    const c = source.width / 2;
    const ring = (values: Record<string, unknown>): number[] => {
      const made = finished('outline', source, { colour: [255, 0, 0, 1], ...values });
      const red = (x: number): boolean => {
        const [r, g, b, a] = pixelAt(made, Math.round(c + x), Math.round(c)) as [number, number, number, number];
        return a > 127 && r > 250 && g < 6 && b < 6;
      };
      const xs = Array.from({ length: 70 }, (_, k) => k).filter(red);
      return [xs[0]!, xs.at(-1)! + 1];
    };
    near(ring({ width: 8 }), [30, 38], 1);
    near(ring({ width: 8, gap: 10 }), [40, 48], 1);
    near(ring({ width: 8, position: 'inside' }), [22, 30], 1);
    near(ring({ width: 8, position: 'middle' }), [26, 34], 1);
  });

  it('a drop shadow without softness is the silhouette, moved; alone it is that and nothing else', () => {
    const source = roundThing(40, 40);
    const made = finished('drop-shadow', source, {
      angle: 0,
      distance: 12,
      softness: 0,
      colour: [0, 0, 0, 1],
      alone: true,
    });
    for (let y = 0; y < source.height; y += 2)
      for (let x = 12; x < source.width; x += 2)
        expect(pixelAt(made, x, y)[3]).closeTo(pixelAt(source, x - 12, y)[3]!, 2);
  });

  it('a cast shadow begins at the foot and lies on the ground beside it', () => {
    const source = roundThing(40, 60);
    const made = finished('cast-shadow', source, { lean: 0, length: -0.5, softness: 0, fade: 0, colour: [0, 0, 0, 1] });
    const c = source.width / 2;
    // Laid towards the viewer at half its height: from the foot at 100 down to 120, and no further.
    expect(pixelAt(made, c, 108)[3]).to.be.greaterThan(200);
    expect(pixelAt(made, c, 126)[3]).to.be.lessThan(60);
    expect(pixelAt(made, c, 80)).to.deep.equal(pixelAt(source, c, 80));
  });

  it('light and shade along the edge stay inside it', () => {
    const source = roundThing(50, 30);
    for (const id of ['edge-light', 'inner-shadow', 'light-wrap', 'vignette']) {
      const made = finished(id, source, {}, { behind: flat(110, 110, [255, 240, 200]) });
      for (let i = 3; i < source.data.length; i += 4)
        if (made.data[i] !== source.data[i]) expect.fail(`${id}: alpha of byte ${i}`);
    }
    const lit = finished('edge-light', source, { angle: 0, colour: [255, 255, 255, 1] });
    const bright = (x: number): number => pixelAt(lit, x, 55)[0]! - pixelAt(source, x, 55)[0]!;
    expect(bright(78)).to.be.greaterThan(40);
    expect(Math.abs(bright(33))).to.be.at.most(2);
  });
});

describe('blurs, matches and textures', () => {
  it('a Gaussian is that of a separable convolution', () => {
    const random = seededRandom(9);
    for (const sigma of [1.5, 4, 9, 11]) {
      const size = 96;
      const plane = { width: size, height: size, data: Float32Array.from({ length: size * size }, random) };
      const reach = Math.ceil(4 * sigma);
      const weights = Array.from({ length: 2 * reach + 1 }, (_, k) =>
        Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)),
      );
      const total = weights.reduce((a, b) => a + b);
      const along = (from: ArrayLike<number>, dx: number, dy: number): number[] =>
        Array.from({ length: size * size }, (_, i) => {
          const [x, y] = [i % size, Math.floor(i / size)];
          const clamp = (v: number): number => Math.max(0, Math.min(size - 1, v));
          return (
            weights.reduce(
              (s, w, k) => s + w * from[clamp(y + dy * (k - reach)) * size + clamp(x + dx * (k - reach))]!,
              0,
            ) / total
          );
        });
      const truth = along(along(plane.data, 1, 0), 0, 1);
      gaussian(plane, sigma);
      const got = plane.data;
      const error = truth.reduce((sum, v, i) => sum + Math.abs(v - got[i]!), 0) / truth.length;
      expect(error, `${sigma}`).to.be.lessThan(0.012);
    }
  });

  it('blurs along a way are the mean over it: a single point becomes a line, an arc, a ray of even light', () => {
    const dot = (x: number, y: number) => {
      const sheet = flat(121, 121, [0, 0, 0, 255]);
      sheet.data.set([255, 255, 255, 255], (y * 121 + x) * 4);
      return sheet;
    };
    const lit = (made: ReturnType<typeof dot>, at: (k: number) => [number, number]): number[] =>
      Array.from({ length: 21 }, (_, k) => pixelAt(made, ...(at(k - 10).map(Math.round) as [number, number]))[0]!);
    const line = finished('direction-blur', dot(60, 60), { length: 21, angle: 0 });
    for (const v of lit(line, (k) => [60 + 0.8 * k, 60])) expect(v).to.be.within(7, 17);
    expect(pixelAt(line, 60, 64)[0]).to.be.at.most(1);
    expect(pixelAt(line, 76, 60)[0]).to.be.at.most(1);
    const ray = finished('zoom-blur', dot(100, 60), { amount: 0.5 });
    // A point grows a little softer with each step, across the ray as along it.
    expect(pixelAt(ray, 100, 60)[0]).to.be.greaterThan(2);
    expect(pixelAt(ray, 93, 60)[0]).to.be.greaterThan(2);
    expect(pixelAt(ray, 60, 60)[0]).to.be.at.most(1);
    const arc = finished('spin-blur', dot(100, 60), { turn: 30 });
    const on = (degrees: number): [number, number] => [
      60 + 40 * Math.cos((degrees * Math.PI) / 180),
      60 + 40 * Math.sin((degrees * Math.PI) / 180),
    ];
    for (const v of lit(arc, (k) => on(1.1 * k))) expect(v).to.be.greaterThan(2);
    expect(pixelAt(arc, ...(on(25).map(Math.round) as [number, number]))[0]).to.be.at.most(1);
  });

  it('settled in wholly, means and deviations are those of what lies behind', () => {
    const source = roundThing(90, 5);
    const behind = flat(100, 100, [0, 0, 0]);
    const random = seededRandom(2);
    for (let i = 0; i < behind.data.length; i += 4) {
      const v = random() * 60;
      behind.data.set([60 + v, 70 + v * 0.9, 110 + v * 0.8], i);
    }
    const made = statisticsOf(finished('settle-in', source, { light: 1, contrast: 1, colour: 1 }, { behind }))!;
    const wanted = statisticsOf(behind)!;
    near(made.mean, wanted.mean, 4);
    const none = finished('settle-in', source, { light: 0, contrast: 0, colour: 0 }, { behind });
    none.data.forEach((v, i) => expect(Math.abs(v - source.data[i]!)).to.be.at.most(2));
  });

  it('halftone covers the share of ink that the tone asks for', () => {
    for (const form of ['dots', 'lines'])
      for (const tone of [60, 128, 200]) {
        const values = { form, ink: [0, 0, 0, 1], paper: [255, 255, 255, 1], size: 12 };
        const { data } = finished('halftone', flat(240, 240, [tone, tone, tone]), values);
        let sum = 0;
        for (let i = 0; i < data.length; i += 4) sum += data[i]!;
        expect(sum / (240 * 240), `${form} of ${tone}`).closeTo(tone, 5);
      }
  });

  it('coarse pixels keep the mean, strips and colours apart only move things about', () => {
    const source = speckled(64, 64);
    const opaque = { ...source, data: source.data.map((v, i) => (i % 4 === 3 ? 255 : v)) };
    const mean = (data: Uint8ClampedArray, c: number): number =>
      data.filter((_, i) => i % 4 === c).reduce((a, b) => a + b, 0) / 4096;
    const coarse = finished('coarse-pixels', opaque, { size: 8 });
    for (let c = 0; c < 3; c++) expect(mean(coarse.data, c)).closeTo(mean(opaque.data, c), 0.6);
    expect(pixelAt(coarse, 3, 3)).to.deep.equal(pixelAt(coarse, 4, 6));
    const apart = finished('colours-apart', opaque, { distance: 4, angle: 0 });
    near(pixelAt(apart, 30, 20), [
      opaque.data[(20 * 64 + 34) * 4]!,
      opaque.data[(20 * 64 + 30) * 4 + 1]!,
      opaque.data[(20 * 64 + 26) * 4 + 2]!,
    ]);
    const moved = finished('strips', opaque, { height: 8, shift: 10, round: false });
    for (let row = 0; row < 64; row += 8) {
      const by = [...Array(21).keys()]
        .map((k) => k - 10)
        .find((d) => pixelAt(moved, 30, row).join() === pixelAt(opaque, 30 - d, row).join());
      expect(by, `row ${row}`).to.be.within(-10, 10);
      expect(pixelAt(moved, 40, row + 5)).to.deep.equal(pixelAt(opaque, 40 - by!, row + 5));
    }
    // Going round, every row has what it had, only elsewhere, and nothing is bare.
    const round = finished('strips', opaque, { height: 8, shift: 10 });
    expect(round.data).to.not.deep.equal(opaque.data);
    for (let y = 0; y < 64; y++) {
      const row = (of: ReturnType<typeof finished>): string[] =>
        [...Array(64).keys()].map((x) => pixelAt(of, x, y).join()).sort();
      expect(row(round), `row ${y}`).to.deep.equal(row(opaque));
    }
  });

  it('grain has no mean of its own and is as strong as it says, moving or still', () => {
    const source = flat(200, 200, [128, 128, 128]);
    const still = finished('grain', source, { amount: 0.25, moving: false }, { frame: 1 });
    expect(finished('grain', source, { amount: 0.25, moving: false }, { frame: 2 }).data).to.deep.equal(still.data);
    expect(finished('grain', source, {}, { frame: 1 }).data).to.not.deep.equal(
      finished('grain', source, {}, { frame: 2 }).data,
    );
    const { mean, deviation } = statisticsOf(still)!;
    near(mean, [128, 128, 128], 1.5);
    const twice = statisticsOf(finished('grain', source, { amount: 0.5, moving: false }))!;
    expect(twice.deviation[0]! / deviation[0]!).closeTo(2, 0.25);
  });

  it('soft ramps are dithered: no run of equal values much longer than the ramp asks for', () => {
    const made = finished('edge-glow', roundThing(40, 400), { size: 380, strength: 0.6, colour: [255, 255, 255, 1] });
    let longest = 0;
    for (let x = 1, run = 1; x < 300; x++) {
      const same = pixelAt(made, x, 420)[3] === pixelAt(made, x - 1, 420)[3] && pixelAt(made, x, 420)[3]! > 2;
      run = same ? run + 1 : 1;
      longest = Math.max(longest, run);
    }
    expect(longest).to.be.lessThan(14);
  });

  it('flicker is steady without strength, and never brighter than the picture', () => {
    const source = flat(4, 4, [200, 150, 100]);
    expect(finished('flicker', source, { strength: 0 }, { frame: 9 }).data).to.deep.equal(source.data);
    for (let frame = 0; frame < 60; frame++)
      expect(pixelAt(finished('flicker', source, {}, { frame }), 0, 0)[0]).to.be.within(139, 200);
  });
});
