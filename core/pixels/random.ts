/** A stream of numbers in [0, 1), which can be left and gone on with elsewhere. */
export interface RandomStream {
  (): number;
  /** Where it was left. */
  left(): number;
  goOnFrom(left: number): void;
}

/** A seeded generator of numbers in [0, 1): mulberry32. Same seed, same sequence, on every machine. */
export function seededRandom(seed: number): RandomStream {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const left = (): number => state;
  const goOnFrom = (from: number): void => {
    state = from >>> 0;
  };
  return Object.assign(next, { left, goOnFrom });
}

/** A number in [0, 1) that depends on whole numbers alone: the same for the same ones, unlike for their neighbours. */
export function hashOf(...numbers: number[]): number {
  let h = 0x811c9dc5;
  for (const number of numbers) {
    h = Math.imul(h ^ (number | 0), 0x85ebca6b);
    h ^= h >>> 13;
    h = Math.imul(h, 0xc2b2ae35);
    h ^= h >>> 16;
  }
  return (h >>> 0) / 4294967296;
}
