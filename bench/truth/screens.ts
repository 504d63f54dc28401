import { seededRandom } from '../../core/pixels/random.ts';
import { makeRgba, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import { flatScene } from './flat-scenes.ts';
import { asJpeg } from './photograph.ts';

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
  /** The flat scene whose subject stands before the screen. */
  subject: string;
  screen: Color;
  /** How much of the light the darkest corner lacks. */
  uneven: number;
  noise: number;
  jpeg: number | null;
  /** Colour of the subject, in its own light and shade; its own colours where it is left out. */
  colour?: Color;
}

/** Hair and wires of one colour, as a camera brings them: light that falls unevenly, colours at half size. */
const strands = (name: string, subject: string, colour: Color, screen: Color): ScreenKind => ({
  ...{ name, subject, colour, screen },
  ...{ uneven: 0.3, noise: 3, jpeg: 86 },
});
const green: Color = [48, 180, 78];
const blue: Color = [40, 66, 188];

export const strandKinds: ScreenKind[] = [
  strands('tan strands on green', 'fine strands', [176, 132, 92], green),
  strands('blond strands on green', 'fine strands', [214, 186, 126], green),
  strands('blond strands on blue', 'fine strands', [214, 186, 126], blue),
  strands('brown strands on blue', 'fine strands', [92, 60, 38], blue),
  strands('red strands on green', 'fine strands', [164, 70, 34], green),
  strands('grey strands, as bright as green', 'fine strands', [128, 128, 130], green),
  strands('grey wires, as bright as green', 'thin wires', [128, 128, 130], green),
];

export const screenKinds: ScreenKind[] = [
  { name: 'even green', subject: 'boat on water', screen: [44, 176, 74], uneven: 0.05, noise: 2, jpeg: null },
  { name: 'uneven green, JPEG', subject: 'boat on water', screen: [44, 176, 74], uneven: 0.4, noise: 4, jpeg: 80 },
  { name: 'fine strands on green', subject: 'fine strands', screen: [50, 182, 80], uneven: 0.3, noise: 3, jpeg: 86 },
  { name: 'holes on green', subject: 'holes', screen: [44, 176, 74], uneven: 0.3, noise: 3, jpeg: 86 },
  { name: 'thin wires on blue', subject: 'thin wires', screen: [40, 66, 188], uneven: 0.3, noise: 3, jpeg: null },
  {
    name: 'several objects on magenta',
    subject: 'several objects',
    screen: [196, 48, 160],
    uneven: 0.25,
    noise: 3,
    jpeg: 86,
  },
];

/** Share of the screen's light that falls onto the subject. */
const spill = 0.1;

export async function screenShot(kind: ScreenKind, width: number): Promise<ScreenShot> {
  const scene = flatScene(kind.subject, width, { noise: 0, contrast: 1, warmth: 0 });
  const { height } = scene.picture;
  const picture = makeRgba(width, height);
  const background = makeRgba(width, height);
  const random = seededRandom(77);
  for (let i = 0; i < width * height; i++) {
    const [u, v] = [(i % width) / width, Math.floor(i / width) / height];
    const light = 1 - kind.uneven * Math.min(1, Math.hypot(u - 0.35, v - 0.3)) + 0.02 * Math.sin(40 * u + 6 * v);
    const a = scene.alpha.data[i]! / 255;
    const shade = 1 + 0.25 * Math.sin(90 * u + 40 * v) * Math.sin(70 * v);
    for (let c = 0; c < 3; c++) {
      const behind = kind.screen[c]! * light;
      const shown = scene.picture.data[i * 4 + c]! - scene.background.data[i * 4 + c]! * (1 - a);
      const own = kind.colour ? a * kind.colour[c]! * shade : shown;
      const lit = own + a * spill * behind;
      background.data[i * 4 + c] = behind;
      picture.data[i * 4 + c] = lit + behind * (1 - a) + kind.noise * (random() + random() - 1);
    }
    picture.data[i * 4 + 3] = background.data[i * 4 + 3] = 255;
  }
  const taken = kind.jpeg === null ? picture : await asJpeg(picture, kind.jpeg);
  return { name: kind.name, picture: taken, alpha: scene.alpha, screen: kind.screen, background };
}
