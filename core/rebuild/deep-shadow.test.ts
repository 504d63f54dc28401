import { expect } from 'chai';
import type { Bytes, Rgba } from '../pixels/raster.ts';
import { rebuildBehind, unitedAlpha, type Behind } from './behind.ts';
import { hiddenBy, withoutShadow } from './shadow-layer.ts';
import { covered, disc, meanDifference, planks } from './test-pictures.ts';

const [width, height] = [260, 180];
const ground = planks(width, height);
const region = [
  {
    radius: 40,
    points: [
      [90, 112],
      [170, 112],
    ] as [number, number][],
  },
];

/** The ground under a shadow that takes most of the light, more of some colours than of others. */
function shadedBy(deepest: readonly [number, number, number]): Rgba {
  const out: Rgba = { ...ground, data: ground.data.slice() };
  for (let i = 0; i < width * height; i++) {
    const far = Math.hypot(((i % width) - 130) / 66, (Math.floor(i / width) - 112) / 32);
    const strength = Math.min(1, Math.max(0, (1 - far) / 0.55));
    for (let c = 0; c < 3; c++) out.data[i * 4 + c] = ground.data[i * 4 + c]! * (1 - deepest[c]! * strength);
  }
  return out;
}

/** Mean colour within a mask, and its largest value. */
function coloursIn(picture: Rgba, mask: { data: ArrayLike<number> }): { mean: number[]; most: number[] } {
  const [sum, most] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  let n = 0;
  for (let i = 0; i < mask.data.length; i++) {
    if (!mask.data[i]) continue;
    n++;
    for (let c = 0; c < 3; c++) {
      sum[c]! += picture.data[i * 4 + c]!;
      most[c] = Math.max(most[c]!, picture.data[i * 4 + c]!);
    }
  }
  return { mean: sum.map((v) => v / n), most };
}

const shares = ([r, g, b]: number[]): number[] => [r! / g!, b! / g!];

describe('a shadow so deep that little of its ground is left', () => {
  const core = disc(width, height, 130, 112, 16);
  for (const [name, deepest] of [
    ['reddish', [0.76, 0.87, 0.9]],
    ['bluish', [0.9, 0.87, 0.76]],
    ['nearly black', [0.985, 0.99, 0.99]],
  ] as const) {
    describe(name, () => {
      const shaded = shadedBy(deepest);
      let made: Behind;
      before(async () => {
        made = await rebuildBehind({ picture: shaded, pieces: [], shadows: [region], seed: 1 });
      });

      it('leaves a ground of the colours around it, as light as that', () => {
        const [found, truth] = [coloursIn(made.plate, core), coloursIn(ground, core)];
        shares(found.mean).forEach((share, k) => expect(share).to.be.closeTo(shares(truth.mean)[k]!, 0.09));
        found.mean.forEach((v, c) => expect(v).to.be.closeTo(truth.mean[c]!, 20));
        found.most.forEach((v, c) => expect(v).to.be.at.most(truth.most[c]! + 12));
        expect(meanDifference(made.plate, ground, core)).to.be.below(30);
      });

      it('leaves no tint where it is half as dark either', () => {
        const half: Bytes = {
          ...core,
          data: core.data.map((_, i) => {
            const far = Math.hypot(((i % width) - 130) / 66, (Math.floor(i / width) - 112) / 32);
            return far > 0.62 && far < 0.8 ? 1 : 0;
          }),
        };
        const [found, truth] = [coloursIn(made.plate, half), coloursIn(ground, half)];
        shares(found.mean).forEach((share, k) => expect(share).to.be.closeTo(shares(truth.mean)[k]!, 0.05));
      });

      it('laid over that ground gives the picture again, and taken from the picture gives the ground', () => {
        const { layer, bounds } = made.shadows[0]!;
        let worst = 0;
        for (let y = 0; y < bounds.height; y++) {
          for (let x = 0; x < bounds.width; x++) {
            const k = (y * bounds.width + x) * 4;
            const i = ((y + bounds.y) * width + x + bounds.x) * 4;
            const a = layer.data[k + 3]! / 255;
            for (let c = 0; c < 3; c++)
              worst = Math.max(
                worst,
                Math.abs(made.plate.data[i + c]! * (1 - a) + layer.data[k + c]! * a - shaded.data[i + c]!),
              );
          }
        }
        expect(worst).to.be.at.most(2);
        const again = withoutShadow(shaded, layer, bounds.x, bounds.y);
        const hidden = unitedAlpha([{ alpha: hiddenBy(layer), ...bounds }], width, height);
        const seen: Bytes = { ...core, data: core.data.map((v, i) => (v && !hidden.data[i] ? 1 : 0)) };
        const left = seen.data.reduce((sum, v) => sum + v, 0);
        // What cannot be had from the picture again is said to be hidden.
        if (name === 'nearly black') expect(left).to.equal(0);
        else expect(left).to.be.greaterThan(0.9 * core.data.reduce((sum, v) => sum + v, 0));
        if (left > 0) expect(meanDifference(again, made.plate, seen)).to.be.below(8);
      });
    });
  }

  it('under the piece that throws it, has nothing of the colours of that piece, and its ground no tint either', async () => {
    // A piece of a loud colour over the upper left third of a reddish shadow.
    const piece = disc(width, height, 108, 92, 34);
    const shaded = covered(shadedBy([0.76, 0.87, 0.9]), piece, [250, 120, 20]);
    const pieces = [{ alpha: { ...piece, data: piece.data.map((v) => v * 255) }, x: 0, y: 0 }];
    const { plate, shadows } = await rebuildBehind({ picture: shaded, pieces, shadows: [region], seed: 1 });
    const { layer, bounds } = shadows[0]!;
    let under = 0;
    for (let i = 0; i < piece.data.length; i++) {
      const [x, y] = [(i % width) - bounds.x, Math.floor(i / width) - bounds.y];
      if (!piece.data[i] || x < 0 || y < 0 || x >= bounds.width || y >= bounds.height) continue;
      const k = (y * bounds.width + x) * 4;
      if (layer.data[k + 3]! < 100) continue;
      under++;
      // The light that strays into a shadow this deep is a few levels.
      expect(Math.max(...layer.data.subarray(k, k + 3)), `${x}, ${y}`).to.be.below(45);
    }
    expect(under).to.be.greaterThan(300);
    const beside = disc(width, height, 150, 122, 12);
    const [found, truth] = [coloursIn(plate, beside), coloursIn(ground, beside)];
    shares(found.mean).forEach((share, k) => expect(share).to.be.closeTo(shares(truth.mean)[k]!, 0.09));
  });

  it('says how much of it is only continued from around', async () => {
    const share = async (deepest: readonly [number, number, number]): Promise<number> =>
      (await rebuildBehind({ picture: shadedBy(deepest), pieces: [], shadows: [region], seed: 1 })).shadows[0]!.lost;
    expect(await share([0.6, 0.6, 0.6])).to.equal(0);
    expect(await share([0.99, 0.99, 0.99])).to.be.within(0.1, 0.6);
  });

  it('a shadow that is none stays none', () => {
    const none: Rgba = { width: 8, height: 8, data: new Uint8ClampedArray(8 * 8 * 4) };
    expect(withoutShadow(ground, none, 4, 4).data).to.deep.equal(ground.data);
  });
});
