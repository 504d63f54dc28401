import type { Color } from '../bench/truth/flat-scenes.ts';
import type { Point, Standing } from '../bench/truth/standing.ts';
import type { Chance } from './chance.ts';

/** What all strands of a shot have in common. */
export interface StrandLook {
  /** Wires are straight, as thick at their ends, and stop all light. */
  wires: boolean;
  width: readonly [number, number];
  opacity: readonly [number, number];
  /** How unlike in brightness they are. */
  tones: number;
}

/** One strand along a curve of three points. */
export function addStrand(
  standing: Standing,
  curve: readonly [Point, Point, Point],
  [r, g, b]: Color,
  { wires, width, opacity, tones }: StrandLook,
  chance: Chance,
): void {
  const wide = chance.between(...width);
  const dense = chance.between(...opacity);
  const thinner = wires ? 1 : chance.between(0.4, 1);
  const fainter = wires ? 1 : chance.between(0.3, 1);
  const [tone, phase] = [1 + chance.between(-tones, tones), chance.between(0, 9)];
  standing.addStrand({
    curve,
    width: [wide, Math.max(0.4, wide * thinner)],
    opacity: [dense, Math.max(0.2, dense * fainter)],
    colour: (along) => {
      const light = tone * (1 + 0.5 * tones * Math.sin(7 * along + phase));
      return [r * light, g * light, b * light];
    },
  });
}
