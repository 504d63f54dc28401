import { expect } from 'chai';
import { finished, flat, pixelAt, roundThing } from './test-pictures.ts';
import type { FinishPixels } from './finish.ts';

/** Where a pixel comes from after a share -1/2..1/2 of the way. */
type Way = (x: number, y: number, share: number) => [x: number, y: number];

/** The mean over a way in many small steps, premultiplied, each between four pixels; NaN where it is not asked for. */
function meanOver({ data, width, height }: FinishPixels, way: Way, steps = 80, every = 5): Float64Array {
  const out = new Float64Array(data.length).fill(NaN);
  const add = (to: number, x: number, y: number, weight: number): void => {
    if (x < 0 || y < 0 || x >= width || y >= height || weight === 0) return;
    const i = (y * width + x) * 4;
    const alpha = (data[i + 3]! / 255) * weight;
    for (let c = 0; c < 3; c++) out[to + c] = out[to + c]! + data[i + c]! * alpha;
    out[to + 3] = out[to + 3]! + 255 * alpha;
  };
  for (let k = 0; k < width * height; k += every) {
    out.fill(0, 4 * k, 4 * k + 4);
    for (let n = 0; n < steps; n++) {
      const [x, y] = way(k % width, Math.floor(k / width), (n + 0.5) / steps - 0.5);
      const [u, v] = [Math.floor(x), Math.floor(y)];
      add(4 * k, u, v, ((1 - x + u) * (1 - y + v)) / steps);
      add(4 * k, u + 1, v, ((x - u) * (1 - y + v)) / steps);
      add(4 * k, u, v + 1, ((1 - x + u) * (y - v)) / steps);
      add(4 * k, u + 1, v + 1, ((x - u) * (y - v)) / steps);
    }
  }
  return out;
}

/** Mean difference of premultiplied channels, and the largest. */
function apart(made: FinishPixels, truth: Float64Array): { mean: number; most: number } {
  let [sum, count, most] = [0, 0, 0];
  for (let i = 0; i < truth.length; i++) {
    if (Number.isNaN(truth[i])) continue;
    const difference = Math.abs(made.data[i]! * (i % 4 === 3 ? 1 : made.data[i | 3]! / 255) - truth[i]!);
    [sum, count, most] = [sum + difference, count + 1, Math.max(most, difference)];
  }
  return { mean: sum / count, most };
}
const away = (made: FinishPixels, truth: Float64Array): number => apart(made, truth).mean;

const side = 60;
const margin = 12;
const box = { x: margin, y: margin, width: side, height: side };
const places = [
  { said: 'its middle', centre: [0.5, 0.5] },
  { said: 'the middle of a pixel', centre: [0.325, 0.675] },
  { said: 'a corner', centre: [0, 1] },
  { said: 'a place beside it', centre: [1.8, 0.3] },
  { said: 'a place far above it', centre: [0.4, -9] },
] as const;

