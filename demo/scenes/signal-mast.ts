import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import type { Rgba } from '../../core/pixels/raster.ts';
import { noise2 } from '../marcher/noise.ts';

/* The harbour office of Wendle Quay with its signal mast, drawn flat: one picture for each thing that hangs alone. */

type Paint = (context: SKRSContext2D) => void;

function painted(width: number, height: number, paint: Paint): Rgba {
  const canvas = createCanvas(width, height);
  const context = canvas.getContext('2d');
  paint(context);
  const { data } = context.getImageData(0, 0, width, height);
  return { width, height, data: new Uint8ClampedArray(data) };
}

/** Changes every pixel's colour by a light and a grain; alpha stays. */
function shaded(picture: Rgba, light: (x: number, y: number) => number, grain: number): Rgba {
  const { width, height, data } = picture;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 4;
      const factor = light(x, y);
      const speck = (noise2(x * 0.9 + 7, y * 0.9) - 0.5) * grain;
      for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! * factor + speck;
    }
  }
  return picture;
}

export const harbourSize = { width: 2200, height: 1240 };

/** Evening sky, two headlands and the water of the outer harbour. */
export function harbour(): Rgba {
  const { width, height } = harbourSize;
  const horizon = height * 0.62;
  const picture = painted(width, height, (context) => {
    const sky = context.createLinearGradient(0, 0, 0, horizon);
    sky.addColorStop(0, '#3f5f86');
    sky.addColorStop(0.55, '#b9a9a6');
    sky.addColorStop(1, '#f0c792');
    context.fillStyle = sky;
    context.fillRect(0, 0, width, horizon);
    const glow = context.createRadialGradient(width * 0.7, horizon, 10, width * 0.7, horizon, 620);
    glow.addColorStop(0, 'rgba(255, 226, 170, 0.85)');
    glow.addColorStop(1, 'rgba(255, 226, 170, 0)');
    context.fillStyle = glow;
    context.fillRect(0, 0, width, horizon);
    headland(context, horizon, 0.05, 90, '#7b7f92');
    headland(context, horizon, 0.31, 52, '#5b6478');
    const water = context.createLinearGradient(0, horizon, 0, height);
    water.addColorStop(0, '#c9a987');
    water.addColorStop(0.25, '#7d8794');
    water.addColorStop(1, '#2f4456');
    context.fillStyle = water;
    context.fillRect(0, horizon, width, height - horizon);
  });
  const ripple = (x: number, y: number): number => {
    if (y < horizon) return 1 + (noise2(x * 0.004, y * 0.012) - 0.5) * 0.1;
    const near = (y - horizon) / (height - horizon);
    const across = 0.006 / (0.12 + near);
    return 1 + (noise2(x * across, (y - horizon) * (0.5 - 0.4 * near)) - 0.5) * (0.22 + 0.3 * near);
  };
  return shaded(picture, ripple, 9);
}

function headland(context: SKRSContext2D, horizon: number, start: number, tall: number, colour: string): void {
  const { width } = harbourSize;
  context.fillStyle = colour;
  context.beginPath();
  context.moveTo(0, horizon + 1);
  for (let x = 0; x <= width; x += 4) {
    const rise = Math.max(0, Math.sin((x / width - start) * 3.6)) * tall;
    context.lineTo(x, horizon - rise * (0.75 + 0.5 * noise2(x * 0.006 + tall, 3)) - 3);
  }
  context.lineTo(width, horizon + 1);
  context.fill();
}

export const mastSize = { width: 900, height: 1200 };
/** Where the flags are made fast, in pixels of the mast's picture. */
export const hoists: [number, number][] = [
  [452, 120],
  [452, 300],
  [640, 262],
  [264, 262],
];

/** The mast with its yard and stays, and the roof of the harbour office with its chimney. */
export function mast(): Rgba {
  const { width, height } = mastSize;
  const picture = painted(width, height, (context) => {
    context.strokeStyle = '#2b2f33';
    context.lineWidth = 2.5;
    for (const [x0, y0, x1, y1] of [
      [450, 60, 130, 930],
      [450, 60, 770, 930],
      [270, 250, 450, 90],
      [630, 250, 450, 90],
    ] as const) {
      context.beginPath();
      context.moveTo(x0, y0);
      context.lineTo(x1, y1);
      context.stroke();
    }
    const pole = context.createLinearGradient(436, 0, 464, 0);
    pole.addColorStop(0, '#8d8376');
    pole.addColorStop(0.4, '#efe7d8');
    pole.addColorStop(1, '#6d655b');
    context.fillStyle = pole;
    context.fillRect(440, 40, 20, 900);
    context.fillStyle = '#5e5043';
    context.fillRect(230, 246, 440, 14);
    context.fillStyle = '#c99b3a';
    context.beginPath();
    context.arc(450, 34, 16, 0, 2 * Math.PI);
    context.fill();
    office(context, width, height);
  });
  return shaded(picture, (x, y) => 0.94 + 0.12 * noise2(x * 0.05, y * 0.02), 7);
}

