/** Luma, blue less luma, red less luma, and the square of luma of every cell: four floats each. */
export interface Cells {
  width: number;
  height: number;
  values: Float32Array;
}

/** Cells of which some are known better than others, or not at all. */
export interface WeightedCells extends Cells {
  /** How well a cell is known, 0..1. */
  weight: Float32Array;
}

export function emptyCells(width: number, height: number): WeightedCells {
  return { width, height, values: new Float32Array(width * height * 4), weight: new Float32Array(width * height) };
}

/** Adds a colour to the sum of a cell. */
export function addToCell(
  cells: WeightedCells,
  cell: number,
  w: number,
  luma: number,
  blue: number,
  red: number,
): void {
  const o = cell * 4;
  const { values, weight } = cells;
  values[o] = values[o]! + w * luma;
  values[o + 1] = values[o + 1]! + w * blue;
  values[o + 2] = values[o + 2]! + w * red;
  values[o + 3] = values[o + 3]! + w * luma * luma;
  weight[cell] = weight[cell]! + w;
}

/** Turns sums into means. @param full weight from which on a cell is known as well as can be @returns whether any is known */
export function settle(cells: WeightedCells, full: number): boolean {
  let any = false;
  for (let i = 0; i < cells.weight.length; i++) {
    const w = cells.weight[i]!;
    if (w === 0) continue;
    any = true;
    for (let c = 0; c < 4; c++) cells.values[i * 4 + c] = cells.values[i * 4 + c]! / w;
    cells.weight[i] = Math.min(1, w / full);
  }
  return any;
}

/**
 * Continues what is known over what is not: means weighted by how well they are known go up a pyramid, and where little is
 * known its coarser levels come down again ("pull-push", Gortler, Grzeszczuk, Szeliski & Cohen 1996, "The Lumigraph").
 * @param cells at least one of them known
 */
export function continued(cells: WeightedCells): Cells {
  const { width, height } = cells;
  if (width <= 1 && height <= 1) return cells;
  const coarse = emptyCells((width + 1) >> 1, (height + 1) >> 1);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const w = cells.weight[i]!;
      const j = (y >> 1) * coarse.width + (x >> 1);
      coarse.weight[j] = coarse.weight[j]! + w;
      for (let c = 0; c < 4; c++) coarse.values[j * 4 + c] = coarse.values[j * 4 + c]! + w * cells.values[i * 4 + c]!;
    }
  }
  settle(coarse, 1);
  return filledFrom(cells, continued(coarse));
}

function filledFrom(cells: WeightedCells, coarse: Cells): Cells {
  const { width, height } = cells;
  const out = { width, height, values: new Float32Array(width * height * 4) };
  for (let y = 0, i = 0; y < height; y++) {
    const near = (y >> 1) * coarse.width;
    const far = neighbour(y, coarse.height) * coarse.width;
    for (let x = 0; x < width; x++, i++) {
      const w = cells.weight[i]!;
      const beside = neighbour(x, coarse.width);
      for (let c = 0; c < 4; c++) {
        const at = (cell: number): number => coarse.values[cell * 4 + c]!;
        const blend =
          (9 * at(near + (x >> 1)) + 3 * at(near + beside) + 3 * at(far + (x >> 1)) + at(far + beside)) / 16;
        out.values[i * 4 + c] = w * cells.values[i * 4 + c]! + (1 - w) * blend;
      }
    }
  }
  return out;
}

/** The second nearest of the coarser cells. */
const neighbour = (at: number, length: number): number =>
  Math.max(0, Math.min(length - 1, (at >> 1) + (at & 1 ? 1 : -1)));

/** Smoothed by weights 1, 2, 1 along both directions, `rounds` times. */
export function smoothed(cells: Cells, rounds: number): Cells {
  const { width, height } = cells;
  let { values } = cells;
  for (let round = 0; round < 2 * rounds; round++) {
    const next = new Float32Array(values.length);
    const [step, length] = round % 2 === 0 ? [4, width] : [width * 4, height];
    for (let o = 0; o < values.length; o++) {
      const at = round % 2 === 0 ? (o >> 2) % width : ((o >> 2) / width) | 0;
      const before = values[at > 0 ? o - step : o]!;
      const after = values[at + 1 < length ? o + step : o]!;
      next[o] = 0.25 * before + 0.5 * values[o]! + 0.25 * after;
    }
    values = next;
  }
  return { width, height, values };
}