describe('means round a point and outwards from it', () => {
  const source = roundThing(side, margin);

  for (const { said, centre } of places) {
    const [cx, cy] = [margin + centre[0] * side - 0.5, margin + centre[1] * side - 0.5];

    it(`turned about ${said}, each pixel is the mean over its arc`, () => {
      for (const turn of [1.5, 12, 70, 180]) {
        const truth = meanOver(source, (x, y, share) => {
          const by = (turn * Math.PI * share) / 180;
          const [cos, sin] = [Math.cos(by), Math.sin(by)];
          return [cx + (x - cx) * cos - (y - cy) * sin, cy + (x - cx) * sin + (y - cy) * cos];
        });
        expect(away(finished('spin-blur', source, { turn, centre }, { box }), truth), `${turn}`).to.be.below(
          turn < 2 ? 1.1 : 0.8,
        );
      }
    });

    it(`grown from ${said}, each pixel is the mean over its ray`, () => {
      for (const amount of [0.04, 0.2, 1]) {
        const whole = Math.log1p(amount / 2) - Math.log1p(-amount / 2 / (1 + amount));
        const truth = meanOver(source, (x, y, share) => {
          const by = Math.exp(whole * share);
          return [cx + (x - cx) * by, cy + (y - cy) * by];
        });
        expect(away(finished('zoom-blur', source, { amount, centre }, { box }), truth), `${amount}`).to.be.below(0.6);
      }
    });
  }

  it('a ring stays as sharp as it was when turned about its middle, a ray when grown from its end', () => {
    const sheet = flat(121, 121, [0, 0, 0]);
    for (let k = 0; k < 121 * 121; k++) {
      const [dx, dy] = [(k % 121) - 60, Math.floor(k / 121) - 60];
      if (Math.abs(Math.hypot(dx, dy) - 40) < 2 || (Math.abs(dy) < 2 && dx > 0)) sheet.data.fill(255, 4 * k, 4 * k + 4);
    }
    const turned = finished('spin-blur', sheet, { turn: 120 });
    expect(pixelAt(turned, 20, 60)[0]).to.be.greaterThan(235);
    expect(pixelAt(turned, 17, 60)[0]).to.be.lessThan(40);
    const grown = finished('zoom-blur', sheet, { amount: 1 });
    expect(pixelAt(grown, 80, 60)[0]).to.be.greaterThan(250);
    expect(pixelAt(grown, 80, 63)[0]).to.be.lessThan(5);
  });

  it('in a large picture, which is worked on in coarser steps, every place is as near to the truth', () => {
    const [wide, high] = [900, 620];
    const sheet = flat(wide, high, [90, 110, 130]);
    for (let k = 0; k < wide * high; k++) {
      const [px, py] = [k % wide, Math.floor(k / wide)];
      // Bars across every way, small squares, and a corner that is not there.
      const bar = (px >> 5) % 3 === 0 || (py >> 5) % 4 === 0;
      const square = px % 23 < 7 && py % 19 < 7;
      if (bar !== square) sheet.data.set([230, 210, 60], 4 * k);
      if (px > 700 && py > 480) sheet.data.fill(0, 4 * k, 4 * k + 4);
    }
    const about = { x: 0, y: 0, width: wide, height: high };
    for (const centre of [
      [0.5, 0.5],
      [0.1, 1.2],
    ]) {
      const [u, v] = [centre[0]! * wide - 0.5, centre[1]! * high - 0.5];
      const grown = meanOver(
        sheet,
        (x, y, share) => {
          const by = Math.exp((Math.log1p(0.1) - Math.log1p(-0.1 / 1.2)) * share);
          return [u + (x - u) * by, v + (y - v) * by];
        },
        200,
        37,
      );
      const zoomed = apart(finished('zoom-blur', sheet, { amount: 0.2, centre }, { box: about }), grown);
      expect(zoomed.mean).to.be.below(1);
      expect(zoomed.most).to.be.below(30);
      const turned = meanOver(
        sheet,
        (x, y, share) => {
          const [cos, sin] = [Math.cos((Math.PI * share) / 9), Math.sin((Math.PI * share) / 9)];
          return [u + (x - u) * cos - (y - v) * sin, v + (x - u) * sin + (y - v) * cos];
        },
        200,
        37,
      );
      const spun = apart(finished('spin-blur', sheet, { turn: 20, centre }, { box: about }), turned);
      expect(spun.mean).to.be.below(1);
      expect(spun.most).to.be.below(30);
    }
  });

  it('leaves no seams where it is worked on in parts: what is even stays even', () => {
    const even = flat(901, 603, [120, 140, 160]);
    for (const centre of [
      [0.45, 0.5],
      [0.2, 1.4],
    ])
      for (const [id, setting] of [
        ['zoom-blur', { amount: 0.1 }],
        ['zoom-blur', { amount: 0.45 }],
        ['spin-blur', { turn: 9 }],
      ] as const) {
        const made = finished(id, even, { ...setting, centre });
        let [uneven, clear] = [0, 0];
        // So far from the border that nothing clear comes in.
        for (let y = 200; y < 480; y++)
          for (let x = 200; x < 700; x++) {
            const i = (y * 901 + x) * 4;
            uneven = Math.max(uneven, Math.abs(made.data[i]! - 120));
            clear = Math.max(clear, 255 - made.data[i + 3]!);
          }
        expect(uneven, `${id} ${centre}`).to.be.at.most(1);
        expect(clear, `${id} ${centre}`).to.equal(0);
      }
  });

  it('a strip as long as it is thin is worked on too', () => {
    const strip = flat(700, 6, [200, 100, 50]);
    for (const id of ['spin-blur', 'zoom-blur']) {
      const made = finished(id, strip, { centre: [0.5, 0.5] });
      expect(pixelAt(made, 350, 3)[3], id).to.be.greaterThan(200);
      const edge = pixelAt(made, 20, 3);
      expect(edge[0], id).to.be.closeTo(200, 3);
      expect(edge[3], id).to.be.greaterThan(20);
    }
  });
});
