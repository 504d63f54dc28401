import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { makeBytes, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import { seededRandom } from '../../core/pixels/random.ts';

export type Pen = SKRSContext2D;

/** A short film of the quay, drawn frame by frame: its ground and its figure apart, so that the truth about both is known. */
export interface Film {
  name: string;
  width: number;
  height: number;
  rate: number;
  frames: number;
  /** Deviation of the grain, levels. */
  grain: number;
  ground(pen: Pen, frame: number): void;
  figure(pen: Pen, frame: number): void;
  /** A point of the figure, in pixels. */
  point?(frame: number): [number, number];
}

/** A frame as the lens sees it, the figure's true alpha, and what is behind it. */
export interface Filmed {
  picture: Rgba;
  alpha: Bytes;
  ground: Rgba;
}

export function filmFrame(film: Film, frame: number): Filmed {
  const { width, height, grain } = film;
  const ground = drawn(film, (pen) => film.ground(pen, frame));
  const figure = drawn(film, (pen) => film.figure(pen, frame));
  const picture: Rgba = { width, height, data: new Uint8ClampedArray(width * height * 4) };
  const alpha = makeBytes(width, height);
  const random = seededRandom(7000 + frame);
  for (let i = 0; i < width * height; i++) {
    const a = figure.data[i * 4 + 3]! / 255;
    alpha.data[i] = figure.data[i * 4 + 3]!;
    const noise = (random() + random() + random() - 1.5) * 2 * grain;
    for (let c = 0; c < 3; c++)
      picture.data[i * 4 + c] = figure.data[i * 4 + c]! * a + ground.data[i * 4 + c]! * (1 - a) + noise;
    picture.data[i * 4 + 3] = 255;
  }
  return { picture, alpha, ground };
}

function drawn({ width, height }: Film, draw: (pen: Pen) => void): Rgba {
  const canvas = createCanvas(width, height);
  const pen = canvas.getContext('2d');
  draw(pen);
  const { data } = pen.getImageData(0, 0, width, height);
  return { width, height, data: new Uint8ClampedArray(data) };
}

/** A number that stays the same for the same seed and place. */
export const fixed = (seed: number, k: number): number => {
  const v = Math.sin(seed * 127.1 + k * 311.7) * 43758.5453;
  return v - Math.floor(v);
};

/** Spots of paint, rust or dirt strewn over a box; they belong to the thing and move with it. */
export function speckled(
  pen: Pen,
  [x, y, width, height]: [number, number, number, number],
  count: number,
  seed: number,
  colour: (k: number) => string,
  size = 3,
): void {
  for (let k = 0; k < count; k++) {
    pen.fillStyle = colour(k);
    pen.beginPath();
    const radius = size * (0.3 + fixed(seed, 3 * k + 2));
    pen.ellipse(x + fixed(seed, 3 * k) * width, y + fixed(seed, 3 * k + 1) * height, radius, radius * 0.7, k, 0, 7);
    pen.fill();
  }
}

/** Boards seen from the front, lying away from the lens, with worn spots and gaps. */
export function boards(pen: Pen, top: number, width: number, height: number, seed: number, shift = 0): void {
  const fade = pen.createLinearGradient(0, top, 0, height);
  fade.addColorStop(0, '#8d8474');
  fade.addColorStop(1, '#6d5f4b');
  pen.fillStyle = fade;
  pen.fillRect(0, top, width, height - top);
  for (let row = 0; row < 9; row++) {
    const y = top + (height - top) * (row / 9) ** 1.4;
    const thick = ((height - top) * (row + 1)) / 60;
    pen.fillStyle = `rgba(40, 30, 22, ${0.35 + 0.3 * fixed(seed, row)})`;
    pen.fillRect(0, y, width, Math.max(1.5, thick * 0.22));
    speckled(
      pen,
      [shift - 200, y, width + 400, thick * 4],
      40,
      seed + row,
      (k) => (k % 2 ? 'rgba(60,48,36,.35)' : 'rgba(176,160,134,.3)'),
      2 + row * 0.7,
    );
    for (let k = 0; k < 6; k++) {
      pen.fillStyle = 'rgba(30, 22, 16, .5)';
      pen.fillRect(shift + (fixed(seed + row, k + 50) - 0.1) * width * 1.3, y, 2 + row * 0.3, thick * 5);
    }
  }
}

/** Moving water from `top` to `bottom`: bands of light that drift and change. */
export function water(pen: Pen, top: number, bottom: number, width: number, time: number, shift = 0): void {
  const deep = pen.createLinearGradient(0, top, 0, bottom);
  deep.addColorStop(0, '#6f8e96');
  deep.addColorStop(1, '#34525c');
  pen.fillStyle = deep;
  pen.fillRect(0, top, width, bottom - top);
  for (let k = 0; k < 130; k++) {
    const near = fixed(5, k);
    const y = top + (bottom - top) * near;
    const sway = Math.sin(time * (1.2 + fixed(6, k)) + k) * 14;
    const x =
      ((((fixed(7, k) * (width + 300) + time * 22 * (0.4 + near) + shift * (0.3 + 0.7 * near)) % (width + 300)) +
        width +
        300) %
        (width + 300)) -
      150;
    const bright = 0.12 + 0.22 * (0.5 + 0.5 * Math.sin(time * 3 + k * 1.7));
    pen.fillStyle = k % 3 ? `rgba(214, 230, 232, ${bright})` : `rgba(24, 44, 54, ${bright})`;
    pen.beginPath();
    pen.ellipse(x + sway, y, (12 + 60 * fixed(8, k)) * (0.4 + near), 1.2 + 3 * near, 0, 0, 7);
    pen.fill();
  }
}
