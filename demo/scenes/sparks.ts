import { seededRandom } from '../../core/pixels/random.ts';
import { makeRgba, type Rgba } from '../../core/pixels/raster.ts';

/** A sparkler of the Lantern Week before black: a glowing tip that throws sparks, which fall, cool and go out. */
export const sparksClip = { width: 960, height: 540, rate: 30, frames: 90 } as const;

interface Spark {
  born: number;
  life: number;
  angle: number;
  speed: number;
  heat: number;
}

const gravity = 260;
/** Where the tip is, pixels. */
const tip = { x: 470, y: 250 } as const;

const sparks: Spark[] = (() => {
  const random = seededRandom(23);
  return Array.from({ length: 900 }, () => ({
    born: random() * 3.6 - 0.6,
    life: 0.25 + random() * 0.6,
    angle: random() * 2 * Math.PI,
    speed: 90 + random() * 320,
    heat: 0.35 + 0.65 * random(),
  }));
})();

/** One frame of it, lit only by itself. @param index 0..89 */
export function sparksFrame(index: number): Rgba {
  const { width, height, rate } = sparksClip;
  const light = new Float32Array(width * height * 3);
  const time = index / rate;
  const flicker = 1 + 0.2 * Math.sin(index * 1.7) + 0.15 * Math.sin(index * 0.61);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const glow = (0.9 * flicker) / (1 + (Math.hypot(x - tip.x, y - tip.y) / 16) ** 2);
      addLight(light, (y * width + x) * 3, glow, 0.95);
    }
  }
  for (const spark of sparks) {
    const age = time - spark.born;
    if (age > 0 && age < spark.life) drawSpark(light, spark, age);
  }
  const picture = makeRgba(width, height);
  const random = seededRandom(1000 + index);
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) picture.data[i * 4 + c] = 255 * (1 - Math.exp(-light[i * 3 + c]!)) + 3 * random();
    picture.data[i * 4 + 3] = 255;
  }
  return picture;
}

/** Hot light is white, cooling light orange and then red. */
function addLight(light: Float32Array, o: number, amount: number, heat: number): void {
  light[o] = light[o]! + amount * 2.2;
  light[o + 1] = light[o + 1]! + amount * (0.5 + 0.9 * heat);
  light[o + 2] = light[o + 2]! + amount * (0.1 + 0.5 * heat ** 3);
}

/** A streak from where the spark was a sixtieth of a second ago to where it is. */
function drawSpark(light: Float32Array, { angle, speed, heat, life }: Spark, age: number): void {
  const { width, height } = sparksClip;
  const cooled = heat * (1 - age / life);
  for (let k = 0; k < 14; k++) {
    const t = Math.max(0, age - k / 420);
    // Air slows a spark down; what it has lost in speed gravity adds downwards.
    const way = (speed * (1 - Math.exp(-2.2 * t))) / 2.2;
    const x = tip.x + Math.cos(angle) * way;
    const y = tip.y + Math.sin(angle) * way + 0.5 * gravity * t * t;
    for (let v = Math.floor(y) - 2; v <= Math.floor(y) + 3; v++) {
      for (let u = Math.floor(x) - 2; u <= Math.floor(x) + 3; u++) {
        if (u < 0 || v < 0 || u >= width || v >= height) continue;
        const amount = Math.exp(-((u - x) ** 2 + (v - y) ** 2) / 1.5);
        addLight(light, (v * width + u) * 3, 0.32 * cooled * amount, cooled);
      }
    }
  }
}
