import { expect } from 'chai';
import { addToCell, continued, emptyCells, settle, smoothed } from './cells.ts';
import { grown } from './subject.ts';

describe('cells', () => {
  it('means are weighted, and a cell that was never met stays unknown', () => {
    const cells = emptyCells(2, 1);
    addToCell(cells, 0, 1, 10, 4, -2);
    addToCell(cells, 0, 3, 30, 0, 2);
    expect(settle(cells, 8)).to.equal(true);
    expect([...cells.values.slice(0, 4)]).to.deep.equal([25, 1, 1, (100 + 3 * 900) / 4]);
    expect([...cells.weight]).to.deep.equal([0.5, 0]);
    expect(settle(emptyCells(3, 3), 1)).to.equal(false);
  });

  it('what is known well stays, and a single colour continues everywhere', () => {
    const cells = emptyCells(21, 13);
    addToCell(cells, 100, 4, 50, -7, 9);
    settle(cells, 1);
    const out = continued(cells).values;
    for (let i = 0; i < 21 * 13; i++) expect([...out.slice(i * 4, i * 4 + 3)], `${i}`).to.deep.equal([50, -7, 9]);
  });

  it('a gap is filled from both sides, nearer to the nearer one', () => {
    const cells = emptyCells(16, 1);
    for (let x = 0; x < 16; x++) if (x < 4 || x >= 12) addToCell(cells, x, 1, x < 4 ? 20 : 100, 0, 0);
    settle(cells, 1);
    const luma = Array.from({ length: 16 }, (_, x) => continued(cells).values[x * 4]!);
    expect(luma.slice(0, 4)).to.deep.equal([20, 20, 20, 20]);
    expect(luma.slice(12)).to.deep.equal([100, 100, 100, 100]);
    for (let x = 1; x < 16; x++) expect(luma[x]!, `${x}`).to.be.at.least(luma[x - 1]! - 1e-4);
    expect(luma[5]).to.be.below(luma[10]! - 20);
  });

  it('smoothing keeps what is even and spreads a single cell as 1, 2, 1 twice over', () => {
    const cells = emptyCells(5, 5);
    cells.values[12 * 4] = 16;
    const out = smoothed(cells, 1).values;
    const at = (x: number, y: number): number => out[(y * 5 + x) * 4]!;
    expect([at(2, 2), at(1, 2), at(2, 3), at(1, 1), at(0, 2)]).to.deep.equal([4, 2, 2, 1, 0]);
  });

  it('growing reaches every cell of the square around a set one, and no other', () => {
    const [width, height, reach] = [9, 7, 2];
    for (const set of [[31], [0], [62, 10], []]) {
      const cells = new Uint8Array(width * height);
      for (const i of set) cells[i] = 1;
      const near = (i: number): boolean =>
        set.some(
          (j) =>
            Math.abs((i % width) - (j % width)) <= reach &&
            Math.abs(Math.floor(i / width) - Math.floor(j / width)) <= reach,
        );
      const want = Array.from(cells, (_, i) => (near(i) ? 1 : 0));
      expect([...grown(cells, width, height, reach)]).to.deep.equal(want);
    }
  });
});
