export { freeFrom, reserve } from '../memory';
export { boxCounts, boxMean } from './boxes';
export { averaged, halve } from './sizes';
export { squaredDistance, within } from './distances';
export { brightness, slopes } from './edges';
