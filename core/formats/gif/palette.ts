/** Colours that stand for all others. */
export interface Palette {
  /** Red, green, blue of each, 0..255. */
  colours: Uint8Array;
  /** Index of the one that is nearest to a colour, by squares in sRGB. */
  nearest(r: number, g: number, b: number): number;
}

/** Rounds of moving each colour to the middle of those that it stands for. */
const rounds = 8;
/** Bits of a channel by which colours are counted as one. */
const bits = 6;

/**
 * A palette whose colours each lie in the middle of what they stand for: each moves to the mean of the colours it is nearest
 * to, again and again (S. Lloyd 1982, Least squares quantization in PCM).
 * @param first colours to begin with, red, green, blue of each, at most 256  @param samples the same of some pixels
 */
export function settledPalette(first: readonly (readonly number[])[], samples: Uint8Array): Palette {
  const counted = countedColours(samples);
  const colours = Uint8Array.from(first.flatMap(([r, g, b]) => [r!, g!, b!]));
  for (let round = 0; round < rounds; round++) if (!settle(colours, counted)) break;
  return { colours, nearest: nearestIn(colours) };
}

/** Mean colour and number of the pixels of each cell of the colour cube that has any. */
interface Counted {
  means: Float32Array;
  counts: Float64Array;
}

function countedColours(samples: Uint8Array): Counted {
  const cells = new Map<number, [number, number, number, number]>();
  const drop = 8 - bits;
  for (let i = 0; i < samples.length; i += 3) {
    const [r, g, b] = [samples[i]!, samples[i + 1]!, samples[i + 2]!];
    const key = ((r >> drop) << (2 * bits)) | ((g >> drop) << bits) | (b >> drop);
    const cell = cells.get(key);
    if (!cell) cells.set(key, [r, g, b, 1]);
    else {
      cell[0] += r;
      cell[1] += g;
      cell[2] += b;
      cell[3]++;
    }
  }
  const all = [...cells.values()];
  return {
    means: Float32Array.from(all.flatMap(([r, g, b, n]) => [r / n, g / n, b / n])),
    counts: Float64Array.from(all.map(([, , , n]) => n)),
  };
}

/** One round; false when no colour moved. */
function settle(colours: Uint8Array, { means, counts }: Counted): boolean {
  const sums = new Float64Array((colours.length / 3) * 4);
  for (let k = 0; k < counts.length; k++) {
    const [r, g, b] = [means[3 * k]!, means[3 * k + 1]!, means[3 * k + 2]!];
    const at = 4 * nearestOf(colours, r, g, b);
    sums[at] = sums[at]! + r * counts[k]!;
    sums[at + 1] = sums[at + 1]! + g * counts[k]!;
    sums[at + 2] = sums[at + 2]! + b * counts[k]!;
    sums[at + 3] = sums[at + 3]! + counts[k]!;
  }
  let moved = false;
  for (let p = 0; p < colours.length / 3; p++) {
    const n = sums[4 * p + 3]!;
    if (n === 0) continue;
    for (let c = 0; c < 3; c++) {
      const mean = Math.round(sums[4 * p + c]! / n);
      moved ||= mean !== colours[3 * p + c];
      colours[3 * p + c] = mean;
    }
  }
  return moved;
}

function nearestOf(colours: Uint8Array, r: number, g: number, b: number): number {
  let [best, least] = [0, Infinity];
  for (let p = 0; p < colours.length; p += 3) {
    const d = (colours[p]! - r) ** 2 + (colours[p + 1]! - g) ** 2 + (colours[p + 2]! - b) ** 2;
    if (d < least) [best, least] = [p / 3, d];
  }
  return best;
}

/** The nearest colour, looked up where it was asked for before; colours that differ in their last bit only are asked as one. */
function nearestIn(colours: Uint8Array): Palette['nearest'] {
  const known = new Int16Array(1 << 21).fill(-1);
  return (r, g, b) => {
    const key = ((r >> 1) << 14) | ((g >> 1) << 7) | (b >> 1);
    const before = known[key]!;
    if (before >= 0) return before;
    return (known[key] = nearestOf(colours, r | 1, g | 1, b | 1));
  };
}
