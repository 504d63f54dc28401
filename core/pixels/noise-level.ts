import type { Rgba } from './raster.ts';

/** Pixels along a side of the blocks that are looked at, and about how many of them are enough. */
const [blockSide, enoughBlocks] = [16, 500];
/** Share of the blocks that are quieter than the one the noise is read from: the others hold texture. */
const quietShare = 0.25;
/** Values so near black or white are cut off there, and with them their noise. */
const [darkest, brightest] = [3, 252];

/**
 * Standard deviation of the noise in a picture, bytes: from the response to the difference of two Laplacians, to which even
 * slopes answer nothing (Immerkaer 1996, "Fast Noise Variance Estimation"), in the quietest of blocks spread over the picture.
 * @returns 0 for a picture too small to tell, or one that is black and white alone
 */
export function noiseLevel(picture: Rgba): number {
  const columns = Math.floor((picture.width - 2) / blockSide);
  const rows = Math.floor((picture.height - 2) / blockSide);
  const every = Math.max(1, Math.round(Math.sqrt((columns * rows) / enoughBlocks)));
  const levels: number[] = [];
  for (let row = 0; row < rows; row += every) {
    for (let column = 0; column < columns; column += every) {
      const level = levelOfBlock(picture, 1 + column * blockSide, 1 + row * blockSide);
      if (level !== null) levels.push(level);
    }
  }
  levels.sort((a, b) => a - b);
  return levels[Math.floor(levels.length * quietShare)] ?? 0;
}

function levelOfBlock({ width, data }: Rgba, left: number, top: number): number | null {
  const count = blockSide * blockSide * 3;
  const row = width * 4;
  let [sum, cutOff] = [0, 0];
  for (let y = top; y < top + blockSide; y++) {
    for (let x = left; x < left + blockSide; x++) {
      for (let c = 0; c < 3; c++) {
        const p = (y * width + x) * 4 + c;
        const value = data[p]!;
        if (value < darkest || value > brightest) cutOff++;
        const corners = data[p - row - 4]! + data[p - row + 4]! + data[p + row - 4]! + data[p + row + 4]!;
        const sides = data[p - row]! + data[p + row]! + data[p - 4]! + data[p + 4]!;
        sum += Math.abs(corners - 2 * sides + 4 * value);
      }
    }
  }
  // The mask's weights have the norm 6; of normal noise the mean size is sqrt(2 / pi) of its deviation.
  return cutOff > count / 10 ? null : (Math.sqrt(Math.PI / 2) * sum) / (6 * count);
}
