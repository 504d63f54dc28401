import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { blocksOf, cellOf, rgbOf } from './blocks.ts';
import { chromaKey } from './chroma.ts';
import { defaultChroma } from './keyed.ts';
import { lumaKey, unveil } from './light.ts';
import { findScreenColour, measureScreen, screenDistance, strengthOf, type Rgb } from './screen.ts';
import { hueOf, takeSpill } from './spill.ts';
import { binary, difference, knownByFours, linesOn, shotOn, throughJpeg } from './test-screens.ts';

const [width, height] = [240, 180];
const large = { width: 480, height: 360 };

describe('chroma key', () => {
  const green: Rgb = [40, 190, 70];

  it('finds the screen by itself, whatever its colour', () => {
    for (const screen of [green, [36, 60, 190], [200, 40, 160], [214, 214, 212]] as Rgb[]) {
      const found = findScreenColour(shotOn({ screen, subject: [200, 120, 60], noise: 4, unevenness: 0.1 }).picture);
      expect(screenDistance(found, screen), screen.join()).to.be.lessThan(16);
    }
  });

  it('measures the uneven screen, also behind the subject', () => {
    const { picture } = shotOn({ screen: green, subject: [200, 60, 50], noise: 3 });
    const blocks = blocksOf(picture, 'full');
    const { values } = measureScreen(blocks, [findScreenColour(picture)], 34);
    for (const [x, y] of [
      [20, 20],
      [120, 90],
      [220, 160],
    ] as const) {
      const o = cellOf(blocks, (y >> 1) * blocks.width + (x >> 1)) * 4;
      const want = green[1] * (1 - 0.3 * (x / width));
      expect(rgbOf(values[o]!, values[o + 1]!, values[o + 2]!)[1]).to.be.closeTo(want, 9);
    }
  });

  it('finds the true soft edge, far better than a hard mask', () => {
    for (const screen of [green, [36, 60, 190], [200, 40, 160]] as Rgb[]) {
      const { picture, alpha } = shotOn({ screen, subject: [205, 190, 160], noise: 3 });
      const keyed = chromaKey(picture, defaultChroma);
      expect(difference(keyed.alpha, alpha) / difference(binary(alpha), alpha), screen.join()).to.be.lessThan(0.4);
    }
  });

  it('finds a sharp edge between the samples of colour that is stored at half size', async () => {
    for (const screen of [green, [36, 60, 190], [200, 40, 160]] as Rgb[]) {
      const { picture, alpha } = shotOn({ screen, subject: [190, 60, 50], noise: 3, soft: 1.2 });
      const keyed = chromaKey(await throughJpeg(picture, 95, '4:2:0'), defaultChroma);
      expect(difference(keyed.alpha, alpha) / difference(binary(alpha), alpha), screen.join()).to.be.lessThan(0.8);
    }
  });

  it('sees a subject on a dim screen, where all colours lie near to one another', () => {
    const inside = ({ alpha }: ReturnType<typeof shotOn>, found: Uint8Array): number =>
      alpha.data.reduce((sum, a, i) => sum + (a === 255 ? found[i]! : 0), 0) /
      alpha.data.filter((a) => a === 255).length;
    for (const light of [1, 0.5]) {
      const lit = ([r, g, b]: Rgb): Rgb => [r * light, g * light, b * light];
      const colours = { screen: lit([44, 176, 74]), subject: lit([70, 124, 118]) };
      const shot = shotOn({ ...colours, noise: 2, unevenness: 0.1, soft: 2 });
      expect(inside(shot, chromaKey(shot.picture, defaultChroma).alpha.data), `light ${light}`).to.be.greaterThan(245);
    }
  });

  it('counts thresholds on the strength of the screen, never above a well lit one, and not at all on grey', () => {
    expect(strengthOf([44, 176, 74])).to.equal(1);
    expect(strengthOf([200, 202, 198])).to.equal(1);
    expect(strengthOf([36, 108, 48]) / strengthOf([27, 81, 36])).to.be.closeTo(4 / 3, 1e-6);
    expect(strengthOf([10, 44, 18])).to.equal(0.5);
  });

  it('shows no stain where the subject mirrors the screen', () => {
    const subject: Rgb = [190, 188, 184];
    const shot = shotOn({ screen: green, subject, noise: 2, soft: 2 });
    for (let y = 100; y < 112; y++) {
      for (let x = 130; x < 142; x++) {
        const stained = subject.map((v, c) => 0.84 * v + 0.16 * green[c]!);
        shot.picture.data.set(stained, (y * width + x) * 4);
      }
    }
    const { alpha } = chromaKey(shot.picture, defaultChroma);
    for (let y = 102; y < 110; y++)
      for (let x = 132; x < 140; x++) expect(alpha.data[y * width + x], `${x} ${y}`).to.be.at.least(240);
  });

  it('keeps edges that are blurred by the lens or by moving as soft as they are', async () => {
    for (const soft of [8, 14, 26]) {
      const { picture, alpha } = shotOn({ ...large, screen: green, subject: [190, 188, 184], noise: 2, soft });
      for (const taken of [picture, await throughJpeg(picture, 90, '4:2:0')]) {
        const found = chromaKey(taken, defaultChroma).alpha;
        expect(difference(found, alpha) / difference(binary(alpha), alpha), `${soft} pixels`).to.be.lessThan(0.25);
      }
    }
  });

  it('finds a sharp edge through strong noise and poor JPEG, also where brightness does not show it', async () => {
    for (const [subject, most] of [
      [[190, 188, 184], 0.4],
      [[196, 124, 140], 0.65],
    ] as const) {
      const { picture, alpha } = shotOn({ ...large, screen: green, subject, noise: 8, soft: 1.5 });
      const found = chromaKey(await throughJpeg(picture, 75, '4:2:0'), defaultChroma).alpha;
      expect(difference(found, alpha) / difference(binary(alpha), alpha), `${subject}`).to.be.lessThan(most);
    }
  });

  describe('finds lines of a pixel or two where colour is stored at half size', () => {
    const colours: readonly (readonly [string, Rgb, Rgb, number])[] = [
      ['tan on green', green, [176, 132, 92], 0.8],
      ['blond on green', green, [214, 186, 126], 0.6],
      ['dark on green', green, [44, 36, 34], 0.5],
      ['brown on blue', [36, 60, 190], [120, 78, 50], 0.8],
      ['grey on magenta', [200, 40, 160], [150, 150, 150], 0.6],
    ];
    const found = async (screen: Rgb, subject: Rgb, thick: number, opacity: readonly [number, number]) => {
      const shot = linesOn({ screen, subject, thick, opacity, noise: 2 });
      return { ...shot, found: chromaKey(await throughJpeg(shot.picture, 90, '4:2:0'), defaultChroma).alpha };
    };
    const sumAbove = ({ data }: Bytes, row: number): number =>
      data.slice(0, row * 320).reduce((sum, a) => sum + a, 0) / 255;

    for (const [name, screen, subject, most] of colours) {
      it(`${name}: nearer to the truth than colour alone, without an error, could be`, async () => {
        for (const thick of [1, 1.6]) {
          const { alpha, found: told } = await found(screen, subject, thick, [1, 1]);
          const share = difference(told, alpha) / difference(knownByFours(alpha), alpha);
          expect(share, `${thick} pixels`).to.be.lessThan(most);
        }
      });
      it(`${name}: up to their faint tips, neither too much nor too little`, async () => {
        const { alpha, found: told } = await found(screen, subject, 1.4, [0.9, 0.25]);
        expect(sumAbove(told, 140) / sumAbove(alpha, 140), 'in all').to.be.within(0.75, 1.15);
        expect(sumAbove(told, 75) / sumAbove(alpha, 75), 'their upper third').to.be.within(0.6, 1.25);
      });
    }
  });

  it('works before plain studio grey', () => {
    const { picture, alpha } = shotOn({ screen: [206, 206, 206], subject: [60, 50, 120], noise: 2, unevenness: 0.15 });
    const keyed = chromaKey(picture, defaultChroma);
    expect(difference(keyed.alpha, alpha) / difference(binary(alpha), alpha)).to.be.lessThan(0.45);
  });

  it('leaves no green on the piece, and the colour of the subject in its edge', () => {
    const { picture } = shotOn({ screen: green, subject: [205, 190, 160], noise: 2 });
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
      takeSpill(colour, hueOf(screen), amount);
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
