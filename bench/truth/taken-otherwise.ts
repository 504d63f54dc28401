import { makeBytes, makeRgba, type Bytes, type Rgba } from '../../core/pixels/raster.ts';

export interface Taken {
  picture: Rgba;
  /** What belongs to the subject, 0..255. */
  alpha: Bytes;
}

type Colour = [number, number, number];

const recoloured =
  (change: (r: number, g: number, b: number) => Colour) =>
  ({ picture, alpha }: Taken): Taken => {
    const out = makeRgba(picture.width, picture.height);
    const { data } = picture;
    for (let i = 0; i < data.length; i += 4)
      out.data.set([...change(data[i]!, data[i + 1]!, data[i + 2]!), data[i + 3]!], i);
    return { picture: out, alpha };
  };

const dimmed = (v: number): number => 0.6 * 255 * (v / 255) ** 2.2;
const grey = (r: number, g: number, b: number): number => 0.3 * r + 0.59 * g + 0.11 * b;
/** A print's black is grey-brown, its white that of old paper. */
const sepia = (light: number): Colour => [1.08 * light, 0.94 * light, 0.74 * light];

function mirrored({ picture, alpha }: Taken): Taken {
  const { width, height } = picture;
  const out = { picture: makeRgba(width, height), alpha: makeBytes(width, height) };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [from, to] = [y * width + x, y * width + width - 1 - x];
      out.picture.data.set(picture.data.subarray(4 * from, 4 * from + 4), 4 * to);
      out.alpha.data[to] = alpha.data[from]!;
    }
  return out;
}

/** The same picture as another camera, another light, an archive would have it: what is found in it should be the same. */
export const takenOtherwise: Record<string, (taken: Taken) => Taken> = {
  'when little light is left (gamma 2.2, 60 % of it)': recoloured((r, g, b) => [dimmed(r), dimmed(g), dimmed(b)]),
  mirrored,
  'in warm light': recoloured((r, g, b) => [1.05 * r, 0.85 * g, 0.6 * b]),
  faded: recoloured((r, g, b) => [60 + 0.65 * r, 64 + 0.6 * g, 70 + 0.55 * b]),
  'in black and white': recoloured((r, g, b) => [grey(r, g, b), grey(r, g, b), grey(r, g, b)]),
  'as an old print': recoloured((r, g, b) => sepia(40 + 0.75 * grey(r, g, b))),
};
