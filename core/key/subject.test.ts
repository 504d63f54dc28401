import { expect } from 'chai';
import { makeRgba, type Rgba } from '../pixels/raster.ts';
import { rgbOf } from './blocks.ts';
import { chromaKeyByKernel } from './chroma-kernel.ts';
import { defaultChroma } from './keyed.ts';
import { chromaKeyPlain, measureScene } from './plain-chroma.ts';
import type { Rgb } from './screen.ts';
import { linesOn, throughJpeg } from './test-screens.ts';

const screen: Rgb = [40, 60, 180];
const straw: Rgb = [205, 180, 110];

/** Nothing but lines: what is above the bar they rise from. */
function rowsOf({ width, data }: Rgba, from: number, to: number): Rgba {
  const part = makeRgba(width, to - from);
  part.data.set(data.subarray(from * width * 4, to * width * 4));
  return part;
}

const lines = (thick: number): Promise<Rgba> => {
  const { picture } = linesOn({ screen, subject: straw, thick, opacity: [1, 1], noise: 1.5 });
  return throughJpeg(rowsOf(picture, 20, 140), 92, '4:2:0');
};

/** How far along the way from the screen to the subject the colours lie that were measured in its cells, 0..1, on average. */
function meanShare(picture: Rgba): number {
  const { scene, cover } = measureScene(picture, defaultChroma);
  const { colours } = scene.subject;
  const columns = scene.screen.width;
  const shares: number[] = [];
  for (let i = 0; i < cover.length; i++) {
    if (cover[i]! < 0.5) continue;
    const [x, y] = [i % scene.blocks.width, Math.floor(i / scene.blocks.width)];
    const o = ((y >> 2) * columns + (x >> 2)) * 4;
    const at = (values: Float32Array): Rgb => rgbOf(values[o]!, values[o + 1]!, values[o + 2]!);
    const [behind, seen] = [at(scene.screen.values), at(colours!.values)];
    const way = straw.map((v, c) => v - behind[c]!);
    const along = way.reduce((sum, w, c) => sum + w * (seen[c]! - behind[c]!), 0);
    shares.push(along / way.reduce((sum, w) => sum + w * w, 0));
  }
  return shares.reduce((sum, v) => sum + v, 0) / shares.length;
}

describe("the subject's colour before it is keyed", () => {
  it('is that of whole things where they are seen', async () => {
    expect(meanShare(await lines(7))).to.be.within(0.95, 1.05);
  });

  it('is not that of its mixtures with the screen, where it is nowhere whole', async () => {
    // No block is covered all around; of many only a half is.
    expect(meanShare(await lines(3))).to.be.within(0.93, 1.05);
    expect(meanShare(await lines(2))).to.be.within(0.83, 1.05);
  });

  it('is the same by the kernel', async () => {
    for (const thick of [2, 3]) {
      const picture = await lines(thick);
      const [kernel, plain] = [chromaKeyByKernel(picture, defaultChroma), chromaKeyPlain(picture, defaultChroma)];
      const off = plain.alpha.data.reduce((sum, v, i) => sum + Math.abs(v - kernel.alpha.data[i]!), 0);
      expect(off / plain.alpha.data.length, `lines of ${thick} pixels`).to.be.below(0.01);
    }
  });
});
