import { expect } from 'chai';
import { makeRgba, type Rgba } from '../pixels/raster.ts';
import { blocksOf } from './blocks.ts';
import { colourSamplingOf } from './colour-sampling.ts';
import type { Rgb } from './screen.ts';
import { shotOn, throughJpeg } from './test-screens.ts';

const screens: Rgb[] = [
  [40, 190, 70],
  [36, 60, 190],
  [200, 40, 160],
];

/** Two colours at half size, put over a full-size luma by repeating or by blending 3 to 1: what decoders do. */
function enlarged(
  luma: (x: number, y: number) => number,
  kind: 'repeated' | 'blended',
  width = 120,
  height = 90,
): Rgba {
  const out = makeRgba(width, height);
  const half = (x: number, y: number): number => {
    const [u, v] = [Math.max(0, Math.min(width / 2 - 1, x)), Math.max(0, Math.min(height / 2 - 1, y))];
    return (u * 7 + v * 13) % 11 < 5 ? -30 : 34;
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [u, v] = [x >> 1, y >> 1];
      const [nu, nv] = [u + (x & 1 ? 1 : -1), v + (y & 1 ? 1 : -1)];
      const blend = (9 * half(u, v) + 3 * half(nu, v) + 3 * half(u, nv) + half(nu, nv)) / 16;
      const colour = kind === 'blended' ? blend : half(u, v);
      const grey = luma(x, y);
      // Red and blue move by the colour, green by what keeps Rec. 709 luma as it is.
      const green = grey - (colour * (0.2126 - 0.0722)) / 0.7152;
      out.data.set([grey + colour, green, grey - colour, 255], (y * width + x) * 4);
    }
  }
  return out;
}

describe('how colour was stored', () => {
  it('is found in pictures that went through JPEG, and not in others', async () => {
    for (const screen of screens) {
      for (const soft of [1, 2, 3]) {
        const { picture } = shotOn({ screen, subject: [215, 150, 90], noise: 4, soft });
        expect(colourSamplingOf(picture), 'untouched').to.equal('full');
        expect(colourSamplingOf(await throughJpeg(picture, 80, '4:4:4')), 'full JPEG').to.equal('full');
        for (const quality of [70, 92])
          expect(
            colourSamplingOf(await throughJpeg(picture, quality, '4:2:0')),
            `JPEG ${screen.join()} ${soft} ${quality}`,
          ).to.equal('blended');
      }
    }
  });

  it('tells repeating from blending', () => {
    const luma = (x: number, y: number): number => 120 + 30 * Math.sin(x / 3) + 20 * Math.cos(y / 2);
    expect(colourSamplingOf(enlarged(luma, 'repeated'))).to.equal('repeated');
    expect(colourSamplingOf(enlarged(luma, 'blended'))).to.equal('blended');
  });

  it('is full where there are no edges to tell it by', () => {
    expect(colourSamplingOf(makeRgba(64, 48))).to.equal('full');
    expect(colourSamplingOf(makeRgba(2, 2))).to.equal('full');
  });

  it('blocks take blended colour back to the samples it came from, and leave luma as the mean it is', () => {
    const flat = enlarged(() => 128, 'blended');
    const truth = enlarged(() => 128, 'repeated');
    const blocks = blocksOf(flat, 'blended');
    for (let y = 1; y + 1 < blocks.height; y++) {
      for (let x = 1; x + 1 < blocks.width; x++) {
        const i = y * blocks.width + x;
        const want = truth.data[(2 * y * 120 + 2 * x) * 4]! - 128;
        expect(blocks.red[i], `${x} ${y}`).to.be.closeTo(want, 2);
        expect(blocks.blue[i], `${x} ${y}`).to.be.closeTo(-want, 2);
        expect(blocks.luma[i]).to.be.closeTo(128, 1);
      }
    }
  });
});
