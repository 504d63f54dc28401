export { blocksOf } from './blocks';
export { coloursOf, describeSpill } from './colours';
export { describeBlocks, describeScene } from './frame';
export { countDistances, distanceToScreen, measureScreen, smoothScreen, sumCells } from './screen';
export { cellsOfScreen, measureDeep, measureSubject, preferDeep } from './subject';
export { tracesAcross, tracesDown } from './sampling';
export { alphaOfHalvedColour, alphaOfPixels, coverOfBlocks, coverOfSteadyBlocks } from './solve';
export { blocksInEdge, steadyBytes, steadyColours } from './steady';

/** Makes memory reach up to `bytes`. */
export function reserve(bytes: usize): void {
  const pages = <i32>(bytes >> 16) + ((bytes & 0xffff) != 0 ? 1 : 0);
  const missing = pages - memory.size();
  if (missing > 0 && memory.grow(missing) < 0) unreachable();
}

/** Where free memory begins. */
export function freeFrom(): usize {
  return (__heap_base + 15) & ~15;
}
