import { expect } from 'chai';
import { eachNeighbour } from './neighbours.ts';

describe('neighbours of a pixel', () => {
  it('are all that lie one step away along a row or a column, and no others', () => {
    for (const [width, height] of [
      [4, 3],
      [1, 5],
      [5, 1],
      [1, 1],
    ] as const)
      for (let i = 0; i < width * height; i++) {
        const found: number[] = [];
        eachNeighbour(i, width, width * height, (j) => found.push(j));
        const wanted = Array.from({ length: width * height }, (_, j) => j).filter((j) => {
          const [dx, dy] = [
            Math.abs((j % width) - (i % width)),
            Math.abs(Math.floor(j / width) - Math.floor(i / width)),
          ];
          return dx + dy === 1;
        });
        expect(
          found.sort((a, b) => a - b),
          `${i} of ${width} x ${height}`,
        ).to.deep.equal(wanted);
      }
  });
});
