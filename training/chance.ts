import { seededRandom } from '../core/pixels/random.ts';
import type { Color } from '../bench/truth/flat-scenes.ts';

/** Chances, all from one seed. */
export class Chance {
  private readonly random: () => number;

  constructor(seed: number) {
    this.random = seededRandom(1000 + seed * 7919);
  }

  between(a: number, b: number): number {
    return a + (b - a) * this.random();
  }

  /** @param share how often */
  is(share: number): boolean {
    return this.random() < share;
  }

  of<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)]!;
  }

  near(color: Color, reach: number): Color {
    return color.map((v) => Math.max(4, Math.min(250, v + this.between(-reach, reach)))) as Color;
  }
}
