/**
 * Visits the pixels beside a pixel: left, right, above, below, as far as there are any.
 * @param i index of the pixel, row by row  @param count pixels of the whole picture
 */
export function eachNeighbour(i: number, width: number, count: number, visit: (j: number) => void): void {
  const x = i % width;
  if (x > 0) visit(i - 1);
  if (x + 1 < width) visit(i + 1);
  if (i >= width) visit(i - width);
  if (i + width < count) visit(i + width);
}
