export { blocksOf } from './blocks';
export { coloursOf, describeSpill } from './colours';
export { describeBlocks, describeScene } from './frame';
export { countDistances, distanceToScreen, measureScreen, smoothScreen, sumCells } from './screen';
export { cellsOfScreen, measureDeep, measureSubject, preferDeep } from './subject';
export { tracesAcross, tracesDown } from './sampling';
export { alphaOfHalvedColour, alphaOfPixels, coverOfBlocks, coverOfSteadyBlocks } from './solve';
export { blocksInEdge, steadyBytes, steadyColours } from './steady';
export { freeFrom, reserve } from '../memory';
