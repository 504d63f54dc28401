import { hashOf } from '../pixels/random.ts';
import { speckSize, type PropMoment } from './prop.ts';

/** Share of the box that is filled beyond each of its sides, so that nothing is seen to begin at its border. */
const margin = 0.12;

/** How a speck that lies deep looks against the nearest: the furthest are two fifths as large and as fast. */
export const nearness = (deep: number): number => 1 / (1 + 1.6 * deep);

/** A speck as it is born: what is random about it. */
export interface Born {
  index: number;
  /** Seeded numbers of its own, 0..1, by their index. */
  random(k: number): number;
  deep: number;
  near: number;
}

export const born = (seed: number, index: number): Born => {
  const random = (k: number): number => hashOf(seed, index, k);
  const deep = random(90);
  return { index, random, deep, near: nearness(deep) };
};

/**
 * Where something is that travels steadily for ever within the box and comes in again on the other side. With a loop it
 * travels a whole number of rounds, at least one where it moves at all.
 * @param way pixels a frame  @param start share of the way at frame 0
 */
export function travelled(way: number, start: number, size: number, { frame, loop }: PropMoment): number {
  const span = size * (1 + 2 * margin);
  const rounds = loop === null ? (way * frame) / span : (roundsOf(way, span, loop) * frame) / loop;
  const share = start + rounds;
  return (share - Math.floor(share)) * span - margin * size;
}

function roundsOf(way: number, span: number, loop: number): number {
  if (way === 0) return 0;
  return Math.sign(way) * Math.max(1, Math.round((Math.abs(way) * loop) / span));
}

/** A swing between -1 and 1 that takes about `period` frames; with a loop a whole number of them fits. */
export function swing(period: number, phase: number, { frame, loop }: PropMoment): number {
  const turns = loop === null ? frame / period : (Math.max(1, Math.round(loop / period)) * frame) / loop;
  return Math.sin(2 * Math.PI * (turns + phase));
}

/** The share of its life that something has behind it that is born again and again, every `life` frames or about so. */
export function ageOf(life: number, phase: number, { frame, loop }: PropMoment): { age: number; round: number } {
  const lives = loop === null ? frame / life : (Math.max(1, Math.round(loop / life)) * frame) / loop;
  const at = lives + phase;
  // With a loop every life is like the one before it.
  return { age: at - Math.floor(at), round: loop === null ? Math.floor(at) : 0 };
}

/**
 * Where something is born, in pixels of the box: somewhere along the edge of the layer its setting `layer` names, or at a
 * place. @param random 0..1
 */
export function birthplace(
  place: readonly number[],
  { width, height, related }: PropMoment,
  random: number,
): readonly [number, number] {
  const edge = related?.layer?.edge;
  if (edge && edge.length > 0) return edge[Math.min(edge.length - 1, Math.floor(random * edge.length))]!;
  return [place[0]! * width, place[1]! * height];
}

/** Collects specks. */
export function speckList(count: number): { add(...values: number[]): void; values(): Float32Array } {
  const all = new Float32Array(Math.max(0, Math.round(count)) * speckSize);
  let at = 0;
  return {
    add(...values) {
      all.set(values, at);
      at += speckSize;
    },
    values: () => all.subarray(0, at),
  };
}
