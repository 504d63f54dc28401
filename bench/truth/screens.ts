import { seededRandom } from '../../core/pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import { flatScene } from './flat-scenes.ts';
import { asJpeg } from './photograph.ts';
import { Standing } from './standing.ts';

type Color = readonly [number, number, number];

/** A shot before a screen, put together from its truth. */
export interface ScreenShot {
  name: string;
  picture: Rgba;
  alpha: Bytes;
  /** The screen's colour in its brightest place. */
  screen: Color;
  /** The screen by itself, as bytes, before noise and compression. */
  background: Rgba;
}

export interface ScreenKind {
  name: string;
  /** What stands before the screen. */
  stands(width: number): Standing;
  screen: Color;
  /** How much of the light the darkest corner lacks. */
  uneven: number;
  noise: number;
  jpeg: number | null;
}

/** The subject of a flat scene. */
const ofScene =
  (name: string) =>
  (width: number): Standing => {
    const { picture, background, alpha } = flatScene(name, width, { noise: 0, contrast: 1, warmth: 0 });
    const standing = new Standing(width);
    for (let i = 0; i < alpha.data.length; i++) {
      const a = alpha.data[i]! / 255;
      standing.alpha[i] = a;
      for (let c = 0; c < 3; c++)
        standing.own[i * 3 + c] = picture.data[i * 4 + c]! - background.data[i * 4 + c]! * (1 - a);
    }
    return standing;
  };

export const screenKinds: ScreenKind[] = [
  { name: 'even green', stands: ofScene('boat on water'), screen: [44, 176, 74], uneven: 0.05, noise: 2, jpeg: null },
  {
    name: 'uneven green, JPEG',
    stands: ofScene('boat on water'),
    screen: [44, 176, 74],
    uneven: 0.4,
    noise: 4,
    jpeg: 80,
  },
  {
    name: 'fine strands on green',
    stands: ofScene('fine strands'),
    screen: [50, 182, 80],
    uneven: 0.3,
    noise: 3,
    jpeg: 86,
  },
  { name: 'holes on green', stands: ofScene('holes'), screen: [44, 176, 74], uneven: 0.3, noise: 3, jpeg: 86 },
  {
    name: 'thin wires on blue',
    stands: ofScene('thin wires'),
    screen: [40, 66, 188],
    uneven: 0.3,
    noise: 3,
    jpeg: null,
  },
  {
    name: 'several objects on magenta',
    stands: ofScene('several objects'),
    screen: [196, 48, 160],
    uneven: 0.25,
    noise: 3,
    jpeg: 86,
  },
];

/** Share of the screen's light that falls onto the subject. */
const spill = 0.1;

export async function screenShot(kind: ScreenKind, width: number): Promise<ScreenShot> {
  const { own, alpha: shares, height } = kind.stands(width);
  const picture = makeRgba(width, height);
  const background = makeRgba(width, height);
  const alpha = makeBytes(width, height);
  const random = seededRandom(77);
  for (let i = 0; i < width * height; i++) {
    const [u, v] = [(i % width) / width, Math.floor(i / width) / height];
    const light = 1 - kind.uneven * Math.min(1, Math.hypot(u - 0.35, v - 0.3)) + 0.02 * Math.sin(40 * u + 6 * v);
    const a = shares[i]!;
    for (let c = 0; c < 3; c++) {
      const behind = kind.screen[c]! * light;
      const lit = own[i * 3 + c]! + a * spill * behind;
      background.data[i * 4 + c] = behind;
      picture.data[i * 4 + c] = lit + behind * (1 - a) + kind.noise * (random() + random() - 1);
    }
    alpha.data[i] = Math.round(a * 255);
    picture.data[i * 4 + 3] = background.data[i * 4 + 3] = 255;
  }
  const taken = kind.jpeg === null ? picture : await asJpeg(picture, kind.jpeg);
  return { name: kind.name, picture: taken, alpha, screen: kind.screen, background };
}
