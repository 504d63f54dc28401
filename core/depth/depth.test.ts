import { expect } from 'chai';
import { apply, cameraOfFraming, circleOfConfusion, viewOfPlane } from './camera.ts';
import { homographyOf, invertHomography, throughHomography } from './homography.ts';

describe('lens', () => {
  it('sees its framing on the framed plane, rolled and at any focal length', () => {
    for (const [roll, zoom] of [
      [0, 1],
      [25, 1],
      [-140, 2.5],
      [10, 0.6],
    ] as const) {
      const camera = cameraOfFraming({ x: 120, y: -40, size: 0.7, roll, zoom }, 4);
      const angle = (roll * Math.PI) / 180;
      // The right end of the framing's own axis is the right end of the frame.
      const end: [number, number] = [120 + 960 * 0.7 * Math.cos(angle), -40 + 960 * 0.7 * Math.sin(angle)];
      const [x, y] = apply(viewOfPlane(camera, 4)!, end);
      expect(x, `${roll} ${zoom}`).closeTo(960, 1e-9);
      expect(y).closeTo(0, 1e-9);
    }
  });

  it('zoomed instead of dollied, sees all planes grow alike', () => {
    const zoomed = cameraOfFraming({ x: 0, y: 0, size: 0.5, zoom: 2 }, 4);
    expect(zoomed.z).closeTo(0, 1e-12);
    expect(viewOfPlane(zoomed, 2)!.scale).closeTo(viewOfPlane(zoomed, 20)!.scale, 1e-12);
    const dollied = cameraOfFraming({ x: 0, y: 0, size: 0.5 }, 4);
    expect(viewOfPlane(dollied, 3)!.scale).to.be.greaterThan(viewOfPlane(dollied, 20)!.scale);
  });

  it('moves near and far alike, as they are, or opposite, and the framed plane always as framed', () => {
    const seen = (parallax: number, hold: number, depth: number): number =>
      viewOfPlane({ ...cameraOfFraming({ x: 100, y: 0, size: 1 }, 4), planes: { depth: 4, parallax, hold } }, depth)!.x;
    for (const depth of [2, 4, 9]) expect(seen(0, 0, depth)).closeTo(-100, 1e-9);
    expect(seen(1, 0, 2)).closeTo(viewOfPlane(cameraOfFraming({ x: 100, y: 0, size: 1 }, 4), 2)!.x, 1e-9);
    for (const parallax of [-1, 0, 1, 3]) expect(seen(parallax, 0, 4)).closeTo(-100, 1e-9);
    expect(seen(1, 1, 4)).closeTo(0, 1e-9);
    expect(seen(1, 1, 2)).to.be.below(-50);
    expect(seen(1, 1, 9)).to.be.above(50);
    // Upright it is as it is across.
    for (const [parallax, hold] of [
      [1, 0],
      [1, 1],
      [2, 0.5],
    ] as const) {
      const planes = { depth: 4, parallax, hold };
      const upright = viewOfPlane({ ...cameraOfFraming({ x: 0, y: 100, size: 1 }, 4), planes }, 9)!;
      expect(upright.y).closeTo(seen(parallax, hold, 9), 1e-9);
    }
    // Twice the parallax is twice the difference from the framed plane.
    expect(seen(2, 1, 6)).closeTo(2 * seen(1, 1, 6), 1e-9);
  });

  it('blurs nothing in focus and, far away, as much as its aperture says', () => {
    expect(circleOfConfusion(3, 3, 20)).to.equal(0);
    expect(circleOfConfusion(1e9, 3, 20)).closeTo(20, 1e-6);
    // A thin lens: f = 0.05, distances 2 and 3, against its formula A f |d - s| / (d (s - f)) made relative to infinity.
    const thin = (d: number): number => (0.05 * Math.abs(d - 2)) / (d * (2 - 0.05));
    expect(circleOfConfusion(3, 2, 1)).closeTo(thin(3) / thin(1e12), 1e-9);
  });
});

describe('projective map', () => {
  const from = [0, 0, 100, 0, 100, 60, 0, 60];
  const to = [10, 5, 90, 20, 120, 80, -5, 55];

  it('takes four corners to four others, keeps lines straight, and goes back', () => {
    const map = homographyOf(from, to)!;
    for (let k = 0; k < 4; k++) {
      const [u, v] = throughHomography(map, from[2 * k]!, from[2 * k + 1]!)!;
      expect(u).closeTo(to[2 * k]!, 1e-9);
      expect(v).closeTo(to[2 * k + 1]!, 1e-9);
    }
    const line = [10, 40, 90].map((x) => throughHomography(map, x, 10 + x / 3)!);
    const [a, b, c] = line as [[number, number], [number, number], [number, number]];
    expect((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])).closeTo(0, 1e-7);
    const back = invertHomography(map)!;
    const [x, y] = throughHomography(back, ...throughHomography(map, 33, 21)!)!;
    expect([x, y].map((v) => Number(v.toFixed(9)))).to.deep.equal([33, 21]);
  });

  it('puts the crossing of the diagonals where they cross, which two triangles do not', () => {
    const map = homographyOf(from, to)!;
    const [x, y] = throughHomography(map, 50, 30)!;
    // Crossing of the segments between opposite corners, by Cramer's rule.
    const [x1, y1, x2, y2, x3, y3, x4, y4] = [to[0]!, to[1]!, to[4]!, to[5]!, to[2]!, to[3]!, to[6]!, to[7]!];
    const d = (x1 - x2) * (y3 - y4) - (y1 - y2) * (x3 - x4);
    const [p, q] = [x1 * y2 - y1 * x2, x3 * y4 - y3 * x4];
    expect(x).closeTo((p * (x3 - x4) - (x1 - x2) * q) / d, 1e-9);
    expect(y).closeTo((p * (y3 - y4) - (y1 - y2) * q) / d, 1e-9);
  });

  it('does not exist for corners on one line', () => {
    expect(homographyOf([0, 0, 1, 0, 2, 0, 3, 0], to)).to.equal(null);
  });
});