function office(context: SKRSContext2D, width: number, height: number): void {
  context.fillStyle = '#8c4a3a';
  context.fillRect(690, 830, 70, 150);
  context.fillStyle = '#6f3a2e';
  context.fillRect(682, 820, 86, 18);
  context.fillStyle = '#4a5560';
  context.beginPath();
  context.moveTo(40, 1010);
  context.lineTo(190, 900);
  context.lineTo(width - 150, 900);
  context.lineTo(width - 20, 1010);
  context.fill();
  context.fillStyle = '#d9cdb6';
  context.fillRect(80, 1010, width - 150, height - 1010);
  for (let k = 0; k < 5; k++) {
    context.fillStyle = '#5f6f77';
    context.fillRect(140 + k * 136, 1056, 78, 96);
    context.fillStyle = k === 3 ? '#f4cf86' : '#34434c';
    context.fillRect(147 + k * 136, 1063, 64, 82);
  }
}

export const flagSize = { width: 300, height: 190 };

/** Four cloth flags with signals of the harbour's own. */
export const flags: (() => Rgba)[] = [
  flag((c, w, h) => {
    c.fillStyle = '#c8412f';
    c.fillRect(0, 0, w, h);
    c.fillStyle = '#f3ede0';
    c.beginPath();
    c.arc(w * 0.42, h / 2, h * 0.27, 0, 2 * Math.PI);
    c.fill();
  }),
  flag((c, w, h) => {
    for (let k = 0; k < 5; k++) {
      c.fillStyle = k % 2 === 0 ? '#2f5f8f' : '#f3ede0';
      c.fillRect(0, (k * h) / 5, w, h / 5 + 1);
    }
  }),
  flag((c, w, h) => {
    c.fillStyle = '#e0a526';
    c.fillRect(0, 0, w, h);
    c.fillStyle = '#23343c';
    c.beginPath();
    c.moveTo(0, h);
    c.lineTo(w, 0);
    c.lineTo(w, h * 0.34);
    c.lineTo(w * 0.34, h);
    c.fill();
  }),
  flag((c, w, h) => {
    c.fillStyle = '#f3ede0';
    c.fillRect(0, 0, w, h);
    c.fillStyle = '#1d6a5c';
    c.fillRect(w * 0.36, 0, w * 0.18, h);
    c.fillRect(0, h * 0.4, w, h * 0.22);
  }),
];

function flag(paint: (context: SKRSContext2D, width: number, height: number) => void): () => Rgba {
  return () => {
    const { width, height } = flagSize;
    const picture = painted(width, height, (context) => paint(context, width, height));
    // Weave and seams: the hoist is a doubled hem.
    const weave = (x: number, y: number): number =>
      (x < 12 ? 0.86 : 1) * (0.97 + 0.05 * Math.sin(x * 1.9) * Math.sin(y * 1.9)) * (y < 4 || y > height - 5 ? 0.9 : 1);
    return shaded(picture, weave, 10);
  };
}

export const smokeSize = { width: 360, height: 620 };

/** A column of chimney smoke that widens and thins as it rises. */
export function smoke(): Rgba {
  const { width, height } = smokeSize;
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++) {
    const up = 1 - y / height;
    const middle = width * (0.42 + 0.22 * up * up);
    const half = 16 + 120 * up ** 1.3;
    for (let x = 0; x < width; x++) {
      const away = Math.abs(x - middle) / half;
      const puff =
        0.55 * noise2(x * 0.022, y * 0.016) + 0.3 * noise2(x * 0.06, y * 0.045) + 0.15 * noise2(x * 0.15, y * 0.12);
      const body = Math.max(0, 1 - away * away) * Math.max(0, Math.min(1, (puff - 0.28) * 2.6));
      const fade = Math.min(1, up * 9) * (1 - up) ** 0.8;
      const i = (y * width + x) * 4;
      const light = 205 + 40 * puff;
      data.set([light, light - 6, light - 14, 255 * 0.8 * body * fade + 0.5], i);
    }
  }
  return { width, height, data };
}
