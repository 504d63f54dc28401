import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeRgba, type Rgba } from '../pixels/raster.ts';
import { thinLine, type ThinLine } from './thin-line.ts';

type Colour = readonly [number, number, number];

interface Wire {
  /** Its middle: where it is at a place across the picture. */
  at(x: number): number;
  width(x: number): number;
  colour: Colour;
}

/** Soft patches of two tones, so that a wire runs before light and dark. */
const patches = (x: number, y: number): Colour => {
  const tone = 40 * Math.sin(x * 0.05 + 2 * Math.sin(y * 0.04)) + 20 * Math.sin(y * 0.11);
  return [150 + tone, 140 + tone * 0.8, 120 + tone * 0.6];
};

/** A picture of wires as a lens draws it, by the share of small samples that lie on them, with grain. */
function pictureOf(width: number, height: number, wires: readonly Wire[], ground = patches, grain = 6): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(5);
  const samples = 7;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      let colour: readonly number[] = ground(x, y);
      for (const wire of wires) {
        if (Math.abs(y + 0.5 - wire.at(x + 0.5)) > wire.width(x) + 6) continue;
        let [on, all] = [0, 0];
        for (let k = 0; k < samples * samples; k++) {
          const [du, dv] = [
            ((k % samples) / (samples - 1) - 0.5) * 3,
            (Math.floor(k / samples) / (samples - 1) - 0.5) * 3,
          ];
          const bell = Math.exp(-(du * du + dv * dv) / 0.7);
          const [u, v] = [x + 0.5 + du, y + 0.5 + dv];
          const slope = wire.at(u + 0.5) - wire.at(u - 0.5);
          all += bell;
          if (Math.abs(v - wire.at(u)) / Math.hypot(1, slope) <= wire.width(u) / 2) on += bell;
        }
        colour = colour.map((c, n) => c + ((wire.colour[n]! - c) * on) / all);
      }
      for (let c = 0; c < 3; c++) picture.data[i + c] = colour[c]! + grain * (random() + random() - 1);
      picture.data[i + 3] = 255;
    }
  return picture;
}

const even = (width: number) => () => width;
const sagging = (y: number, by: number, span: number) => (x: number) => y + by * Math.sin((Math.PI * x) / span);

/** How far a line's points are from a wire, at most and in the mean. */
function offOf(line: ThinLine, wire: Wire): { most: number; mean: number } {
  const off = line.points.map(
    ([x, y]) => Math.abs(y - wire.at(x)) / Math.hypot(1, wire.at(x + 0.5) - wire.at(x - 0.5)),
  );
  return { most: Math.max(...off), mean: off.reduce((a, b) => a + b) / off.length };
}

const middleRadius = ({ radii }: ThinLine): number => [...radii].sort((a, b) => a - b)[radii.length >> 1]!;

describe('a thin line between two places', () => {
  const span = 260;
  const wires: Wire[] = [
    { at: sagging(20, 12, span), width: even(1.6), colour: [222, 212, 190] },
    { at: sagging(64, -10, span), width: even(2.6), colour: [50, 44, 40] },
    { at: sagging(94, 9, span), width: even(4), colour: [170, 60, 40] },
  ];
  const picture = pictureOf(span, 130, wires);

  it('runs in the middle of the wire and is as wide, before light and dark, though the hand was off by two pixels', () => {
    for (const wire of wires) {
      const width = wire.width(0);
      const line = thinLine(
        picture,
        [
          [10, wire.at(10) + 2],
          [250, wire.at(250) - 2],
        ],
        5,
      )!;
      const { most, mean } = offOf(line, wire);
      expect(most, `${width}`).to.be.below(0.8);
      expect(mean, `${width}`).to.be.below(0.3);
      // A lens makes the thinnest a little wider at half its contrast.
      expect(2 * middleRadius(line), `${width}`).to.be.within(width - 0.2, width + 0.9);
      expect(line.points[0]![0]).to.be.closeTo(10, 4);
      expect(line.points.at(-1)![0]).to.be.closeTo(250, 4);
    }
  });

  it('is found where the hand pointed first and last, in either direction', () => {
    const wire = wires[2]!;
    const forth = thinLine(
      picture,
      [
        [20, wire.at(20)],
        [200, wire.at(200)],
      ],
      5,
    )!;
    const back = thinLine(
      picture,
      [
        [200, wire.at(200)],
        [20, wire.at(20)],
      ],
      5,
    )!;
    expect(forth.points[0]![0]).to.be.below(forth.points.at(-1)![0]);
    expect(back.points[0]![0]).to.be.above(back.points.at(-1)![0]);
    expect(offOf(back, wire).mean).to.be.below(0.3);
  });

  it('tapers as a whisker does', () => {
    const whisker: Wire = { at: sagging(40, -20, span), width: (x) => 4.6 - x / 80, colour: [238, 232, 220] };
    const line = thinLine(
      pictureOf(span, 80, [whisker]),
      [
        [8, whisker.at(8)],
        [250, whisker.at(250)],
      ],
      5,
    )!;
    expect(offOf(line, whisker).mean).to.be.below(0.3);
    expect(2 * line.radii[0]!).to.be.closeTo(4.5, 0.7);
    expect(2 * line.radii.at(-1)!).to.be.within(1.2, 2.7);
  });

  it('goes on where nothing tells it from its ground', () => {
    const dark: Wire = { at: sagging(40, 14, span), width: even(3), colour: [60, 56, 52] };
    const gap = (x: number, y: number): Colour => {
      const share = Math.max(0, Math.min(1, (26 - Math.abs(x - 130)) / 6));
      const [r, g, b] = patches(x, y);
      return [r + (60 - r) * share, g + (56 - g) * share, b + (52 - b) * share];
    };
    const line = thinLine(
      pictureOf(span, 90, [dark], gap),
      [
        [8, dark.at(8)],
        [250, dark.at(250)],
      ],
      5,
    )!;
    expect(offOf(line, dark).most).to.be.below(1.6);
    expect(2 * Math.max(...line.radii)).to.be.below(4.8);
  });

  it('follows a drag along one of two wires that cross', () => {
    const [falling, rising]: Wire[] = [
      { at: (x) => 20 + x * 0.3, width: even(2), colour: [40, 40, 44] },
      { at: (x) => 96 - x * 0.3, width: even(2), colour: [40, 40, 44] },
    ];
    const both = pictureOf(span, 120, [falling!, rising!]);
    const drag = Array.from({ length: 25 }, (_, k): [number, number] => [
      10 + k * 10,
      falling!.at(10 + k * 10) + (k % 3) - 1,
    ]);
    expect(offOf(thinLine(both, drag, 5)!, falling!).most).to.be.below(1);
  });

  it('is found over a long way in a large picture, and is nothing from a place to itself', () => {
    const long: Wire = { at: sagging(60, 30, 1500), width: even(3), colour: [44, 44, 50] };
    const wide = pictureOf(1500, 150, [long]);
    const line = thinLine(
      wide,
      [
        [12, long.at(12)],
        [1490, long.at(1490)],
      ],
      5,
    )!;
    expect(offOf(line, long).most).to.be.below(1);
    expect(line.points.length).to.be.below(200);
    expect(
      thinLine(
        wide,
        [
          [700, long.at(700)],
          [700, long.at(700)],
        ],
        5,
      ),
    ).to.equal(null);
  });
});
