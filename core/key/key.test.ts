import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { chromaKey, defaultChroma, takeSpill } from './chroma.ts';
import { lumaKey, unveil } from './light.ts';
import { findScreenColour, measureScreen, screenDistance, type Rgb } from './screen.ts';

const [width, height] = [240, 180];

interface Shot {
  picture: Rgba;
  alpha: Bytes;
}

/** A soft-edged disc of a colour before a screen that is brighter on one side, with noise. */
function shotOn(screen: Rgb, subject: Rgb, noise: number, unevenness = 0.3): Shot {
  const random = seededRandom(3);
  const picture = makeRgba(width, height);
  const alpha = makeBytes(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const a = Math.max(0, Math.min(1, (50 - Math.hypot(x - 120, y - 90)) / 6 + 0.5));
      const light = 1 - unevenness * (x / width);
      alpha.data[i] = Math.round(a * 255);
      for (let c = 0; c < 3; c++)
        picture.data[i * 4 + c] = subject[c]! * a + screen[c]! * light * (1 - a) + noise * (random() + random() - 1);
      picture.data[i * 4 + 3] = 255;
    }
  }
  return { picture, alpha };
}

const difference = (a: Bytes, b: Bytes): number =>
  a.data.reduce((sum, v, i) => sum + Math.abs(v - b.data[i]!), 0) / 255;
const binary = (alpha: Bytes): Bytes => ({ ...alpha, data: alpha.data.map((v) => (v > 127 ? 255 : 0)) });

describe('chroma key', () => {
  const green: Rgb = [40, 190, 70];

  it('finds the screen by itself, whatever its colour', () => {
    for (const screen of [green, [36, 60, 190], [200, 40, 160], [214, 214, 212]] as Rgb[]) {
      const found = findScreenColour(shotOn(screen, [200, 120, 60], 4, 0.1).picture);
      expect(screenDistance(found, screen), screen.join()).to.be.lessThan(16);
    }
  });

  it('measures the uneven screen, also behind the subject', () => {
    const { picture } = shotOn(green, [200, 60, 50], 3);
    const plate = measureScreen(picture, [findScreenColour(picture)], 34);
    const row = new Float32Array(width * 3);
    for (const [x, y] of [
      [20, 20],
      [120, 90],
      [220, 160],
    ] as const) {
      const want = green[1] * (1 - 0.3 * (x / width));
      plate.row(y, picture, row);
      expect(row[x * 3 + 1]).to.be.closeTo(want, 9);
    }
  });

  it('finds the true soft edge, far better than a hard mask', () => {
    for (const screen of [green, [36, 60, 190], [200, 40, 160]] as Rgb[]) {
      const { picture, alpha } = shotOn(screen, [205, 190, 160], 3);
      const keyed = chromaKey(picture, defaultChroma);
      expect(difference(keyed.alpha, alpha) / difference(binary(alpha), alpha), screen.join()).to.be.lessThan(0.4);
    }
  });

  it('works before plain studio grey', () => {
    const { picture, alpha } = shotOn([206, 206, 206], [60, 50, 120], 2, 0.15);
    const keyed = chromaKey(picture, defaultChroma);
    expect(difference(keyed.alpha, alpha) / difference(binary(alpha), alpha)).to.be.lessThan(0.45);
  });

  it('leaves no green on the piece, and the colour of the subject in its edge', () => {
    const { picture } = shotOn(green, [205, 190, 160], 2);
    const { colours } = chromaKey(picture, defaultChroma);
    for (let i = 0; i < width * height; i++) {
      if (colours.data[i * 4 + 3]! < 8) continue;
      const [r, g, b] = [0, 1, 2].map((c) => colours.data[i * 4 + c]!) as [number, number, number];
      expect(g - Math.max(r, b)).to.be.at.most(2);
      if (colours.data[i * 4 + 3]! > 60) expect(r).to.be.closeTo(205, 30);
    }
  });

  it('takes spill off by hue: one strong channel, two, or none', () => {
    const withoutSpill = (r: number, g: number, b: number, screen: number[], amount: number): number[] => {
      const colour = [r, g, b];
      takeSpill(colour, screen, amount);
      return colour;
    };
    expect(withoutSpill(100, 160, 90, [40, 190, 70], 1)).to.deep.equal([100, 100, 90]);
    expect(withoutSpill(100, 160, 90, [40, 190, 70], 0.5)).to.deep.equal([100, 130, 90]);
    expect(withoutSpill(180, 90, 170, [220, 30, 200], 1)).to.deep.equal([100, 90, 90]);
    expect(withoutSpill(100, 160, 90, [200, 200, 205], 1)).to.deep.equal([100, 160, 90]);
    expect(withoutSpill(160, 100, 90, [40, 190, 70], 1)).to.deep.equal([160, 100, 90]);
  });
});

describe('keys by brightness', () => {
  const grey = (value: number): Rgba => {
    const picture = makeRgba(1, 1);
    picture.data.set([value, value, value, 255]);
    return picture;
  };

  it('luma: all gone below low, all there above high, half in the middle, and the other way round', () => {
    const settings = { drop: 'dark' as const, low: 40, high: 80 };
    const at = (v: number, drop: 'dark' | 'light' = 'dark'): number =>
      lumaKey(grey(v), { ...settings, drop }).alpha.data[0]!;
    expect([at(40), at(60), at(80)]).to.deep.equal([0, 128, 255]);
    expect([at(40, 'light'), at(80, 'light')]).to.deep.equal([255, 0]);
  });

  it('unveil: laid over black it gives the picture again, and keeps the hue of sparks', () => {
    const random = seededRandom(9);
    const picture = makeRgba(40, 30);
    for (let i = 0; i < 1200; i++)
      picture.data.set([255 * random(), 180 * random(), 90 * random() ** 2, 255].map(Math.round), i * 4);
    const { colours } = unveil(picture, 0);
    for (let i = 0; i < 1200; i++) {
      const a = colours.data[i * 4 + 3]! / 255;
      for (let c = 0; c < 3; c++) expect(colours.data[i * 4 + c]! * a).to.be.closeTo(picture.data[i * 4 + c]!, 1);
      expect(Math.max(...colours.data.slice(i * 4, i * 4 + 3))).to.equal(a === 0 ? 0 : 255);
    }
    expect(unveil(grey(8), 8).alpha.data[0]).to.equal(0);
    expect(unveil(grey(255), 8).alpha.data[0]).to.equal(255);
  });
});
