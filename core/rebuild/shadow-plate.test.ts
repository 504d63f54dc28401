import { expect } from 'chai';
import { drawStroke } from '../cut/strokes.ts';
import { makeBytes, type Rgba } from '../pixels/raster.ts';
import { judgedShadow, type JudgedShadow } from './shadow-plate.ts';
import { planks } from './test-pictures.ts';

const [width, height] = [1000, 640];
const ground = planks(width, height);
const nothing = makeBytes(width, height);
const centre = [500, 340] as const;
const farOf = (i: number): number =>
  Math.hypot(((i % width) - centre[0]) / 160, (Math.floor(i / width) - centre[1]) / 95);

/** Planks under a round shadow that takes up to `deepest` of the light. */
function shaded(deepest: number): { picture: Rgba; taken: Float32Array } {
  const taken = Float32Array.from(
    { length: width * height },
    (_, i) => deepest * Math.min(1, Math.max(0, (1 - farOf(i)) / 0.6)),
  );
  const data = new Uint8ClampedArray(ground.data);
  for (let i = 0; i < taken.length; i++)
    for (let c = 0; c < 3; c++) data[i * 4 + c] = ground.data[i * 4 + c]! * (1 - taken[i]!);
  return { picture: { ...ground, data }, taken };
}

const region = makeBytes(width, height);
drawStroke(
  region,
  {
    radius: 110,
    points: [
      [400, 340],
      [600, 340],
    ],
  },
  1,
);

const guides = { barred: null, lines: [] };

describe('how dark a shadow is in a large picture', () => {
  const { picture, taken } = shaded(0.6);
  // Sparks on the dark ground.
  for (let y = 300; y < 340; y += 8)
    for (let x = 460; x < 540; x += 8) picture.data.fill(235, (y * width + x) * 4, (y * width + x) * 4 + 3);
  let light: JudgedShadow;
  before(async () => {
    light = await judgedShadow(picture, region, nothing, guides);
  });

  it('is judged on a smaller copy, as dark as it was made, and ends with its region', () => {
    let [sum, n, outside] = [0, 0, 0];
    for (let i = 0; i < taken.length; i++) {
      const same = [0, 1, 2].every((c) => light.clean.data[i * 4 + c] === picture.data[i * 4 + c]);
      if (!region.data[i]) outside += Number(light.alpha.data[i] !== 0 || !same);
      else if (farOf(i) < 0.9) [sum, n] = [sum + Math.abs(light.alpha.data[i]! / 255 - taken[i]!), n + 1];
    }
    expect(outside).to.equal(0);
    expect(sum / n).to.be.below(0.06);
  });

  it('never lightens a pixel beyond the range of a byte', () => {
    let most = 0;
    for (let i = 0; i < taken.length; i++)
      most = Math.max(most, Math.max(...picture.data.subarray(i * 4, i * 4 + 3)) / (1 - light.alpha.data[i]! / 255));
    expect(most).to.be.within(254, 256.5);
  });

  it('has a plate of its own at full size where it is so deep that the ground will be the plate', async () => {
    const detail = ({ data }: Rgba): number => {
      let sum = 0;
      for (let y = 345; y < 365; y++)
        for (let x = 460; x < 540; x++) {
          const i = (y * width + x) * 4;
          sum += Math.abs(2 * data[i]! - data[i - 4]! - data[i + 4]!);
        }
      return sum;
    };
    const deep = await judgedShadow(shaded(0.97).picture, region, nothing, guides);
    expect(detail(deep.clean)).to.be.above(1.15 * detail(light.clean));
  });
});
